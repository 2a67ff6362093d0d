import { z } from "zod";
import { soldWireSize, wireSizeOf } from "@/core/wireSize";

/** How numbers are written: the decimal sign of the person, the units of lengths and sections of the site. */
export interface NumberStyle {
  readonly decimal: "point" | "comma";
  readonly lengths: "metric" | "us";
}

const METRES_PER_FOOT = 0.3048;
/** A number with decimals that stands alone: not part of an address or a version, whose points are no decimals. */
const DECIMAL_NUMBER = /(?<![\d.])(\d+)\.(\d+)(?![\d.])/g;
/** A length in metres that stands in a sentence; m of mm², min and mA is none. */
const LENGTH_IN_TEXT = /(?<![\d.])(\d+(?:\.\d+)?) m(?![\w²·])/g;
const NONE: readonly string[] = [];
/** A section in a sentence, alone or up to another one; what stands behind its gauge already is none. */
const SECTION_IN_TEXT = /(?<![\d.,]|\d to |(?:AWG|kcmil) \()(?:(\d+(?:\.\d+)?) to )?(\d+(?:\.\d+)?) mm²/g;
const TORQUE_IN_TEXT = /(?<![\d.,])(?:(\d+(?:\.\d+)?) to )?(\d+(?:\.\d+)?) N·m(?! \()/g;
const NM_PER_LB_IN = 0.112985;

/**
 * A text with its lengths, sections, torques and decimal numbers as the user writes them. Addresses and versions keep
 * their points, and names that somebody gave stay as they were given.
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

/** Whether a name could be taken for a number, a length or a section in a sentence. */
export function looksMeasured(name: string): boolean {
  return /\d\.\d|\d m\b|\d mm²|\d N·m/.test(name);
}

function written(text: string, { decimal, lengths }: NumberStyle): string {
  const measured = lengths === "us" ? inUsUnits(text) : text;
  return decimal === "comma" ? measured.replace(DECIMAL_NUMBER, "$1,$2") : measured;
}

function inUsUnits(text: string): string {
  return text
    .replace(SECTION_IN_TEXT, (_all, least: string | undefined, most: string) =>
      least === undefined ? sizeText(Number(most)) : sizesText(Number(least), Number(most)),
    )
    .replace(LENGTH_IN_TEXT, (_all, metres: string) => `${inFeet(Number(metres))} ft`)
    .replace(TORQUE_IN_TEXT, (all, least: string | undefined, most: string) => {
      const from = least === undefined ? "" : `${inLbIn(Number(least))} to `;
      return `${all} (${from}${inLbIn(Number(most))} lb·in)`;
    });
}

function escaped(text: string): string {
  return text.replace(/[.*+?^${}()|[\]\\]/g, "\\$&");
}

function inFeet(lengthM: number): number {
  return Number((lengthM / METRES_PER_FOOT).toPrecision(3));
}

function inLbIn(torqueNm: number): number {
  return Number((torqueNm / NM_PER_LB_IN).toPrecision(2));
}

/** A section as wire is sold by gauge; where it is between two, with what it is. */
function sizeText(areaMm2: number): string {
  const sold = soldWireSize(areaMm2, "as-large");
  if (sold === undefined) return `${areaMm2} mm²`;
  return wireSizeOf(areaMm2) === undefined ? `${sold} (${areaMm2} mm²)` : sold;
}

/** What a terminal takes: no size that is thinner than its least or thicker than its most. */
function sizesText(leastMm2: number, mostMm2: number): string {
  const [least, most] = [soldWireSize(leastMm2, "as-large"), soldWireSize(mostMm2, "as-small")];
  const range = `${leastMm2} to ${mostMm2} mm²`;
  return least === undefined || most === undefined ? range : `${least.replace(/ AWG$/, "")} to ${most} (${range})`;
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
 * A section as the site's trade calls it.
 *
 * @example sectionText(8.37, { decimal: "point", lengths: "us" }) // "8 AWG"
 * @example sectionText(2.5, { decimal: "point", lengths: "us" }) // "12 AWG (2.5 mm²)"
 * @example sectionText(2.5, { decimal: "comma", lengths: "metric" }) // "2,5 mm²"
 */
export function sectionText(areaMm2: number, style: NumberStyle): string {
  return localText(`${areaMm2} mm²`, style);
}

/** How a person writes decimals and days. */
export const personStyleSchema = z.object({
  decimal: z.enum(["point", "comma"]),
  /** The day before the month and 24 hours, or the month before the day and 12 hours. */
  dates: z.enum(["day-first", "month-first"]).default("day-first"),
});

/** How a person writes decimals and days. */
export type PersonStyle = z.output<typeof personStyleSchema>;

/**
 * Decimals and days as they are usually written in a language region.
 *
 * @example usualPersonStyle("de-AT") // { decimal: "comma", dates: "day-first" }
 */
export function usualPersonStyle(language: string): PersonStyle {
  const sample = new Intl.NumberFormat(language).formatToParts(1.5).find((part) => part.type === "decimal")?.value;
  const day = new Intl.DateTimeFormat(language, { day: "numeric", month: "numeric" }).formatToParts(new Date(0));
  const isMonthFirst = day.find(({ type }) => type === "day" || type === "month")?.type === "month";
  const isTwelve = new Intl.DateTimeFormat(language, { hour: "numeric" }).resolvedOptions().hour12 === true;
  return {
    decimal: sample === "," ? "comma" : "point",
    dates: isMonthFirst && isTwelve ? "month-first" : "day-first",
  };
}

/**
 * What lengths are measured in on a site: feet where the supply is split phase, with its 120/240 V, metres elsewhere.
 *
 * @example lengthsOfSupply("split-phase") // "us"
 */
export function lengthsOfSupply(system: "single-phase" | "split-phase" | "three-phase"): NumberStyle["lengths"] {
  return system === "split-phase" ? "us" : "metric";
}
