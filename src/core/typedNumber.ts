import { readNumber, twoWaysMessage, type DecimalSign, type ReadNumber } from "@/core/readNumber";
import { typedUnit } from "@/core/typedUnit";

const UNREADABLE: ReadNumber = { kind: "unreadable" };

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
 * @param unit Of the field: a number with another unit of the same quantity is brought to it.
 * @example typedNumber("2,5", { least: 0, most: 10, whole: false, optional: false }, "point") // { kind: "number",
 * value: 2.5 }
 */
export function typedNumber(
  text: string,
  { least, most, whole, optional }: NumberLimits,
  decimal: DecimalSign,
  unit?: string,
): TypedNumber {
  const typed = typedUnit(text, unit);
  if (typed.kind === "other-unit" && unit !== undefined)
    return { kind: "unreadable", message: `type it in ${unit}, not in ${typed.typed}` };
  const read = typed.kind === "number" ? readNumber(typed.digits, decimal) : UNREADABLE;
  if (read.kind === "nothing") return optional ? read : { kind: "unreadable", message: "type a number" };
  if (read.kind === "two-ways") return { kind: "unreadable", message: twoWaysMessage(text, read) };
  const value = read.kind === "number" && typed.kind === "number" ? scaled(read.value, typed.factor) : NaN;
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

/** Without what binary fractions leave behind: 0.26 V are 260 mV, and no hair more. */
function scaled(value: number, factor: number): number {
  return factor === 1 ? value : Number((value * factor).toPrecision(12));
}
