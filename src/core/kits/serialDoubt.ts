import { isQuickPattern } from "@/core/kits/quickPattern";

/** Characters that are mistaken for each other on a worn plate or by a camera. */
const LOOK_ALIKE: Readonly<Record<string, string>> = {
  O: "0",
  Q: "0",
  D: "0",
  I: "1",
  L: "1",
  Z: "2",
  S: "5",
  G: "6",
  B: "8",
  "0": "O",
  "1": "I",
  "2": "Z",
  "5": "S",
  "6": "G",
  "8": "B",
};
/** More exchanges than this would be guessing. */
const MOST_SWAPS = 4;
/** Ways that are tried at most: a long number of look-alikes has millions. */
const MOST_WAYS = 2_000;

/** Why a serial number does not look like one of its kit, and what it may be. */
export interface SerialDoubt {
  /** What one looks like, in words. */
  readonly words: string;
  /** The same with look-alikes exchanged, where just that makes it fit. */
  readonly instead: string | undefined;
}

/**
 * What speaks against a serial number; undefined where it fits, no pattern is known, or the pattern is not one
 * that is quickly tried. A doubt never forbids it: a maker's numbers change.
 *
 * @example serialDoubt("^GKF[0-9]{7}$", "GKF123456O")
 * // { words: "GKF, then 7 digits", instead: "GKF1234560" }
 */
export function serialDoubt(pattern: string | undefined, serial: string): SerialDoubt | undefined {
  const typed = serial.trim();
  if (pattern === undefined || typed === "" || !isQuickPattern(pattern)) return undefined;
  const fits = new RegExp(pattern);
  if (fits.test(typed)) return undefined;
  return { words: patternWords(pattern), instead: swapped(typed.toUpperCase(), fits) };
}

/** A simple pattern as an electrician would say it; any other as it stands. */
function patternWords(pattern: string): string {
  const parts = [...pattern.replace(/^\^|\$$/g, "").matchAll(/\[([^\]]+)\](?:\{(\d+)\})?|([^[\]{}()|*+?\\.]+)/g)];
  const isSimple = parts.map(([all]) => all).join("") === pattern.replace(/^\^|\$$/g, "");
  if (!isSimple || parts.length === 0) return `as the pattern ${pattern} says`;
  return parts
    .map(([all, set, count]) => {
      if (set === undefined) return all;
      const number = Number(count ?? 1);
      const what = set === "0-9" ? "digit" : set === "A-Z" ? "capital letter" : `character of ${set}`;
      return `${number} ${what}${number === 1 ? "" : "s"}`;
    })
    .join(", then ");
}

/** The first way of exchanging look-alikes that fits, the fewest first. */
function swapped(typed: string, fits: RegExp): string | undefined {
  if (fits.test(typed)) return typed;
  const places = [...typed].flatMap((character, at) => (LOOK_ALIKE[character] === undefined ? [] : [at]));
  let ways: readonly string[] = [typed];
  for (let count = 0; count < MOST_SWAPS && ways.length * places.length <= MOST_WAYS; count++) {
    ways = [...new Set(ways.flatMap((way) => places.map((at) => withSwap(way, at))))];
    const good = ways.find((way) => fits.test(way));
    if (good !== undefined) return good;
  }
  return undefined;
}

function withSwap(text: string, at: number): string {
  return text.slice(0, at) + (LOOK_ALIKE[text[at]!] ?? text[at]!) + text.slice(at + 1);
}
