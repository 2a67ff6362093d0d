"use client";

import { useCallback } from "react";
import { localText, numberStyleSchema, usualNumberStyle, type NumberStyle } from "@/core/numberStyle";
import { browserSetting, useBrowserSetting } from "@/ui/parts/browserSetting";

const SERVER_STYLE: NumberStyle = { decimal: "point", lengths: "metric" };

const setting = browserSetting("gormit-number-style", numberStyleSchema, () => usualNumberStyle(navigator.language));

/** How numbers are written here: as chosen in this browser, else as its language writes them. */
export function useNumberStyle(): NumberStyle {
  return useBrowserSetting(setting, SERVER_STYLE);
}

/** A function that writes the decimals of a text as the user does. */
export function useSay(): (text: string) => string {
  const style = useNumberStyle();
  return useCallback((text: string) => localText(text, style), [style]);
}

export function chooseNumberStyle(style: NumberStyle): void {
  setting.choose(style);
}
