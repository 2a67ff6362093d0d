import { createEvents, type DateTime } from "ics";
import { errorResponse, PRIVATE } from "@/app/api/respond";
import { withJob, type JobContext } from "@/app/api/v1/jobs/withJob";

/** The deadlines of a job as a calendar file (RFC 5545), each with its reminder; those that are done are left out. */
export function GET(_: Request, context: JobContext): Promise<Response> {
  return withJob(context, ({ document }) => {
    const open = document.deadlines.filter(({ doneOn }) => doneOn === undefined);
    const { error, value } = createEvents(
      open.map(({ id, what, on, remindDays, lost }) => ({
        uid: `${id}@gormit`,
        productId: "gormit",
        calName: `Deadlines, ${document.job.name}`,
        start: dayOf(on),
        duration: { days: 1 },
        title: `${what}: ${document.job.name}`,
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
  });
}

function dayOf(date: string): DateTime {
  const [year, month, day] = date.split("-").map(Number);
  return [year!, month!, day!];
}
