import { z } from "zod";
import { jobDocumentSchema, type JobDocument } from "@/core/job/jobDocument";
import { jobSummary, jobSummarySchema } from "@/core/job/jobSummary";
import { query, transaction, type Queryable } from "@/db/client";

const jobRowSchema = z.object({
  id: z.uuid(),
  document: jobDocumentSchema,
  revision: z.int(),
  updated_at: z.date(),
}).transform((row) => ({ id: row.id, document: row.document, revision: row.revision, savedAt: row.updated_at.toISOString() }));

const jobLineSchema = z.object({
  id: z.uuid(),
  name: z.string(),
  place: z.string(),
  summary: jobSummarySchema,
  updated_at: z.date(),
}).transform((row) => ({ id: row.id, name: row.name, place: row.place, summary: row.summary, savedAt: row.updated_at.toISOString() }));

/** A job with the revision that it is at. */
export type Job = z.output<typeof jobRowSchema>;
/** What the list of jobs shows of one. */
export type JobLine = z.output<typeof jobLineSchema>;

export type SaveOutcome =
  | { readonly kind: "saved"; readonly job: Job }
  | { readonly kind: "conflict"; readonly current: Job }
  | { readonly kind: "gone" };

const JOB_COLUMNS = "id, document, revision, updated_at";

/** All jobs that are not deleted, the one changed last first. */
export async function manyJobs(): Promise<readonly JobLine[]> {
  const rows = await query(`
    select id, name, coalesce(document -> 'job' ->> 'place', '') as place, summary, updated_at
    from job where deleted_at is null order by updated_at desc, name`);
  return rows.map((row) => jobLineSchema.parse(row));
}

/** A job, unless there is none of this id or it is deleted. */
export async function maybeJob(id: string): Promise<Job | undefined> {
  if (!z.uuid().safeParse(id).success) return undefined;
  const [row] = await query(`select ${JOB_COLUMNS} from job where id = $1 and deleted_at is null`, [id]);
  return row && jobRowSchema.parse(row);
}

/** Keep a new job at revision 1. With a demo key, does nothing and returns undefined when that demo was loaded before. */
export async function createJob(document: JobDocument, demoKey: string | null = null): Promise<Job | undefined> {
  return transaction(async (client) => {
    const { rows: [row] } = await client.query(`
      insert into job (name, document, summary, demo_key) values ($1, $2, $3, $4)
      on conflict (demo_key) do nothing returning ${JOB_COLUMNS}`,
      [document.job.name, document, jobSummary(document), demoKey]);
    if (!row) return undefined;
    const job = jobRowSchema.parse(row);
    await keepRevision(client, job);
    return job;
  });
}

/**
 * Save a job if it is still at the revision that the change was made on; else nothing is written and the
 * current version comes back, for both to be shown. A save that repeats the current version word for word
 * (sent again after a lost answer) succeeds without a new revision.
 */
export async function saveJob(id: string, revision: number, document: JobDocument): Promise<SaveOutcome> {
  return transaction(async (client): Promise<SaveOutcome> => {
    const { rows: [row] } = await client.query(`
      select ${JOB_COLUMNS}, document = $2::jsonb as same from job where id = $1 and deleted_at is null for update`,
      [id, document]);
    if (!row) return { kind: "gone" };
    const current = jobRowSchema.parse(row);
    if (row.same) return { kind: "saved", job: current };
    if (current.revision !== revision) return { kind: "conflict", current };
    const { rows: [saved] } = await client.query(`
      update job set name = $2, document = $3, summary = $4, revision = revision + 1, updated_at = now()
      where id = $1 returning ${JOB_COLUMNS}`,
      [id, document.job.name, document, jobSummary(document)]);
    const job = jobRowSchema.parse(saved);
    await keepRevision(client, job);
    return { kind: "saved", job };
  });
}

/** Put a job away; it can be restored. False when there is none. */
export async function deleteJob(id: string): Promise<boolean> {
  return setDeleted(id, "update job set deleted_at = now() where id = $1 and deleted_at is null returning id");
}

/** Bring a deleted job back. False when there is none that is deleted. */
export async function restoreJob(id: string): Promise<boolean> {
  return setDeleted(id, "update job set deleted_at = null where id = $1 and deleted_at is not null returning id");
}

/** The revisions of a job, newest first. */
export async function manyRevisions(id: string): Promise<readonly number[]> {
  const rows = await query<{ revision: number }>("select revision from job_revision where job_id = $1 order by revision desc", [id]);
  return rows.map((row) => row.revision);
}

async function setDeleted(id: string, statement: string): Promise<boolean> {
  if (!z.uuid().safeParse(id).success) return false;
  return (await query(statement, [id])).length > 0;
}

async function keepRevision(client: Queryable, job: Job): Promise<void> {
  await client.query("insert into job_revision (job_id, revision, document) values ($1, $2, $3)", [job.id, job.revision, job.document]);
}
