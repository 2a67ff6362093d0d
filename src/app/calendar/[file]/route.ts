import { calendarResponse } from "@/app/api/calendar";
import { answered, errorResponse } from "@/app/api/respond";
import { isCalendarLink } from "@/db/calendarLink";
import { manyDeadlines } from "@/db/deadline";

const FILE = /^(.+)\.ics$/;

interface Context {
  readonly params: Promise<{ file: string }>;
}

/** The calendar of all open deadlines, for whoever has its link: calendar programs ask for it again and again. */
export function GET(_: Request, { params }: Context): Promise<Response> {
  return answered(async () => {
    const token = FILE.exec((await params).file)?.[1];
    if (token === undefined || !(await isCalendarLink(token)))
      return errorResponse("not-found", "There is no such calendar, or its link was ended.");
    return calendarResponse("Deadlines of all jobs", await manyDeadlines());
  });
}
