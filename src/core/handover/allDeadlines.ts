import { z } from "zod";
import { jobDeadlineSchema } from "@/core/handover/jobDeadlines";

/** A deadline with the job that it is of. */
export const listedDeadlineSchema = jobDeadlineSchema.extend({ jobId: z.uuid(), job: z.string() });

/** The deadlines of all jobs. */
export const allDeadlinesSchema = z.strictObject({ deadlines: z.array(listedDeadlineSchema) });

/** A deadline with the job that it is of. */
export type ListedDeadline = z.output<typeof listedDeadlineSchema>;

/**
 * How many of the deadlines are late, and how many are within their reminder, in words; undefined where there are none.
 *
 * For example: "1 deadline is late, 2 are near".
 */
export function reminderLine(states: readonly string[]): string | undefined {
  const of = (state: string) => states.filter((own) => own === state).length;
  const [late, soon] = [of("late"), of("soon")];
  const are = (count: number) => (count === 1 ? "is" : "are");
  if (late + soon === 0) return undefined;
  if (late === 0) return `${soon} ${soon === 1 ? "deadline" : "deadlines"} ${are(soon)} near`;
  const first = `${late} ${late === 1 ? "deadline" : "deadlines"} ${are(late)} late`;
  return soon === 0 ? first : `${first}, ${soon} ${are(soon)} near`;
}
