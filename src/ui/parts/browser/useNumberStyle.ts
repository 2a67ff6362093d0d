"use client";

import { createContext, useCallback, useContext } from "react";
import { localText, numberStyleSchema, usualNumberStyle, type NumberStyle } from "@/core/numberStyle";
import { shownText, type Sentence } from "@/core/sentence";
import { threeDigits } from "@/core/units";
import { browserSetting, useBrowserSetting } from "@/ui/parts/browser/browserSetting";

const SERVER_STYLE: NumberStyle = { decimal: "point", lengths: "metric" };

const setting = browserSetting("gormit-number-style", numberStyleSchema, () => usualNumberStyle(navigator.language));

/** How numbers are written here: as chosen in this browser, else as its language writes them. */
export function useNumberStyle(): NumberStyle {
  return useBrowserSetting(setting, SERVER_STYLE);
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

export function chooseNumberStyle(style: NumberStyle): void {
  setting.choose(style);
}
