import { z } from "zod";
import type { JobSummary } from "@/core/jobSummary";
import { storedJobSchema } from "@/core/job/storedJob";
import type { JobDocument } from "@/core/job/jobDocument";
import { visitEntrySchema, type VisitEntry } from "@/core/visit/visitEntry";
import { query, transaction, type Queryable } from "@/db/client";

const dueSchema = z.object({ job_id: z.uuid(), mark: z.string() });
const groundSchema = z.object({ revision: z.int(), document: storedJobSchema, entries: z.array(visitEntrySchema) });

/** A job whose summary knows less than its log. */
export interface DueSummary {
  readonly jobId: string;
  /** Another one as soon as there is more to sum up. */
  readonly mark: string;
}

/** What a summary is made from. */
export interface SummaryGround {
  readonly revision: number;
  readonly document: JobDocument;
  /** The last entry about each step, in the order of the log: earlier ones say nothing of where a step stands. */
  readonly entries: readonly VisitEntry[];
}

/** Note, in the transaction that changes it, that a job which has a log is to be summed up anew. */
export async function markSummaryDue(client: Queryable, jobId: string): Promise<void> {
  await client.query(
    `
    insert into summary_due (job_id) select $1 where exists (select from visit_entry where job_id = $1)
    on conflict (job_id) do update set mark = default`,
    [jobId],
  );
}

/** The jobs that are due, those first that a list shows first; at most so many. */
export async function manyDueSummaries(most: number): Promise<readonly DueSummary[]> {
  const rows = await query(
    "select job_id, mark from summary_due join job on job.id = job_id where deleted_at is null " +
      "order by updated_at desc, job_id limit $1",
    [most],
  );
  return rows.map((row) => dueSchema.parse(row)).map(({ job_id, mark }) => ({ jobId: job_id, mark }));
}

/** What a job's summary is made from; undefined when there is no such job, or it cannot be read. */
export async function maybeSummaryGround(jobId: string): Promise<SummaryGround | undefined> {
  const [row] = await query(
    `
    select revision, document, (
      select coalesce(jsonb_agg(body order by sequence), '[]') from (
        select distinct on (step) body, sequence from visit_entry
        where job_id = job.id and kind in ('start', 'result', 'skip', 'reopen') order by step, sequence desc
      ) last
    ) as entries from job where id = $1`,
    [jobId],
  );
  const read = groundSchema.safeParse(row);
  return read.success ? read.data : undefined;
}

/**
 * Keep a summary of a revision, unless there is a later one by now. The job is due no more if nothing was recorded or
 * saved since; without a summary, what is due is only let go.
 */
export async function keepSummary(
  { jobId, mark }: DueSummary,
  made: { readonly revision: number; readonly summary: JobSummary } | undefined,
): Promise<void> {
  await transaction(`job ${jobId}`, async (client) => {
    if (made)
      await client.query("update job set summary = $3 where id = $1 and revision = $2", [
        jobId,
        made.revision,
        made.summary,
      ]);
    await client.query("delete from summary_due where job_id = $1 and mark = $2", [jobId, mark]);
  });
}
