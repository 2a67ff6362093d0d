import { readNumber, twoWaysMessage, type DecimalSign } from "@/core/readNumber";

/** What a field takes. A least of 0 means above 0, unless the field counts or may be empty. */
export interface NumberLimits {
  readonly least: number;
  readonly most: number;
  readonly whole: boolean;
  readonly optional: boolean;
}

/** A typed number within its limits, nothing, or what is wrong with it. */
export type TypedNumber =
  | { readonly kind: "number"; readonly value: number }
  | { readonly kind: "nothing" }
  | { readonly kind: "unreadable"; readonly message: string };

/**
 * Read what was typed into a field, and hold it to what the field takes.
 *
 * @param decimal The person's decimal sign.
 * @example typedNumber("2,5", { least: 0, most: 10, whole: false, optional: false }, "point") // { kind: "number",
 * value: 2.5 }
 */
export function typedNumber(
  text: string,
  { least, most, whole, optional }: NumberLimits,
  decimal: DecimalSign,
): TypedNumber {
  const read = readNumber(text, decimal);
  if (read.kind === "nothing") return optional ? read : { kind: "unreadable", message: "type a number" };
  if (read.kind === "two-ways") return { kind: "unreadable", message: twoWaysMessage(text, read) };
  const value = read.kind === "number" ? read.value : NaN;
  const isAboveZero = least === 0 && !whole && !optional;
  if (
    !Number.isFinite(value) ||
    value < least ||
    value > most ||
    (isAboveZero && value === 0) ||
    (whole && !Number.isInteger(value))
  ) {
    return {
      kind: "unreadable",
      message: `${whole ? "a whole number" : "a number"} from ${isAboveZero ? "above 0" : least} to ${most}`,
    };
  }
  return { kind: "number", value };
}
