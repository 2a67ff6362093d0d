import { z } from "zod";
import { errorResponse } from "@/app/api/respond";
import { withJob, type JobContext } from "@/app/api/v1/jobs/withJob";
import { csvResponse } from "@/app/library/csv";
import { REGISTRATION_COLUMNS, receiversOf, registrationRows } from "@/core/handover/registration/registrationTable";
import { registrationsOf } from "@/core/handover/registration/registrationsDue";
import { manyVisitEntries } from "@/db/visitEntry";

const receiverSchema = z.string().max(200).optional();

/** The registrations of a job, all or those that go to one receiver. */
export function GET(request: Request, context: JobContext): Promise<Response> {
  return withJob(context, async ({ id, document }) => {
    const asked = receiverSchema.safeParse(new URL(request.url).searchParams.get("receiver") ?? undefined).data;
    const due = registrationsOf(document, await manyVisitEntries(id));
    const receiver = receiversOf(due).find((own) => own.id === asked);
    if (asked !== undefined && !receiver)
      return errorResponse("invalid", "Nothing of this job goes there.", [
        {
          path: ["receiver"],
          message: `is none of ${
            receiversOf(due)
              .map((own) => own.id)
              .join(", ") || "none"
          }`,
        },
      ]);
    const rows = registrationRows(receiver?.due ?? due, document.registration.installedOn);
    return csvResponse("registrations", { rows, columns: [...REGISTRATION_COLUMNS] });
  });
}
