import { z } from "zod";
import { runEntrySchema, type RunEntry } from "@/core/procedure/runEntry";
import type { PlanChange } from "@/core/procedure/visitLog";
import { query, transaction } from "@/db/client";

const rowSchema = z.object({ body: runEntrySchema });
const changeRowSchema = z.object({ revision: z.int(), saved_at: z.date(), parts: z.array(z.string()) })
  .transform(({ revision, saved_at, parts }): PlanChange => ({ revision, at: saved_at.toISOString(), parts }));

/** Parts of a document whose change is worth a line. */
const PARTS = ["site", "kits", "links", "tests", "run", "limit", "divert", "network"] as const;

/** All entries of a job, in the order in which they arrived. */
export async function manyRunEntries(jobId: string): Promise<readonly RunEntry[]> {
  return (await query("select body from run_entry where job_id = $1 order by sequence", [jobId])).map((row) => rowSchema.parse(row).body);
}

/** What changes with every entry and every saved revision of a job; undefined when there is no such job. */
export async function maybeRunMark(jobId: string): Promise<string | undefined> {
  const [row] = await query("select revision::text || '.' || (select count(*) from run_entry where job_id = job.id) as mark from job where id = $1 and deleted_at is null", [jobId]);
  return row === undefined ? undefined : z.object({ mark: z.string() }).parse(row).mark;
}

export type AddOutcome =
  | { readonly kind: "kept"; readonly ids: readonly string[] }
  | { readonly kind: "no-job" }
  /** Ids that are of another job's log; nothing was kept. */
  | { readonly kind: "taken"; readonly ids: readonly string[] };

/**
 * Keep entries, all or none; those that are there already (sent again after a lost answer) stay as they are. An id that
 * another job's log has is refused: an acknowledged line must be found in its own.
 */
export async function addRunEntries(jobId: string, entries: readonly RunEntry[]): Promise<AddOutcome> {
  return transaction(async (client): Promise<AddOutcome> => {
    const { rows: [job] } = await client.query("select id from job where id = $1 and deleted_at is null", [jobId]);
    if (!job) return { kind: "no-job" };
    const ids = entries.map(({ id }) => id);
    const { rows: taken } = await client.query<{ id: string }>("select id from run_entry where id = any($1::uuid[]) and job_id <> $2", [ids, jobId]);
    if (taken.length > 0) return { kind: "taken", ids: taken.map(({ id }) => id) };
    for (const entry of entries) {
      await client.query("insert into run_entry (id, job_id, at, person, kind, step, body) values ($1, $2, $3, $4, $5, $6, $7) on conflict (id) do nothing",
        [entry.id, jobId, entry.at, entry.person, entry.kind, "step" in entry ? entry.step ?? null : null, entry]);
    }
    return { kind: "kept", ids };
  });
}

/** Which saved revisions of a job changed which parts of it, oldest first; the first one made it. */
export async function manyPlanChanges(jobId: string): Promise<readonly PlanChange[]> {
  const columns = PARTS.map((part) => `case when document -> '${part}' is distinct from lag(document -> '${part}') over w then '${part}' end`).join(", ");
  const rows = await query(`
    select revision, saved_at, parts from (
      select revision, saved_at, array_remove(array[${columns}], null) as parts from job_revision where job_id = $1 window w as (order by revision)
    ) changed where revision > 1 and cardinality(parts) > 0 order by revision`, [jobId]);
  return rows.map((row) => changeRowSchema.parse(row));
}
