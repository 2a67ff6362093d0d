import { figure, plainText, said, type Sentence } from "@/core/sentence";
import { readNumber, twoWaysMessage, type DecimalSign } from "@/core/readNumber";

const MINUS = "−";
const UNREADABLE = { kind: "unreadable" } as const;

/**
 * A number with the three digits that count, as findings have it.
 *
 * @example threeDigits(62.741) // 62.7
 */
export function threeDigits(value: number): number {
  return Number(value.toPrecision(3));
}

/**
 * A power as it stands on a display: whole watts below 1 kW, else kilowatts with two decimals (one from 100 kW on).
 *
 * @example powerText(-860) // "−860 W"
 * @example powerText(1240) // "1.24 kW"
 */
export function powerText(powerW: number): string {
  return plainText(saidPower(powerW));
}

/**
 * The same as a sentence, to be written out where it is shown.
 *
 * @example saidPower(1240) // [{ figure: "1.24" }, " kW"]
 */
export function saidPower(powerW: number): Sentence {
  const size = Math.abs(powerW);
  const sign = Math.round(powerW) < 0 ? MINUS : "";
  // Just below a kilowatt rounds up to it, and is then shown as one.
  if (Math.round(size) < 1000) return said`${figure(`${sign}${Math.round(size)}`)} W`;
  return said`${figure(`${sign}${(size / 1000).toFixed(size < 99_995 ? 2 : 1)}`)} kW`;
}

/**
 * A number with so many decimals and a real minus sign; with a plus where a difference is shown. What rounds to nothing
 * has no sign.
 *
 * @example fixedText(-0.124, 2) // "−0.12"
 * @example fixedText(1, 1, "difference") // "+1.0"
 */
export function fixedText(value: number, decimals: number, as: "amount" | "difference" = "amount"): string {
  const text = Math.abs(value).toFixed(decimals);
  if (Number(text) === 0) return text;
  return `${value < 0 ? MINUS : as === "difference" ? "+" : ""}${text}`;
}

/** A typed power in W, nothing, or what is wrong with it. */
export type TypedPower =
  | { readonly kind: "power"; readonly powerW: number }
  | { readonly kind: "nothing" }
  | { readonly kind: "unreadable"; readonly message: string };

const TYPED = /^([^a-z]*)(k?w?)$/;
const MOST_W = 1e9;

/**
 * Read a power as somebody types it from a display: W without a unit, "1.24 kW" or "1.24k", decimal point or
 * comma, any kind of minus sign.
 *
 * @param decimal The person's decimal sign.
 * @example typedPower("−0,86 kW", "comma") // { kind: "power", powerW: -860 }
 * @example typedPower("5,000 W", "point") // { kind: "power", powerW: 5000 }
 */
export function typedPower(text: string, decimal: DecimalSign): TypedPower {
  const [, digits = "", unit = ""] = TYPED.exec(text.trim().toLowerCase()) ?? [];
  const read = digits === "" && unit === "" && text.trim() !== "" ? UNREADABLE : readNumber(digits, decimal);
  if (read.kind === "nothing" && unit === "") return read;
  const shownUnit = unit === "" ? "" : unit.startsWith("k") ? " kW" : " W";
  if (read.kind === "two-ways") return { kind: "unreadable", message: `${twoWaysMessage(digits, read)}${shownUnit}` };
  if (read.kind !== "number")
    return { kind: "unreadable", message: "type watts, or kilowatts with kW: 1240 or 1.24 kW" };
  // Nobody writes thousands of kilowatts with a sign between them here, but many read 1.240 kW off a display.
  if (unit.startsWith("k") && read.isGrouped)
    return { kind: "unreadable", message: `${text.trim()} can be read in two ways: type it in watts` };
  const digitsW = Math.abs(read.value) * (unit.startsWith("k") ? 1000 : 1);
  // Through the nearest milliwatt, so that 1.24 kW is 1240 W and not a hair beside it.
  const powerW = (Math.round(digitsW * 1000) / 1000) * (read.value < 0 ? -1 : 1);
  if (Math.abs(powerW) > MOST_W) return { kind: "unreadable", message: "no meter shows that much" };
  return { kind: "power", powerW: powerW === 0 ? 0 : powerW };
}

/**
 * A short time as it is said.
 *
 * @example shortTimeText(95) // "95 s"
 * @example shortTimeText(60) // "1 min"
 * @example shortTimeText(300) // "5 min"
 */
export function shortTimeText(seconds: number): string {
  const whole = Math.round(seconds);
  return whole < 120 && whole !== 60 ? `${whole} s` : `${Math.round(seconds / 60)} min`;
}

/** Below this a number with decimals is more likely kilowatts than watts, W. */
const LEAST_WHOLE_W = 100;
const KILO = 1000;

/**
 * What a power may have been meant as, where it is a thousand times off what can be: typed without its unit off a
 * display in kilowatts, or with one too many.
 *
 * @param mostW The most that can flow there, W.
 * @returns The other power, W; nothing where there is no doubt.
 * @example powerMeantAs("2.47", 2.47, 20_000) // 2470
 * @example powerMeantAs("2470 kW", 2_470_000, 20_000) // 2470
 * @example powerMeantAs("2.47 kW", 2470, 20_000) // undefined
 */
export function powerMeantAs(text: string, powerW: number, mostW: number): number | undefined {
  const size = Math.abs(powerW);
  const hasUnit = /[a-z]/i.test(text);
  const hasDecimals = !Number.isInteger(powerW);
  if (!hasUnit && hasDecimals && size < LEAST_WHOLE_W && KILO * size <= mostW) return Math.round(KILO * powerW);
  if (size > mostW && size / KILO <= mostW) return powerW / KILO;
  return undefined;
}

/**
 * A text for paper in which no number is parted from its unit at the end of a line.
 *
 * @example unbroken("ferrule 0.25 mm²") // "ferrule 0.25\u00a0mm²"
 */
export function unbroken(text: string): string {
  return text.replace(/(\d) (?=[A-Za-zΩµ°%²·]{1,4}(?![A-Za-z]))/g, "$1\u00a0");
}
