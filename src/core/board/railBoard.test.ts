import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { railBoard, SMALL_BOARD, WORKING_BOARD, type Box, type RailBoardLayout } from "@/core/board/railBoard";
import type { Site } from "@/core/site/planSchema";
import { arbitrarySite } from "../../../tests/fixtures/arbitrarySite";
import { houseSite } from "../../../tests/fixtures/sites";

describe("railBoard", () => {
  it("draws the example of its docblock", () => {
    const full = houseSite("single-phase");
    const layout = railBoard({ ...full, nodes: full.nodes.slice(0, 3) });
    expect(layout.nodes.map((drawn) => drawn.shape)).toEqual(["post", "post", "plate"]);
    expect(layout.rails).toHaveLength(4);
    expect(layout.clips).toHaveLength(1);
  });

  it("keeps the grid left and the loads right", () => {
    const layout = railBoard(houseSite("three-phase"));
    const [grid, board, ...plates] = layout.nodes;
    expect(grid!.box.x).toBeLessThan(board!.box.x);
    for (const plate of plates) expect(plate.box.x).toBeGreaterThan(board!.box.x);
  });

  it("puts nothing on top of anything, on any site of up to twelve devices and three meters", () => {
    fc.assert(
      fc.property(
        arbitrarySite({ mostDevices: 12, mostMeters: 3 }),
        fc.constantFrom(WORKING_BOARD, SMALL_BOARD),
        (site, sizes) => {
          const layout = railBoard(site, sizes);
          const solid = [
            ...layout.nodes.map((drawn) => drawn.box),
            ...layout.clips.flatMap((clip) => (clip.tag ? [clip.box, clip.tag] : [clip.box])),
          ];
          expect(overlaps(solid)).toEqual([]);
          expect(overlaps(layout.rails.map((rail) => rail.strip))).toEqual([]);
          expect(labelsOnPlates(layout)).toEqual([]);
          for (const box of solid) {
            expect(box.x).toBeGreaterThanOrEqual(0);
            expect(box.x + box.width).toBeLessThanOrEqual(layout.width);
            expect(box.y + box.height).toBeLessThanOrEqual(layout.height);
          }
        },
      ),
      { numRuns: 60 },
    );
  });

  it("draws a shared CT on every conductor through its window and tags it once", () => {
    const site = houseSite("single-phase");
    const shared: Site = {
      ...site,
      cts: [
        {
          ...site.cts[0]!,
          around: [
            { run: "house", conductor: "L1" },
            { run: "pv", conductor: "L1" },
          ],
        },
      ],
    };
    const clips = railBoard(shared).clips;
    expect(clips.map((clip) => clip.run)).toEqual(["house", "pv"]);
    expect(clips.filter((clip) => clip.tag)).toHaveLength(1);
  });
});

function overlaps(boxes: readonly Box[]): string[] {
  const apart = (a: Box, b: Box) =>
    a.x + a.width <= b.x + 1e-6 ||
    b.x + b.width <= a.x + 1e-6 ||
    a.y + a.height <= b.y + 1e-6 ||
    b.y + b.height <= a.y + 1e-6;
  return boxes.flatMap((a, at) =>
    boxes
      .slice(at + 1)
      .filter((b) => !apart(a, b))
      .map((b) => `${JSON.stringify(a)} on ${JSON.stringify(b)}`),
  );
}

function labelsOnPlates({ nodes }: RailBoardLayout): string[] {
  const labels = nodes.filter((drawn) => drawn.shape === "post").map((drawn) => drawn.label);
  const plates = nodes.filter((drawn) => drawn.shape === "plate").map((drawn) => drawn.box);
  return overlaps([...labels, ...plates]);
}
