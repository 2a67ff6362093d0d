import type { SeenStep } from "@/core/flows/factoredStep";
import { stepPowers } from "@/core/flows/powerModel";
import type { TestProblem } from "@/core/flows/testProblem";
import type { NodeKind } from "@/core/site/planSchema";

/** What is outside the model on a visit: one thing that makes readings odd, whatever the fitting. */
export type OddityKind = "reading" | "meter" | "swapped" | "switching" | "device";

/** One odd thing, and the sheet as it would be explained with it. */
export interface Oddity {
  readonly kind: OddityKind;
  /** The step that it is in, from 0. */
  readonly step: number;
  /** The readings that it touches, by their place in the step. */
  readonly readings: readonly number[];
  /** Of a switching: the background's node and phase; of a device: its node. */
  readonly node: string | undefined;
  readonly phase: string | undefined;
  /** How often it happens, with how wide an odd reading really is. */
  readonly prior: number;
  /** How many readings say nothing any more. */
  readonly lost: number;
  readonly seen: readonly SeenStep[];
}

/** Another view of all steps at once, mixed with the usual one. */
export interface SheetVariant {
  readonly id: "usual" | "wide-background" | "other-moments";
  readonly prior: number;
  readonly seen: readonly SeenStep[];
}

/** How often each happens, by experience of sheets; the sums of a sheet stay well below one. */
const PRIORS: Readonly<Record<OddityKind, number>> = {
  reading: 0.01,
  meter: 0.01,
  swapped: 0.003,
  switching: 0.01,
  device: 0.01,
};
/** So wide that the reading says nothing, W; what is odd is really about so wide. */
const NOTHING_SAID_W = 100_000;
const ODD_W = 3_000;
/** A kettle, a toaster, an oven: whatever somebody switches on, W. */
const SWITCHED_SD_W = 2_500;
/** A steady load far above the usual. */
const WIDE_FACTOR = 6;
const WIDE_PRIOR = 0.07;
/** The sun between two meters that are read one after the other, as a share. */
const MOMENT_SHARE = 0.2;
const MOMENT_PRIOR = 0.15;
/** More pairs of one step than this are not tried: a slip exchanges neighbours. */
const MOST_PAIRS = 30;
const SOURCES: readonly NodeKind[] = ["pv-inverter", "hybrid-inverter", "battery-inverter", "generator"];

/** Every single odd thing that this sheet may hold. */
export function oddities(problem: TestProblem): readonly Oddity[] {
  return problem.seen.flatMap((seen, step) => [
    ...seen.slots.map((_, at) => lost(problem, "reading", step, [at])),
    ...metersOf(problem, seen).map((readings) => lost(problem, "meter", step, readings)),
    ...pairsOf(seen).map((readings) => swapped(problem, step, readings)),
    ...switchings(problem, step),
    ...notOn(problem, step),
  ]);
}

/** The views of a whole sheet beside the usual one, where they can make a difference. */
export function sheetVariants({ seen, inputs, site, sheet }: TestProblem): readonly SheetVariant[] {
  const wide: SheetVariant = {
    id: "wide-background",
    prior: WIDE_PRIOR,
    seen: seen.map((step) => ({
      ...step,
      powers: {
        ...step.powers,
        // Real and reactive power take turns; it is the real one that a steady load adds to.
        lasting: step.powers.lasting.map((direction, at) =>
          at % 2 === 0 ? direction.map((power) => WIDE_FACTOR * power) : direction,
        ),
      },
    })),
  };
  const first = inputs[0]?.meter;
  const sources = new Set(site.nodes.filter(({ kind }) => SOURCES.includes(kind)).map(({ id }) => id));
  // What was read before and after is known at every moment; only what was read once may have changed.
  const isRunning = (at: number) =>
    sheet.steps[at]!.devices.some(
      ({ node, powerW, perPhase, afterW }) => sources.has(node) && (powerW !== 0 || perPhase) && afterW === undefined,
    );
  if (inputs.every(({ meter }) => meter === first) || !seen.some((_, at) => isRunning(at))) return [wide];
  return [
    wide,
    {
      id: "other-moments",
      prior: MOMENT_PRIOR,
      seen: seen.map((step, at) =>
        isRunning(at)
          ? {
              ...step,
              extraSdW: step.slots.map((slot, which) =>
                inputs[slot]!.meter === first
                  ? (step.extraSdW?.[which] ?? 0)
                  : Math.hypot(step.extraSdW?.[which] ?? 0, MOMENT_SHARE * Math.abs(step.readingsW[which]!)),
              ),
            }
          : step,
      ),
    },
  ];
}

function withStep(seen: readonly SeenStep[], at: number, change: Partial<SeenStep>): readonly SeenStep[] {
  return seen.with(at, { ...seen[at]!, ...change });
}

/** Readings that say nothing: of a display that had not changed, a slip of the pen, a sign. */
function lost({ seen }: TestProblem, kind: "reading" | "meter", step: number, readings: readonly number[]): Oddity {
  const before = seen[step]!.extraSdW;
  const extraSdW = seen[step]!.slots.map((_, at) => (readings.includes(at) ? NOTHING_SAID_W : (before?.[at] ?? 0)));
  return {
    kind,
    step,
    readings,
    node: undefined,
    phase: undefined,
    prior: PRIORS[kind] * (NOTHING_SAID_W / ODD_W) ** readings.length,
    lost: readings.length,
    seen: withStep(seen, step, { extraSdW }),
  };
}

/** The readings of each meter in a step, where it is read at more than one input. */
function metersOf({ inputs }: TestProblem, { slots }: SeenStep): readonly (readonly number[])[] {
  const byMeter = new Map<string, number[]>();
  slots.forEach((slot, at) => {
    const { meter } = inputs[slot]!;
    byMeter.set(meter, [...(byMeter.get(meter) ?? []), at]);
  });
  return [...byMeter.values()].filter((readings) => readings.length > 1);
}

function pairsOf({ slots, readingsW }: SeenStep): readonly (readonly [number, number])[] {
  const all = slots.flatMap((_, a) => slots.slice(a + 1).map((_other, b) => [a, a + 1 + b] as const));
  return all.filter(([a, b]) => readingsW[a] !== readingsW[b]).slice(0, MOST_PAIRS);
}

function swapped({ seen }: TestProblem, step: number, readings: readonly [number, number]): Oddity {
  const [a, b] = readings;
  const { readingsW } = seen[step]!;
  return {
    kind: "swapped",
    step,
    readings,
    node: undefined,
    phase: undefined,
    prior: PRIORS.swapped,
    lost: 0,
    seen: withStep(seen, step, { readingsW: readingsW.with(a, readingsW[b]!).with(b, readingsW[a]!) }),
  };
}

/** Something of the house that somebody switched in this step, and nobody wrote down. */
function switchings({ seen, responses, background }: TestProblem, step: number): readonly Oddity[] {
  const { powers, slots } = seen[step]!;
  return background.flatMap(({ node }) =>
    (responses.columnsOf.get(node) ?? []).map((column): Oddity => {
      const direction = new Float64Array(powers.mean.length);
      direction[2 * column] = SWITCHED_SD_W;
      return {
        kind: "switching",
        step,
        readings: slots.map((_, at) => at),
        node,
        phase: responses.columns[column]?.phase,
        prior: PRIORS.switching,
        lost: 1,
        seen: withStep(seen, step, { powers: { ...powers, passing: [...powers.passing, direction] } }),
      };
    }),
  );
}

/** A device that the step names, and that was off or ran at another power. */
function notOn({ seen, sheet, responses, background }: TestProblem, step: number): readonly Oddity[] {
  const { devices } = sheet.steps[step]!;
  return devices
    .filter(({ powerW, perPhase }) => powerW !== 0 && perPhase === undefined)
    .map((device) => {
      const half = { ...device, powerW: device.powerW / 2, toleranceW: Math.abs(device.powerW) / 2 };
      const changed = devices.map((own) => (own === device ? half : own));
      return {
        kind: "device",
        step,
        readings: seen[step]!.slots.map((_, at) => at),
        node: device.node,
        phase: undefined,
        prior: PRIORS.device,
        lost: 1,
        seen: withStep(seen, step, { powers: stepPowers(responses, background, changed) }),
      };
    });
}
