"use client";

import { useCallback, useSyncExternalStore } from "react";

const KEY = "gormit-person";
const CHANGED = "gormit-person-changed";

function subscribe(listener: () => void): () => void {
  window.addEventListener(CHANGED, listener);
  window.addEventListener("storage", listener);
  return () => {
    window.removeEventListener(CHANGED, listener);
    window.removeEventListener("storage", listener);
  };
}

/** Who works on this device; empty until somebody said. */
export function readPerson(): string {
  return localStorage.getItem(KEY) ?? "";
}

/** Who works on this device: typed or picked once, and on every entry from then on. */
export function usePerson(): { readonly person: string; readonly setPerson: (name: string) => void } {
  const person = useSyncExternalStore(subscribe, readPerson, () => "");
  const setPerson = useCallback((name: string) => {
    localStorage.setItem(KEY, name);
    window.dispatchEvent(new Event(CHANGED));
  }, []);
  return { person, setPerson };
}
