/** What is wrong with a bus. */
export type BusFault =
  | { readonly kind: "terminator-missing" | "terminator-extra" | "exchanged"; readonly at: number }
  /** The cable from the device before to this one. */
  | { readonly kind: "open"; readonly at: number }
  | { readonly kind: "short" | "bias-missing" | "no-supply" | "plus-to-ground" | "minus-to-ground" };

/** What can be wrong with a bus that a multimeter shows. */
export type FaultKind = BusFault["kind"];

/**
 * Where and what is measured: resistance between the two cores with every supply off; the idle line, one core against
 * the
 * other or each against ground. At the first or the last device.
 */
export interface BusProbe {
  readonly what: "ohm" | "idle-mv" | "plus-ground-mv" | "minus-ground-mv" | "high-ground-mv" | "low-ground-mv";
  readonly where: "first" | "last";
}

/** What a multimeter showed: Ω or mV, at which end. */
export interface BusReading extends BusProbe {
  readonly value: number;
}

/** A planned bus as a multimeter meets it: what can be measured, what can be wrong, and what each would show. */
export interface BusModel {
  /** In the order in which they are taken. */
  readonly probes: readonly BusProbe[];
  readonly deviceNames: readonly string[];
  readonly faults: readonly { readonly fault: BusFault; readonly prior: number }[];
  /** Ω or mV. */
  readonly expected: (faults: readonly BusFault[], probe: BusProbe) => number;
  /** Above this every meter shows only that the circuit is open. */
  readonly openOhm: number;
}

/** One explanation of what a multimeter showed, with its probability from 0 to 1. */
export interface BusExplanation {
  readonly probability: number;
  readonly faults: readonly BusFault[];
  /** What each reading should have been if this is so, in their order. */
  readonly expected: readonly number[];
}

/** Explanations, likeliest first, and where to measure next. */
export interface BusVerdict {
  readonly kind: "as-planned" | "fault" | "ambiguous" | "not-explained";
  readonly explanations: readonly BusExplanation[];
  /** The probe that would tell most, with how much, in bits; undefined when none would. */
  readonly next: { readonly probe: BusProbe; readonly gainBits: number } | undefined;
}

/** One standard deviation of what is seen: parts of parts, contacts, and the meter. */
const OHM = { relative: 0.03, absolute: 1.5 } as const;
const IDLE_MV = { relative: 0.08, absolute: 12 } as const;
/** A level against ground comes from a regulated supply. */
const GROUND_MV = { relative: 0.03, absolute: 12 } as const;
const CERTAIN = 0.9;
/** Squared deviations a reading beyond which nothing is explained. */
const UNEXPLAINED = 16;
const TELLING_BITS = 0.05;
const MOST_EXPLANATIONS = 8;

interface Hypothesis {
  readonly faults: readonly BusFault[];
  readonly share: number;
}

/**
 * What the readings of a multimeter say about a bus: the planned bus with up to two faults, ranked by how well each
 * explains what was seen, and what to measure next. Faults that no probe can tell apart share their probability.
 *
 * For example: 120 Ω where 60 were planned: a terminator is missing; which one, the far end tells.
 */
export function readMultimeter(model: BusModel, readings: readonly BusReading[]): BusVerdict {
  const scored = hypotheses(model).map(({ faults, share }) => {
    const expected = readings.map((reading) => model.expected(faults, reading));
    const misfit = readings.reduce((sum, reading, at) => sum + deviation(model, reading, expected[at]!) ** 2, 0);
    return {
      faults,
      expected,
      misfit,
      weight:
        share *
        Math.exp(-misfit / 2) *
        readings.reduce((product, reading, at) => product / spread(reading, expected[at]!), 1),
    };
  });
  const least = Math.min(...scored.map(({ misfit }) => misfit));
  const total = scored.reduce((sum, { weight }) => sum + weight, 0);
  if (readings.length > 0 && (least > UNEXPLAINED * readings.length || total === 0)) {
    return {
      kind: "not-explained",
      explanations: [],
      next: nextProbe(
        model,
        scored.map(({ faults, misfit }) => ({ faults, share: misfit === least ? 1 : 0 })),
        readings,
      ),
    };
  }
  const explanations = scored
    .map(({ faults, expected, weight }) => ({ faults, expected, probability: weight / total }))
    .toSorted((a, b) => b.probability - a.probability)
    .slice(0, MOST_EXPLANATIONS);
  const best = explanations[0]!;
  const isCertain = best.probability > CERTAIN;
  return {
    kind: readings.length === 0 || !isCertain ? "ambiguous" : best.faults.length === 0 ? "as-planned" : "fault",
    explanations,
    next:
      isCertain && readings.length > 1
        ? undefined
        : nextProbe(
            model,
            scored.map(({ faults, weight }) => ({ faults, share: weight / total })),
            readings,
          ),
  };
}

function hypotheses({ faults }: BusModel): readonly Hypothesis[] {
  const pairs = faults.flatMap((a, at) =>
    faults.slice(at + 1).map((b) => ({ faults: [a.fault, b.fault], share: a.prior * b.prior })),
  );
  return [{ faults: [], share: 1 }, ...faults.map(({ fault, prior }) => ({ faults: [fault], share: prior })), ...pairs];
}

function scaleOf({ what }: BusProbe): { readonly relative: number; readonly absolute: number } {
  return what === "ohm" ? OHM : what === "idle-mv" ? IDLE_MV : GROUND_MV;
}

function spread(probe: BusProbe, expected: number): number {
  const { absolute, relative } = scaleOf(probe);
  return absolute + relative * Math.abs(expected);
}

function deviation({ openOhm }: BusModel, reading: BusReading, expected: number): number {
  if (reading.what === "ohm" && reading.value > openOhm && expected > openOhm / 4) return 0;
  return (reading.value - expected) / spread(reading, expected);
}

/** The probe whose outcome splits the hypotheses best, with the entropy of that split. */
function nextProbe(model: BusModel, believed: readonly Hypothesis[], taken: readonly BusReading[]): BusVerdict["next"] {
  const candidates = model.probes
    .filter((probe) => !taken.some((reading) => reading.what === probe.what && reading.where === probe.where))
    .map((probe) => {
      const { absolute, relative } = scaleOf(probe);
      const outcomes = new Map<number, number>();
      for (const { faults, share } of believed) {
        if (share <= 0) continue;
        const expected = model.expected(faults, probe);
        // Outcomes within about two deviations of each other are one.
        const bin = Math.round(
          (Math.sign(expected) * Math.log1p((Math.abs(expected) * relative) / absolute)) / (2 * relative),
        );
        outcomes.set(bin, (outcomes.get(bin) ?? 0) + share);
      }
      const total = [...outcomes.values()].reduce((sum, share) => sum + share, 0);
      const gainBits = [...outcomes.values()].reduce(
        (sum, share) => sum - (share / total) * Math.log2(share / total),
        0,
      );
      return { probe, gainBits };
    });
  const best = candidates.toSorted((a, b) => b.gainBits - a.gainBits)[0];
  return best && best.gainBits > TELLING_BITS ? best : undefined;
}
