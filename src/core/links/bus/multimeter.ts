/** What is wrong with a bus. */
export type BusFault =
  | { readonly kind: "terminator-missing" | "terminator-extra" | "exchanged"; readonly at: number }
  /** The cable from the device before to this one. */
  | { readonly kind: "open"; readonly at: number }
  /** 2 is at the third device, 1.5 halfway between the second and the third. */
  | { readonly kind: "short"; readonly at: number }
  | { readonly kind: "bias-missing"; readonly at: number }
  | { readonly kind: "no-supply" | "plus-to-ground" | "minus-to-ground" };

/** What can be wrong with a bus that a multimeter shows. */
export type FaultKind = BusFault["kind"];

/**
 * Where and what is measured: resistance between the two cores with every supply off; the idle line, one core against
 * the other or each against ground. At the first or the last device.
 */
export interface BusProbe {
  readonly what: "ohm" | "idle-mv" | "plus-ground-mv" | "minus-ground-mv" | "high-ground-mv" | "low-ground-mv";
  readonly where: "first" | "last";
}

/** What a multimeter showed: Ω or mV, at which end. */
export interface BusReading extends BusProbe {
  readonly value: number;
}

/** What a probe shows: anything between the two, Ω or mV. */
export interface Shown {
  readonly least: number;
  readonly most: number;
}

/** A planned bus as a multimeter meets it: what can be measured, what can be wrong, and what each would show. */
export interface BusModel {
  /** In the order in which they are taken. */
  readonly probes: readonly BusProbe[];
  readonly deviceNames: readonly string[];
  readonly faults: readonly { readonly fault: BusFault; readonly prior: number }[];
  readonly expected: (faults: readonly BusFault[], probe: BusProbe) => Shown;
  /** Above this every meter shows only that the circuit is open. */
  readonly openOhm: number;
}

/** One explanation of what a multimeter showed, with its probability from 0 to 1. */
export interface BusExplanation {
  readonly probability: number;
  /** At the likeliest places. */
  readonly faults: readonly BusFault[];
  /** Of each fault every place that looks the same by these readings, in their order along the line. */
  readonly places: readonly (readonly number[])[];
  /** What each reading should have been if this is so, in their order. */
  readonly expected: readonly Shown[];
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
/** Places whose readings differ by less than this many deviations look alike. */
const ALIKE = 1.5;
/** With more faults than these, two at once are not weighed: a line of very many devices is looked at one by one. */
const MOST_PAIRED = 60;

interface Hypothesis {
  readonly faults: readonly BusFault[];
  readonly share: number;
}

/**
 * What the readings of a multimeter say about a bus: the planned bus with up to two faults, ranked by how well each
 * explains what was seen, and what to measure next. Places of one kind of fault that look alike are one explanation:
 * what it is can be certain while where it is is not.
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
        readings.reduce((product, reading, at) => product / spread(reading, nearest(expected[at]!, reading.value)), 1),
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
  const explanations = alikeTogether(
    scored.map(({ faults, expected, weight }) => ({ faults, expected, probability: weight / total })),
    readings,
  ).slice(0, MOST_EXPLANATIONS);
  const best = explanations[0]!;
  const isCertain = best.probability > CERTAIN;
  return {
    kind: readings.length === 0 || !isCertain ? "ambiguous" : best.faults.length === 0 ? "as-planned" : "fault",
    explanations,
    next:
      isCertain && readings.length > 1 && best.places.every((places) => places.length < 2)
        ? undefined
        : nextProbe(
            model,
            scored.map(({ faults, weight }) => ({ faults, share: weight / total })),
            readings,
          ),
  };
}

/**
 * Explanations of the same kinds of fault whose places cannot be told apart by what was read, as one; a second fault
 * that would not show beside the first is no explanation of its own.
 */
function alikeTogether(
  scored: readonly Omit<BusExplanation, "places">[],
  readings: readonly BusReading[],
): readonly BusExplanation[] {
  const groups: (Omit<BusExplanation, "places"> & { readonly members: (readonly BusFault[])[] })[] = [];
  for (const own of scored.toSorted((a, b) => b.probability - a.probability)) {
    const at = groups.findIndex(
      ({ faults, expected }) =>
        holdsKinds(own.faults, faults) &&
        readings.length > 0 &&
        readings.every((reading, which) => {
          const [a, b] = [nearest(expected[which]!, reading.value), nearest(own.expected[which]!, reading.value)];
          return Math.abs(a - b) < ALIKE * spread(reading, a);
        }),
    );
    const group = groups[at];
    if (group)
      groups[at] = {
        ...group,
        probability: group.probability + own.probability,
        members: [...group.members, own.faults],
      };
    else groups.push({ ...own, members: [own.faults] });
  }
  return groups
    .toSorted((a, b) => b.probability - a.probability)
    .map(({ members, ...best }) => ({
      ...best,
      places: best.faults.map((_, which) =>
        [...new Set(members.flatMap((faults) => placesOf(faults, best.faults[which]!.kind)))].toSorted((a, b) => a - b),
      ),
    }));
}

/** Whether faults are of the same kinds as others, or of those and one more. */
function holdsKinds(faults: readonly BusFault[], others: readonly BusFault[]): boolean {
  if (others.length === 0) return faults.length === 0;
  const left = faults.map(({ kind }) => kind);
  return others.every(({ kind }) => {
    const at = left.indexOf(kind);
    if (at >= 0) left.splice(at, 1);
    return at >= 0;
  });
}

function placesOf(faults: readonly BusFault[], kind: FaultKind): readonly number[] {
  return faults.flatMap((fault) => (fault.kind === kind && "at" in fault ? [fault.at] : []));
}

/** The value of what is shown that is nearest to one that was read. */
function nearest({ least, most }: Shown, value: number): number {
  return Math.min(most, Math.max(least, value));
}

function hypotheses({ faults }: BusModel): readonly Hypothesis[] {
  // Beside a short, nothing else shows.
  const paired = faults.filter(({ fault }) => fault.kind !== "short");
  const pairs = (paired.length > MOST_PAIRED ? [] : paired).flatMap((a, at) =>
    paired.slice(at + 1).map((b) => ({ faults: [a.fault, b.fault], share: a.prior * b.prior })),
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

function deviation({ openOhm }: BusModel, reading: BusReading, expected: Shown): number {
  if (reading.what === "ohm" && reading.value > openOhm && expected.most > openOhm / 4) return 0;
  const value = nearest(expected, reading.value);
  return (reading.value - value) / spread(reading, value);
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
        const { least, most } = model.expected(faults, probe);
        const expected = (least + most) / 2;
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
