import { localText, type NumberStyle } from "@/core/numberStyle";
import { capital } from "@/core/words";

/** A number that stands in a sentence, in digits with a decimal point. */
export interface Figure {
  readonly figure: string;
}

/**
 * A text whose figures stand apart from its words: whoever shows it writes the figures as their person does, and a name
 * with digits in it is never taken for a number.
 */
export type Sentence = string | readonly (string | Figure)[];

/** The units that follow the site, right behind their figure; m of mm², min and mA is none. */
const SITE_UNIT = /^ (?:m(?![\w²·])|mm²|N·m)/;

/**
 * A sentence from a template: numbers in it are its figures, texts stay as they are, sentences become part of it.
 *
 * @example said`${"Roof 2.1"}: ${1.5} kW` // ["Roof 2.1: ", { figure: "1.5" }, " kW"]
 */
export function said(
  texts: TemplateStringsArray,
  ...values: readonly (string | number | Figure | Sentence | undefined)[]
): Sentence {
  const parts: (string | Figure)[] = [];
  const add = (part: string | Figure) => {
    const last = parts.at(-1);
    if (part === "") return;
    if (typeof part === "string" && typeof last === "string") parts[parts.length - 1] = last + part;
    else parts.push(part);
  };
  texts.forEach((text, at) => {
    add(text);
    const value = values[at];
    if (typeof value === "number") add({ figure: String(value) });
    else if (typeof value === "string" || isFigure(value)) add(value);
    else value?.forEach(add);
  });
  return parts.every((part) => typeof part === "string") ? parts.join("") : parts;
}

/**
 * A figure whose digits are given already, as those of a fixed number of decimals.
 *
 * @example figure("62.70") // { figure: "62.70" }
 */
export function figure(digits: string): Figure {
  return { figure: digits };
}

/**
 * A sentence with a capital letter.
 *
 * @example capitalised(said`input ${2}`) // ["Input ", { figure: "2" }]
 */
export function capitalised(sentence: Sentence): Sentence {
  if (typeof sentence === "string") return capital(sentence);
  const [first, ...rest] = sentence;
  return typeof first === "string" ? [capital(first), ...rest] : sentence;
}

/**
 * Sentences one after the other.
 *
 * @example joinedSentences(["a", said`${1.5} W`], "; ") // ["a; ", { figure: "1.5" }, " W"]
 */
export function joinedSentences(sentences: readonly Sentence[], between: string): Sentence {
  return sentences.reduce<Sentence>((all, next, at) => (at === 0 ? next : said`${all}${between}${next}`), "");
}

/**
 * Parts of a sentence right behind each other, where one is too long for a line.
 *
 * @example together("Set it ", said`to ${4.5} W`) // ["Set it to ", { figure: "4.5" }, " W"]
 */
export function together(...parts: readonly Sentence[]): Sentence {
  return joinedSentences(parts, "");
}

/**
 * Sentences as a list in words.
 *
 * @example allOf(["a", "b", "c"]) // "a, b and c"
 */
export function allOf(sentences: readonly Sentence[]): Sentence {
  const last = sentences.at(-1) ?? "";
  return sentences.length < 2 ? last : said`${joinedSentences(sentences.slice(0, -1), ", ")} and ${last}`;
}

/**
 * A sentence as English writes it, in metres.
 *
 * @example plainText(said`${1.5} m`) // "1.5 m"
 */
export function plainText(sentence: Sentence): string {
  return shownText(sentence, { decimal: "point", lengths: "metric" });
}

/**
 * A sentence with its figures as a person writes them.
 *
 * @example shownText(said`Roof ${"2.1"}: ${1.5} kW`, { decimal: "comma", lengths: "metric" }) // "Roof 2.1: 1,5 kW"
 * @example shownText(said`${12} m of cable`, { decimal: "point", lengths: "us" }) // "39.4 ft of cable"
 */
export function shownText(sentence: Sentence, style: NumberStyle): string {
  if (typeof sentence === "string") return sentence;
  return sentence
    .map((part, at) => {
      if (typeof part === "string") return isFigure(sentence[at - 1]) ? part.replace(SITE_UNIT, "") : part;
      return localText(`${part.figure}${unitBehind(sentence[at + 1])}`, style);
    })
    .join("");
}

function unitBehind(part: string | Figure | undefined): string {
  return (typeof part === "string" && SITE_UNIT.exec(part)?.[0]) || "";
}

function isFigure(part: unknown): part is Figure {
  return typeof part === "object" && part !== null && "figure" in part;
}
