"use client";

import { format, parseISO } from "date-fns";
import { createContext, useCallback, useContext, useMemo } from "react";
import { localText, personStyleSchema, usualPersonStyle, type NumberStyle, type PersonStyle } from "@/core/numberStyle";
import { shownText, type Sentence } from "@/core/sentence";
import { threeDigits } from "@/core/units";
import { browserSetting, useBrowserSetting } from "@/ui/parts/browser/browserSetting";

const SERVER_STYLE: PersonStyle = { decimal: "point", dates: "day-first" };
const FORMATS = {
  "day-first": {
    day: "d MMM yyyy",
    minute: "d MMM HH:mm",
    full: "d MMM yyyy HH:mm",
    clock: "HH:mm",
    second: "HH:mm:ss",
  },
  "month-first": {
    day: "MMM d, yyyy",
    minute: "MMM d, h:mm a",
    full: "MMM d, yyyy, h:mm a",
    clock: "h:mm a",
    second: "h:mm:ss a",
  },
} as const satisfies Record<PersonStyle["dates"], object>;

const ISO_DAY = /\b\d{4}-\d{2}-\d{2}\b/g;

const setting = browserSetting("gormit-number-style", personStyleSchema, () => usualPersonStyle(navigator.language));

/** What lengths are measured in here: as the supply of the open job has it. */
export const LengthsHere = createContext<NumberStyle["lengths"]>("metric");

/** How this browser's person writes decimals and days. */
export function usePersonStyle(): PersonStyle {
  return useBrowserSetting(setting, SERVER_STYLE);
}

/** How numbers are written here: decimals as the person writes them, lengths as the site measures them. */
export function useNumberStyle(): NumberStyle {
  const { decimal } = usePersonStyle();
  const lengths = useContext(LengthsHere);
  return useMemo(() => ({ decimal, lengths }), [decimal, lengths]);
}

/** How much of a time is written. */
export type TimePart = keyof (typeof FORMATS)["day-first"];

/** A function that writes a time, ISO 8601, as the person does. */
export function useWhen(): (at: string, part: TimePart) => string {
  const { dates } = usePersonStyle();
  return useCallback((at: string, part: TimePart) => format(parseISO(at), FORMATS[dates][part]), [dates]);
}

/** Names that somebody gave and that may stand in a sentence: they are no numbers, whatever is in them. */
export const NamesGiven = createContext<readonly string[]>([]);

/** A function that writes a sentence with its figures as the user writes them. */
export function useSaid(): (sentence: Sentence) => string {
  const style = useNumberStyle();
  return useCallback((sentence: Sentence) => shownText(sentence, style), [style]);
}

/** A function that writes the decimals of a text as the user does, and leaves names as they were given. */
export function useSay(): (text: string) => string {
  const style = useNumberStyle();
  const names = useContext(NamesGiven);
  return useCallback((text: string) => localText(text, style, names), [style, names]);
}

/** A function that writes a value with three digits that count, as the user writes numbers. */
export function useThreeDigits(): (value: number) => string {
  const say = useSay();
  return useCallback((value: number) => say(String(threeDigits(value))), [say]);
}

export function choosePersonStyle(style: PersonStyle): void {
  setting.choose(style);
}

/** The same where days stand in what is said: each as the person writes it, and never broken over two lines. */
export function useSayDays(): (text: string) => string {
  const say = useSay();
  const when = useWhen();
  return useCallback(
    (text: string) => say(text).replace(ISO_DAY, (day) => when(day, "day").replaceAll(" ", "\u00A0")),
    [say, when],
  );
}
