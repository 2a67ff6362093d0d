import type { BusFault, BusModel, BusProbe, FaultKind, Shown } from "@/core/links/bus/multimeter";
import { idleLevels, resistancesAt, type Line } from "@/core/links/bus/lineNetwork";
import { lineOfBus, TERMINATOR_OHM, UNIT_LOAD_OHM } from "@/core/links/bus/lineOfBus";
import type { Rs485Bus } from "@/core/links/bus/rs485Schema";

/** How likely each fault is against a bus as planned; what can be anywhere shares it among its places. */
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
const SHARED: readonly FaultKind[] = ["short", "bias-missing"];
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
 * An RS-485 line as a multimeter meets it: a network of terminators, inputs, bias resistors and the cable between them,
 * and what faults make of it, wherever on the line they are. With supplies off the dead rail of a bias network is
 * anything between open and ground.
 *
 * For example: Two terminators and two inputs of an eighth: 59.8 Ω at either end.
 */
export function rs485Model(bus: Rs485Bus): BusModel {
  const biased = bus.devices.flatMap(({ bias }, at) => (bias ? [at] : []));
  const last = bus.devices.length - 1;
  const kinds: readonly BusFault[] = [
    ...bus.devices.map((device, at): BusFault => ({
      kind: device.terminator ? "terminator-missing" : "terminator-extra",
      at,
    })),
    ...bus.devices.slice(1).flatMap((_, at): readonly BusFault[] => [
      { kind: "open", at: at + 1 },
      { kind: "exchanged", at: at + 1 },
    ]),
    ...Array.from({ length: 2 * last + 1 }, (_, half): BusFault => ({ kind: "short", at: half / 2 })),
    { kind: "plus-to-ground" },
    { kind: "minus-to-ground" },
    ...biased.map((at): BusFault => ({ kind: "bias-missing", at })),
  ];
  const known = new WeakMap<readonly BusFault[], (probe: BusProbe) => Shown>();
  return {
    probes: biased.length > 0 ? PROBES : PROBES.filter(({ what }) => what === "ohm" || what === "idle-mv"),
    deviceNames: bus.devices.map(({ id }) => id),
    openOhm: UNIT_LOAD_OHM,
    faults: kinds.map((fault) => ({
      fault,
      prior:
        (PRIORS[fault.kind] ?? 0) /
        (SHARED.includes(fault.kind) ? kinds.filter(({ kind }) => kind === fault.kind).length : 1),
    })),
    expected: (faults, probe) => {
      const own = known.get(faults) ?? expectedOf(bus, faults);
      known.set(faults, own);
      return own(probe);
    },
  };
}

/** Everything that the probes show of a faulty line, worked out once. */
function expectedOf(bus: Rs485Bus, faults: readonly BusFault[]): (probe: BusProbe) => Shown {
  const line = faultyLine(bus, faults);
  const last = bus.devices.length - 1;
  const [open, grounded] = (["open", "grounded"] as const).map((rail) => resistancesAt(line, [0, last], rail));
  const levels = idleLevels(line, bus.vccV);
  return ({ what, where }) => {
    const at = where === "first" ? 0 : 1;
    if (what === "ohm")
      return { least: Math.min(open![at]!, grounded![at]!), most: Math.max(open![at]!, grounded![at]!) };
    const { plusV, minusV } = levels[where === "first" ? 0 : last]!;
    const mv = 1000 * (what === "plus-ground-mv" ? plusV : what === "minus-ground-mv" ? minusV : plusV - minusV);
    return { least: mv, most: mv };
  };
}

function faultyLine(bus: Rs485Bus, faults: readonly BusFault[]): Line {
  const { points, segments } = lineOfBus(bus);
  const has = (kind: FaultKind, at: number) =>
    faults.some((fault) => fault.kind === kind && "at" in fault && fault.at === at);
  return {
    points: points.map(({ acrossOhm, bias }, at) => ({
      acrossOhm: has("terminator-missing", at)
        ? UNIT_LOAD_OHM / bus.devices[at]!.unitLoad
        : has("terminator-extra", at)
          ? 1 / (1 / acrossOhm + 1 / TERMINATOR_OHM)
          : acrossOhm,
      bias: has("bias-missing", at) ? undefined : bias,
    })),
    segments: segments.map((segment, before) => ({
      ...segment,
      isOpen: has("open", before + 1),
      isExchanged: has("exchanged", before + 1),
    })),
    shorts: faults.flatMap((fault) => (fault.kind === "short" ? [fault.at] : [])),
    grounded: faults.flatMap(({ kind }) =>
      kind === "plus-to-ground" ? (["plus"] as const) : kind === "minus-to-ground" ? (["minus"] as const) : [],
    ),
  };
}
