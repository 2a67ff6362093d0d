import type { BusFault, BusModel, BusProbe, FaultKind } from "@/core/links/bus/multimeter";

const TERMINATOR_OHM = 120;
/** Differential input of a transceiver. */
const INPUT_OHM = 30_000;
/** What two cores that touch resist, Ω. */
const TOUCH_OHM = 0.01;
const OPEN_OHM = 1e7;
const OHM_PER_M = 0.168;
/** Both cores rest here; a dominant bit drives them apart by a volt each. */
const RECESSIVE_MV = 2500;
const DOMINANT_STEP_MV = 1000;
const PRIORS: Readonly<Partial<Record<FaultKind, number>>> = {
  "terminator-missing": 0.08,
  "terminator-extra": 0.04,
  open: 0.05,
  short: 0.02,
  exchanged: 0.05,
  "no-supply": 0.03,
  "plus-to-ground": 0.01,
  "minus-to-ground": 0.01,
};
const PROBES: readonly BusProbe[] = [
  { what: "ohm", where: "first" },
  { what: "ohm", where: "last" },
  { what: "high-ground-mv", where: "first" },
  { what: "low-ground-mv", where: "first" },
  { what: "high-ground-mv", where: "last" },
  { what: "low-ground-mv", where: "last" },
];

/** A CAN line as far as a multimeter meets it. */
export interface CanLine {
  readonly devices: readonly { readonly name: string; readonly terminator: boolean }[];
  readonly lengthM: number;
  /** Part of the time in which frames are sent, 0 to 1: about half their bits are dominant. */
  readonly busLoad: number;
}

/**
 * A CAN line as a multimeter meets it: 60 Ω between CANH and CANL with everything off; with supplies on both at 2.5 V,
 * drawn apart a little by what is sent, CANH up and CANL down.
 *
 * For example: Two terminators, 10 m: 60.3 Ω at either end; CANH about 2505 mV at one hundredth of load.
 */
export function canModel(line: CanLine): BusModel {
  const kinds: readonly BusFault[] = [
    ...line.devices.map((device, at): BusFault => ({
      kind: device.terminator ? "terminator-missing" : "terminator-extra",
      at,
    })),
    ...line.devices.slice(1).flatMap((_, at): readonly BusFault[] => [
      { kind: "open", at: at + 1 },
      { kind: "exchanged", at: at + 1 },
    ]),
    ...Array.from({ length: 2 * line.devices.length - 1 }, (_, half): BusFault => ({ kind: "short", at: half / 2 })),
    { kind: "no-supply" },
    { kind: "plus-to-ground" },
    { kind: "minus-to-ground" },
  ];
  return {
    probes: PROBES,
    deviceNames: line.devices.map(({ name }) => name),
    openOhm: INPUT_OHM / 4,
    faults: kinds.map((fault) => ({
      fault,
      prior: (PRIORS[fault.kind] ?? 0) / (fault.kind === "short" ? 2 * line.devices.length - 1 : 1),
    })),
    expected: (faults, probe) => {
      const value = expectedAt(line, faults, probe);
      return { least: value, most: value };
    },
  };
}

function expectedAt({ devices, lengthM, busLoad }: CanLine, faults: readonly BusFault[], probe: BusProbe): number {
  const last = devices.length - 1;
  const at = probe.where === "first" ? 0 : last;
  const has = (kind: FaultKind, which?: number) =>
    faults.some((fault) => fault.kind === kind && (which === undefined || ("at" in fault && fault.at === which)));
  const cut = faults.find((fault) => fault.kind === "open");
  const isReached = (which: number) => cut?.kind !== "open" || which < cut.at === at < cut.at;
  const wayTo = (which: number) => (OHM_PER_M * lengthM * Math.abs(which - at)) / Math.max(1, last);
  if (probe.what === "ohm") {
    const loads = devices.flatMap(({ terminator }, which) => {
      if (!isReached(which)) return [];
      const way = wayTo(which);
      const isTerminated = (terminator && !has("terminator-missing", which)) || has("terminator-extra", which);
      return [INPUT_OHM + way, ...(isTerminated ? [TERMINATOR_OHM + way] : [])];
    });
    const touching = faults.flatMap((fault) =>
      fault.kind === "short" && isReached(Math.ceil(fault.at)) ? [wayTo(fault.at) + TOUCH_OHM] : [],
    );
    const all = [...loads, ...touching];
    return all.length === 0 ? OPEN_OHM : 1 / all.reduce((sum, load) => sum + 1 / load, 0);
  }
  if (has("no-supply")) return 0;
  const apart = has("short") ? 0 : (DOMINANT_STEP_MV * busLoad) / 2;
  const isTurned = faults.some((fault) => fault.kind === "exchanged" && fault.at <= at);
  const isHigh = (probe.what === "high-ground-mv") !== isTurned;
  // A core on ground pulls the other down through the terminators.
  if (has("plus-to-ground") || has("minus-to-ground"))
    return has(isHigh ? "plus-to-ground" : "minus-to-ground") ? 0 : RECESSIVE_MV / 10;
  return RECESSIVE_MV + (isHigh ? apart : -apart);
}
