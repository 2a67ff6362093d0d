import { describe, expect, it } from "vitest";
import { plainFinding } from "@/core/findings";
import { resolve } from "@/core/plan/resolve";
import type { Finding } from "@/core/findings";
import type { JobDocument } from "@/core/job/jobDocument";
import { planFindings } from "@/core/job/planFindings";
import { changeInput, changeNode, changeSupply } from "@/core/edits/editPlan";
import { linkChoice } from "@/core/sensing/linkChoice";
import { fittingPrimariesA, smallestPrimaryA, turnsFor } from "@/core/sensing/ctSizing";
import { smallestLeadMm2 } from "@/core/sensing/ctBurden";
import { windowDiameterMm } from "@/core/sensing/windowFit";
import { jobFromPattern } from "../../../tests/fixtures/shipped";

type Change = (document: JobDocument) => JobDocument;

const addOn = jobFromPattern("two-ct-add-on");
const farm = jobFromPattern("export-controller");
const manager = jobFromPattern("energy-manager");

function codes(document: JobDocument): readonly string[] {
  return planFindings(resolve(document)).map((finding) => finding.code);
}

function found(document: JobDocument, code: string): Finding | undefined {
  return planFindings(resolve(document))
    .map(plainFinding)
    .find((finding) => finding.code === code);
}

describe("the checks of a plan", () => {
  it.each<readonly [string, JobDocument, Change, Partial<Finding>]>([
    [
      "primary-small",
      addOn,
      changeInput("meter", 1, { primaryA: 50 }),
      { severity: "fix", cure: "Choose the primary 80 A for input 1 of Add-on meter" },
    ],
    ["ratio-entry", addOn, changeInput("meter", 1, { primaryA: 83 }), { severity: "fix" }],
    ["family", addOn, changeInput("meter", 1, { secondary: { value: 5, unit: "A" } }), { severity: "stop" }],
    ["secondary", addOn, changeInput("meter", 1, { secondary: { value: 1, unit: "V" } }), { severity: "fix" }],
    ["window-small", addOn, changeInput("meter", 1, { clamp: { windowMm: 8 } }), { severity: "fix" }],
    [
      "lead-limit",
      addOn,
      changeInput("meter", 1, { clamp: { leadM: 14 } }),
      {
        severity: "fix",
        detail: "The lead of input 1 of Add-on meter is 14 m; DIN-rail meter, one phase, two CTs allows 10 m.",
      },
    ],
    [
      "shared-phases",
      farm,
      changeInput("grid-meter", 1, {
        measures: [
          { run: "board", conductor: "L1" },
          { run: "board", conductor: "L2" },
        ],
      }),
      { severity: "fix" },
    ],
    [
      "tap-phase",
      farm,
      changeInput("grid-meter", 1, { tap: "V2" }),
      { severity: "fix", cure: "Take the tap that is on L1 for input 1 of Grid meter" },
    ],
    [
      "burden",
      farm,
      changeInput("grid-meter", 1, { clamp: { leadM: 20, leadMm2: 2.5, ratedVa: 5 } }),
      { severity: "fix", cure: "Take 6 mm², or shorten it to 11.3 m" },
    ],
    ["built-in-overload", manager, changeSupply({ mainFuseA: 100 }), { severity: "stop" }],
    ["arrow-overridden", addOn, changeInput("meter", 1, { arrow: "to-grid" }), { severity: "note" }],
    ["positive-overridden", addOn, changeInput("meter", 1, { positive: "to-grid" }), { severity: "note" }],
    [
      "invert-not-there",
      farm,
      changeInput("grid-meter", 1, { invert: true }),
      { severity: "fix", cure: "Turn the CT of input 1 of Grid meter instead" },
    ],
    ["no-built-in", addOn, changeInput("meter", 1, { builtIn: true }), { severity: "fix" }],
    ["over-rating", addOn, changeNode("solar", { ratedW: 5000 }), { severity: "fix" }],
    ["kit-phases", farm, changeNode("solar-1", { phases: ["L1"] }), { severity: "fix" }],
    [
      "shelter",
      jobFromPattern("display-and-keys"),
      (document) => ({
        ...document,
        site: {
          ...document.site,
          places: document.site.places.map((place) => ({ ...place, shelter: "outdoors" as const })),
        },
      }),
      { severity: "fix" },
    ],
    ["generation-over-fuse", farm, changeSupply({ mainFuseA: 40 }), { severity: "fix" }],
  ])("finds %s, and not before the plan was changed so", (code, before, change, expected) => {
    expect(codes(before)).not.toContain(code);
    expect(found(change(before), code)).toMatchObject(expected);
  });

  it("advises turns where a run is far smaller than the primary, and is quiet once they are there", () => {
    const small = changeSupply({ mainFuseA: 20 })(addOn);
    const roomy = changeInput("meter", 1, { primaryA: 100 })(small);
    expect(found(roomy, "night-load")?.cure).toContain("Pass the conductor 5 times through the window");
    const turned = changeInput("meter", 1, {
      primaryA: 20,
      clamp: { ...roomy.site.meters[0]!.inputs[0]!.clamp, turns: 5 },
    })(changeNode("house", { nightW: 300 })(roomy));
    expect(codes(turned)).not.toContain("night-load");
  });

  it("says of a self-powered transmitter that it sleeps at night", () => {
    const radio = jobFromPattern("diverter-and-hub");
    const kits = radio.kits.map((kit) =>
      kit.id === "radio-ct-battery"
        ? {
            ...kit,
            metering: {
              ...kit.metering!,
              transmitter: { supply: "self-powered" as const, wakeUpA: 1, rangeM: 30, reportS: 5 },
            },
          }
        : kit,
    );
    const onTails = changeInput("radio", 1, { measures: [{ run: "house", conductor: "L1" }] })({ ...radio, kits });
    expect(found(changeNode("house", { nightW: 100 })(onTails), "transmitter-sleep")?.detail).toContain("0.435 A");
  });

  it("says the same thing of several inputs once", () => {
    expect(
      planFindings(resolve(farm))
        .map(plainFinding)
        .filter((finding) => finding.code === "night-load"),
    ).toMatchObject([{ detail: expect.stringMatching(/^Inputs 1, 2, 3 of Grid meter/) as string }]);
  });
});

describe("the helpers of sizing", () => {
  it("take the examples of their docblocks", () => {
    expect(smallestPrimaryA(63)).toBe(75);
    expect(smallestPrimaryA(2000)).toBeUndefined();
    expect(
      fittingPrimariesA([100, 200, 400], { kind: "list", values: [200, 600] }, { value: 0.333, unit: "V" }),
    ).toEqual([200]);
    expect(turnsFor(100, 30)).toBe(3);
    expect(windowDiameterMm([8, 8], 1)).toBe(16);
    expect(windowDiameterMm([8], 3)).toBeCloseTo(17.24, 6);
    expect(smallestLeadMm2({ secondary: { value: 5, unit: "A" }, leadM: 10, meterVa: 0.5, ratedVa: 5 })).toBe(2.5);
  });

  it.each([
    [{ cableM: 18, straightM: 12, hasNetworkAtBothEnds: true }, ["wire", "radio-pair", "network"]],
    [{ cableM: undefined, straightM: 55, hasNetworkAtBothEnds: false }, ["radio-pair"]],
    [{ cableM: 200, straightM: 120, hasNetworkAtBothEnds: true }, ["radio-pair", "wire", "network"]],
    [{ cableM: 1300, straightM: 900, hasNetworkAtBothEnds: true }, ["network"]],
    [{ cableM: undefined, straightM: undefined, hasNetworkAtBothEnds: false }, []],
  ] as const)("a link over %o is possible by %o", (question, possible) => {
    const options = linkChoice(question);
    expect(options.filter((option) => option.possible).map((option) => option.kind)).toEqual(possible);
    expect(options).toHaveLength(3);
  });
});
