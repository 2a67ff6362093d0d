"use client";

import { useSyncExternalStore } from "react";

const never = () => () => undefined;

/** Whether the page is still as a server drew it, which knows neither the clock nor the zone of its reader. */
export function useServed(): boolean {
  return useSyncExternalStore(
    never,
    () => false,
    () => true,
  );
}
