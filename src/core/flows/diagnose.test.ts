import fc from "fast-check";
import { readFileSync } from "node:fs";
import { isDeepStrictEqual } from "node:util";
import { describe, expect, it } from "vitest";
import { diagnose, diagnoseInSlices, diagnoseRequestSchema, fittingWith } from "@/core/flows/diagnose";
import { candidateFaults, type Fault } from "@/core/flows/faults";
import { siteWithFitting } from "@/core/flows/fitting";
import { simulateSeen } from "@/core/flows/simulateSeen";
import { testSheetShape, type TestSheet } from "@/core/flows/testSheetSchema";
import { seededNormal } from "@/core/random";
import type { Site } from "@/core/site/planSchema";
import { arbitrarySite } from "../../../tests/fixtures/arbitrarySite";
import { houseSite, usualSheet, withIdealClamps } from "../../../tests/fixtures/sites";
import { usualPosterior } from "../../../tests/reference/usualPosterior";
import { plainDiagnose } from "../../../tests/reference/plainDiagnose";

interface ContractCase {
  readonly request: unknown;
  readonly answer: {
    readonly best: { probability: number; faults: Fault[] };
    readonly runnerUp: { faults: Fault[] };
    readonly combinations: number;
  };
}

const contract = JSON.parse(
  readFileSync(new URL("../../../tests/contract/diagnose.json", import.meta.url), "utf8"),
) as ContractCase[];

describe("diagnose", () => {
  it.each(contract.map((example, at) => [at, example] as const))(
    "agrees with worked example %i",
    (_, { request, answer }) => {
      const { site, ...sheet } = diagnoseRequestSchema.parse(request);
      const diagnosis = diagnosed(site, sheet);
      expect(diagnosis.hypotheses[0]!.faults).toEqual(expect.arrayContaining(answer.best.faults));
      expect(diagnosis.hypotheses[0]!.faults).toHaveLength(answer.best.faults.length);
      expect(diagnosis.hypotheses[0]!.probability).toBeCloseTo(answer.best.probability, 2);
      expect(diagnosis.hypotheses[1]!.faults).toEqual(expect.arrayContaining(answer.runnerUp.faults));
      expect(diagnosis.scored).toBe(answer.combinations);
    },
  );

  it.each(["single-phase", "split-phase", "three-phase"] as const)(
    "finds any single fault of a %s site from a usual test sheet",
    (system) => {
      const site = houseSite(system, { solarMeter: true });
      for (const { fault } of candidateFaults(site)) {
        // A ratio on the solar meter hides behind the tolerance of the inverter's own display.
        if (fault.kind === "ratio" && Math.abs(Math.log(fault.gain)) < 0.35) continue;
        const diagnosis = diagnosed(site, seenWith(site, [fault], usualSheet(site, 1)));
        // On a balanced inverter exchanged CTs, exchanged taps and rotations fit alike: the fault must be
        // shown, and nothing above it may fit much worse.
        const at = diagnosis.hypotheses.findIndex((hypothesis) =>
          [hypothesis.faults, ...hypothesis.alternatives].some((faults) => isDeepStrictEqual(faults, [fault])),
        );
        expect(at, JSON.stringify(fault)).toBeGreaterThanOrEqual(0);
        const found = diagnosis.hypotheses[at]!;
        // Where one reading alone shows it, an odd reading may stand above it until it is read again.
        if (diagnosis.verdict === "reading-doubtful") continue;
        for (const above of diagnosis.hypotheses.slice(0, at)) expect(above.residual).toBeLessThan(found.residual + 1);
        expect(diagnosis.verdict, JSON.stringify(fault)).not.toBe("not-explained");
      }
    },
  );

  it("gives the same probabilities as one large Gaussian over plans read by predict", () => {
    const systems = fc.constantFrom("single-phase" as const, "split-phase" as const, "three-phase" as const);
    fc.assert(
      fc.property(
        systems,
        fc.boolean(),
        fc.integer({ min: 1, max: 1e6 }),
        fc.nat(),
        (system, solarMeter, seed, pick) => {
          const site = houseSite(system, { solarMeter: solarMeter && system !== "three-phase" });
          const candidates = candidateFaults(site);
          const sheet = shortSheet(site, system === "single-phase" ? 2 : 1);
          const seen = seenWith(site, [candidates[pick % candidates.length]!.fault], sheet, seed);
          const plain = plainDiagnose(site, seen);
          usualPosterior(site, seen)
            .slice(0, 5)
            .forEach((probability, at) => {
              expect(probability).toBeCloseTo(plain[at]!.probability, 6);
            });
        },
      ),
      { numRuns: 12 },
    );
  });

  it("gives the same probabilities on any site, wired and fitted in any way", () => {
    fc.assert(
      fc.property(
        arbitrarySite({ mostDevices: 4, mostMeters: 2 }),
        fc.integer({ min: 1, max: 1e6 }),
        fc.nat(),
        (site, seed, pick) => {
          const candidates = candidateFaults(site);
          const devices = site.nodes.filter(
            (node) => node.kind !== "grid" && node.kind !== "board" && node.id !== "house",
          );
          const sheet = testSheetShape.parse({
            background: [{ node: "house" }],
            maxFaults: 1,
            steps: [
              { label: "rest" },
              ...devices.slice(0, 2).map((node) => ({
                label: node.name,
                devices: [{ node: node.id, powerW: 1500, reactiveVar: 200, toleranceW: 60 }],
              })),
            ],
          });
          const seen = seenWith(site, [candidates[pick % candidates.length]!.fault], sheet, seed);
          const plain = plainDiagnose(site, seen);
          usualPosterior(site, seen)
            .slice(0, 6)
            .forEach((probability, at) => {
              expect(probability).toBeCloseTo(plain[at]!.probability, 5);
            });
        },
      ),
      { numRuns: 15 },
    );
  });

  it("says as planned, with no further test, when everything reads right", () => {
    const site = houseSite("three-phase");
    const diagnosis = diagnosed(site, seenWith(site, [], usualSheet(site)));
    expect(diagnosis.verdict).toBe("as-planned");
    expect(diagnosis.nextTests).toEqual([]);
    expect(diagnosis.hypotheses[0]!.fitting.taps).toEqual([{ meter: "m1", V1: "L1", V2: "L2", V3: "L3" }]);
  });

  it("is ambiguous before anything is read, and its best advice names what it separates", () => {
    const site = houseSite("single-phase", { solarMeter: true });
    const diagnosis = diagnosed(site, { ...usualSheet(site), steps: [] });
    expect(diagnosis.verdict).toBe("ambiguous");
    expect(diagnosis.hypotheses[0]!.faults).toEqual([]);
    expect(diagnosis.nextTests[0]!.why).toContain("separates");
    expect(diagnosis.nextTests[0]!.gainBits).toBeGreaterThan(0.5);
  });

  it("says not explained for readings that no combination of faults allows", () => {
    const site = houseSite("single-phase");
    const sheet = usualSheet(site);
    const steps = sheet.steps.map((step, at) => ({
      ...step,
      readings: [{ meter: "m1", input: 1, powerW: at % 2 === 0 ? 9000 : -40_000 }],
    }));
    expect(diagnosed(site, { ...sheet, steps }).verdict).toBe("not-explained");
  });

  it("keeps one of several faults that read the same, and lists the others under it", () => {
    const site = houseSite("single-phase");
    const best = diagnosed(site, seenWith(site, [{ kind: "dead", meter: "m1", input: 1 }], usualSheet(site)))
      .hypotheses[0]!;
    expect(best.faults).toEqual([{ kind: "dead", meter: "m1", input: 1 }]);
    expect(best.alternatives).toContainEqual(
      expect.arrayContaining([
        { kind: "reversed", meter: "m1", input: 1 },
        { kind: "dead", meter: "m1", input: 1 },
      ]),
    );
  });

  it("takes a wrong phase on a line-to-line run for the reversal it cannot be told from", () => {
    const site = houseSite("split-phase", { solarMeter: true });
    const seen = seenWith(site, [{ kind: "reversed", meter: "m2", input: 1 }], usualSheet(site));
    const best = diagnosed(site, seen).hypotheses[0]!;
    expect(best.faults).toEqual([{ kind: "reversed", meter: "m2", input: 1 }]);
    expect(best.alternatives).toContainEqual([{ kind: "wrong-phase", meter: "m2", input: 1, conductor: "L2" }]);
  });

  it("tells CTs in each other's places from plugs exchanged where their arrows differ, and only there", () => {
    const plain = houseSite("three-phase");
    const [meter] = plain.meters;
    const turned = withIdealClamps({
      ...plain,
      meters: [
        { ...meter!, inputs: meter!.inputs.map((own, at) => (at === 2 ? { ...own, arrow: "to-grid" as const } : own)) },
      ],
    });
    const kinds = (site: typeof plain) =>
      candidateFaults(site).filter(({ fault }) => fault.kind === "places-exchanged");
    expect(kinds(plain)).toEqual([]);
    expect(kinds(turned).map(({ fault }) => ("inputs" in fault ? fault.inputs : []))).toEqual([
      [1, 3],
      [2, 3],
    ]);
    for (const kind of ["exchanged", "places-exchanged"] as const) {
      const fault = { kind, meter: "m1", inputs: [1, 3] } as const;
      const outcome = diagnosed(turned, seenWith(turned, [fault], usualSheet(turned)));
      expect(outcome.hypotheses[0]!.faults).toEqual([fault]);
      expect(outcome.hypotheses[0]!.cure[0]).toMatch(kind === "exchanged" ? /^Exchange the leads/ : /^Open A1 and A3/);
    }
  });

  it("scores every hypothesis alike whether or not its unchanged inputs share a factor", () => {
    const site = houseSite("three-phase", { solarMeter: true });
    const seen = seenWith(site, [{ kind: "exchanged", meter: "m1", inputs: [1, 3] }], shortSheet(site, 1));
    const plain = plainDiagnose(site, seen);
    expect(diagnosed(site, seen).hypotheses[0]!.probability).toBeCloseTo(plain[0]!.probability, 6);
  });

  it("refuses more combinations than anybody waits for, and says how many", () => {
    const site = houseSite("three-phase");
    const many: Site = {
      ...site,
      meters: Array.from({ length: 8 }, (_, at) => ({ ...site.meters[0]!, id: `m${at}` })),
      cts: [],
    };
    expect(diagnose(many, usualSheet(many, 3))).toMatchObject({ kind: "too-many", limit: 2_000_000 });
  });

  it("reports its progress in slices that end at the number of hypotheses", () => {
    const site = houseSite("three-phase");
    const progress = [...diagnoseInSlices(site, seenWith(site, [], usualSheet(site)))];
    expect(progress.length).toBeGreaterThan(1);
    expect(progress.every(({ done }, at) => done >= (progress[at - 1]?.done ?? 0))).toBe(true);
    expect(progress.at(-1)).toMatchObject({ done: progress.at(-1)!.of });
  });
});

function diagnosed(site: Site, sheet: TestSheet) {
  const outcome = diagnose(site, sheet);
  if (outcome.kind !== "diagnosed") throw new Error(`expected a diagnosis, got ${outcome.kind}`);
  return outcome.diagnosis;
}

function seenWith(site: Site, faults: readonly Fault[], sheet: TestSheet, seed = 11): TestSheet {
  const fitted = siteWithFitting(site, fittingWith(site, faults));
  return { ...sheet, steps: simulateSeen(fitted, sheet, seededNormal(seed)) };
}

/** Fewer steps, so that the plain reference stays quick. */
function shortSheet(site: Site, maxFaults: number): TestSheet {
  const sheet = usualSheet(site, maxFaults);
  return { ...sheet, steps: [sheet.steps[0]!, sheet.steps[1]!, sheet.steps.at(-1)!] };
}
