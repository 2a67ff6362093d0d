import { createHash, randomUUID } from "node:crypto";
import { z } from "zod";
import { jobSummarySchema, type JobSummary } from "@/core/jobSummary";
import { storedJobSchema } from "@/core/job/storedJob";
import { pathText } from "@/core/problem";
import { query, transaction, type Queryable } from "@/db/client";
import { markSummaryDue } from "@/db/summaryDue";

const rowShape = { id: z.uuid(), revision: z.int(), updated_at: z.date() };

const jobRowSchema = z.object({ ...rowShape, document: storedJobSchema }).transform((row) => ({
  id: row.id,
  document: row.document,
  revision: row.revision,
  savedAt: row.updated_at.toISOString(),
}));

const bareRowSchema = z.object({ ...rowShape, name: z.string(), document: z.unknown() });

const jobLineSchema = z
  .object({
    id: z.uuid(),
    name: z.string(),
    place: z.string(),
    summary: z.unknown(),
    updated_at: z.date(),
  })
  .transform(({ id, name, place, summary, updated_at }): JobLine => {
    const read = jobSummarySchema.safeParse(summary);
    return { id, name, place, summary: read.success ? read.data : UNREADABLE, savedAt: updated_at.toISOString() };
  });

/** A job with the revision that it is at. */
export type Job = z.output<typeof jobRowSchema>;

/** A row that this program cannot read as a job: shown as broken, with what stands in it. */
export interface BrokenJob {
  readonly id: string;
  readonly name: string;
  readonly problem: string;
  readonly document: unknown;
}

/** What the list of jobs shows of one. */
export interface JobLine {
  readonly id: string;
  readonly name: string;
  readonly place: string;
  readonly summary: JobSummary;
  readonly savedAt: string;
}

export interface JobPage {
  readonly jobs: readonly JobLine[];
  /** Of all pages. */
  readonly total: number;
  readonly page: number;
  readonly pages: number;
  /** Every place that a job which is not deleted stands in, by name. */
  readonly places: readonly string[];
}

/** What is looked for in the list of jobs, how it is ordered, and which page of it is wanted. */
export const jobSearchSchema = z.object({
  search: z
    .string()
    .trim()
    .max(120, "at most 120 characters")
    .refine((text) => text.isWellFormed() && !text.includes("\u0000"), "no whole text")
    .default(""),
  shelf: z.enum(["open", "archived"]).default("open").describe("The jobs at hand, or those put into the archive"),
  state: jobSummarySchema.shape.state.optional().describe("How far a job is"),
  place: z.string().trim().max(120, "at most 120 characters").optional().describe("Where it is, as it was typed"),
  due: z
    .enum(["late", "week", "month"])
    .optional()
    .describe("With a deadline that is not done: whose day is over, or comes within 7 or 30 days, or is over"),
  sort: z.enum(["changed", "name", "supply", "state", "findings"]).default("changed"),
  order: z.enum(["up", "down"]).default("down"),
  page: z.coerce.number().int().min(1).max(100_000).default(1),
  size: z.coerce.number().int().min(1).max(200).default(50),
});

export type JobSearch = z.output<typeof jobSearchSchema>;

/** A deadline is of this time when its day is before so many days from today. */
const DUE_BEFORE_DAYS: Readonly<Record<NonNullable<JobSearch["due"]>, number>> = { late: 0, week: 8, month: 31 };

/**
 * A job as it is written: its document as text, its name and its summary, all made before the transaction, never in it.
 */
export interface WrittenJob {
  readonly name: string;
  readonly text: string;
  readonly summary: JobSummary;
}

export type CreateOutcome =
  | { readonly kind: "created" | "there-already"; readonly job: Job }
  /** The id is of a job that was made from something else, or was deleted. */
  | { readonly kind: "taken" };

export type SaveOutcome =
  | { readonly kind: "saved"; readonly revision: number; readonly savedAt: string }
  | { readonly kind: "conflict"; readonly current: Job }
  | { readonly kind: "gone" };

/** Where a job comes from: an id that its browser chose, what was asked (to know the same request again), or a demo. */
export interface JobOrigin {
  readonly id?: string | undefined;
  readonly request?: string | undefined;
  readonly demoKey?: string | undefined;
}

/** Parts of a document whose change is worth a line in the log. */
const PARTS = ["site", "kits", "links", "tests", "visit", "limit", "divert", "network"] as const;

const CHANGED_PARTS = PARTS.map(
  (part) => `case when old.document -> '${part}' is distinct from $4::jsonb -> '${part}' then '${part}' end`,
).join(", ");

const savedRowSchema = z.object({
  revision: z.int(),
  updated_at: z.date(),
  parts: z.array(z.string()).nullable(),
  same: z.boolean(),
});

const JOB_COLUMNS = "id, document, revision, updated_at";

const SORTED: Readonly<Record<JobSearch["sort"], string>> = {
  changed: "updated_at",
  name: "lower(name)",
  supply: "summary ->> 'supply'",
  state: "summary ->> 'state'",
  findings:
    "(coalesce(summary #>> '{findings,stop}', '0')::numeric * 1000000 + coalesce(summary #>> '{findings,fix}', " +
    "'0')::numeric * 1000 + coalesce(summary #>> '{findings,note}', '0')::numeric)",
};

/** More than this nobody picks one from; the search finds the others. */
const MOST_PLACES = 200;

const UNREADABLE: JobSummary = {
  supply: "not readable",
  state: "placing",
  findings: { stop: 0, fix: 0, note: 0 },
  next: "Open it to see what cannot be read",
  deadlines: [],
};

/**
 * One page of the jobs that are not deleted, are of this shelf, state and place, have a deadline of this time, and hold
 * every word that is sought in their name, place or summary.
 */
export async function onePageOfJobs({ search, sort, order, page, size, ...of }: JobSearch): Promise<JobPage> {
  const words = search.split(/\s+/u).filter((word) => word !== "");
  const wanted: readonly (readonly [string, string | undefined])[] = [
    ...words.map((word) => ["sought ilike", `%${word.replace(/[\\%_]/g, (sign) => `\\${sign}`)}%`] as const),
    ["summary ->> 'state' =", of.state],
    ["place =", of.place],
  ];
  const asked = wanted.filter(([, value]) => value !== undefined);
  const where = [
    "deleted_at is null",
    `archived_at is ${of.shelf === "archived" ? "not null" : "null"}`,
    ...(of.due === undefined ? [] : [hasDeadlineBefore(DUE_BEFORE_DAYS[of.due])]),
    ...asked.map(([test], at) => `${test} $${at + 1}`),
  ].join(" and ");
  const values = asked.map(([, value]) => value);
  const [counted] = await query(`select count(*)::int as total from job where ${where}`, values);
  const { total } = z.object({ total: z.int() }).parse(counted);
  const pages = Math.max(1, Math.ceil(total / size));
  const shown = Math.min(page, pages);
  const direction = order === "up" ? "asc" : "desc";
  const rows = await query(
    `
    select id, name, place, summary, updated_at
    from job where ${where} order by ${SORTED[sort]} ${direction}, id ${direction}
    limit ${size} offset ${(shown - 1) * size}`,
    values,
  );
  const places = await query<{ place: string }>(
    `select distinct place from job where deleted_at is null and place <> '' order by place limit ${MOST_PLACES}`,
  );
  return {
    jobs: rows.map((row) => jobLineSchema.parse(row)),
    total,
    page: shown,
    pages,
    places: places.map(({ place }) => place),
  };
}

/** A test of a job's row; one whose deadlines cannot be read has none. */
function hasDeadlineBefore(days: number): string {
  const before = `jsonb_build_object('before', to_char(current_date + ${days}, 'YYYY-MM-DD'))`;
  return `jsonb_path_exists(summary, '$.deadlines[*] ? (!exists(@.doneOn) && @.on < $before)', ${before})`;
}

/** A job; what stands in its row if that cannot be read; undefined when there is none of this id or it is deleted. */
export async function maybeJobOrBroken(
  id: string,
): Promise<
  { readonly kind: "job"; readonly job: Job } | { readonly kind: "broken"; readonly broken: BrokenJob } | undefined
> {
  if (!isId(id)) return undefined;
  const [row] = await query(`select ${JOB_COLUMNS}, name from job where id = $1 and deleted_at is null`, [id]);
  if (!row) return undefined;
  const parsed = jobRowSchema.safeParse(row);
  if (parsed.success) return { kind: "job", job: parsed.data };
  const { name, document } = bareRowSchema.parse(row);
  const [first] = parsed.error.issues;
  return {
    kind: "broken",
    broken: { id, name, document, problem: first ? `${pathText(first.path)}: ${first.message}` : "unreadable" },
  };
}

/** A job, unless there is none of this id, it is deleted, or it cannot be read. */
export async function maybeJob(id: string): Promise<Job | undefined> {
  const found = await maybeJobOrBroken(id);
  return found?.kind === "job" ? found.job : undefined;
}

/** Names of jobs that begin like this one. */
export async function manyNamesLike(start: string): Promise<readonly string[]> {
  const rows = await query<{ name: string }>("select name from job where starts_with(name, $1)", [start]);
  return rows.map(({ name }) => name);
}

/**
 * Keep a new job at revision 1. The same request under the same id, sent again after a lost answer, finds its job; with
 * a demo key nothing is done when that demo was loaded before.
 */
export async function createJob(written: WrittenJob, origin: JobOrigin = {}): Promise<CreateOutcome> {
  return transaction(`job ${origin.id ?? randomUUID()}`, (client) => createJobIn(client, written, origin));
}

/** The same within a transaction that keeps more with it. */
export async function createJobIn(
  client: Queryable,
  { name, text, summary }: WrittenJob,
  { id, request, demoKey }: JobOrigin,
): Promise<CreateOutcome> {
  const madeFrom = request === undefined ? null : createHash("sha256").update(request).digest();
  const {
    rows: [row],
  } = await client.query(
    `
    insert into job (id, name, document, summary, demo_key, made_from)
    values (coalesce($1, gen_random_uuid()), $2, $3, $4, $5, $6)
    on conflict do nothing returning ${JOB_COLUMNS}`,
    [id ?? null, name, text, summary, demoKey ?? null, madeFrom],
  );
  if (row) {
    const job = jobRowSchema.parse(row);
    await client.query("insert into job_revision (job_id, revision, document) values ($1, 1, $2)", [job.id, text]);
    return { kind: "created", job };
  }
  const {
    rows: [known],
  } = await client.query(
    `
    select ${JOB_COLUMNS} from job where deleted_at is null and (demo_key = $1 or (id = $2 and made_from = $3))`,
    [demoKey ?? null, id ?? null, madeFrom],
  );
  return known ? { kind: "there-already", job: jobRowSchema.parse(known) } : { kind: "taken" };
}

/**
 * Save a job if it is still at the revision that the change was made on; else nothing is written and the
 * current version comes back, for both to be shown. A save that repeats the current version word for word
 * (sent again after a lost answer) succeeds without a new revision.
 *
 * Old and new are compared where both are: the database, in one statement.
 */
export async function saveJob(
  id: string,
  revision: number,
  { name, text, summary }: WrittenJob,
  person = "",
): Promise<SaveOutcome> {
  if (!isId(id)) return { kind: "gone" };
  return transaction(`job ${id}`, async (client): Promise<SaveOutcome> => {
    const {
      rows: [row],
    } = await client.query(
      `
      with old as (select id, document, revision, updated_at from job where id = $1 and deleted_at is null for update),
      saved as (
        update job set name = $3, document = $4, summary = $5, revision = job.revision + 1, updated_at = now()
        from old where job.id = old.id and old.revision = $2 and old.document <> $4::jsonb
        returning job.revision, job.updated_at, array_remove(array[${CHANGED_PARTS}], null) as parts
      )
      select coalesce(saved.revision, old.revision) as revision,
        coalesce(saved.updated_at, old.updated_at) as updated_at, saved.parts, old.document = $4::jsonb as same
      from old left join saved on true`,
      [id, revision, name, text, summary],
    );
    if (!row) return { kind: "gone" };
    const { parts, same, ...now } = savedRowSchema.parse(row);
    if (parts) {
      await keepRevision(client, { id, revision: now.revision, person, parts });
      await markSummaryDue(client, id);
    }
    if (parts || same) return { kind: "saved", revision: now.revision, savedAt: now.updated_at.toISOString() };
    const {
      rows: [current],
    } = await client.query(`select ${JOB_COLUMNS} from job where id = $1`, [id]);
    return { kind: "conflict", current: jobRowSchema.parse(current) };
  });
}

/** Put a job away; it can be restored. False when there is none. */
export async function deleteJob(id: string): Promise<boolean> {
  return setShelf(id, "update job set deleted_at = now() where id = $1 and deleted_at is null returning id");
}

/** Bring a deleted job back. False when there is none that is deleted. */
export async function restoreJob(id: string): Promise<boolean> {
  return setShelf(id, "update job set deleted_at = null where id = $1 and deleted_at is not null returning id");
}

/** Put a job into the archive, or take it out of it. False when there is none. */
export async function archiveJob(id: string, isArchived: boolean): Promise<boolean> {
  const since = isArchived ? "coalesce(archived_at, now())" : "null";
  // What is done with needs no passphrase of its customer.
  if (isArchived && isId(id)) await query("delete from passphrase where job_id = $1", [id]);
  return setShelf(id, `update job set archived_at = ${since} where id = $1 and deleted_at is null returning id`);
}

/** The revisions of a job that are kept, newest first. */
export async function manyRevisions(id: string): Promise<readonly number[]> {
  const rows = await query<{ revision: number }>(
    "select revision from job_revision where job_id = $1 order by revision desc",
    [id],
  );
  return rows.map((row) => row.revision);
}

async function setShelf(id: string, statement: string): Promise<boolean> {
  if (!isId(id)) return false;
  return transaction(`job ${id}`, async (client) => (await client.query(statement, [id])).rows.length > 0);
}

/**
 * One more revision, or the latest one grown: what one person saves within two minutes is one. The first stays as it
 * was made.
 */
async function keepRevision(
  client: Queryable,
  {
    id,
    revision,
    person,
    parts,
  }: { readonly id: string; readonly revision: number; readonly person: string; readonly parts: readonly string[] },
): Promise<void> {
  const { rows: grown } = await client.query(
    `
    update job_revision set revision = $2, document = (select document from job where id = $1), saved_at = now(),
      parts = (select coalesce(array_agg(distinct part), '{}') from unnest(parts || $4::text[]) part)
    where job_id = $1 and revision = (select max(revision) from job_revision where job_id = $1)
      and revision > 1 and person = $3 and began_at > now() - interval '110 seconds' returning revision`,
    [id, revision, person, parts],
  );
  if (grown.length > 0) return;
  await client.query(
    "insert into job_revision (job_id, revision, document, person, parts) select id, revision, document, $2, " +
      "$3 from job where id = $1",
    [id, person, parts],
  );
}

function isId(id: string): boolean {
  return z.uuid().safeParse(id).success;
}
