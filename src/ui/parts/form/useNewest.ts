"use client";

import { useEffect, useRef, type RefObject } from "react";

/**
 * Bring the last entry of a list into sight, with the hand at its first field, when the list has grown.
 *
 * @param selector Of an entry within the list.
 */
export function useNewest<E extends HTMLElement>(count: number, selector: string): RefObject<E | null> {
  const list = useRef<E>(null);
  const before = useRef(count);
  useEffect(() => {
    const hasGrown = count > before.current;
    before.current = count;
    // What came from elsewhere takes no focus away from who works in another place.
    if (!hasGrown || !list.current?.contains(document.activeElement)) return;
    const newest = [...list.current.querySelectorAll<HTMLElement>(selector)].at(-1);
    newest?.scrollIntoView({ block: "nearest" });
    newest?.querySelector<HTMLElement>("input")?.focus({ preventScroll: true });
  }, [count, selector]);
  return list;
}
