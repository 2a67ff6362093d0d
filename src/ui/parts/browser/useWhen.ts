"use client";

import { addMinutes, format, parseISO } from "date-fns";
import { useCallback } from "react";
import type { PersonStyle } from "@/core/numberStyle";
import { usePersonStyle, useSay } from "@/ui/parts/browser/useNumberStyle";
import { useServed } from "@/ui/parts/browser/useServed";

const FORMATS = {
  "day-first": {
    day: "d MMM yyyy",
    minute: "d MMM HH:mm",
    full: "d MMM yyyy HH:mm",
    clock: "HH:mm",
    second: "HH:mm:ss",
  },
  "month-first": {
    day: "MMM d, yyyy",
    minute: "MMM d, h:mm a",
    full: "MMM d, yyyy, h:mm a",
    clock: "h:mm a",
    second: "h:mm:ss a",
  },
} as const satisfies Record<PersonStyle["dates"], object>;

/** A day, or a moment as what is kept for long has it. */
const DAY_OR_MOMENT = /\b(\d{4}-\d{2}-\d{2})(?: (\d{2}:\d{2}) UTC)?\b/g;

/** How much of a time is written. */
export type TimePart = keyof (typeof FORMATS)["day-first"];

/**
 * A function that writes a time, ISO 8601, as the person does and where they are. What a server draws is in UTC until
 * the page runs, so that both draw the same.
 */
export function useWhen(): (at: string, part: TimePart) => string {
  const { dates } = usePersonStyle();
  const isServed = useServed();
  return useCallback(
    (at: string, part: TimePart) => format(isServed ? inUtc(at) : parseISO(at), FORMATS[dates][part]),
    [dates, isServed],
  );
}

/** A function that writes a sentence's decimals, days and moments as the person does. */
export function useSayDays(): (text: string) => string {
  const say = useSay();
  const when = useWhen();
  return useCallback(
    (text: string) =>
      say(text).replace(DAY_OR_MOMENT, (_all, day: string, time: string | undefined) =>
        (time === undefined ? when(day, "day") : when(`${day}T${time}Z`, "full")).replaceAll(" ", "\u00A0"),
      ),
    [say, when],
  );
}

/** A moment whose clock here is what it is in UTC; a day alone is the same everywhere. */
function inUtc(at: string): Date {
  const moment = parseISO(at);
  return at.includes("T") ? addMinutes(moment, moment.getTimezoneOffset()) : moment;
}
