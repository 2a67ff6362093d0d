import { z } from "zod";
import { visitEntrySchema, type VisitEntry, type VisitEntryKind } from "@/core/visit/visitEntry";
import type { PlanChange } from "@/core/visit/visitLog";
import { sameJson } from "@/core/sameJson";
import { query, transaction, type Queryable } from "@/db/client";
import { chainEntries, lockLog } from "@/db/visitChain";
import { markSummaryDue } from "@/db/summaryDue";

const rowSchema = z.object({ body: visitEntrySchema });
const takenRowSchema = z.object({ id: z.uuid(), job_id: z.uuid(), body: z.unknown() });
const changeRowSchema = z
  .object({ revision: z.int(), saved_at: z.date(), parts: z.array(z.string()) })
  .transform(({ revision, saved_at, parts }): PlanChange => ({ revision, at: saved_at.toISOString(), parts }));

/** Entries after which a step stands elsewhere, and a job's summary may say something else. */
const MOVES_A_STEP: ReadonlySet<VisitEntryKind> = new Set(["start", "result", "skip", "reopen"]);

/** All entries of a job, in the order in which they arrived. */
export async function manyVisitEntries(jobId: string): Promise<readonly VisitEntry[]> {
  return (await query("select body from visit_entry where job_id = $1 order by sequence", [jobId])).map(
    (row) => rowSchema.parse(row).body,
  );
}

/** Which of these ids stand for a line, a photograph or a hand over of any job already. */
export async function manyTakenIds(ids: readonly string[]): Promise<readonly string[]> {
  const rows = await query<{ id: string }>(
    `select id from visit_entry where id = any($1::uuid[]) union select id from photo where id = any($1::uuid[])
     union select id from handover where id = any($1::uuid[])`,
    [ids],
  );
  return rows.map(({ id }) => id);
}

/** What changes with every entry and every saved revision of a job; undefined when there is no such job. */
export async function maybeVisitMark(jobId: string): Promise<string | undefined> {
  const [row] = await query(
    "select revision::text || '.' || (select count(*) from visit_entry where job_id = job.id) as mark from " +
      "job where id = $1 and deleted_at is null",
    [jobId],
  );
  return row === undefined ? undefined : z.object({ mark: z.string() }).parse(row).mark;
}

/** An entry that cannot be kept under its id, and why. */
export interface TakenEntry {
  readonly id: string;
  readonly why: "it is of another job's log" | "its line says something else";
}

export type AddOutcome =
  | { readonly kind: "kept"; readonly ids: readonly string[] }
  | { readonly kind: "no-job" }
  /** Ids that stand for something else already; nothing was kept. */
  | { readonly kind: "taken"; readonly taken: readonly TakenEntry[] };

/**
 * Keep entries, all or none; those that are there already, word for word (sent again after a lost answer), stay as they
 * are. An id that stands for something else is refused: an acknowledged line must be found in its own log as it was
 * sent.
 *
 * They arrive in the order in which they were sent, and are written in the order of their ids: sends that meet wait for
 * each other and do not stand in each other's way.
 */
export async function addVisitEntries(jobId: string, entries: readonly VisitEntry[]): Promise<AddOutcome> {
  const twice = entries.find((entry, at) => entries.findIndex(({ id }) => id === entry.id) < at);
  if (twice) return { kind: "taken", taken: [{ id: twice.id, why: "its line says something else" }] };
  const ids = entries.map(({ id }) => id);
  return transaction(`log ${jobId}`, async (client): Promise<AddOutcome> => {
    const {
      rows: [job],
    } = await client.query("select id from job where id = $1 and deleted_at is null for key share", [jobId]);
    if (!job) return { kind: "no-job" };
    await writeEntries(client, jobId, entries);
    return { kind: "kept", ids };
  }).catch((error: unknown): AddOutcome => {
    // Thrown, so that nothing of the send stays.
    if (error instanceof EntriesTaken) return { kind: "taken", taken: error.taken };
    throw error;
  });
}

/**
 * Write entries within a transaction that holds its job, chained in the order in which they are given. Throws where an
 * id stands for something else, so that nothing of the transaction stays.
 */
export async function writeEntries(client: Queryable, jobId: string, entries: readonly VisitEntry[]): Promise<void> {
  const rows = entries.map((entry) => ({
    id: entry.id,
    at: entry.at,
    person: entry.person,
    kind: entry.kind,
    step: "step" in entry ? (entry.step ?? null) : null,
    body: entry,
  }));
  const ids = entries.map(({ id }) => id);
  await lockLog(client, jobId);
  await client.query(
    `
    insert into visit_entry (id, job_id, at, person, kind, step, body, sequence) overriding system value
    select id, $1, at, person, kind, step, body, sequence from (
      select sent.*, nextval(pg_get_serial_sequence('visit_entry', 'sequence')) as sequence
      from (
        select * from rows from (
          jsonb_to_recordset($2::jsonb)
            as (id uuid, at timestamptz, person text, kind text, step text, body jsonb)
        ) with ordinality order by ordinality
      ) sent
    ) numbered order by id
    on conflict (id) do nothing`,
    [jobId, JSON.stringify(rows)],
  );
  const { rows: there } = await client.query("select id, job_id, body from visit_entry where id = any($1::uuid[])", [
    ids,
  ]);
  const taken = there
    .map((row) => takenRowSchema.parse(row))
    .flatMap(({ id, job_id, body }): TakenEntry[] => {
      if (job_id !== jobId) return [{ id, why: "it is of another job's log" }];
      const kept = visitEntrySchema.safeParse(body);
      return kept.success &&
        sameJson(
          kept.data,
          entries.find((entry) => entry.id === id),
        )
        ? []
        : [{ id, why: "its line says something else" }];
    });
  if (taken.length > 0) throw new EntriesTaken(taken);
  await chainEntries(client, jobId, ids);
  if (entries.some(({ kind }) => MOVES_A_STEP.has(kind))) await markSummaryDue(client, jobId);
}

/** Which saved revisions of a job changed which parts of it, oldest first; the first one made it. */
export async function manyPlanChanges(jobId: string): Promise<readonly PlanChange[]> {
  const rows = await query(
    "select revision, saved_at, parts from job_revision where job_id = $1 and revision > 1 and cardinality(parts) " +
      "> 0 order by revision",
    [jobId],
  );
  return rows.map((row) => changeRowSchema.parse(row));
}

class EntriesTaken extends Error {
  constructor(readonly taken: readonly TakenEntry[]) {
    super("entries under ids that stand for something else");
  }
}
