import { z } from "zod";
import { ownerLanguageSchema } from "@/app/api/ownerLanguageSchema";
import { reportQuerySchema } from "@/app/api/reportQuery";
import { errorResponse } from "@/app/api/respond";
import { withJob, type JobContext } from "@/app/api/v1/jobs/withJob";
import { printResponse } from "@/app/threads/printThreads";
import { ownerPage } from "@/core/handover/owner/ownerPage";
import { problemsOf } from "@/core/problem";

const querySchema = z.object({ paper: reportQuerySchema.shape.paper, language: ownerLanguageSchema.default("en") });

/** What the owner reads, as a sheet to leave there. */
export function GET(request: Request, context: JobContext): Promise<Response> {
  const query = querySchema.safeParse(Object.fromEntries(new URL(request.url).searchParams));
  return withJob(context, ({ document }) =>
    query.success
      ? printResponse(request, {
          name: "owner",
          input: { page: ownerPage(document, query.data.language), paper: query.data.paper },
        })
      : errorResponse("invalid", "The sheet cannot be made so.", problemsOf(query.error).problems),
  );
}
