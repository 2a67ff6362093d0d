import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { circuitTree } from "@/core/board/circuitTree";
import { compareReadings } from "@/core/flows/compareReadings";
import { clampOf, phaseInputs, placeAsPlanned, placePhases, removeClamp } from "@/core/site/fitClamp";
import type { Site } from "@/core/site/planSchema";
import { anyRecipe, documentOf } from "../../../tests/fixtures/anyDocument";
import { houseSite } from "../../../tests/fixtures/sites";

const bare = (site: Site): Site => ({ ...site, cts: [] });

describe("circuitTree", () => {
  it("holds every circuit once below what feeds it, every CT where it is, and every input without one", () => {
    fc.assert(
      fc.property(anyRecipe, fc.boolean(), (recipe, isBare) => {
        const { site: own } = documentOf(recipe);
        const site = isBare ? bare(own) : own;
        const rows = circuitTree(site);
        expect(rows.map(({ node }) => node.id).toSorted()).toEqual(
          site.nodes.flatMap(({ id, kind }) => (kind === "grid" ? [] : [id])).toSorted(),
        );
        rows.forEach(({ node, depth }, at) => {
          const feeding = rows.findIndex((row) => row.node.id === node.fedFrom);
          expect(feeding).toBeLessThan(at);
          expect(depth).toBe(feeding < 0 ? 0 : rows[feeding]!.depth + 1);
        });
        const seen = rows.flatMap(({ clamps }) => clamps.map(({ ct, windowAt }) => `${ct.id} ${windowAt}`));
        expect(seen.toSorted()).toEqual(
          site.cts.flatMap(({ id, around }) => around.map((_, windowAt) => `${id} ${windowAt}`)).toSorted(),
        );
        const inputs = site.meters.flatMap(({ id, inputs: all }) => all.map(({ n }) => ({ meter: id, input: n })));
        const without = inputs.filter((at) => !clampOf(site, at)).length;
        expect(rows.reduce((sum, { missing }) => sum + missing.length, 0)).toBe(without);
      }),
      { numRuns: 40 },
    );
  });
});

describe("placing many CTs at once", () => {
  it("puts every missing one where the plan wants it, and leaves those that are fitted", () => {
    const site = houseSite("three-phase", { solarMeter: true });
    const turned = { ...site.cts[0]!, arrow: site.cts[0]!.arrow === "to-load" ? "to-grid" : "to-load" } as const;
    const placed = placeAsPlanned({ ...site, cts: [turned] });
    expect(placed.cts).toHaveLength(site.cts.length);
    expect(placed.cts[0]).toEqual(turned);
    const right = placeAsPlanned(bare(site));
    expect(compareReadings(right, { devices: [{ node: "pv", powerW: -3000, reactiveVar: 0 }] })).toSatisfy(
      (readings: { differs: boolean }[]) => readings.every(({ differs }) => !differs),
    );
    expect(placeAsPlanned(right)).toBe(right);
  });

  it("puts the three of a meter round one circuit, each on its own phase, without those that are there", () => {
    const site = bare(houseSite("three-phase"));
    const at = { meter: "m1", input: 2 };
    expect(phaseInputs(site, at).map(({ n }) => n)).toEqual([1, 2, 3]);
    const placed = placePhases(site, at, "board");
    expect(placed.cts.map(({ around }) => around)).toEqual(
      ["L1", "L2", "L3"].map((conductor) => [{ run: "board", conductor }]),
    );
    const less = removeClamp(placed, placed.cts[1]!.id);
    expect(phaseInputs(less, at).map(({ n }) => n)).toEqual([2]);
  });
});
