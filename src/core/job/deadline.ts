import { z } from "zod";
import { text } from "@/core/text";

const MOST_DAYS = 365;
const MS_A_DAY = 86_400_000;
const LAST_DAY = "9999-12-31";

/** What somebody must have done by a day: a registration, a notice, the end of the installer's own access. */
export const deadlineSchema = z.object({
  id: z.uuid().describe("Identifier"),
  what: text().trim().min(1, "say what is due").max(120, "at most 120 characters").describe("What is due"),
  on: z.iso.date("a date is written 2026-11-25").describe("The last day"),
  remindDays: z.int().min(0).max(MOST_DAYS).default(7).describe("Reminded so many days before"),
  lost: text().trim().max(200, "at most 200 characters").default("").describe("What is lost when it is late"),
  doneOn: z.iso.date().optional().describe("Done on"),
});

/** The deadlines of a job. */
export const deadlinesSchema = z.array(deadlineSchema).max(60);

/** What is due by a day. */
export type Deadline = z.output<typeof deadlineSchema>;

/** What of a deadline says how it stands. */
export type DeadlineDay = Pick<Deadline, "on" | "remindDays" | "doneOn">;

/** How a deadline stands. */
export type DueDeadline<D extends DeadlineDay = Deadline> = D & {
  /** Until its day; below 0 where it is over. */
  readonly daysLeft: number;
  readonly state: "done" | "late" | "soon" | "later";
};

/**
 * Deadlines by how near they are, those that are open first.
 *
 * For example: due on the 25th with a reminder of 7 days, on the 20th: 5 days left, soon.
 *
 * @param today As a date, 2026-11-20.
 */
export function dueDeadlines<D extends DeadlineDay>(deadlines: readonly D[], today: string): readonly DueDeadline<D>[] {
  return deadlines
    .map((own): DueDeadline<D> => {
      const daysLeft = Math.round((Date.parse(own.on) - Date.parse(today)) / MS_A_DAY);
      const state = own.doneOn ? "done" : daysLeft < 0 ? "late" : daysLeft <= own.remindDays ? "soon" : "later";
      return { ...own, daysLeft, state };
    })
    .toSorted((a, b) => Number(a.state === "done") - Number(b.state === "done") || a.daysLeft - b.daysLeft);
}

/**
 * How much time is left, in words.
 *
 * @example daysLeftText(-2) // "2 days late"
 */
export function daysLeftText(daysLeft: number): string {
  const days = Math.abs(daysLeft) === 1 ? "1 day" : `${Math.abs(daysLeft)} days`;
  return daysLeft < 0 ? `${days} late` : daysLeft === 0 ? "today" : `in ${days}`;
}

/**
 * So many days after a day; the last day that a calendar of four digits has, where that would be later.
 *
 * @example dayAfter("2026-12-24", 14) // "2027-01-07"
 */
export function dayAfter(date: string, days: number): string {
  const day = new Date(Date.parse(date) + days * MS_A_DAY).toISOString();
  // A year of five digits is written with a sign, and is no date to anybody else.
  return day.startsWith("+") ? LAST_DAY : day.slice(0, 10);
}
