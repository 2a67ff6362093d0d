import fc from "fast-check";
import { describe, expect, it } from "vitest";
import {
  clampOf,
  drawnOrder,
  flipClamp,
  moveClamp,
  placeClamp,
  removeClamp,
  replugClamp,
  steppedEntry,
  swapLeads,
  toggleSharedConductor,
  type Step,
} from "@/core/site/fitClamp";
import { siteSchema } from "@/core/site/siteSchema";
import { arbitrarySite } from "../../../tests/fixtures/arbitrarySite";
import { houseSite } from "../../../tests/fixtures/sites";

const site = houseSite("three-phase");
const first = "ct-m1-1";

describe("fitting CTs", () => {
  it("places a CT as the kit wants it, round the conductor that was chosen", () => {
    const bare = { ...site, cts: [] };
    const placed = placeClamp(bare, { meter: "m1", input: 2 }, { run: "house", conductor: "L3" });
    expect(placed.cts).toMatchObject([
      { around: [{ run: "house", conductor: "L3" }], arrow: "to-load", primaryA: 200, plug: { meter: "m1", input: 2 } },
    ]);
  });

  it("moves the CT that an input already has instead of adding another", () => {
    const moved = placeClamp(site, { meter: "m1", input: 1 }, { run: "house", conductor: "L3" });
    expect(moved.cts).toHaveLength(3);
    expect(clampOf(moved, { meter: "m1", input: 1 })?.around).toEqual([{ run: "house", conductor: "L3" }]);
  });

  it("gives a new CT an id that is free", () => {
    const unplugged = { ...site, cts: site.cts.map((ct) => ({ ...ct, plug: null })) };
    const placed = placeClamp(unplugged, { meter: "m1", input: 1 }, { run: "board", conductor: "L1" });
    expect(new Set(placed.cts.map((ct) => ct.id)).size).toBe(4);
  });

  it("plugs a CT into an occupied input by exchanging the two", () => {
    const replugged = replugClamp(site, first, { meter: "m1", input: 3 });
    expect(clampOf(replugged, { meter: "m1", input: 3 })?.id).toBe(first);
    expect(clampOf(replugged, { meter: "m1", input: 1 })?.id).toBe("ct-m1-3");
  });

  it("puts further conductors through a window and takes them out again, but never the last", () => {
    const shared = toggleSharedConductor(site, first, { run: "pv", conductor: "L1" });
    expect(shared.cts[0]!.around).toHaveLength(2);
    const alone = toggleSharedConductor(shared, first, { run: "board", conductor: "L1" });
    expect(alone.cts[0]!.around).toEqual([{ run: "pv", conductor: "L1" }]);
    expect(toggleSharedConductor(alone, first, { run: "pv", conductor: "L1" })).toBe(alone);
  });

  it("does not put a CT twice round one conductor", () => {
    const shared = toggleSharedConductor(site, first, { run: "pv", conductor: "L1" });
    expect(moveClamp(shared, first, 1, { run: "board", conductor: "L1" })).toBe(shared);
  });

  it("turned twice, or swapped twice, is itself", () => {
    expect(flipClamp(flipClamp(site, first), first)).toEqual(site);
    expect(swapLeads(swapLeads(site, first), first)).toEqual(site);
    expect(removeClamp(site, first).cts).toHaveLength(2);
  });

  it.each<[Step, string, string, string | undefined]>([
    ["along-to-load", "board", "L2", "house L2"],
    ["along-to-grid", "house", "L2", "board L2"],
    ["along-to-grid", "board", "L1", undefined],
    ["along-to-load", "kettleL1", "L1", undefined],
    ["across-down", "board", "L3", "board N"],
    ["across-down", "board", "N", "house L1"],
    ["across-up", "board", "L1", undefined],
  ])("steps %s from %s %s to %s", (step, run, conductor, wanted) => {
    const entry = steppedEntry(site, { run, conductor: conductor as "L1" }, step);
    expect(entry && `${entry.run} ${entry.conductor}`).toBe(wanted);
  });

  it("leaves a valid plan after any sequence of edits, and what it was given untouched", () => {
    const edits = fc.array(fc.tuple(fc.nat(6), fc.nat(), fc.nat()), { maxLength: 15 });
    fc.assert(
      fc.property(arbitrarySite({ mostDevices: 6, mostMeters: 2 }), edits, (start, sequence) => {
        const before = structuredClone(start);
        let now = start;
        for (const [kind, a, b] of sequence) {
          const ct = now.cts[a % Math.max(1, now.cts.length)];
          const meter = now.meters[a % now.meters.length]!;
          const input = { meter: meter.id, input: meter.inputs[b % meter.inputs.length]!.n };
          const run = drawnOrder(now)[b % drawnOrder(now).length]!;
          const entry = { run: run.id, conductor: run.phases![a % run.phases!.length]! };
          if (kind === 0 || !ct) now = placeClamp(now, input, entry);
          else if (kind === 1) now = moveClamp(now, ct.id, 0, entry);
          else if (kind === 2) now = flipClamp(now, ct.id);
          else if (kind === 3) now = swapLeads(now, ct.id);
          else if (kind === 4) now = replugClamp(now, ct.id, input);
          else if (kind === 5) now = toggleSharedConductor(now, ct.id, entry);
          else now = removeClamp(now, ct.id);
        }
        expect(siteSchema.safeParse(now).error?.issues ?? []).toEqual([]);
        expect(start).toEqual(before);
      }),
      { numRuns: 80 },
    );
  });
});
