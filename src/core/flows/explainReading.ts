import { runCurrents, windowCurrent } from "@/core/flows/currents";
import { inputOf } from "@/core/flows/fitting";
import { inputGain, inputSign } from "@/core/flows/inputFactors";
import type { SiteState } from "@/core/flows/stateSchema";
import type { InputRef } from "@/core/site/fitClamp";
import { clampOf } from "@/core/site/fitClamp";
import { conjugate, magnitude, multiply, scale, type Complex } from "@/core/complex";
import { phaseVoltage } from "@/core/site/phasors";
import type { Ct, MeterInput, Site } from "@/core/site/planSchema";
import { powerText } from "@/core/units";

/** One factor of a reading: its name, its value on this site, and why it is that. */
export interface ReadingFactor {
  readonly name: string;
  readonly value: string;
  readonly because: string;
}

/** How a reading comes about, in words. */
export const READING_FORMULA = "P = sign · gain · Re(V · I*)";

/**
 * A reading as fitted, taken apart into the factors of its formula with the site's values in them. Empty for
 * an input without a CT, or with one of another kind of signal.
 *
 * For example: A turned CT on 10 A at 230 V: sign "−1" because "arrow against what the kit wants", …, "−2.30 kW".
 */
export function explainReading(site: Site, state: SiteState, at: InputRef): readonly ReadingFactor[] {
  const { meter, input } = inputOf(site, at);
  const ct = clampOf(site, at);
  const gain = ct && inputGain(input, ct);
  const tapPhase = meter.taps[input.tap];
  if (!ct || gain === undefined || !tapPhase) return [];
  const once = windowCurrent(ct.around, runCurrents(site, state.devices));
  const current = scale(once, ct.turns);
  const voltage = phaseVoltage(site.supply, tapPhase);
  const sign = inputSign(input, ct);
  const powerW = sign * gain * multiply(voltage, conjugate(current)).re;
  return [
    { name: "sign", value: sign > 0 ? "+1" : "−1", because: signReason(input, ct) },
    { name: "gain", value: rounded(gain), because: `input set to ${input.primaryA} A, CT of ${ct.primaryA} A` },
    { name: "V", value: phasorText(voltage, "V"), because: `tap ${input.tap} is on ${tapPhase}` },
    {
      name: "I",
      value: phasorText(current, "A"),
      because: ct.turns === 1 ? "through the window" : `${ct.turns} turns of ${rounded(magnitude(once))} A`,
    },
    { name: "P", value: powerText(powerW), because: "what the input reads" },
  ];
}

function signReason(input: MeterInput, ct: Ct): string {
  const reasons = [
    input.positive === "to-grid" ? "positive means toward the grid" : "positive means into the site",
    ct.arrow === input.arrow ? "arrow as the kit wants" : "arrow against what the kit wants",
    ...(ct.leads === "swapped" ? ["leads swapped"] : []),
    ...(input.invert ? ["invert set"] : []),
  ];
  return reasons.join(", ");
}

function phasorText(value: Complex, unit: string): string {
  const size = magnitude(value);
  if (size < 5e-4) return `0 ${unit}`;
  const degrees = Math.round((Math.atan2(value.im, value.re) * 180) / Math.PI);
  return `${rounded(size)} ${unit} at ${degrees === -180 ? 180 : degrees}°`.replace("-", "−");
}

function rounded(value: number): string {
  return String(Number(value.toPrecision(4)));
}
