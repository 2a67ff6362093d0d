/** What a field takes. A least of 0 means above 0, unless the field counts or may be empty. */
export interface NumberLimits {
  readonly least: number;
  readonly most: number;
  readonly whole: boolean;
  readonly optional: boolean;
}

export type TypedNumber =
  | { readonly kind: "number"; readonly value: number }
  | { readonly kind: "nothing" }
  | { readonly kind: "unreadable"; readonly message: string };

/**
 * Read a number as somebody types it: decimal point or comma, any kind of minus sign.
 *
 * @example typedNumber("2,5", { least: 0, most: 10, whole: false, optional: false }) // { kind: "number", value: 2.5 }
 */
export function typedNumber(text: string, { least, most, whole, optional }: NumberLimits): TypedNumber {
  const plain = text.trim().replace(/[−–]/g, "-").replace(",", ".");
  if (plain === "") return optional ? { kind: "nothing" } : { kind: "unreadable", message: "type a number" };
  const value = Number(plain);
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
