import type { Rs485Bus } from "@/core/links/rs485Schema";

const TERMINATOR_OHM = 120;
const UNIT_LOAD_OHM = 12_000;
/** What a meter shows for an open circuit. */
const OPEN_OHM = 1e7;
/** One standard deviation of what is seen: parts of parts, contacts, and the meter. */
const OHM_RELATIVE = 0.03;
const OHM_ABSOLUTE = 1.5;
const MV_RELATIVE = 0.08;
const MV_ABSOLUTE = 12;
/** How likely each fault is against a bus as planned. */
const PRIORS = { "terminator-missing": 0.08, "terminator-extra": 0.05, "open": 0.04, "short": 0.02, "exchanged": 0.06, "bias-missing": 0.05 } as const;

export type BusFault =
  | { readonly kind: "terminator-missing" | "terminator-extra" | "exchanged"; readonly at: number }
  /** The cable from the device before to this one. */
  | { readonly kind: "open"; readonly at: number }
  | { readonly kind: "short" | "bias-missing" };

/** Where and what is measured: resistance with every supply off, voltage A against B with the bus idle; at the first or the last device. */
export interface BusProbe {
  readonly what: "ohm" | "idle-mv";
  readonly where: "first" | "last";
}

export interface BusReading extends BusProbe {
  readonly value: number;
}

export interface BusExplanation {
  readonly probability: number;
  readonly faults: readonly BusFault[];
  /** What each reading should have been if this is so, in their order. */
  readonly expected: readonly number[];
}

export interface BusVerdict {
  readonly kind: "as-planned" | "fault" | "ambiguous" | "not-explained";
  readonly explanations: readonly BusExplanation[];
  /** The probe that would tell most, with how much, in bits; undefined when none would. */
  readonly next: { readonly probe: BusProbe; readonly gainBits: number } | undefined;
}

const PROBES: readonly BusProbe[] = [{ what: "ohm", where: "first" }, { what: "ohm", where: "last" }, { what: "idle-mv", where: "first" }, { what: "idle-mv", where: "last" }];
const CERTAIN = 0.9;
/** Squared deviations a reading beyond which nothing is explained. */
const UNEXPLAINED = 16;
const TELLING_BITS = 0.05;

/** The usual probes, to be taken in this order. */
export function busProbes(): readonly BusProbe[] {
  return PROBES;
}

/**
 * What the readings of a multimeter say about a bus: the planned bus with up to two faults, ranked by how well each
 * explains what was seen, and what to measure next. Faults that no probe can tell apart share their probability.
 *
 * @example 120 Ω where 60 were planned: a terminator is missing; which one, the far end tells.
 */
export function readMultimeter(bus: Rs485Bus, readings: readonly BusReading[]): BusVerdict {
  const scored = hypotheses(bus).map(({ faults, prior }) => {
    const expected = readings.map((reading) => expectedAt(bus, faults, reading));
    const misfit = readings.reduce((sum, reading, at) => sum + deviation(reading.what, reading.value, expected[at]!) ** 2, 0);
    return { faults, expected, misfit, weight: prior * Math.exp(-misfit / 2) * readings.reduce((product, reading, at) => product / spread(reading.what, expected[at]!), 1) };
  });
  const least = Math.min(...scored.map(({ misfit }) => misfit));
  const total = scored.reduce((sum, { weight }) => sum + weight, 0);
  if (readings.length > 0 && (least > UNEXPLAINED * readings.length || total === 0)) return { kind: "not-explained", explanations: [], next: nextProbe(bus, scored.map(({ faults, misfit }) => ({ faults, share: misfit === least ? 1 : 0 })), readings) };
  const explanations = scored.map(({ faults, expected, weight }) => ({ faults, expected, probability: weight / total })).toSorted((a, b) => b.probability - a.probability).slice(0, 8);
  const best = explanations[0]!;
  const isCertain = best.probability > CERTAIN;
  return {
    kind: readings.length === 0 || !isCertain ? "ambiguous" : best.faults.length === 0 ? "as-planned" : "fault", explanations,
    next: isCertain && readings.length > 1 ? undefined : nextProbe(bus, scored.map(({ faults, weight }) => ({ faults, share: weight / total })), readings),
  };
}

/** A fault in words, with what to do. */
export function busFaultText(bus: Rs485Bus, fault: BusFault): { readonly text: string; readonly cure: string } {
  const name = "at" in fault ? bus.devices[fault.at]!.id : "";
  switch (fault.kind) {
    case "terminator-missing": return { text: `The terminator at ${name} is missing or off.`, cure: `Switch the terminator of ${name} on, or fit 120 Ω` };
    case "terminator-extra": return { text: `There is a terminator at ${name} that the plan does not have.`, cure: `Switch the terminator of ${name} off` };
    case "open": return { text: `A core between ${bus.devices[fault.at - 1]!.id} and ${name} is open.`, cure: `Check both terminations between ${bus.devices[fault.at - 1]!.id} and ${name}` };
    case "exchanged": return { text: `A and B are exchanged from ${name} on.`, cure: `Exchange the two cores at ${name}` };
    case "short": return { text: "A and B touch somewhere.", cure: "Take the devices off one by one until the short is gone" };
    case "bias-missing": return { text: "Nothing holds the idle line: bias is off.", cure: "Switch bias on in exactly one device, usually the client" };
  }
}

/** What a probe of a bus with these faults shows, Ω or mV. */
export function expectedAt(bus: Rs485Bus, faults: readonly BusFault[], probe: BusProbe): number {
  const count = bus.devices.length;
  const at = probe.where === "first" ? 0 : count - 1;
  const cut = faults.find((fault) => fault.kind === "open");
  // An open core splits the line: only the part that is probed counts.
  const part = bus.devices.map((_, which) => which).filter((which) => cut === undefined || cut.kind !== "open" || (which < cut.at) === (at < cut.at));
  const has = (kind: BusFault["kind"], which?: number) => faults.some((fault) => fault.kind === kind && (which === undefined || ("at" in fault && fault.at === which)));
  if (has("short")) return probe.what === "ohm" ? loopOhm(bus, 0, count - 1) / 2 : 0;
  const loads = part.flatMap((which) => {
    const device = bus.devices[which]!;
    const isTerminated = (device.terminator && !has("terminator-missing", which)) || has("terminator-extra", which);
    const way = loopOhm(bus, at, which);
    return [UNIT_LOAD_OHM / device.unitLoad + way, ...(isTerminated ? [TERMINATOR_OHM + way] : [])];
  });
  const ohm = loads.length === 0 ? OPEN_OHM : 1 / loads.reduce((sum, load) => sum + 1 / load, 0);
  if (probe.what === "ohm") return ohm;
  const biases = has("bias-missing") ? [] : part.flatMap((which) => { const bias = bus.devices[which]!.bias; return bias ? [{ which, bias }] : []; });
  if (biases.length === 0) return 0;
  const up = 1 / biases.reduce((sum, { bias }) => sum + 1 / bias.upOhm, 0);
  const down = 1 / biases.reduce((sum, { bias }) => sum + 1 / bias.downOhm, 0);
  const sign = faults.filter((fault) => fault.kind === "exchanged" && (fault.at <= at) !== (fault.at <= biases[0]!.which)).length % 2 === 0 ? 1 : -1;
  return (sign * 1000 * bus.vccV * ohm) / (up + down + ohm);
}

function loopOhm({ devices, cable }: Rs485Bus, a: number, b: number): number {
  const [from, to] = [Math.min(a, b), Math.max(a, b)];
  const lengthM = devices.slice(from + 1, to + 1).reduce((sum, device) => sum + device.distanceM, 0);
  return (2 * cable.ohmPerKm * lengthM) / 1000;
}

function hypotheses(bus: Rs485Bus): readonly { readonly faults: readonly BusFault[]; readonly prior: number }[] {
  const singles: readonly BusFault[] = [
    ...bus.devices.map((device, at): BusFault => ({ kind: device.terminator ? "terminator-missing" : "terminator-extra", at })),
    ...bus.devices.slice(1).flatMap((_, at): readonly BusFault[] => [{ kind: "open", at: at + 1 }, { kind: "exchanged", at: at + 1 }]),
    { kind: "short" }, ...(bus.devices.some((device) => device.bias) ? [{ kind: "bias-missing" } as const] : []),
  ];
  const pairs = singles.flatMap((a, at) => singles.slice(at + 1).map((b) => [a, b]));
  return [[], ...singles.map((fault) => [fault]), ...pairs].map((faults) => ({ faults, prior: faults.reduce((product, { kind }) => product * PRIORS[kind], 1) }));
}

function spread(what: BusProbe["what"], expected: number): number {
  return what === "ohm" ? OHM_ABSOLUTE + OHM_RELATIVE * Math.abs(expected) : MV_ABSOLUTE + MV_RELATIVE * Math.abs(expected);
}

function deviation(what: BusProbe["what"], value: number, expected: number): number {
  // Far above what inputs give, every meter shows only that it is open.
  if (what === "ohm" && value > UNIT_LOAD_OHM && expected > UNIT_LOAD_OHM / 4) return 0;
  return (value - expected) / spread(what, expected);
}

/** The probe whose outcome splits the hypotheses best, with the entropy of that split. */
function nextProbe(bus: Rs485Bus, believed: readonly { readonly faults: readonly BusFault[]; readonly share: number }[], taken: readonly BusReading[]): BusVerdict["next"] {
  const candidates = PROBES.filter((probe) => !taken.some((reading) => reading.what === probe.what && reading.where === probe.where)).map((probe) => {
    const outcomes = new Map<number, number>();
    for (const { faults, share } of believed) {
      if (share <= 0) continue;
      const expected = expectedAt(bus, faults, probe);
      // Outcomes within about two deviations of each other are one.
      const scale = probe.what === "ohm" ? OHM_RELATIVE : MV_RELATIVE;
      const absolute = probe.what === "ohm" ? OHM_ABSOLUTE : MV_ABSOLUTE;
      const bin = Math.round((Math.sign(expected) * Math.log1p((Math.abs(expected) * scale) / absolute)) / (2 * scale));
      outcomes.set(bin, (outcomes.get(bin) ?? 0) + share);
    }
    const total = [...outcomes.values()].reduce((sum, share) => sum + share, 0);
    const gainBits = [...outcomes.values()].reduce((sum, share) => sum - (share / total) * Math.log2(share / total), 0);
    return { probe, gainBits };
  });
  const best = candidates.toSorted((a, b) => b.gainBits - a.gainBits)[0];
  return best && best.gainBits > TELLING_BITS ? best : undefined;
}
