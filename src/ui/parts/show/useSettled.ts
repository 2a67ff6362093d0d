"use client";

import { useEffect, useState } from "react";

/** A value as it was when it last rested for so long; the first one at once. */
export function useSettled<T>(value: T, restMs: number): T {
  const [settled, setSettled] = useState(value);
  useEffect(() => {
    if (value === settled) return;
    const timer = setTimeout(() => setSettled(() => value), restMs);
    return () => clearTimeout(timer);
  }, [value, settled, restMs]);
  return settled;
}
