import type { NumberStyle } from "@/core/numberStyle";

/** What a person writes before decimals. */
export type DecimalSign = NumberStyle["decimal"];

/** A number, nothing, no number, or a text that can be read in two ways. */
export type ReadNumber =
  | {
      readonly kind: "number";
      readonly value: number;
      /** Written with a sign or space between thousands. */
      readonly isGrouped: boolean;
    }
  | { readonly kind: "nothing" }
  /** It stands for one number where the comma is decimal and for another where it groups. */
  | { readonly kind: "two-ways"; readonly asDecimal: string; readonly asWhole: string }
  | { readonly kind: "unreadable" };

const NUMBER = /^([+-]?)\s*(\d[\d.,]*|[.,]\d+)$/;
const SPACE_BETWEEN_THOUSANDS = /(?<=\d)[\s'’](?=\d{3}(?:\D|$))/g;
const GROUPED = /^\d{1,3}(?:[.,]\d{3})+$/;
const ONE_GROUP = /^[1-9]\d{0,2}[.,]\d{3}$/;

/**
 * Read a number as somebody types it: either decimal sign, thousands with a sign or a space between them, any kind of
 * minus. A comma before exactly three digits is never taken for a decimal comma: where the point is the decimal sign it
 * groups, where the comma is, it could be meant either way, and the person is asked.
 *
 * @param decimal The person's decimal sign.
 * @example readNumber("2,47", "point") // { kind: "number", value: 2.47, isGrouped: false }
 * @example readNumber("1,240", "point") // { kind: "number", value: 1240, isGrouped: true }
 * @example readNumber("1,240", "comma") // { kind: "two-ways", asDecimal: "1,24", asWhole: "1240" }
 */
export function readNumber(text: string, decimal: DecimalSign): ReadNumber {
  const plain = text.trim().replace(/[−–—]/g, "-");
  if (plain === "") return { kind: "nothing" };
  const joined = plain.replace(SPACE_BETWEEN_THOUSANDS, "");
  const [, sign, body] = NUMBER.exec(joined) ?? [];
  if (body === undefined) return { kind: "unreadable" };
  if (ONE_GROUP.test(body)) {
    if (body.includes(",") && decimal === "comma") return twoWays(sign!, body);
    if (body.includes(".") && decimal === "point") return number(sign!, body, joined !== plain);
    return number(sign!, withoutSigns(body), true);
  }
  const last = body.search(/[.,][^.,]*$/);
  const isLastAlone = last >= 0 && body.split(body[last]!).length === 2;
  if (!isLastAlone && last >= 0)
    return GROUPED.test(body) && !isMixed(body) ? number(sign!, withoutSigns(body), true) : { kind: "unreadable" };
  const whole = last < 0 ? body : body.slice(0, last);
  if (/[.,]/.test(whole) && !GROUPED.test(whole)) return { kind: "unreadable" };
  const decimals = last < 0 ? "" : `.${body.slice(last + 1)}`;
  return number(sign!, `${withoutSigns(whole)}${decimals}`, joined !== plain || /[.,]/.test(whole));
}

/**
 * The decimal sign of a column of a file, which its writer had no need to say: that of any value that can be read in
 * one way only; the point where none has a comma. Undefined where nothing tells, or one value says another than the
 * next.
 *
 * @example decimalSignOf(["1,240", "12,5"]) // "comma"
 * @example decimalSignOf(["1,240", "3,600"]) // undefined
 */
export function decimalSignOf(texts: readonly string[]): DecimalSign | undefined {
  const numbers = texts.map((text) => text.replace(/[^\d.,]/g, ""));
  const told = new Set(numbers.map(signToldBy).filter((sign) => sign !== undefined));
  if (told.size === 1) return [...told][0];
  return told.size === 0 && !numbers.some((text) => text.includes(",")) ? "point" : undefined;
}

/**
 * A number of a file whose decimal sign is known, with the point as that sign: what a person would be asked is settled.
 *
 * @example withPoint("1,240", "comma") // "1.240"
 */
export function withPoint(text: string, decimal: DecimalSign): string {
  return decimal === "point" ? text : text.replace(/[.,]/g, (sign) => (sign === "," ? "." : ","));
}

/** What to type in place of a number that can be read in two ways, with the unit that it has. */
export function twoWaysMessage(text: string, { asDecimal, asWhole }: { asDecimal: string; asWhole: string }): string {
  return `${text.trim()} can be read in two ways: type ${asDecimal} or ${asWhole}`;
}

function signToldBy(text: string): DecimalSign | undefined {
  const last = text.search(/[.,][^.,]*$/);
  if (last < 0 || ONE_GROUP.test(text)) return undefined;
  const isComma = text[last] === ",";
  const isDecimal = text.split(text[last]!).length === 2;
  if (!isDecimal && !GROUPED.test(text)) return undefined;
  return isComma === isDecimal ? "comma" : "point";
}

function number(sign: string, digits: string, isGrouped: boolean): ReadNumber {
  const value = Number(digits) * (sign === "-" ? -1 : 1);
  return { kind: "number", value: value === 0 ? 0 : value, isGrouped };
}

function twoWays(sign: string, body: string): ReadNumber {
  const [whole, part] = body.split(",") as [string, string];
  const short = part.replace(/0+$/, "");
  // Three decimals that all count get a fourth: then they cannot be thousands.
  const decimals = short === "" ? "0" : short.length === part.length ? `${short}0` : short;
  return { kind: "two-ways", asDecimal: `${sign}${whole},${decimals}`, asWhole: `${sign}${whole}${part}` };
}

function withoutSigns(text: string): string {
  return text.replace(/[.,]/g, "");
}

function isMixed(text: string): boolean {
  return text.includes(".") && text.includes(",");
}
