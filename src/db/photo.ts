import { createHash } from "node:crypto";
import { z } from "zod";
import { query, transaction, type Queryable } from "@/db/client";

const MB = 1024 * 1024;
/** Of one job, and of all jobs in a day: what a person takes on site is far below. */
const MOST_OF_A_JOB = { count: 400, bytes: 1_500 * MB };
const MOST_OF_A_DAY_BYTES = 4_000 * MB;

const rowSchema = z.object({ type: z.string(), bytes: z.instanceof(Buffer) });
const markRowSchema = z.object({ id: z.uuid(), type: z.string(), size: z.int(), sha256: z.string() });
const printRowSchema = z.object({ photo_id: z.uuid(), bytes: z.instanceof(Buffer) });
const usedSchema = z.object({ count: z.coerce.number(), bytes: z.coerce.number(), today: z.coerce.number() });

export type Photo = z.output<typeof rowSchema>;

/** A picture as it is kept, and as it was sent. */
export interface NewPhoto extends Photo {
  readonly sent: Buffer;
}

export type PhotoOutcome =
  | { readonly kind: "kept" }
  | { readonly kind: "no-job" }
  /** The id stands for another picture, or for one of another job. */
  | { readonly kind: "taken" }
  | { readonly kind: "too-many"; readonly why: string };

/** Keep a photo under its id; the same one sent again is there already. */
export async function addPhoto(jobId: string, id: string, { type, bytes, sent }: NewPhoto): Promise<PhotoOutcome> {
  const sentHash = createHash("sha256").update(sent).digest();
  return transaction(`photos ${jobId}`, async (client): Promise<PhotoOutcome> => {
    const {
      rows: [job],
    } = await client.query("select id from job where id = $1 and deleted_at is null for key share", [jobId]);
    if (!job) return { kind: "no-job" };
    const {
      rows: [known],
    } = await client.query<{ same: boolean }>(
      "select job_id = $2 and sent_sha256 = $3 as same from photo where id = $1",
      [id, jobId, sentHash],
    );
    if (known) return known.same ? { kind: "kept" } : { kind: "taken" };
    const {
      rows: [row],
    } = await client.query(
      `
      select
        (select count(*) from photo where job_id = $1) as count,
        (select coalesce(sum(octet_length(bytes)), 0) from photo where job_id = $1) as bytes,
        (select coalesce(sum(octet_length(bytes)), 0) from photo
          where received_at > now() - interval '1 day') as today`,
      [jobId],
    );
    const used = usedSchema.parse(row);
    if (used.count >= MOST_OF_A_JOB.count || used.bytes + bytes.length > MOST_OF_A_JOB.bytes)
      return {
        kind: "too-many",
        why:
          `This job has ${used.count} photos, ${Math.round(used.bytes / MB)} MB; it takes at most ` +
          `${MOST_OF_A_JOB.count} and ${MOST_OF_A_JOB.bytes / MB} MB.`,
      };
    if (used.today + bytes.length > MOST_OF_A_DAY_BYTES)
      return {
        kind: "too-many",
        why:
          `${Math.round(used.today / MB)} MB of photos came today; at most ${MOST_OF_A_DAY_BYTES / MB} ` +
          "MB are taken a day.",
      };
    const { rows } = await client.query(
      `
      insert into photo (id, job_id, type, bytes, sha256, sent_sha256) values ($1, $2, $3, $4, sha256($4), $5)
      on conflict (id) do nothing returning id`,
      [id, jobId, type, bytes, sentHash],
    );
    return rows.length > 0 ? { kind: "kept" } : { kind: "taken" };
  });
}

/** A photo of a job, unless there is none of this id or the job is deleted. */
export async function maybePhoto(jobId: string, id: string): Promise<Photo | undefined> {
  const [row] = await query(
    `
    select photo.type, photo.bytes from photo join job on job.id = photo.job_id
    where photo.id = $1 and photo.job_id = $2 and job.deleted_at is null`,
    [id, jobId],
  );
  return row && rowSchema.parse(row);
}

/** A photo of a job without its bytes: how large it is, and its SHA-256 in hexadecimal. */
export interface PhotoMark {
  readonly id: string;
  readonly type: string;
  readonly size: number;
  readonly sha256: string;
}

/** The photos of a job in the order in which they came. */
export async function manyPhotoMarks(jobId: string): Promise<readonly PhotoMark[]> {
  const rows = await query(
    `select id, type, octet_length(bytes) as size, encode(sha256, 'hex') as sha256 from photo
     where job_id = $1 order by received_at, id`,
    [jobId],
  );
  return rows.map((row) => markRowSchema.parse(row));
}

/** Keep a photo of a job that is brought in whole, as it was kept before. */
export async function bringPhotoIn(
  client: Queryable,
  jobId: string,
  id: string,
  { type, bytes }: Photo,
): Promise<void> {
  await client.query(
    "insert into photo (id, job_id, type, bytes, sha256, sent_sha256) values ($1, $2, $3, $4, sha256($4), sha256($4))",
    [id, jobId, type, bytes],
  );
}

/** Photographs of a job as small as they are printed, of those that were made small already. */
export async function manyPhotoPrints(jobId: string, ids: readonly string[]): Promise<ReadonlyMap<string, Buffer>> {
  const rows = await query(
    `select photo_id, photo_print.bytes from photo_print join photo on photo.id = photo_id
     where job_id = $1 and photo_id = any($2::uuid[])`,
    [jobId, ids],
  );
  return new Map(rows.map((row) => printRowSchema.parse(row)).map(({ photo_id, bytes }) => [photo_id, bytes]));
}

/** Keep a photograph as small as it is printed; whoever made it first has made it. */
export async function keepPhotoPrint(id: string, bytes: Buffer): Promise<void> {
  await query("insert into photo_print (photo_id, bytes) values ($1, $2) on conflict do nothing", [id, bytes]);
}
