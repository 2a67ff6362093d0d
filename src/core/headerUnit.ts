const KILOWATT_HOURS = /kwh|kilowatt.?hour/i;
const WATT_HOURS = /(?<![a-z])wh(?![a-z])|[a-z]Wh(?![a-z])|watt.?hour/i;
const KILOWATTS = /kw|kilowatt/i;
/** Alone, behind a sign, or as a capital at the end of a word: powerW, P_W, Power (W). */
const WATTS = /(?<![A-Za-z])[Ww](?![A-Za-z])|[a-z]W(?![A-Za-z])|watts?(?![a-z])/;

/**
 * The unit that stands in the name of a column; undefined where none does, or one that is not read here: it is asked
 * then, since what is read in the wrong one is wrong by a thousand.
 *
 * @example headerUnit("Grid power (kW)") // "kW"
 * @example headerUnit("exportW") // "W"
 * @example headerUnit("Grid") // undefined
 */
export function headerUnit(name: string): "W" | "kW" | "kWh" | undefined {
  if (KILOWATT_HOURS.test(name)) return "kWh";
  if (WATT_HOURS.test(name)) return undefined;
  if (KILOWATTS.test(name)) return "kW";
  return WATTS.test(name) || /watts?/i.test(name) ? "W" : undefined;
}

/** What is asked where neither a column nor its cells say it. For example: "In which unit is “Grid”? …". */
export function askUnit(column: string): string {
  return `In which unit is “${column}”? The file does not say it: choose it above`;
}
