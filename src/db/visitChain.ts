import { createHash } from "node:crypto";
import { z } from "zod";
import { CHAIN_BEGIN, checkChain, linkText, type ChainCheck, type ChainedLine } from "@/core/handover/logChain";
import { query, type Queryable } from "@/db/client";

const lineRowSchema = z.object({ text: z.string(), hash: z.string().nullable() });
const headRowSchema = z.object({ position: z.coerce.number(), hash: z.string() });
const newRowSchema = z.object({ id: z.uuid(), text: z.string() });

/** SHA-256 of a text in UTF-8, hexadecimal. */
export function sha256Hex(text: string): string {
  return createHash("sha256").update(text, "utf8").digest("hex");
}

/** Nobody else writes into a job's log until the transaction ends: a chain has one end. */
export async function lockLog(client: Queryable, jobId: string): Promise<void> {
  await client.query("select pg_advisory_xact_lock(hashtextextended($1, 0))", [`log ${jobId}`]);
}

/** Chain entries that were just written, in the order of their arrival; those that are chained already stay. */
export async function chainEntries(client: Queryable, jobId: string, ids: readonly string[]): Promise<void> {
  const { rows } = await client.query(
    `select e.id, e.body::text as text from visit_entry e
     where e.id = any($1::uuid[]) and not exists (select from visit_chain c where c.entry_id = e.id)
     order by e.sequence`,
    [ids],
  );
  if (rows.length === 0) return;
  const last = await client.query(
    "select position, encode(hash, 'hex') as hash from visit_chain where job_id = $1 order by position desc limit 1",
    [jobId],
  );
  let { position, hash } = last.rows[0] ? headRowSchema.parse(last.rows[0]) : { position: 0, hash: CHAIN_BEGIN };
  const links = rows.map((row) => {
    const { id, text } = newRowSchema.parse(row);
    hash = sha256Hex(linkText(hash, text));
    return { position: ++position, entry_id: id, hash };
  });
  await client.query(
    `insert into visit_chain (job_id, position, entry_id, hash)
     select $1, position, entry_id, decode(hash, 'hex')
     from jsonb_to_recordset($2::jsonb) as (position bigint, entry_id uuid, hash text)`,
    [jobId, JSON.stringify(links)],
  );
}

/** The lines of a job's log as they were hashed, each with its hash, in the order of the chain. */
export async function manyChainedLines(jobId: string): Promise<readonly ChainedLine[]> {
  const rows = await query(
    `select e.body::text as text, encode(c.hash, 'hex') as hash
     from visit_entry e left join visit_chain c on c.entry_id = e.id
     where e.job_id = $1 order by c.position nulls last, e.sequence`,
    [jobId],
  );
  return rows.map((row) => {
    const { text, hash } = lineRowSchema.parse(row);
    return { text, hash: hash ?? undefined };
  });
}

/** Whether a job's log is as it was written. */
export async function checkedLog(jobId: string): Promise<ChainCheck> {
  return checkChain(await manyChainedLines(jobId), sha256Hex);
}
