"use client";

import { useSearchParams } from "next/navigation";
import type { PartList } from "@/ui/parts/show/PartTabs";

/**
 * Which part of a stage is shown: the one that the address names, so that a reload or a shared link comes back to it,
 * else the first.
 */
export function usePart<P extends string>(parts: PartList<P>): readonly [P, (part: P) => void] {
  const params = useSearchParams();
  const asked = params.get("part");
  const part = parts.find(({ id }) => id === asked)?.id ?? parts[0].id;
  const show = (next: P) => {
    const changed = new URLSearchParams(params);
    changed.set("part", next);
    window.history.replaceState(null, "", `?${changed}`);
  };
  return [part, show];
}
