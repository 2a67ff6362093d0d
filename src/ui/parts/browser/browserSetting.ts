"use client";

import { useSyncExternalStore } from "react";
import type { z } from "zod";

/** What one browser remembers for its person, in all its tabs. */
export interface BrowserSetting<T> {
  /** The same value, the same object, until it is chosen anew. */
  readonly read: () => T;
  /** `undefined` forgets it. */
  readonly choose: (value: T | undefined) => void;
  readonly subscribe: (listener: () => void) => () => void;
}

/**
 * A setting under a key of the browser's storage. What does not fit the schema counts as not chosen; a browser that
 * keeps nothing, or has no room, still holds the choice until the page goes.
 *
 * @param otherwise While nothing was chosen.
 */
export function browserSetting<S extends z.ZodType>(
  key: string,
  schema: S,
  otherwise: () => z.output<S>,
): BrowserSetting<z.output<S>> {
  const listeners = new Set<() => void>();
  let known: { readonly text: string | null; readonly value: z.output<S> } | undefined;
  /** What could not be stored. */
  let held: { readonly value: z.output<S> | undefined } | undefined;

  const read = (): z.output<S> => {
    if (held) return held.value ?? (known ??= { text: null, value: otherwise() }).value;
    const text = stored(key);
    if (known?.text !== text) known = undefined;
    known ??= { text, value: parsed(schema, text) ?? otherwise() };
    return known.value;
  };
  const tellAll = () => listeners.forEach((listener) => listener());
  const hear = (event: StorageEvent) => {
    if (event.key === key || event.key === null) tellAll();
  };
  return {
    read,
    choose: (value) => {
      held = store(key, value) ? undefined : { value };
      if (held) known = undefined;
      tellAll();
    },
    subscribe: (listener) => {
      if (listeners.size === 0) window.addEventListener("storage", hear);
      listeners.add(listener);
      return () => {
        listeners.delete(listener);
        if (listeners.size === 0) window.removeEventListener("storage", hear);
      };
    },
  };
}

/** A setting in a component; `onServer` until the browser is asked. */
export function useBrowserSetting<T>(setting: BrowserSetting<T>, onServer: T): T {
  return useSyncExternalStore(setting.subscribe, setting.read, () => onServer);
}

function stored(key: string): string | null {
  try {
    return localStorage.getItem(key);
  } catch {
    // Storage that may not be read has nothing.
    return null;
  }
}

/** Whether it could be written down. */
function store(key: string, value: unknown): boolean {
  try {
    if (value === undefined) localStorage.removeItem(key);
    else localStorage.setItem(key, JSON.stringify(value));
    return true;
  } catch {
    return false;
  }
}

/** As JSON, or as the plain text that the first version kept. */
function parsed<S extends z.ZodType>(schema: S, text: string | null): z.output<S> | undefined {
  if (text === null) return undefined;
  for (const candidate of [asJson(text), text]) {
    const outcome = schema.safeParse(candidate);
    if (outcome.success) return outcome.data;
  }
  return undefined;
}

function asJson(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    return undefined;
  }
}
