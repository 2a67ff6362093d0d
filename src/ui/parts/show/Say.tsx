"use client";

import { useSay } from "@/ui/parts/browser/useNumberStyle";

/** A text of the core with its numbers written as the user writes them. */
export function Say({ children }: { children: string }) {
  return useSay()(children);
}
