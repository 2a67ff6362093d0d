import { fittingWith } from "@/core/flows/diagnose";
import { candidateFaults, type Fault } from "@/core/flows/faults";
import { siteWithFitting } from "@/core/flows/fitting";
import { predict } from "@/core/flows/predict";
import { simulateSeen } from "@/core/flows/simulateSeen";
import type { TestSheet, TestStep } from "@/core/flows/testSheetSchema";
import { seededNormal, seededUniform } from "@/core/random";
import type { Site } from "@/core/site/planSchema";
import { houseSite, usualSheet } from "../fixtures/sites";

/** What a visit does that no model of the fitting holds. */
export const DISTURBANCES = [
  "nothing",
  "fridge",
  "kettle",
  "toaster",
  "small load",
  "stale reading",
  "stale meter",
  "coarse display",
  "times ten",
  "a tenth",
  "other sign",
  "two exchanged",
  "device not on",
  "less sun",
  "meter read late",
  "steady load",
] as const;

export type Disturbance = (typeof DISTURBANCES)[number];

/** A sheet with its truth, and every step once more as it would be read a second time, without anything odd. */
export interface OddSheet {
  readonly what: Disturbance;
  readonly site: Site;
  readonly truth: readonly Fault[];
  readonly sheet: TestSheet;
  readonly again: readonly TestStep[];
}

const SYSTEMS = ["single-phase", "split-phase", "three-phase"] as const;
const SWITCHED_W: Readonly<Partial<Record<Disturbance, number>>> = {
  fridge: 150,
  kettle: 2200,
  toaster: 900,
  "small load": 400,
};
const STEADY_W = 2500;

/**
 * A sheet of a site with one odd thing, sound or with a single fault that its usual steps can show, all from one seed:
 * written apart from what the diagnosis believes of odd things.
 */
export function oddSheet(what: Disturbance, seed: number, isSound: boolean): OddSheet {
  const random = seededUniform(seed);
  const pick = <T>(of: readonly T[]): T => of[Math.floor(random() * of.length)]!;
  const site = houseSite(pick(SYSTEMS), { solarMeter: random() < 0.5 });
  const truth = isSound ? [] : [pick(candidateFaults(site).filter(({ fault }) => isPlain(fault))).fault];
  const asked = usualSheet(site, 2);
  const fitted = siteWithFitting(site, fittingWith(site, truth));
  const both = { ...asked, steps: [...asked.steps, ...asked.steps] };
  const all = simulateSeen(fitted, both, seededNormal(seed + 1));
  const [steps, again] = [all.slice(0, asked.steps.length), all.slice(asked.steps.length)];
  const add = (to: readonly TestStep[], at: number, node: string, phase: string | undefined, powerW: number) => {
    const device = phase
      ? { node, powerW: 0, reactiveVar: 0, perPhase: { [phase]: { powerW, reactiveVar: 0 } } }
      : { node, powerW, reactiveVar: 0 };
    const more = predict(fitted, "fitted", { devices: [device] }).inputs;
    return withReadings(to, at, (reading) => {
      const own = more.find(({ meter, input }) => meter === reading.meter && input === reading.input);
      return reading.powerW + Math.round(own?.powerW ?? 0);
    });
  };
  const at = Math.floor(random() * steps.length);
  const reading = Math.floor(random() * steps[at]!.readings.length);
  const phases = site.nodes.find(({ id }) => id === "house")!.phases!;
  const change = (turn: (powerW: number) => number) =>
    withReadings(steps, at, (own, which) => (which === reading ? turn(own.powerW) : own.powerW));
  const meter = pick(site.meters).id;
  const later = Math.max(1, at);
  const disturbed = (): readonly TestStep[] => {
    switch (what) {
      case "nothing":
        return steps;
      case "fridge":
      case "kettle":
      case "toaster":
      case "small load":
        return add(steps, at, "house", pick(phases), SWITCHED_W[what]!);
      case "stale reading":
        return withReadings(steps, later, (own, which) =>
          which === reading ? steps[later - 1]!.readings[which]!.powerW : own.powerW,
        );
      case "stale meter":
        return withReadings(steps, later, (own, which) =>
          own.meter === meter ? steps[later - 1]!.readings[which]!.powerW : own.powerW,
        );
      case "coarse display":
        return steps.map((_, which) => withReadings(steps, which, (own) => 100 * Math.round(own.powerW / 100))[which]!);
      case "times ten":
        return change((powerW) => 10 * powerW);
      case "a tenth":
        return change((powerW) => Math.round(powerW / 10));
      case "other sign":
        return change((powerW) => -powerW);
      case "two exchanged": {
        const { readings } = steps[at]!;
        const other = (reading + 1) % readings.length;
        return withReadings(steps, at, (own, which) =>
          which === reading ? readings[other]!.powerW : which === other ? readings[reading]!.powerW : own.powerW,
        );
      }
      case "device not on":
        return add(steps, 1, `kettle${phases[0]}`, undefined, -2000);
      case "less sun":
        return add(steps, steps.length - 1, "pv", undefined, 800);
      case "meter read late":
        return withReadings(steps, steps.length - 1, (own) =>
          own.meter === "m2" ? Math.round(0.85 * own.powerW) : own.powerW,
        );
      case "steady load": {
        const phase = pick(phases);
        return steps.map((_, which) => add(steps, which, "house", phase, STEADY_W)[which]!);
      }
    }
  };
  const seen = disturbed().map((step) => ({ ...step, source: "seen" as const }));
  return {
    what,
    site,
    truth,
    sheet: { ...asked, steps: seen },
    again: again.map((step) => ({ ...step, source: "seen" as const })),
  };
}

/** A ratio near one hides behind the tolerance of a load's plate. */
function isPlain(fault: Fault): boolean {
  return fault.kind !== "ratio" || Math.abs(Math.log(fault.gain)) > 0.35;
}

function withReadings(
  steps: readonly TestStep[],
  at: number,
  powerOf: (reading: TestStep["readings"][number], which: number) => number,
): readonly TestStep[] {
  const step = steps[at]!;
  const readings = step.readings.map((reading, which) => ({ ...reading, powerW: powerOf(reading, which) }));
  return steps.with(at, { ...step, readings });
}
