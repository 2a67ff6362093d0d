import { describe, expect, it } from "vitest";
import { fittingWith } from "@/core/flows/diagnose";
import { candidateFaults, type Fault } from "@/core/flows/faults";
import { siteWithFitting } from "@/core/flows/fitting";
import { diagnoseLog } from "@/core/flows/log/diagnoseLog";
import { expectedLog } from "@/core/flows/log/expectedLog";
import { diagnoseLogRequestSchema } from "@/core/flows/log/logSchema";
import { predict } from "@/core/flows/predict";
import { seededNormal, seededUniform } from "@/core/random";
import type { Site } from "@/core/site/planSchema";
import { phasesOfSupply } from "@/core/site/phasors";
import { houseSite } from "../../../../tests/fixtures/sites";

const DAY_S = 86_400;
const ROW_S = 300;

interface Recorded {
  readonly times: number[];
  readonly readings: { meter: string; input: number; powerW: (number | null)[] }[];
  readonly known: { node: string; powerW: (number | null)[] }[];
}

/** A day of a site as it is fitted: sun with clouds, a house with spikes that last, a display a little off. */
function recorded(site: Site, faults: readonly Fault[], seed: number): Recorded {
  const [random, normal] = [seededUniform(seed), seededNormal(seed + 1)];
  const fitted = siteWithFitting(site, fittingWith(site, faults));
  const phases = phasesOfSupply(site.supply);
  const times = Array.from({ length: DAY_S / ROW_S }, (_, row) => row * ROW_S);
  const restW = phases.map(() => 200);
  const spikeW = phases.map(() => 0);
  const off = 1 + 0.01 * normal();
  let cloud = 0.7;
  const readings = site.meters.flatMap(({ id, inputs }) =>
    inputs.map(({ n }) => ({ meter: id, input: n, powerW: [] as number[] })),
  );
  const sunW = times.map((time) => {
    cloud = Math.min(1, Math.max(0.15, cloud + 0.1 * normal()));
    const madeW = -6000 * Math.max(0, Math.sin(((time / 3600 - 6) / 12) * Math.PI)) * cloud;
    const perPhase = Object.fromEntries(
      phases.map((phase, at) => {
        if (random() < 0.08) spikeW[at] = spikeW[at] ? 0 : 400 + 2500 * random();
        restW[at] = Math.max(60, restW[at]! + 15 * normal());
        return [phase, { powerW: restW[at]! + spikeW[at]!, reactiveVar: 40 }];
      }),
    );
    const { inputs } = predict(fitted, "fitted", {
      devices: [
        { node: "pv", powerW: madeW * off, reactiveVar: 0 },
        { node: "house", powerW: 0, reactiveVar: 0, perPhase },
      ],
    });
    for (const own of readings) {
      const { powerW } = inputs.find(({ meter, input }) => meter === own.meter && input === own.input)!;
      own.powerW.push(Math.round(powerW * (1 + 0.004 * normal()) + 5 * normal()));
    }
    return Math.round(madeW);
  });
  return { times, readings, known: [{ node: "pv", powerW: sunW }] };
}

function diagnosed(site: Site, log: Recorded) {
  const { site: own, ...rest } = diagnoseLogRequestSchema.parse({ site, ...log });
  return diagnoseLog(own, rest);
}

const sameAs = (faults: readonly Fault[]) => (other: readonly Fault[]) =>
  JSON.stringify(other) === JSON.stringify(faults);

describe("a proof from a log", () => {
  it.each(["single-phase", "split-phase", "three-phase"] as const)(
    "accuses no sound %s fitting, and finds the fault of a faulty one, from a day in which nobody switched anything",
    (system) => {
      const site = houseSite(system);
      const all = candidateFaults(site);
      const tally = { right: 0, wrong: 0, open: 0 };
      for (let seed = 1; seed <= 14; seed++) {
        const pick = all[(seed * 37) % all.length]!.fault;
        const faults = seed % 3 === 0 ? [] : [pick];
        const { verdict, hypotheses } = diagnosed(site, recorded(site, faults, 100 * seed));
        const [best] = hypotheses;
        const isRight = sameAs(faults)(best!.faults) || best!.alternatives.some(sameAs(faults));
        if (verdict === "ambiguous" || verdict === "not-explained") tally.open++;
        else if (isRight) tally.right++;
        else tally.wrong++;
      }
      expect(tally.wrong).toBe(0);
      expect(tally.right).toBeGreaterThanOrEqual(11);
    },
  );

  it("says which hours told most, and uses every row", () => {
    const site = houseSite("three-phase");
    const result = diagnosed(site, recorded(site, [{ kind: "reversed", meter: "m1", input: 2 }], 5));
    expect(result).toMatchObject({ verdict: "faults-found", rowsUsed: 288, lags: [], nextTests: [] });
    expect(result.hypotheses[0]!.faults).toEqual([{ kind: "reversed", meter: "m1", input: 2 }]);
    expect(result.hours.length).toBeGreaterThan(0);
    for (const { fromS, toS, bits } of result.hours) {
      expect(toS - fromS).toBe(3600);
      expect(bits).toBeGreaterThan(0);
    }
  });

  it("takes out that a meter comes late, and a clock that is off", () => {
    const site = houseSite("single-phase");
    const log = recorded(site, [{ kind: "reversed", meter: "m1", input: 1 }], 8);
    const late = {
      ...log,
      readings: log.readings.map((own) => ({
        ...own,
        powerW: own.powerW.map((_, row) => own.powerW[row - 3] ?? null),
      })),
    };
    const result = diagnosed(site, late);
    expect(result.lags.map(({ meter }) => meter)).toEqual(["m1"]);
    expect(Math.abs(result.lags[0]!.seconds - 3 * ROW_S)).toBeLessThan(ROW_S / 2);
    expect(result.hypotheses[0]!.faults).toEqual([{ kind: "reversed", meter: "m1", input: 1 }]);
  });

  it("goes on over gaps of one input, of all, and of what is known", () => {
    const site = houseSite("three-phase");
    const log = recorded(site, [], 12);
    const gappy = {
      ...log,
      readings: log.readings.map((own, at) => ({
        ...own,
        powerW: own.powerW.map((watts, row) => (row % 17 === at || (row > 90 && row < 110) ? null : watts)),
      })),
      known: log.known.map((own) => ({
        ...own,
        powerW: own.powerW.map((watts, row) => (row % 29 === 5 ? null : watts)),
      })),
    };
    const result = diagnosed(site, gappy);
    expect(result.verdict).toBe("as-planned");
    expect(result.rowsUsed).toBeLessThan(288);
  });

  it("says that a log is another site's where nothing explains it, and is not certain of a night", () => {
    const site = houseSite("three-phase");
    const [log, random] = [recorded(site, [], 3), seededNormal(4)];
    const noise = log.readings.map((own) => ({ ...own, powerW: own.powerW.map(() => Math.round(20_000 * random())) }));
    expect(diagnosed(site, { ...log, readings: noise }).verdict).toBe("not-explained");
    const night = {
      times: log.times.slice(0, 30),
      readings: log.readings.map((own) => ({ ...own, powerW: own.powerW.slice(0, 30) })),
      known: log.known.map((own) => ({ ...own, powerW: own.powerW.slice(0, 30) })),
    };
    const dark = diagnosed(site, night);
    expect(dark.verdict).toBe("ambiguous");
    expect(dark.nextTests.length).toBeGreaterThan(0);
  });

  it.each([
    [{ times: [0, 0, 5] }, "times.1"],
    [{ readings: [{ meter: "m9", input: 1, powerW: [1, 2, 3] }] }, "readings.0.meter"],
    [{ readings: [{ meter: "m1", input: 7, powerW: [1, 2, 3] }] }, "readings.0.input"],
    [{ readings: [{ meter: "m1", input: 1, powerW: [1, 2] }] }, "readings.0.powerW"],
    [{ known: [{ node: "grid", powerW: [1, 2, 3] }] }, "known.0.node"],
    [{ background: [{ node: "nobody" }] }, "background.0.node"],
  ])("refuses %j with the path of the problem", (change, path) => {
    const parsed = diagnoseLogRequestSchema.safeParse({
      site: houseSite("single-phase"),
      times: [0, 1, 2],
      readings: [{ meter: "m1", input: 1, powerW: [1, 2, 3] }],
      ...change,
    });
    expect(parsed.error?.issues.map((issue) => issue.path.join("."))).toEqual([path]);
  });

  it("draws a right fitting inside its band all day, and a reversed input outside it while the sun is up", () => {
    const site = houseSite("single-phase");
    const [sound, turned] = [[], [{ kind: "reversed", meter: "m1", input: 1 } as const]].map((faults) => {
      const { site: own, ...log } = diagnoseLogRequestSchema.parse({ site, ...recorded(site, faults, 7) });
      return expectedLog(own, log, faults);
    });
    const share = (all: typeof sound) => all![0]!.outside / all![0]!.times.length;
    expect(share(sound)).toBeLessThan(0.1);
    expect(share(turned)).toBeGreaterThan(0.5);
    expect(sound![0]!.times.length).toBeLessThanOrEqual(240);
  });
});
