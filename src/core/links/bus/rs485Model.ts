import type { BusFault, BusModel, BusProbe, FaultKind } from "@/core/links/bus/multimeter";
import type { Rs485Bus } from "@/core/links/bus/rs485Schema";

const TERMINATOR_OHM = 120;
const UNIT_LOAD_OHM = 12_000;
/** What a meter shows for an open circuit. */
const OPEN_OHM = 1e7;
/** How likely each fault is against a bus as planned. */
const PRIORS: Readonly<Partial<Record<FaultKind, number>>> = {
  "terminator-missing": 0.08,
  "terminator-extra": 0.05,
  open: 0.04,
  short: 0.02,
  exchanged: 0.06,
  "bias-missing": 0.05,
  "plus-to-ground": 0.01,
  "minus-to-ground": 0.01,
};
const PROBES: readonly BusProbe[] = (["ohm", "idle-mv", "plus-ground-mv", "minus-ground-mv"] as const).flatMap(
  (what): BusProbe[] =>
    what === "ohm" || what === "idle-mv"
      ? [
          { what, where: "first" },
          { what, where: "last" },
        ]
      : [{ what, where: "first" }],
);

/**
 * An RS-485 line as a multimeter meets it: terminators and inputs side by side with the cable between, bias networks
 * that
 * hold the idle line, and what faults make of them.
 *
 * For example: Two terminators and two inputs of an eighth: 59.8 Ω at either end.
 */
export function rs485Model(bus: Rs485Bus): BusModel {
  const kinds: readonly BusFault[] = [
    ...bus.devices.map((device, at): BusFault => ({
      kind: device.terminator ? "terminator-missing" : "terminator-extra",
      at,
    })),
    ...bus.devices.slice(1).flatMap((_, at): readonly BusFault[] => [
      { kind: "open", at: at + 1 },
      { kind: "exchanged", at: at + 1 },
    ]),
    { kind: "short" },
    { kind: "plus-to-ground" },
    { kind: "minus-to-ground" },
    ...(bus.devices.some((device) => device.bias) ? [{ kind: "bias-missing" } as const] : []),
  ];
  return {
    probes: bus.devices.some((device) => device.bias)
      ? PROBES
      : PROBES.filter(({ what }) => what === "ohm" || what === "idle-mv"),
    deviceNames: bus.devices.map(({ id }) => id),
    openOhm: UNIT_LOAD_OHM,
    faults: kinds.map((fault) => ({ fault, prior: PRIORS[fault.kind] ?? 0 })),
    expected: (faults, probe) => expectedAt(bus, faults, probe),
  };
}

function expectedAt(bus: Rs485Bus, faults: readonly BusFault[], probe: BusProbe): number {
  const count = bus.devices.length;
  const at = probe.where === "first" ? 0 : count - 1;
  const cut = faults.find((fault) => fault.kind === "open");
  // An open core splits the line: only the part that is probed counts.
  const part = bus.devices
    .map((_, which) => which)
    .filter((which) => cut === undefined || cut.kind !== "open" || which < cut.at === at < cut.at);
  const has = (kind: FaultKind, which?: number) =>
    faults.some((fault) => fault.kind === kind && (which === undefined || ("at" in fault && fault.at === which)));
  const loads = part.flatMap((which) => {
    const device = bus.devices[which]!;
    const isTerminated = (device.terminator && !has("terminator-missing", which)) || has("terminator-extra", which);
    const way = loopOhm(bus, at, which);
    return [UNIT_LOAD_OHM / device.unitLoad + way, ...(isTerminated ? [TERMINATOR_OHM + way] : [])];
  });
  const between = loads.length === 0 ? OPEN_OHM : 1 / loads.reduce((sum, load) => sum + 1 / load, 0);
  const ohm = has("short") ? loopOhm(bus, 0, count - 1) / 2 : between;
  if (probe.what === "ohm") return ohm;
  const biases = has("bias-missing")
    ? []
    : part.flatMap((which) => {
        const bias = bus.devices[which]!.bias;
        return bias ? [{ which, bias }] : [];
      });
  const [plus, minus] = levelsV(
    bus,
    biases.map(({ bias }) => bias),
    has("short") ? 0 : ohm,
    faults,
  );
  const isTurned =
    biases.length > 0 &&
    faults.filter((fault) => fault.kind === "exchanged" && fault.at <= at !== fault.at <= biases[0]!.which).length %
      2 ===
      1;
  const [a, b] = isTurned ? [minus, plus] : [plus, minus];
  return 1000 * (probe.what === "plus-ground-mv" ? a : probe.what === "minus-ground-mv" ? b : a - b);
}

/** Both cores of the idle line against ground, V, with all bias networks side by side. */
function levelsV(
  { vccV }: Rs485Bus,
  biases: readonly { readonly upOhm: number; readonly downOhm: number }[],
  ohm: number,
  faults: readonly BusFault[],
): readonly [number, number] {
  if (biases.length === 0) return [0, 0];
  const up = 1 / biases.reduce((sum, { upOhm }) => sum + 1 / upOhm, 0);
  const down = 1 / biases.reduce((sum, { downOhm }) => sum + 1 / downOhm, 0);
  if (faults.some(({ kind }) => kind === "plus-to-ground")) return [0, 0];
  if (faults.some(({ kind }) => kind === "minus-to-ground")) return [(vccV * ohm) / (up + ohm), 0];
  return [(vccV * (ohm + down)) / (up + ohm + down), (vccV * down) / (up + ohm + down)];
}

function loopOhm({ devices, cable }: Rs485Bus, a: number, b: number): number {
  const [from, to] = [Math.min(a, b), Math.max(a, b)];
  const lengthM = devices.slice(from + 1, to + 1).reduce((sum, device) => sum + device.distanceM, 0);
  return (2 * cable.ohmPerKm * lengthM) / 1000;
}
