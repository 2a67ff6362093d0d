"use client";

import { useCallback, useSyncExternalStore } from "react";
import { localText, numberStyleSchema, usualNumberStyle, type NumberStyle } from "@/core/numberStyle";

const KEY = "gormit-number-style";
const SERVER_STYLE: NumberStyle = { decimal: "point", lengths: "metric" };

const listeners = new Set<() => void>();
let current: NumberStyle | undefined;

/** How numbers are written here: as chosen in this browser, else as its language writes them. */
export function useNumberStyle(): NumberStyle {
  return useSyncExternalStore(subscribe, read, () => SERVER_STYLE);
}

/** A function that writes the decimals of a text as the user does. */
export function useSay(): (text: string) => string {
  const style = useNumberStyle();
  return useCallback((text: string) => localText(text, style), [style]);
}

export function chooseNumberStyle(style: NumberStyle): void {
  current = style;
  try {
    localStorage.setItem(KEY, JSON.stringify(style));
  } catch {
    // A browser that keeps nothing forgets the choice with the page; it still holds until then.
  }
  for (const listener of listeners) listener();
}

function subscribe(listener: () => void): () => void {
  listeners.add(listener);
  return () => listeners.delete(listener);
}

function read(): NumberStyle {
  current ??= kept() ?? usualNumberStyle(navigator.language);
  return current;
}

function kept(): NumberStyle | undefined {
  try {
    const parsed = numberStyleSchema.safeParse(JSON.parse(localStorage.getItem(KEY) ?? "null"));
    return parsed.success ? parsed.data : undefined;
  } catch {
    return undefined;
  }
}
