"use client";

import { createContext, useCallback, useContext, useMemo } from "react";
import { localText, personStyleSchema, usualPersonStyle, type NumberStyle, type PersonStyle } from "@/core/numberStyle";
import { shownText, type Sentence } from "@/core/sentence";
import { threeDigits } from "@/core/units";
import { browserSetting, useBrowserSetting } from "@/ui/parts/browser/browserSetting";

const SERVER_STYLE: PersonStyle = { decimal: "point", dates: "day-first" };
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
