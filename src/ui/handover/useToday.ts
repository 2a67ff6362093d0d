"use client";

import { format } from "date-fns";
import { useNow } from "@/ui/visit/useNow";

const LOOK_EVERY_MS = 60_000;

/**
 * The day where the person is, as 2026-11-25.
 *
 * @param before What is taken for it until the page runs in a browser: the server's day, or nothing.
 */
export function useToday(before = ""): string {
  const now = useNow(LOOK_EVERY_MS);
  return now === undefined ? before : format(new Date(now), "yyyy-MM-dd");
}
