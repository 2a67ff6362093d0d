"use client";

import { useSyncExternalStore } from "react";

/** Below this a page is held in one hand, upright or on its side; the same as in the style sheet. */
const PHONE = "(width < 48rem) or (height < 31rem)";

/** Whether the page is as small as a phone; a server takes it for none. */
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
