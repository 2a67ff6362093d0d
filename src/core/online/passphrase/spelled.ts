import { otherReadings } from "@/core/online/passphrase/lookAlikes";

/** One character as it is shown and said. */
export interface SpelledCharacter {
  readonly character: string;
  readonly words: string;
  /** What it is taken for. */
  readonly mistakenFor: readonly string[];
}

const GROUP = 4;
const DIGITS = ["zero", "one", "two", "three", "four", "five", "six", "seven", "eight", "nine"];
/** ITU and ICAO spelling alphabet, in English spelling. */
const LETTERS = [
  "Alfa",
  "Bravo",
  "Charlie",
  "Delta",
  "Echo",
  "Foxtrot",
  "Golf",
  "Hotel",
  "India",
  "Juliett",
  "Kilo",
  "Lima",
  "Mike",
  "November",
  "Oscar",
  "Papa",
  "Quebec",
  "Romeo",
  "Sierra",
  "Tango",
  "Uniform",
  "Victor",
  "Whiskey",
  "X-ray",
  "Yankee",
  "Zulu",
];
const SIGNS: Readonly<Record<string, string>> = {
  " ": "space",
  "!": "exclamation mark",
  '"': "double quote",
  "#": "hash",
  $: "dollar",
  "%": "per cent",
  "&": "and sign",
  "'": "apostrophe",
  "(": "bracket open",
  ")": "bracket close",
  "*": "star",
  "+": "plus",
  ",": "comma",
  "-": "minus",
  ".": "dot",
  "/": "slash",
  ":": "colon",
  ";": "semicolon",
  "<": "less than",
  "=": "equals",
  ">": "greater than",
  "?": "question mark",
  "@": "at sign",
  "[": "square bracket open",
  "\\": "backslash",
  "]": "square bracket close",
  "^": "caret",
  _: "underscore",
  "`": "backtick",
  "{": "brace open",
  "|": "vertical bar",
  "}": "brace close",
  "~": "tilde",
};

/**
 * A passphrase character by character: as it is said, and what each is taken for.
 *
 * For example: "a0" is "small Alfa" and "zero", and the zero is taken for O and o.
 */
export function spelled(passphrase: string): readonly SpelledCharacter[] {
  const readings = otherReadings(passphrase);
  return [...passphrase].map((character, at) => ({
    character,
    words: characterWords(character),
    mistakenFor: [
      ...new Set(readings.filter((own) => at >= own.at && at < own.at + own.length).map(({ instead }) => instead)),
    ],
  }));
}

/**
 * Text in groups of four, as it is compared by eye.
 *
 * @example inGroups("abcdefghij") // ["abcd", "efgh", "ij"]
 */
export function inGroups(passphrase: string): readonly string[] {
  const characters = [...passphrase];
  return Array.from({ length: Math.ceil(characters.length / GROUP) }, (_, at) =>
    characters.slice(at * GROUP, (at + 1) * GROUP).join(""),
  );
}

function characterWords(character: string): string {
  if (/^[0-9]$/.test(character)) return DIGITS[Number(character)]!;
  const letter = LETTERS[character.toLowerCase().charCodeAt(0) - "a".charCodeAt(0)];
  if (letter && /^[a-z]$/.test(character)) return `small ${letter}`;
  if (letter && /^[A-Z]$/.test(character)) return `capital ${letter}`;
  return SIGNS[character] ?? `the sign ${character}`;
}
