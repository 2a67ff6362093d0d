import { z } from "zod";
import { query } from "@/db/client";

const rowSchema = z.object({ type: z.string(), bytes: z.instanceof(Buffer) });

export type Photo = z.output<typeof rowSchema>;

/** Keep a photo under its id; one that is there already stays. False when there is no such job. */
export async function addPhoto(jobId: string, id: string, type: string, bytes: Buffer): Promise<boolean> {
  const rows = await query(`
    with owner as (select id from job where id = $2 and deleted_at is null),
    kept as (insert into photo (id, job_id, type, bytes, sha256) select $1, owner.id, $3, $4, sha256($4) from owner on conflict (id) do nothing)
    select id from owner`, [id, jobId, type, bytes]);
  return rows.length > 0;
}

/** A photo of a job, unless there is none of this id. */
export async function maybePhoto(jobId: string, id: string): Promise<Photo | undefined> {
  const [row] = await query("select type, bytes from photo where id = $1 and job_id = $2", [id, jobId]);
  return row && rowSchema.parse(row);
}
