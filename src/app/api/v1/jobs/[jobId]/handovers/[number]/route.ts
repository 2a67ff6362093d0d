import { answerBy } from "@/app/api/respond";
import { withHandover, type HandoverContext } from "@/app/api/v1/jobs/withHandover";
import { handoverAnswerSchema } from "@/core/handover/version/handoverVersion";
import { reportSchema } from "@/core/handover/report/reportSchema";

/** A hand over as it was: its report, and the plan with its readings. */
export function GET(_: Request, context: HandoverContext): Promise<Response> {
  return withHandover(context, ({ report, ...kept }) =>
    answerBy(handoverAnswerSchema, { ...kept, report: reportSchema.parse(JSON.parse(report)) }),
  );
}
