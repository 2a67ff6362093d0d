import { createEvents, type DateTime } from "ics";
import { errorResponse, PRIVATE } from "@/app/api/respond";
import type { JobDeadline } from "@/core/handover/jobDeadlines";

/** A year of fewer digits, a slip of the keys, would make the whole calendar unreadable. */
const FIRST_DAY = "1000-01-01";

/** A deadline as a calendar shows it. */
export type CalendarDeadline = JobDeadline & { readonly jobId: string; readonly job: string };

/**
 * Deadlines as a calendar file (RFC 5545), each with its reminder; those that are done are left out. Each keeps its
 * name, so that a calendar which asks again changes it and makes no second one.
 */
export function calendarResponse(name: string, deadlines: readonly CalendarDeadline[]): Response {
  const { error, value } = createEvents(
    deadlines
      .filter(({ doneOn, on }) => doneOn === undefined && on >= FIRST_DAY)
      .map(({ id, what, on, remindDays, lost, job, jobId }) => ({
        uid: `${jobId}.${encodeURIComponent(id)}@gormit`,
        productId: "gormit",
        calName: name,
        start: dayOf(on),
        duration: { days: 1 },
        title: `${what}: ${job}`,
        description: lost === "" ? what : `${what}. When it is late: ${lost}`,
        alarms: [{ action: "display" as const, description: what, trigger: { days: remindDays, before: true } }],
      })),
  );
  if (error || value === undefined) return errorResponse("cannot-compute", "The calendar could not be written.");
  return new Response(value, {
    headers: {
      ...PRIVATE,
      "content-type": "text/calendar; charset=utf-8",
      "content-disposition": 'attachment; filename="deadlines.ics"',
    },
  });
}

function dayOf(date: string): DateTime {
  const [year, month, day] = date.split("-").map(Number);
  return [year!, month!, day!];
}
