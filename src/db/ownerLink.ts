import { z } from "zod";
import { query } from "@/db/client";
import { maybeTokenHash, newToken } from "@/db/privateToken";

/** A new private link of a job, in place of the one before: what is told here is kept nowhere. */
export async function makeOwnerLink(jobId: string): Promise<string> {
  const token = newToken();
  await query(
    `insert into owner_link (token_hash, job_id) values ($1, $2)
     on conflict (job_id) do update set token_hash = excluded.token_hash, made_at = now()`,
    [maybeTokenHash(token), jobId],
  );
  return token;
}

/** Since when a job has a link; undefined where it has none. */
export async function maybeOwnerLinkTime(jobId: string): Promise<Date | undefined> {
  const [row] = await query("select made_at from owner_link where job_id = $1", [jobId]);
  return row && z.object({ made_at: z.date() }).parse(row).made_at;
}

/** The job that a link is of; undefined where the link was ended, or never was one. */
export async function maybeJobOfOwner(token: string): Promise<string | undefined> {
  const hash = maybeTokenHash(token);
  if (!hash) return undefined;
  const [row] = await query(
    "select l.job_id from owner_link l join job j on j.id = l.job_id where l.token_hash = $1 and j.deleted_at is null",
    [hash],
  );
  return row && z.object({ job_id: z.uuid() }).parse(row).job_id;
}

/** End the link of a job. */
export async function endOwnerLink(jobId: string): Promise<void> {
  await query("delete from owner_link where job_id = $1", [jobId]);
}
