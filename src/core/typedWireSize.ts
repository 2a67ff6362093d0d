import { localText, type NumberStyle } from "@/core/numberStyle";
import { readNumber, twoWaysMessage } from "@/core/readNumber";
import { gaugeMm2, kcmilMm2, soldWireSize, wireSizeOf } from "@/core/wireSize";

const THINNEST_AWG = 40;
/** No gauge has such a number, and no cable of thousands of circular mils a smaller one. */
const SMALLEST_KCMIL = 100;
const AUGHTS = /^(?:([1-4])\/0|(0{1,4}))$/;
const NUMBER_AND_UNIT = /^(?:#|no\.?)?\s*([\d.,/]+)\s*(awg|kcmil|mcm|mm²|mm2|mm\^2|sq\.?\s*mm)?$/i;

/** A typed section in mm², nothing, or what is wrong with it. */
export type TypedWireSize =
  | { readonly kind: "size"; readonly areaMm2: number }
  | { readonly kind: "nothing" }
  | { readonly kind: "unreadable"; readonly message: string };

/**
 * A section as people type it: by gauge, in kcmil or in mm², each with its unit anywhere; without one as the site
 * measures, where a large number is no gauge but kcmil.
 *
 * @param mostMm2 The largest that makes sense there.
 * @example typedWireSize("2/0", { decimal: "point", lengths: "us" }, 2000) // { kind: "size", areaMm2: 67.4 }
 * @example typedWireSize("2,5 mm2", { decimal: "comma", lengths: "us" }, 50) // { kind: "size", areaMm2: 2.5 }
 * @example typedWireSize("8 AWG", { decimal: "point", lengths: "metric" }, 50) // { kind: "size", areaMm2: 8.37 }
 */
export function typedWireSize(text: string, style: NumberStyle, mostMm2: number): TypedWireSize {
  if (text.trim() === "") return { kind: "nothing" };
  const [, digits = "", typedUnit] = NUMBER_AND_UNIT.exec(text.trim()) ?? [];
  const unit = unitOf(digits, typedUnit, style);
  if (unit === "AWG" && AUGHTS.test(digits)) return within(gaugeMm2(aughtsOf(digits)), mostMm2, style);
  const read = readNumber(digits, style.decimal);
  if (read.kind === "two-ways") return { kind: "unreadable", message: twoWaysMessage(digits, read) };
  if (read.kind !== "number") return { kind: "unreadable", message: howToType(style) };
  if (unit === "mm²") return within(read.value, mostMm2, style);
  if (unit === "kcmil") return within(kcmilMm2(read.value), mostMm2, style);
  const isGauge = Number.isInteger(read.value) && read.value >= 1 && read.value <= THINNEST_AWG;
  return isGauge
    ? within(gaugeMm2(read.value), mostMm2, style)
    : { kind: "unreadable", message: `gauges go from ${THINNEST_AWG} to 4/0: ${howToType(style)}` };
}

/**
 * A section as it stands in the box where it is typed: by gauge where that is its wire and the site measures so, else
 * in mm², with the unit where the box does not say it.
 *
 * @example wireSizeToType(8.37, { decimal: "point", lengths: "us" }) // "8"
 * @example wireSizeToType(10, { decimal: "point", lengths: "us" }) // "10 mm²"
 * @example wireSizeToType(2.5, { decimal: "comma", lengths: "metric" }) // "2,5"
 */
export function wireSizeToType(areaMm2: number, { decimal, lengths }: NumberStyle): string {
  const digits = localText(String(areaMm2), { decimal, lengths: "metric" });
  if (lengths === "metric") return digits;
  return wireSizeOf(areaMm2)?.replace(/ AWG$/, "") ?? `${digits} mm²`;
}

function unitOf(digits: string, typed: string | undefined, { lengths }: NumberStyle): "AWG" | "kcmil" | "mm²" {
  if (typed === undefined) {
    if (lengths === "metric") return digits.includes("/") ? "AWG" : "mm²";
    return Number(digits) >= SMALLEST_KCMIL ? "kcmil" : "AWG";
  }
  if (/awg/i.test(typed)) return "AWG";
  return /kcmil|mcm/i.test(typed) ? "kcmil" : "mm²";
}

function within(areaMm2: number, mostMm2: number, { lengths }: NumberStyle): TypedWireSize {
  if (areaMm2 <= mostMm2) return { kind: "size", areaMm2 };
  const most = lengths === "us" ? soldWireSize(mostMm2, "as-small") : `${mostMm2} mm²`;
  return { kind: "unreadable", message: `it goes up to ${most}` };
}

function howToType({ lengths }: NumberStyle): string {
  return lengths === "us" ? "type a gauge as 8 or 2/0, or 250 kcmil, or 10 mm²" : "type mm², or a gauge as 8 AWG";
}

function aughtsOf(digits: string): number {
  const [, count, zeros] = AUGHTS.exec(digits)!;
  return 1 - (zeros?.length ?? Number(count));
}
