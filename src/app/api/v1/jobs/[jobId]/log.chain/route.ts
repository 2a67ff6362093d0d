import { chainText } from "@/app/api/bundle";
import { PRIVATE } from "@/app/api/respond";
import { withJob, type JobContext } from "@/app/api/v1/jobs/withJob";
import { manyChainedLines } from "@/db/visitChain";

/** The log as it was hashed: a line each, its hash, a space, its text. `npm run check-log` checks such a file. */
export function GET(_: Request, context: JobContext): Promise<Response> {
  return withJob(context, async ({ id }) => {
    return new Response(chainText(await manyChainedLines(id)), {
      headers: {
        ...PRIVATE,
        "content-type": "text/plain; charset=utf-8",
        "content-disposition": 'attachment; filename="log.chain"',
      },
    });
  });
}
