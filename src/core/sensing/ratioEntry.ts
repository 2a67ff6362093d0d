import type { RatioForm } from "@/core/kits/ratioForm";
import type { Secondary } from "@/core/site/planSchema";
import { joinedSentences, said, type Sentence } from "@/core/sentence";
import { STANDARD_PRIMARIES_A } from "@/core/site/standardPrimaries";

/** A value that is on a step but for rounding is on it. */
const ON_STEP = 1e-6;

/** The number to type for a CT, or why there is none. */
export type RatioEntry =
  | { readonly kind: "entry"; readonly value: number; readonly text: Sentence }
  | {
      readonly kind: "not-possible";
      readonly wanted: number;
      readonly why: Sentence;
      /** Primaries that can be entered, nearest first. */
      readonly primariesA: readonly number[];
    };

/**
 * The exact number to type for a CT, or why this kit cannot hold it and which primaries it can.
 * A list is looked up by primary amperes, then by ratio.
 *
 * @example ratioEntry({ kind: "ratio", min: 1, max: 1000, step: 1 }, 600, { value: 5, unit: "A" })
 * // { kind: "entry", value: 120 }
 */
export function ratioEntry(form: RatioForm, primaryA: number, secondary: Secondary): RatioEntry {
  const value = entryIn(form, primaryA, secondary);
  if (value !== undefined) return { kind: "entry", value, text: entryText(form, value, primaryA, secondary) };
  const wanted = form.kind === "ratio" ? ratioOf(primaryA, secondary) : primaryA;
  const primariesA = STANDARD_PRIMARIES_A.filter((candidate) => entryIn(form, candidate, secondary) !== undefined);
  return {
    kind: "not-possible",
    wanted,
    why: whyNot(form, wanted),
    primariesA: primariesA.toSorted((a, b) => Math.abs(a - primaryA) - Math.abs(b - primaryA)),
  };
}

/** What a form takes, in words: "a ratio from 1 to 1000 in steps of 1". */
export function saidRatioForm(form: RatioForm): Sentence {
  switch (form.kind) {
    case "ratio":
      return said`a ratio from ${form.min} to ${form.max} in steps of ${form.step}`;
    case "primary":
      return said`primary amperes from ${form.min} to ${form.max} in steps of ${form.step}`;
    case "list":
      return said`one of ${listOf(form.values)}`;
  }
}

/** Numbers one after the other: "100, 60". */
export function listOf(values: readonly number[]): Sentence {
  return joinedSentences(
    values.map((value) => said`${value}`),
    ", ",
  );
}

function entryIn(form: RatioForm, primaryA: number, secondary: Secondary): number | undefined {
  const ratio = ratioOf(primaryA, secondary);
  switch (form.kind) {
    case "ratio":
      return onStep(form, ratio) ? plain(ratio) : undefined;
    case "primary":
      return onStep(form, primaryA) ? primaryA : undefined;
    case "list":
      return form.values.find((value) => same(value, primaryA)) ?? form.values.find((value) => same(value, ratio));
  }
}

function onStep({ min, max, step }: { min: number; max: number; step: number }, value: number): boolean {
  if (value < min * (1 - ON_STEP) || value > max * (1 + ON_STEP)) return false;
  // A step counts from the minimum in some kits and from zero in others; either can be typed.
  return [value - min, value].some(
    (distance) => Math.abs(distance / step - Math.round(distance / step)) < ON_STEP * Math.max(1, value / step),
  );
}

function whyNot(form: RatioForm, wanted: number): Sentence {
  const entry = plain(wanted);
  switch (form.kind) {
    case "list":
      return said`the list has no ${entry}`;
    default:
      if (wanted < form.min) return said`${entry} is below the least entry ${form.min}`;
      if (wanted > form.max) return said`${entry} is above the largest entry ${form.max}`;
      return said`${entry} is not on a step of ${form.step}`;
  }
}

function entryText(form: RatioForm, value: number, primaryA: number, secondary: Secondary): Sentence {
  const ct = said`${primaryA} A : ${secondary.value} ${secondary.unit}`;
  return form.kind === "primary" ? said`${value} A (${ct})` : said`${value} (${ct})`;
}

/** Primary ÷ secondary, the secondary in A or V. */
function ratioOf(primaryA: number, { value, unit }: Secondary): number {
  return primaryA / (unit === "mA" || unit === "mV" ? value / 1000 : value);
}

function same(a: number, b: number): boolean {
  return Math.abs(a - b) <= ON_STEP * Math.max(a, b);
}

/** Without the hair of a division: 120.00000000000001 is 120. */
function plain(value: number): number {
  return Number(value.toPrecision(10));
}
