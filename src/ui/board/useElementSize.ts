"use client";

import { useEffect, useState, type RefObject } from "react";

/** px. */
export interface ElementSize {
  readonly width: number;
  readonly height: number;
}

/** The size of an element, followed as it changes; undefined until it is known. */
export function useElementSize(element: RefObject<HTMLElement | null>): ElementSize | undefined {
  const [size, setSize] = useState<ElementSize | undefined>();
  useEffect(() => {
    if (!element.current) return;
    const observer = new ResizeObserver(([entry]) => {
      if (entry) setSize({ width: entry.contentRect.width, height: entry.contentRect.height });
    });
    observer.observe(element.current);
    return () => observer.disconnect();
  }, [element]);
  return size;
}
