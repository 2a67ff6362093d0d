"use client";

import { usePathname } from "next/navigation";
import { useSyncExternalStore, type ComponentProps } from "react";
import type { Finding } from "@/core/findings";

/** The stage that the address names. */
export function useStage(): string | undefined {
  return usePathname().split("/")[3];
}

let moves = 0;
const listeners = new Set<() => void>();

/** Counts the moves: a link to the place that is shown already starts it anew. */
export function useMoves(): number {
  return useSyncExternalStore(
    (changed) => {
      listeners.add(changed);
      return () => listeners.delete(changed);
    },
    () => moves,
    () => 0,
  );
}

/**
 * Show another place of the open job, from its top: nothing is asked of the server, so that it works where there is
 * none.
 */
export function goToStage(href: string): void {
  const { pathname, search } = window.location;
  if (pathname + search !== href) window.history.pushState(null, "", href);
  moves++;
  for (const changed of listeners) changed();
  document.querySelector("main")?.scrollTo({ top: 0 });
}

/** A link to another place of the open job; pressed with a key for a new tab it is any other link. */
export function StageLink({ href, ...props }: ComponentProps<"a"> & { readonly href: string }) {
  return (
    <a
      href={href}
      {...props}
      onClick={(event) => {
        props.onClick?.(event);
        if (event.defaultPrevented || event.button !== 0 || event.metaKey || event.ctrlKey || event.shiftKey) return;
        event.preventDefault();
        goToStage(href);
      }}
    />
  );
}

/** The place that shows what a finding or a next step is about, picked. */
export function placeOf(jobId: string, { stage, subject }: Pick<Finding, "stage" | "subject">): string {
  const base = `/jobs/${jobId}/${stage}`;
  switch (subject.kind) {
    case "node":
      return `${base}?device=${encodeURIComponent(subject.node)}`;
    case "input":
      return `${base}?meter=${encodeURIComponent(subject.meter)}&input=${subject.input}`;
    case "ct":
      return subject.meter !== undefined && subject.input !== undefined
        ? `${base}?meter=${encodeURIComponent(subject.meter)}&input=${subject.input}`
        : base;
    case "meter":
      return `${base}?meter=${encodeURIComponent(subject.meter)}`;
    case "step":
      return `${base}?step=${encodeURIComponent(subject.step)}`;
    case "link-device":
    case "job":
      return base;
  }
}
