const MINUS = "−";

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
  const size = Math.abs(powerW);
  const sign = Math.round(powerW) < 0 ? MINUS : "";
  // Just below a kilowatt rounds up to it, and is then shown as one.
  if (Math.round(size) < 1000) return `${sign}${Math.round(size)} W`;
  return `${sign}${(size / 1000).toFixed(size < 99_995 ? 2 : 1)} kW`;
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

export type TypedPower =
  | { readonly kind: "power"; readonly powerW: number }
  | { readonly kind: "nothing" }
  | { readonly kind: "unreadable"; readonly message: string };

const TYPED = /^([+-]?)(\d+(?:\.\d*)?|\.\d+)(k?w?)$/;
const MOST_W = 1e9;

/**
 * Read a power as somebody types it from a display: W without a unit, "1.24 kW" or "1.24k", decimal point or
 * comma, any kind of minus sign.
 *
 * @example typedPower("−0,86 kW") // { kind: "power", powerW: -860 }
 */
export function typedPower(text: string): TypedPower {
  const plain = text.trim().toLowerCase().replace(/[−–—]/g, "-").replace(/\s+/g, "").replace(",", ".");
  if (plain === "") return { kind: "nothing" };
  const match = TYPED.exec(plain);
  if (!match) return { kind: "unreadable", message: "type watts, or kilowatts with kW: 1240 or 1.24 kW" };
  const [, sign, digits, unit] = match;
  // Through the nearest milliwatt, so that 1.24 kW is 1240 W and not a hair beside it.
  const powerW =
    (Math.round(Number(digits) * (unit?.startsWith("k") ? 1000 : 1) * 1000) / 1000) * (sign === "-" ? -1 : 1);
  if (Math.abs(powerW) > MOST_W) return { kind: "unreadable", message: "no meter shows that much" };
  return { kind: "power", powerW: powerW === 0 ? 0 : powerW };
}
