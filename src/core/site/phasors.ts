import type { Meter, Supply } from "@/core/site/planSchema";
import type { Complex } from "@/core/complex";
import type { Phase } from "@/core/phase";

const COS_120 = -0.5;
const SIN_120 = Math.sqrt(3) / 2;

/**
 * The phases that a supply brings, in order.
 *
 * @example phasesOfSupply({ system: "split-phase", voltageV: 120, frequencyHz: 60, rotation: "L1-L2-L3" }) // ["L1",
 * "L2"]
 */
export function phasesOfSupply(supply: Supply): readonly Phase[] {
  switch (supply.system) {
    case "single-phase":
      return ["L1"];
    case "split-phase":
      return ["L1", "L2"];
    case "three-phase":
      return ["L1", "L2", "L3"];
  }
}

/**
 * Phase-to-neutral voltage phasor in volts: L1 at 0°; split phase L2 at 180°; three phase L2 at −120° and
 * L3 at +120°, exchanged when the rotation is L1-L3-L2. The angles are exact, not from a cosine of a
 * rounded angle, so that balanced sums cancel.
 *
 * For example: `phaseVoltage({ system: "three-phase", voltageV: 230, frequencyHz: 50, rotation: "L1-L2-L3" }, "L2")`
 * gives { re: -115, im: -199.18… }
 */
export function phaseVoltage(supply: Supply, phase: Phase): Complex {
  const volts = supply.voltageV;
  if (phase === "L1") return { re: volts, im: 0 };
  if (supply.system === "split-phase") return { re: -volts, im: 0 };
  const lags = (phase === "L2") === (supply.rotation === "L1-L2-L3");
  return { re: volts * COS_120, im: (lags ? -1 : 1) * volts * SIN_120 };
}

/**
 * The phase that each voltage tap is meant to be on: the phases that the meter is wired to, in their
 * order on its terminals in theirs (V1 → L1 …). A meter whose taps are wired as listed is unchanged.
 *
 * @example plannedTaps({ V1: "L2", V2: "L1" }) // { V1: "L1", V2: "L2" }
 */
export function plannedTaps(taps: Meter["taps"]): Meter["taps"] {
  const names = Object.keys(taps).sort((a, b) => a.localeCompare(b, "en", { numeric: true }));
  const phases = Object.values(taps).sort();
  return Object.fromEntries(names.map((name, at) => [name, phases[at] ?? "L1"]));
}
