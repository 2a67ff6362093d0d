import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { resolve } from "@/core/plan/resolve";
import { predict } from "@/core/flows/predict";
import { jobDocumentSchema, type JobDocument } from "@/core/job/jobDocument";
import { placeFindings } from "@/core/job/placeFindings";
import { planFindings } from "@/core/job/planFindings";
import { starterPlan } from "@/core/job/starterPlan";
import * as edit from "@/core/edits/editPlan";
import { flipClamp, swapLeads } from "@/core/site/fitClamp";
import { drawnOrder } from "@/core/site/fitClamp";
import { jobFromPattern, shippedKits, shippedPatterns } from "../../../tests/fixtures/shipped";
import { anyEdit, edited } from "../../../tests/fixtures/randomEdits";
import { arbitrarySite } from "../../../tests/fixtures/arbitrarySite";

const kits = shippedKits();
const kit = (id: string) => kits.find((candidate) => candidate.id === id)!;
const addOn = jobFromPattern("two-ct-add-on");
const node = (document: JobDocument, id: string) => document.site.nodes.find((candidate) => candidate.id === id);

describe("editing a plan", () => {
  it("adds a device with its kit's rating and phases, at its feeder's place", () => {
    const after = edit.addNode({
      kind: "ev-charger",
      name: "Car charger",
      fedFrom: "board",
      kit: kit("charger-hub-7k"),
    })(addOn);
    expect(node(after, "car-charger")).toEqual({
      id: "car-charger",
      kind: "ev-charger",
      name: "Car charger",
      fedFrom: "board",
      phases: ["L1"],
      kit: "charger-hub-7k",
      ratedW: 7400,
      place: "cupboard",
    });
    expect(after.kits.map(({ id }) => id)).toContain("charger-hub-7k");
  });

  it("re-feeds what hung from a removed board, and drops the CT that measured it", () => {
    const board = edit.addNode({ kind: "board", name: "Garage board", fedFrom: "board" })(addOn);
    const fed = edit.changeNode("solar", { fedFrom: "garage-board" })(board);
    const metered = edit.addMeter({
      name: "Garage meter",
      kit: kit("meter-single-two-ct"),
      run: "garage-board",
      role: "grid",
    })(fed);
    expect(metered.site.meters).toHaveLength(2);
    const after = edit.removeNode("garage-board")(metered);
    expect(node(after, "solar")?.fedFrom).toBe("board");
    expect(after.site.meters.map((meter) => meter.id)).toEqual(["meter"]);
    expect(after.site.cts).toHaveLength(2);
  });

  it("refuses to feed a board from below itself", () => {
    expect(edit.changeNode("board", { fedFrom: "solar" })(addOn)).toBe(addOn);
  });

  it("grows boards and loads with the supply, and shrinks phases with their feeder", () => {
    const three = edit.changeSupply({ system: "three-phase" })(addOn);
    expect(node(three, "board")?.phases).toEqual(["L1", "L2", "L3"]);
    expect(node(three, "solar")?.phases).toEqual(["L1"]);
    expect(planFindings(resolve(three)).find((finding) => finding.code === "role")?.detail).toContain(
      "would miss the House on L2 and L3",
    );
    const back = edit.changeSupply({ system: "single-phase" })(three);
    expect(node(back, "board")?.phases).toEqual(["L1"]);
  });

  it("moves a CT that sat as planned with its input, and leaves one that was fitted otherwise", () => {
    const moved = edit.changeInput("meter", 2, { measures: [{ run: "board", conductor: "L1" }], arrow: "to-grid" })(
      addOn,
    );
    expect(placeFindings(resolve(moved))).toEqual([]);
    const turned = { ...addOn, site: flipClamp(addOn.site, "ct-meter-2") };
    const after = edit.changeInput("meter", 2, { primaryA: 50 })(turned);
    expect(after.site.cts.find((ct) => ct.id === "ct-meter-2")).toMatchObject({
      arrow: "to-grid",
      primaryA: turned.site.cts.find((ct) => ct.id === "ct-meter-2")!.primaryA,
    });
  });

  it("takes the next input of a kit into use until it has no more", () => {
    const one = edit.removeInput("meter", 2)(addOn);
    expect(one.site.cts).toHaveLength(1);
    const two = edit.addInput("meter", "solar", "L1", "generation")(one);
    expect(two.site.meters[0]!.inputs[1]).toMatchObject({
      n: 2,
      role: "generation",
      positive: "to-grid",
      primaryA: 25,
    });
    expect(edit.addInput("meter", "solar", "L1", "generation")(two)).toBe(two);
  });

  it("measures circuits with a CT each instead of through one window, as long as the kit has inputs", () => {
    const shared = jobFromPattern("metering-gateway");
    expect(edit.separateClamps("gateway", 1, ["roof-east", "roof-west"])(shared)).toBe(shared);
    const room = edit.removeInput("gateway", 2)(shared);
    const each = edit.separateClamps("gateway", 1, ["roof-east", "roof-west"])(room);
    expect(each.site.meters[0]!.inputs.map((input) => input.measures)).toEqual([
      [{ run: "roof-east", conductor: "L1" }],
      [{ run: "roof-west", conductor: "L1" }],
    ]);
    expect(planFindings(resolve(each)).filter((finding) => finding.code === "role")).toEqual([]);
    expect(placeFindings(resolve(each))).toEqual([]);
  });

  it("forgets a place everywhere it was named, and its ways", () => {
    const after = edit.removePlace("loft")(addOn);
    expect(node(after, "solar")?.place).toBeUndefined();
    expect(after.site.ways).toEqual([]);
  });

  it("sets a way once, whichever way round it is named", () => {
    const after = edit.setWay("loft", "cupboard", { walkMin: 3 })(addOn);
    expect(after.site.ways).toEqual([{ from: "loft", to: "cupboard", walkMin: 3 }]);
  });

  it("takes test steps and readings of what is gone with it", () => {
    const tested: JobDocument = {
      ...addOn,
      tests: {
        ...addOn.tests,
        background: [{ node: "house", meanW: 400, sdW: 500, sdVar: 150, driftSdW: 40 }],
        steps: [
          {
            label: "sun",
            source: "seen",
            devices: [{ node: "solar", powerW: -900, reactiveVar: 0, toleranceW: 0 }],
            readings: [{ meter: "meter", input: 2, powerW: 900 }],
          },
        ],
      },
    };
    const after = edit.removeNode("solar")(edit.removeNode("house")(tested));
    expect(after.tests).toMatchObject({ background: [], steps: [{ devices: [], readings: [] }] });
    expect(jobDocumentSchema.safeParse(after).success).toBe(true);
  });

  it("leaves a job whole after any edits in any order", () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...shippedPatterns().map(({ id }) => id)),
        fc.array(anyEdit, { minLength: 1, maxLength: 14 }),
        (pattern, steps) => {
          let job = jobFromPattern(pattern);
          for (const step of steps) {
            job = edited(job, step);
            const parsed = jobDocumentSchema.safeParse(job);
            expect(parsed.error?.issues ?? []).toEqual([]);
            planFindings(resolve(job));
          }
        },
      ),
      { numRuns: 60 },
    );
  });
});

describe("a CT that is turned and has its leads swapped", () => {
  it("reads the same, on any site in any state", () => {
    fc.assert(
      fc.property(
        arbitrarySite({ mostDevices: 6, mostMeters: 2 }),
        fc.array(fc.integer({ min: -5000, max: 5000 }), { minLength: 12, maxLength: 12 }),
        fc.nat(),
        (site, powers, which) => {
          const ct = site.cts[which % site.cts.length]!.id;
          const state = {
            devices: drawnOrder(site).map(({ id }, at) => ({
              node: id,
              powerW: powers[at % powers.length]!,
              reactiveVar: 0,
            })),
          };
          expect(predict(swapLeads(flipClamp(site, ct), ct), "fitted", state).inputs).toEqual(
            predict(site, "fitted", state).inputs,
          );
        },
      ),
    );
  });
});

describe("a plain new job", () => {
  it("can be edited into one with kits", () => {
    const plain = starterPlan({
      name: "Plain",
      place: "",
      system: "single-phase",
      solarKw: 3.6,
      batteryKw: 0,
      solarMeter: false,
      arrow: "to-load",
    });
    const after = edit.changeNode("solar", { kit: "pv-single-3k6" }, kit("pv-single-3k6"))(plain);
    expect(jobDocumentSchema.safeParse(after).success).toBe(true);
    expect(after.kits).toHaveLength(1);
    expect(edit.changeNode("solar", { kit: undefined })(after).kits).toEqual([]);
  });
});
