import { answerBy, answered } from "@/app/api/respond";
import { privateLinkSchema } from "@/core/handover/privateLink";
import { endCalendarLink, makeCalendarLink, maybeCalendarLinkTime } from "@/db/calendarLink";

/** Whether the calendar of all deadlines has a private link, and since when. */
export function GET(): Promise<Response> {
  return answered(async () => answerBy(privateLinkSchema, { madeAt: await madeAt() }));
}

/** A new link, in place of the one before, which ends. */
export function POST(): Promise<Response> {
  return answered(async () => {
    const path = `/calendar/${await makeCalendarLink()}.ics`;
    return answerBy(privateLinkSchema, { madeAt: await madeAt(), path }, { status: 201 });
  });
}

/** End the link. */
export function DELETE(): Promise<Response> {
  return answered(async () => {
    await endCalendarLink();
    return new Response(null, { status: 204 });
  });
}

async function madeAt(): Promise<string | null> {
  return (await maybeCalendarLinkTime())?.toISOString() ?? null;
}
