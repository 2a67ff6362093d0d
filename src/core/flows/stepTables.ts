import { respond, type StepPowers } from "@/core/flows/powerModel";
import type { Noise } from "@/core/flows/testSheetSchema";

/** What the distinct response rows make of a step's powers, worked out once for all hypotheses; row-major. */
export interface StepTables {
  readonly mean: Float64Array;
  readonly lasting: Float64Array;
  readonly lastingCount: number;
  readonly passing: Float64Array;
  readonly passingCount: number;
}

/** Tabulate a step's powers for every distinct row; see `StepTables`. */
export function stepTables(rows: readonly Float64Array[], { mean, lasting, passing }: StepPowers): StepTables {
  return {
    mean: Float64Array.from(rows, (row) => respond(row, mean)),
    lasting: Float64Array.from(rows.flatMap((row) => lasting.map((powers) => respond(row, powers)))),
    lastingCount: lasting.length,
    passing: Float64Array.from(rows.flatMap((row) => passing.map((powers) => respond(row, powers)))),
    passingCount: passing.length,
  };
}

/** @example readingVariance({ absoluteW: 8, relative: 0.01 }, 1000) // 164 W² */
export function readingVariance(noise: Noise, readingW: number): number {
  return noise.absoluteW ** 2 + (noise.relative * readingW) ** 2;
}
