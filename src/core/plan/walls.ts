import { z } from "zod";

/** What a wall takes from a radio, dB, by band in GHz. Usual values; what is in a wall decides. */
export const WALL_LOSS_DB = {
  wood: { name: "Wood or plasterboard", 0.868: 2, 2.4: 3, 5: 4 },
  brick: { name: "Brick", 0.868: 5, 2.4: 8, 5: 13 },
  concrete: { name: "Concrete", 0.868: 9, 2.4: 14, 5: 22 },
  metal: { name: "Metal, foil or wired glass", 0.868: 16, 2.4: 22, 5: 28 },
  floor: { name: "Floor", 0.868: 7, 2.4: 11, 5: 17 },
} as const;

/** The kinds of walls that a radio goes through. */
export const WALL_KINDS = ["wood", "brick", "concrete", "metal", "floor"] as const;

const countSchema = z.int().min(0).max(20).default(0);

/** How many walls of each kind lie between two ends. */
export const wallsSchema = z.object({
  wood: countSchema.describe("Walls of wood or plasterboard"),
  brick: countSchema.describe("Walls of brick"),
  concrete: countSchema.describe("Walls of concrete"),
  metal: countSchema.describe("Walls of metal"),
  floor: countSchema.describe("Floors"),
});

/** How many walls of each kind. */
export type Walls = z.output<typeof wallsSchema>;

/**
 * What all walls between two ends take, dB.
 *
 * @example wallsLossDb({ wood: 0, brick: 2, concrete: 0, metal: 0, floor: 1 }, 2.4) // 27
 */
export function wallsLossDb(walls: Walls, bandGhz: 0.868 | 2.4 | 5): number {
  return WALL_KINDS.reduce((sum, kind) => sum + walls[kind] * WALL_LOSS_DB[kind][bandGhz], 0);
}
