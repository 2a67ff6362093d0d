import { z } from "zod";

/** Decimal sign and unit of lengths. */
export const numberStyleSchema = z.object({
  decimal: z.enum(["point", "comma"]),
  lengths: z.enum(["metric", "us"]),
});

/** How numbers are written where the user works. */
export type NumberStyle = z.output<typeof numberStyleSchema>;

const METRES_PER_FOOT = 0.3048;
/** A number with decimals that stands alone: not part of an address or a version, whose points are no decimals. */
const DECIMAL_NUMBER = /(?<![\d.])(\d+)\.(\d+)(?![\d.])/g;
/** A length in metres that stands in a sentence; m of mm², min and mA is none. */
const LENGTH_IN_TEXT = /(?<![\d.])(\d+(?:\.\d+)?) m(?![\w²·])/g;
const NONE: readonly string[] = [];
/** Copper sections of the American gauge, mm², as the standard (ASTM B258) gives them. */
const AWG_MM2: readonly (readonly [string, number])[] = [
  ["24", 0.205],
  ["22", 0.324],
  ["20", 0.519],
  ["18", 0.823],
  ["16", 1.31],
  ["14", 2.08],
  ["12", 3.31],
  ["10", 5.26],
  ["8", 8.37],
  ["6", 13.3],
  ["4", 21.2],
  ["2", 33.6],
  ["1", 42.4],
  ["1/0", 53.5],
  ["2/0", 67.4],
  ["3/0", 85],
  ["4/0", 107],
];

/**
 * A text with its lengths and decimal numbers as the user writes them. Addresses and versions keep their points, and
 * names that somebody gave stay as they were given.
 *
 * @param names Of devices, places and the like that may stand in the text.
 * @example localText("1.24 kW from 192.168.7.5", { decimal: "comma", lengths: "metric" }) // "1,24 kW from 192.168.7.5"
 */
export function localText(text: string, style: NumberStyle, names: readonly string[] = NONE): string {
  const given = names.filter((name) => written(name, style) !== name).toSorted((a, b) => b.length - a.length);
  if (given.length === 0) return written(text, style);
  // What is caught stands at every other place of the parts.
  const parts = text.split(new RegExp(`(${given.map(escaped).join("|")})`));
  return parts.map((part, at) => (at % 2 === 0 ? written(part, style) : part)).join("");
}

/** Whether a name could be taken for a number or a length in a sentence. */
export function looksMeasured(name: string): boolean {
  return /\d\.\d|\d m\b/.test(name);
}

function written(text: string, { decimal, lengths }: NumberStyle): string {
  const measured =
    lengths === "us" ? text.replace(LENGTH_IN_TEXT, (_all, metres: string) => `${inFeet(Number(metres))} ft`) : text;
  return decimal === "comma" ? measured.replace(DECIMAL_NUMBER, "$1,$2") : measured;
}

function escaped(text: string): string {
  return text.replace(/[.*+?^${}()|[\]\\]/g, "\\$&");
}

function inFeet(lengthM: number): number {
  return Number((lengthM / METRES_PER_FOOT).toPrecision(3));
}

/**
 * A length as the user measures it, with its unit.
 *
 * @example lengthText(12, { decimal: "point", lengths: "us" }) // "39.4 ft"
 */
export function lengthText(lengthM: number, style: NumberStyle): string {
  const value = style.lengths === "us" ? `${inFeet(lengthM)} ft` : `${Number(lengthM.toPrecision(4))} m`;
  return localText(value, style);
}

/** A typed length in metres. */
export function lengthInM(value: number, { lengths }: NumberStyle): number {
  return lengths === "us" ? Number((value * METRES_PER_FOOT).toPrecision(6)) : value;
}

/** A length in the user's unit, to be typed over. */
export function lengthShown(lengthM: number, { lengths }: NumberStyle): number {
  return lengths === "us" ? Number((lengthM / METRES_PER_FOOT).toPrecision(4)) : lengthM;
}

/**
 * A section with the American gauge that is at least as large, where lengths are in feet.
 *
 * @example sectionText(2.5, { decimal: "point", lengths: "us" }) // "2.5 mm² (12 AWG)"
 */
export function sectionText(areaMm2: number, style: NumberStyle): string {
  const gauge = style.lengths === "us" ? AWG_MM2.find(([, mm2]) => mm2 >= areaMm2)?.[0] : undefined;
  return localText(`${areaMm2} mm²${gauge ? ` (${gauge} AWG)` : ""}`, style);
}

/**
 * The style of a language region as its numbers are usually written; feet where the region measures in them.
 *
 * @example usualNumberStyle("de-AT") // { decimal: "comma", lengths: "metric" }
 */
export function usualNumberStyle(language: string): NumberStyle {
  const sample = new Intl.NumberFormat(language).formatToParts(1.5).find((part) => part.type === "decimal")?.value;
  return { decimal: sample === "," ? "comma" : "point", lengths: /-(US|LR)\b/i.test(language) ? "us" : "metric" };
}
