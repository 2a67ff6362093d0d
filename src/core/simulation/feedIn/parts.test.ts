import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { exportLimitRequestSchema } from "@/core/simulation/exportLimitSchema";
import { ExportController } from "@/core/simulation/feedIn/exportController";
import { GridActor } from "@/core/simulation/feedIn/gridActor";
import { lagShare } from "@/core/simulation/feedIn/lag";
import { LaggingInverter } from "@/core/simulation/feedIn/laggingInverter";
import { LateMeter } from "@/core/simulation/feedIn/lateMeter";
import type { Phase } from "@/core/phase";

const STEP_US = 100_000;
const PHASES: readonly Phase[] = ["L1", "L2", "L3"];

const request = exportLimitRequestSchema.parse({
  system: "three-phase",
  stepMs: 50,
  durationS: 10,
  limit: { powerW: 5000 },
  inverters: [{ id: "roof", ratedW: 10_000, availableW: 9000, phases: ["L1", "L2"] }],
  meter: { samplePeriodMs: 200, delayMs: 300, errorPct: 10 },
  controller: { kind: "integral", gainPerS: 0.5, setPointW: 4000, deadBandW: 50, periodMs: 500 },
  battery: { phases: ["L1"], powerW: 2000, gainPerS: 2, periodMs: 500, tauMs: 0, setPointW: 0 },
});
const inverterOf = (change: object = {}) =>
  new LaggingInverter({ ...request.inverters[0]!, tauMs: 0, deadTimeMs: 200, ...change }, PHASES);

describe("a late meter", () => {
  it("shows what flowed its delay ago, as large as its error makes it, sampled in its own period", () => {
    const meter = new LateMeter(request.meter, Float64Array.of(100));
    const seen = Array.from({ length: 12 }, (_, step) => {
      meter.at(step * STEP_US, Float64Array.of(100 * step));
      return Math.round(meter.seenW[0]!);
    });
    // Samples at every second step, three steps later; before them what flowed at rest.
    expect(seen).toEqual([110, 110, 110, 110, 110, 220, 220, 440, 440, 660, 660, 880]);
  });

  it("keeps its last word while it is lost, and catches up when it is heard again", () => {
    const meter = new LateMeter(request.meter, Float64Array.of(100));
    meter.lostUs = 0;
    for (let step = 0; step < 7; step++) meter.at(step * STEP_US, Float64Array.of(9000));
    expect(Math.round(meter.seenW[0]!)).toBe(110);
    meter.lostUs = undefined;
    meter.at(7 * STEP_US, Float64Array.of(9000));
    expect(Math.round(meter.seenW[0]!)).toBe(9900);
  });

  it("samples in its own period, also where that is no multiple of the steps", () => {
    const meter = new LateMeter({ samplePeriodMs: 250, delayMs: 0, errorPct: 0 }, Float64Array.of(0));
    const seen = [0, 100, 200, 250, 300, 400, 500].map((ms) => {
      meter.at(ms * 1000, Float64Array.of(ms));
      return meter.seenW[0];
    });
    expect(seen).toEqual([0, 0, 0, 250, 250, 250, 500]);
  });
});

describe("a lagging inverter", () => {
  it("hears a command after its dead time and goes there by its ramp", () => {
    const inverter = inverterOf({ rampWPerS: 10_000 });
    inverter.settle(5000);
    const made = Array.from({ length: 6 }, (_, step) => inverter.step(step * STEP_US, STEP_US, 2000, undefined, true));
    expect(made).toEqual([5000, 5000, 4000, 3000, 2000, 2000]);
  });

  it("covers 63 % of the way in one time constant, whatever the step", () => {
    for (const stepMs of [1, 10, 50]) {
      let left = 1;
      for (let step = 0; step < 1000 / stepMs; step++) left *= 1 - lagShare(1000, stepMs);
      expect(1 - left).toBeCloseTo(1 - Math.exp(-1), 9);
    }
    expect(lagShare(0, 20)).toBe(1);
  });

  it("makes its fallback once its meter was silent for too long, and nothing without grid", () => {
    const inverter = inverterOf({ lostMeter: { afterMs: 500, fallbackW: 1000 }, deadTimeMs: 0 });
    inverter.settle(5000);
    expect(inverter.step(499_000, 1000, 5000, 0, true)).toBe(5000);
    expect(inverter.step(500_000, 1000, 5000, 0, true)).toBe(1000);
    expect(inverter.step(501_000, 1000, 5000, undefined, false)).toBe(0);
    expect(inverter.outputW).toBe(0);
  });

  it("makes never more than its rating, its sun and its command, and below its least nothing", () => {
    const command = fc.double({ min: 0, max: 20_000, noNaN: true });
    fc.assert(
      fc.property(command, fc.double({ min: 0, max: 20_000, noNaN: true }), (commandW, sunW) => {
        const inverter = inverterOf({ minW: 300, deadTimeMs: 0 });
        inverter.availableW = sunW;
        const outputW = inverter.step(0, STEP_US, commandW, undefined, true);
        expect(outputW).toBeLessThanOrEqual(Math.min(10_000, sunW, commandW));
        if (Math.min(sunW, commandW) < 300) expect(outputW).toBe(0);
      }),
    );
  });
});

describe("the controller of a limit", () => {
  const seen = (...watts: readonly number[]) => Float64Array.from(watts);

  it("allows at rest what loads and set-point take, and all where the sun gives less", () => {
    const controller = new ExportController(request, [inverterOf()], 10_000);
    controller.settle(seen(1000, 0, 0));
    expect(controller.allowedW).toBeCloseTo(1000 + 4000 / 1.1, 9);
    const dull = new ExportController(request, [inverterOf({ availableW: 2000 })], 10_000);
    dull.settle(seen(1000, 0, 0));
    expect(dull.allowedW).toBe(10_000);
  });

  it("moves by its gain against what it believes, in its own period, and not within its dead band", () => {
    const controller = new ExportController(request, [inverterOf()], 10_000);
    controller.at(0, seen(-4500, 0, 0), true);
    expect(controller.allowedW).toBe(10_000 - 0.25 * 500);
    controller.at(STEP_US, seen(-9000, 0, 0), true);
    controller.at(5 * STEP_US, seen(-4040, 0, 0), true);
    controller.at(10 * STEP_US, seen(-9000, 0, 0), false);
    expect(controller.allowedW).toBe(9875);
  });

  it("holds the worst phase where the limit is on each", () => {
    const each = { ...request, limit: { ...request.limit, basis: "per-phase" as const } };
    const controller = new ExportController(each, [inverterOf()], 10_000);
    controller.at(0, seen(-5000, 3000, 3000), true);
    expect(controller.allowedW).toBe(10_000 - 0.25 * 3000);
  });
});

describe("another controller on the grid", () => {
  it("takes on its own phase until the grid is at its set-point, within what it can, and nothing without grid", () => {
    const actor = new GridActor(request.battery!, -2000, 2000, PHASES);
    const net = Float64Array.of(-500, 0, 0);
    expect(actor.step(0, STEP_US, Float64Array.of(-500, 0, 0), net, true)).toBe(500);
    expect([...net]).toEqual([0, 0, 0]);
    expect(actor.step(5 * STEP_US, STEP_US, Float64Array.of(-9000, 0, 0), net, true)).toBe(2000);
    expect(actor.step(6 * STEP_US, STEP_US, Float64Array.of(9000, 0, 0), net, false)).toBe(0);
    expect(actor.step(10 * STEP_US, STEP_US, Float64Array.of(9000, 0, 0), net, true)).toBe(-2000);
  });

  it("does nothing on phases that the supply has not", () => {
    const actor = new GridActor({ ...request.battery!, phases: ["L3"] }, -2000, 2000, ["L1"]);
    const net = Float64Array.of(-500);
    expect(actor.step(0, STEP_US, Float64Array.of(-500), net, true)).toBe(0);
    expect([...net]).toEqual([-500]);
  });
});
