"use client";

import { useRef } from "react";

/**
 * Ids for things that are asked to be made: the same request, sent again since its answer was lost, goes under the same
 * id and makes one thing. `done` ends that: the same request after it is meant to make another.
 */
export function useRepeatableId(): { readonly idFor: (request: string) => string; readonly done: () => void } {
  const asked = useRef<{ readonly request: string; readonly id: string } | undefined>(undefined);
  return {
    idFor: (request) => {
      if (asked.current?.request !== request) asked.current = { request, id: crypto.randomUUID() };
      return asked.current.id;
    },
    done: () => {
      asked.current = undefined;
    },
  };
}
