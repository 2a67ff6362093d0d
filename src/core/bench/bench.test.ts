import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { benchOfJob } from "@/core/bench/benchOfJob";
import { benchChangeSchema, benchProblems, benchRequestSchema, isLineFault } from "@/core/bench/benchSchema";
import { benchSite } from "@/core/bench/benchSite";
import { registerImage, registerValue, serialDigits, wordKey } from "@/core/bench/benchValues";
import { dayState } from "@/core/bench/dayState";
import { candidateFaults } from "@/core/flows/faults";
import { predict } from "@/core/flows/predict";
import { deviceProblems } from "@/core/flows/stateSchema";
import { REGISTER_WORDS } from "@/core/kits/registerSchema";
import { pathText } from "@/core/problem";
import { jobFromPattern, shippedPatterns } from "../../../tests/fixtures/shipped";

const document = jobFromPattern("three-phase-storage");
const { site } = document;
const { lines, kinds } = benchOfJob(document);
const [meter] = site.meters;
const within = {
  site,
  links: lines.map(({ link }) => ({ id: link })),
  onlineIds: ["seen"],
  actKeys: ["hub pairing"],
  deviceIds: lines.flatMap(({ units }) => units.map(({ device }) => device)),
};

/** Where the problems of some faults are, as a person reads it. */
function wrongIn(faults: unknown[]): readonly string[] {
  const parsed = benchChangeSchema.parse({ faults }).faults!;
  return benchProblems({ faults: parsed }, within).map(({ path, message }) => `${pathText(path)} ${message}`);
}

describe("what is asked of a bench", () => {
  it("has its defaults, and nothing that it does not know", () => {
    expect(benchRequestSchema.parse({})).toEqual({ fitting: "fitted", seed: 1, noise: true, timeFactor: 1 });
    expect(benchRequestSchema.safeParse({ speed: 3 }).success).toBe(false);
    expect(benchChangeSchema.safeParse({ timeFactor: 601 }).success).toBe(false);
    expect(benchChangeSchema.parse({ state: {} }).state).toEqual({ devices: [], runs: "held" });
  });

  it.each([
    ["faults[0].device there is no device", { kind: "device-dead", device: "nobody" }],
    ["faults[0].link there is no link", { kind: "bit-errors", link: "nowhere" }],
    ["faults[0].meter there is no meter", { kind: "reversed", meter: "nobody", input: 1 }],
    ["faults[0].input the meter has no input 9", { kind: "dead", meter: meter!.id, input: 9 }],
    ["faults[0].inputs[1] the meter has no input 7", { kind: "exchanged", meter: meter!.id, inputs: [1, 7] }],
    ["faults[0].inputs the same input stands twice", { kind: "exchanged", meter: meter!.id, inputs: [1, 1] }],
    ["faults[0].run there is no run", { kind: "wrong-run", meter: meter!.id, input: 1, run: "nowhere" }],
    ["faults[0].taps[0] the meter has no tap", { kind: "taps-exchanged", meter: meter!.id, taps: ["V9", "V1"] }],
  ])("is refused with its place: %s", (begins, fault) => {
    const [problem, ...others] = wrongIn([fault]);
    expect(others).toEqual([]);
    expect(problem!.startsWith(begins)).toBe(true);
  });

  it("may be every fault that the site can have, and every one of its devices", () => {
    const faults = candidateFaults(site).map(({ fault }) => structuredClone(fault));
    expect(faults.length).toBeGreaterThan(20);
    for (const fault of faults) expect(wrongIn([fault])).toEqual([]);
    for (const { device } of lines.flatMap(({ units }) => units)) {
      expect(wrongIn([{ kind: "lag", device, seconds: 5 }])).toEqual([]);
      expect(isLineFault({ kind: "lag", device, seconds: 5 })).toBe(true);
    }
    expect(isLineFault({ kind: "meter-reversed", meter: meter!.id })).toBe(false);
  });

  it("names an act that a device cannot do", () => {
    const acts = [
      { device: "hub", kind: "pairing" as const },
      { device: "hub", kind: "built-in-test" as const },
    ];
    expect(benchProblems({ acts }, within)).toEqual([{ path: ["acts", 1], message: '"hub" has no test of its own' }]);
  });

  it("names a device that is not in the site where a state does", () => {
    const devices = [{ node: "nobody", powerW: 1, reactiveVar: 0 }];
    expect(benchProblems({ devices }, within).map(({ path }) => pathText(path))).toEqual(["state.devices[0].node"]);
  });
});

describe("the CTs of a bench", () => {
  it("are as fitted, as planned, or as planned but for the faults", () => {
    const turned = { kind: "reversed", meter: meter!.id, input: 2 } as const;
    const devices = [{ node: site.nodes.find(({ kind }) => kind === "load")!.id, powerW: 3000, reactiveVar: 0 }];
    const shown = (own: typeof site) => predict(own, "fitted", { devices }).inputs.map(({ powerW }) => powerW);
    const planned = shown(benchSite(site, "planned", [])!);
    expect(planned).toEqual(predict(site, "planned", { devices }).inputs.map(({ powerW }) => powerW));
    expect(benchSite(site, "fitted", [])).toBe(site);
    const faulty = shown(benchSite(site, "planned", [turned])!);
    expect(faulty[1]).toBeCloseTo(-planned[1]!, 9);
    expect(faulty[0]).toBeCloseTo(planned[0]!, 9);
  });

  it("cannot be where no conductor is", () => {
    const onePhase = site.nodes.find(({ phases }) => phases?.length === 1 && phases[0] === "L1")!.id;
    const at = { meter: meter!.id, input: 1 };
    const faults = [
      { kind: "wrong-phase" as const, ...at, conductor: "L2" as const },
      { kind: "wrong-run" as const, ...at, run: onePhase },
    ];
    expect(benchSite(site, "planned", faults)).toBeUndefined();
  });
});

describe("the registers of a simulated device", () => {
  const unit = lines.flatMap(({ units }) => units).find((own) => own.meter)!;
  const devices = [{ node: site.nodes.find(({ kind }) => kind === "load")!.id, powerW: 3000, reactiveVar: 0 }];
  const moment = {
    site,
    readings: predict(site, "planned", { devices }).inputs,
    ownPowerW: 0,
    kind: kinds[unit.device]!,
    energyWh: { positive: 1230, negative: 40 },
    limit: { powerW: 5000 },
    unit: unit.unit,
    serial: serialDigits(unit.device),
  };
  const valueOf = (of: string, input?: number) =>
    registerValue(
      unit.registers.find((own) => own.of === of && own.input === input)!,
      unit,
      moment,
    );

  it("hold what it measures, how it is set and what it is", () => {
    const total = moment.readings.filter((own) => own.meter === unit.meter).reduce((sum, own) => sum + own.powerW, 0);
    expect(valueOf("power")).toBeCloseTo(total, 6);
    expect(valueOf("voltage", 1)).toBeCloseTo(site.supply.voltageV, 6);
    expect(valueOf("ratio", 1)).toBe(meter!.inputs[0]!.primaryA);
    expect(valueOf("direction", 1)).toBe(0);
    expect([valueOf("energy"), valueOf("energy-negative"), valueOf("address")]).toEqual([1230, 40, unit.unit]);
    expect(String(valueOf("serial"))).toMatch(/^[0-9]{7}$/);
  });

  it("fill every address of the list once, and no other", () => {
    const image = registerImage(unit, moment);
    const addresses = unit.registers.flatMap(({ table, address, type }) =>
      Array.from({ length: REGISTER_WORDS[type] }, (_, at) => wordKey(table, address + at)),
    );
    expect([...image.keys()].toSorted()).toEqual(addresses.toSorted());
  });

  it("count generating as positive for an inverter, and drawing for everything else", () => {
    const own = unit.registers.find(({ of, input }) => of === "power" && input === undefined)!;
    const shown = (kind: typeof moment.kind) => registerValue(own, unit, { ...moment, kind, ownPowerW: -2500 });
    expect([shown("hybrid-inverter"), shown("pv-inverter"), shown("ev-charger")]).toEqual([2500, 2500, -2500]);
  });
});

describe("a day on the bench", () => {
  it.each(shippedPatterns().map(({ id }) => id))("of %s is one that its site can have, at every minute", (id) => {
    const own = jobFromPattern(id).site;
    fc.assert(
      fc.property(fc.double({ min: 0, max: 1440, noNaN: true }), (minute) => {
        const devices = [...dayState(own, minute)];
        expect(deviceProblems(devices, own)).toEqual([]);
        for (const { node, powerW } of devices) {
          const { ratedW, kind } = own.nodes.find((one) => one.id === node)!;
          if (ratedW !== undefined) expect(Math.abs(powerW)).toBeLessThanOrEqual(ratedW + 0.5);
          if (kind === "pv-inverter" && (minute < 360 || minute > 1200)) expect(Math.abs(powerW)).toBe(0);
          if (kind === "load" || kind === "diverter") expect(powerW).toBeGreaterThanOrEqual(0);
        }
      }),
      { numRuns: 60 },
    );
  });
});
