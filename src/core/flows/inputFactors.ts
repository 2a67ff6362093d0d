import type { Ct, MeterInput, Secondary } from "@/core/site/planSchema";

const UNIT_SCALE = { V: 1, mV: 1e-3, A: 1, mA: 1e-3 } as const;

/**
 * The sign of a reading against the true flow toward the load side: positive meaning × arrow × leads × invert.
 *
 * For example: An input with positive `to-load` and a CT whose arrow is the other way round than wanted: −1.
 */
export function inputSign(input: MeterInput, ct: Pick<Ct, "arrow" | "leads">): 1 | -1 {
  const flips = [input.positive === "to-grid", ct.arrow !== input.arrow, ct.leads === "swapped", input.invert];
  return flips.filter(Boolean).length % 2 === 0 ? 1 : -1;
}

/**
 * How many times too large an input reads: (input primary / CT primary) × (CT secondary / input secondary).
 * Undefined when one is in volts and the other in amperes, which no ratio can mend.
 *
 * For example: An input set to 100 A with a 200 A CT of the same secondary: 0.5.
 */
export function inputGain(input: MeterInput, ct: Pick<Ct, "primaryA" | "secondary">): number | undefined {
  if (isVoltage(input.secondary) !== isVoltage(ct.secondary)) return undefined;
  return (input.primaryA / ct.primaryA) * (inBaseUnit(ct.secondary) / inBaseUnit(input.secondary));
}

function isVoltage(secondary: Secondary): boolean {
  return secondary.unit === "V" || secondary.unit === "mV";
}

function inBaseUnit(secondary: Secondary): number {
  // The gain of equal secondaries must be exactly one, so a value already in the base unit is not touched.
  return secondary.value * UNIT_SCALE[secondary.unit];
}
