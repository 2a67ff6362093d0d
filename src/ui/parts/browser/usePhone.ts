"use client";

import { useSyncExternalStore } from "react";

/** Below this a page is held in one hand; the same width as in the style sheet. */
const PHONE = "(max-width: 767.98px)";

/** Whether the page is as wide as a phone; a server takes it for none. */
export function usePhone(): boolean {
  return useSyncExternalStore(
    (changed) => {
      const media = window.matchMedia(PHONE);
      media.addEventListener("change", changed);
      return () => media.removeEventListener("change", changed);
    },
    () => window.matchMedia(PHONE).matches,
    () => false,
  );
}
