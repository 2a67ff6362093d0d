"use client";

import { useEffect, useState } from "react";

/** The time, again and again; undefined until the page runs in a browser. */
export function useNow(everyMs: number): number | undefined {
  const [now, setNow] = useState<number | undefined>();
  useEffect(() => {
    const look = () => setNow(Date.now());
    const first = setTimeout(look);
    const timer = setInterval(look, everyMs);
    return () => {
      clearTimeout(first);
      clearInterval(timer);
    };
  }, [everyMs]);
  return now;
}
