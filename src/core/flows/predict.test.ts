import fc from "fast-check";
import { readFileSync } from "node:fs";
import { describe, expect, it } from "vitest";
import { predict, predictRequestSchema, type Fitting, type InputReading } from "@/core/flows/predict";
import type { DeviceState } from "@/core/flows/stateSchema";
import type { Ct, Site } from "@/core/site/planSchema";
import { siteSchema } from "@/core/site/siteSchema";
import { houseSite } from "../../../tests/fixtures/sites";

interface ContractCase {
  readonly site: unknown;
  readonly state: unknown;
  readonly answer: Record<Fitting, InputReading[]>;
}

const contract = JSON.parse(
  readFileSync(new URL("../../../tests/contract/predict.json", import.meta.url), "utf8"),
) as ContractCase[];

describe("predict", () => {
  it.each(
    contract.flatMap(
      (example, at) =>
        [
          [at, "planned", example],
          [at, "fitted", example],
        ] as const,
    ),
  )("agrees with worked example %i as %s", (_, as, example) => {
    const { site, state } = predictRequestSchema.parse({ site: example.site, as, state: example.state });
    const prediction = predict(site, as, state);
    example.answer[as].forEach((wanted, at) => {
      const got = prediction.inputs[at]!;
      expect([got.meter, got.input]).toEqual([wanted.meter, wanted.input]);
      expect(Math.abs(got.powerW - wanted.powerW)).toBeLessThan(0.01);
      expect(Math.abs(got.reactiveVar - wanted.reactiveVar)).toBeLessThan(0.01);
      expect(Math.abs(got.currentA - wanted.currentA)).toBeLessThan(0.01);
    });
  });

  it("reads the example of its docblock: −1100 W toward the grid on each phase", () => {
    const site = houseSite("three-phase");
    const prediction = predict(site, "planned", state({ house: 900, pv: -4200 }));
    expect(prediction.inputs[0]).toMatchObject({ powerW: -1100, flow: "to-grid" });
    expect(prediction.inputs[0]!.currentA).toBeCloseTo(4.783, 3);
    expect(prediction.meters[0]!.powerW).toBeCloseTo(-3300, 9);
    expect(prediction.runs.find((run) => run.run === "board" && run.conductor === "L1")).toMatchObject({
      angleDeg: 180,
      powerW: -1100,
    });
  });

  it("shows minus one half of a resistive load when tap and CT are a phase apart", () => {
    const site = change(houseSite("three-phase"), 0, { around: [{ run: "board", conductor: "L2" }] });
    expect(input(site, state({ kettleL2: 2000 }), 0).powerW).toBeCloseTo(-1000, 6);
  });

  it("reads a CT that is turned and has its leads swapped like one that has neither", () => {
    const site = houseSite("split-phase");
    const both = change(site, 0, { arrow: "to-grid", leads: "swapped" });
    expect(predict(both, "fitted", state({ house: 1500 }))).toEqual(predict(site, "fitted", state({ house: 1500 })));
  });

  it("doubles what two turns carry and halves what a CT of twice the primary gives", () => {
    const site = houseSite("single-phase");
    const plain = input(site, state({ house: 1000 }), 0).powerW;
    expect(input(change(site, 0, { turns: 2 }), state({ house: 1000 }), 0).powerW).toBeCloseTo(2 * plain, 9);
    expect(input(change(site, 0, { primaryA: 400 }), state({ house: 1000 }), 0).powerW).toBeCloseTo(plain / 2, 9);
  });

  it("adds the circuits that share one window", () => {
    const site = change(houseSite("single-phase"), 0, {
      around: [
        { run: "house", conductor: "L1" },
        { run: "pv", conductor: "L1" },
      ],
    });
    expect(input(site, state({ house: 1000, pv: -400 }), 0).powerW).toBeCloseTo(600, 9);
  });

  it("splits a line-to-line load over both conductors with opposite currents and none in the neutral", () => {
    const site = houseSite("three-phase");
    const oven: Site = siteSchema.parse({
      ...site,
      nodes: [...site.nodes, { id: "oven", kind: "load", name: "Oven", fedFrom: "board", phases: ["L1", "L2"] }],
    });
    const { inputs, runs } = predict(oven, "planned", state({ oven: 4000 }));
    expect(inputs[0]!.powerW + inputs[1]!.powerW).toBeCloseTo(4000, 6);
    expect(inputs[0]!.powerW).toBeCloseTo(2000, 6);
    expect(inputs[0]!.reactiveVar).toBeCloseTo(-inputs[1]!.reactiveVar, 6);
    expect(runs.find((run) => run.run === "oven" && run.conductor === "N")!.currentA).toBeCloseTo(0, 9);
  });

  it("uses the wired taps as fitted and the planned order of phases as planned", () => {
    const site = houseSite("three-phase");
    const exchanged: Site = { ...site, meters: [{ ...site.meters[0]!, taps: { V1: "L2", V2: "L1", V3: "L3" } }] };
    expect(predict(exchanged, "planned", state({ kettleL1: 2000 })).inputs[0]!.powerW).toBeCloseTo(2000, 6);
    expect(predict(exchanged, "fitted", state({ kettleL1: 2000 })).inputs[0]!.powerW).toBeCloseTo(-1000, 6);
  });

  it("reads nothing on an input without a CT but still names the true flow", () => {
    const site = { ...houseSite("single-phase"), cts: [] };
    expect(input(site, state({ house: 800 }), 0)).toMatchObject({ powerW: 0, currentA: 0, flow: "to-load" });
  });

  it("gives a finding instead of a number where a CT gives amperes to an input for volts", () => {
    const site = change(houseSite("single-phase"), 0, { secondary: { value: 5, unit: "A" } });
    const prediction = predict(site, "fitted", state({ house: 800 }));
    expect(prediction.inputs).toEqual([]);
    expect(prediction.findings).toMatchObject([{ severity: "stop", subject: { kind: "ct", id: "ct-m1-1" } }]);
  });

  it("conserves energy: a grid meter reads what all devices add up to, on any supply", () => {
    const systems = fc.constantFrom("single-phase" as const, "split-phase" as const, "three-phase" as const);
    const watts = fc.double({ min: -1e5, max: 1e5, noNaN: true });
    fc.assert(
      fc.property(systems, watts, watts, watts, (system, house, pv, kettleL1) => {
        const powerW = predict(houseSite(system), "planned", state({ house, pv, kettleL1 })).meters[0]!.powerW;
        expect(Math.abs(powerW - house - pv - kettleL1)).toBeLessThan(
          1e-9 * (1 + Math.abs(house) + Math.abs(pv) + Math.abs(kettleL1)),
        );
      }),
    );
  });

  it.each([
    ["an unknown device", { devices: [{ node: "sauna", powerW: 1 }] }, ["state", "devices", 0, "node"]],
    ["the grid as a device", { devices: [{ node: "grid", powerW: 1 }] }, ["state", "devices", 0, "node"]],
    ["a device listed twice", { devices: [{ node: "pv" }, { node: "pv" }] }, ["state", "devices", 1, "node"]],
    [
      "a phase that a device lacks",
      { devices: [{ node: "kettleL1", perPhase: { L3: { powerW: 5 } } }] },
      ["state", "devices", 0, "perPhase", "L3"],
    ],
    ["a power that is not finite", { devices: [{ node: "pv", powerW: Infinity }] }, ["state", "devices", 0, "powerW"]],
  ])("refuses %s with its path", (_, badState, path) => {
    const parsed = predictRequestSchema.safeParse({ site: houseSite("three-phase"), as: "planned", state: badState });
    expect(parsed.error?.issues.map((issue) => issue.path)).toEqual([path]);
  });
});

function state(powers: Record<string, number>): { devices: DeviceState[] } {
  return { devices: Object.entries(powers).map(([node, powerW]) => ({ node, powerW, reactiveVar: 0 })) };
}

function change(site: Site, at: number, ct: Partial<Ct>): Site {
  return { ...site, cts: site.cts.with(at, { ...site.cts[at]!, ...ct }) };
}

function input(site: Site, siteState: { devices: DeviceState[] }, at: number): InputReading {
  return predict(site, "fitted", siteState).inputs[at]!;
}
