import type { PvString } from "@/core/plan/visitSettings";

/** Open-circuit voltage changes by about this a degree, of its value at 25 °C. */
const TEMPERATURE_COEFFICIENT = -0.0029;
const RATED_C = 25;
/** A module in light between these temperatures. */
const COLDEST_C = -10;
const HOTTEST_C = 65;
/** In weak light it is a little lower. */
const WEAK_LIGHT_SHARE = 0.95;

/**
 * What a string may show open, V: modules in series, from cold to hot. Outside it a module is missing, one too many, or
 * the string is reversed (a negative reading).
 *
 * For example: 10 modules of 41 V: from 344.3 V (hot, weak light) to 451.6 V (cold).
 */
export function stringVoltageV({ modules, vocV }: Pick<PvString, "modules" | "vocV">): {
  readonly least: number;
  readonly most: number;
  readonly usual: number;
} {
  const at = (temperatureC: number) => modules * vocV * (1 + TEMPERATURE_COEFFICIENT * (temperatureC - RATED_C));
  return { least: at(HOTTEST_C) * WEAK_LIGHT_SHARE, most: at(COLDEST_C), usual: modules * vocV };
}
