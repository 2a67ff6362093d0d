import { randomUUID } from "node:crypto";
import { z } from "zod";
import type { KeptVersion } from "@/core/handover/bundle/keptVersion";
import type { HandoverVersion } from "@/core/handover/version/handoverVersion";
import { signatureSchema, type Signature } from "@/core/handover/version/signature";
import type { JobDocument } from "@/core/job/jobDocument";
import { storedJobSchema } from "@/core/job/storedJob";
import { query, transaction, type Queryable } from "@/db/client";
import type { Job } from "@/db/job";
import { forgetPassphraseIn } from "@/db/passphrase";
import { writeEntries } from "@/db/visitEntry";

const versionRowSchema = z
  .object({
    id: z.uuid(),
    number: z.int(),
    made_at: z.date(),
    person: z.string(),
    state: z.string(),
    revision: z.int(),
    sha256: z.string(),
    signatures: z.array(signatureSchema),
  })
  .transform(({ made_at, ...row }): HandoverVersion => ({ ...row, at: made_at.toISOString() }));

const reportRowSchema = versionRowSchema.in.extend({ report: z.string(), document: storedJobSchema });

const VERSION_COLUMNS = `h.id, h.number, h.made_at, h.person, h.state, h.revision, encode(h.sha256, 'hex') as sha256,
  coalesce((
    select jsonb_agg(jsonb_build_object('role', s.role, 'name', s.name, 'strokes', s.strokes) order by s.role desc)
    from handover_signature s where s.handover_id = h.id
  ), '[]') as signatures`;

/** What a hand over is made of. */
export interface NewHandover {
  readonly id: string;
  readonly person: string;
  readonly state: string;
  /** As text: its hash is of these bytes. */
  readonly report: string;
  readonly signatures: readonly Signature[];
}

/** A hand over with the report and the plan as they were. */
export interface KeptHandover extends HandoverVersion {
  readonly report: string;
  readonly document: JobDocument;
}

/** The hand overs of a job, newest first. */
export async function manyHandovers(jobId: string): Promise<readonly HandoverVersion[]> {
  const rows = await query(`select ${VERSION_COLUMNS} from handover h where h.job_id = $1 order by h.number desc`, [
    jobId,
  ]);
  return rows.map((row) => versionRowSchema.parse(row));
}

/** One hand over with its report; the newest where no number is said; undefined where there is none. */
export async function maybeHandover(jobId: string, number?: number): Promise<KeptHandover | undefined> {
  const [row] = await query(
    `select ${VERSION_COLUMNS}, h.report, h.document from handover h
     where h.job_id = $1 and ($2::int is null or h.number = $2) order by h.number desc limit 1`,
    [jobId, number ?? null],
  );
  if (!row) return undefined;
  const { made_at, ...kept } = reportRowSchema.parse(row);
  return { ...kept, at: made_at.toISOString() };
}

/**
 * Keep a hand over with its signatures, write it into the log, and forget the passphrase that was kept until now; all
 * of it or nothing. The same sent again, after a lost answer, is the one that is there; false where its id is of
 * another.
 */
export async function makeHandover({ id: jobId, revision, document }: Job, made: NewHandover): Promise<boolean> {
  return transaction(`job ${jobId}`, async (client) => {
    await client.query("select id from job where id = $1 for update", [jobId]);
    const { rows: known } = await client.query("select job_id, report from handover where id = $1", [made.id]);
    if (known[0]) return z.object({ job_id: z.string() }).parse(known[0]).job_id === jobId;
    const number = await insertVersion(client, { jobId, revision, document, made });
    await insertSignatures(client, made.id, made.signatures);
    await writeEntries(client, jobId, [
      {
        id: randomUUID(),
        at: new Date().toISOString(),
        person: made.person,
        visit: document.visit.id,
        kind: "note",
        text: `Handed over, version ${number}, ${made.state}${signedBy(made.signatures)}`,
      },
    ]);
    await forgetPassphraseIn(client, jobId);
    return true;
  });
}

/** Keep a hand over of a job that is brought in whole, as it was: its number, its time, its report word for word. */
export async function bringHandoverIn(
  client: Queryable,
  jobId: string,
  { report, ...kept }: KeptVersion & { readonly report: string },
): Promise<void> {
  await client.query(
    `insert into handover (id, job_id, number, made_at, person, state, revision, document, report, sha256)
     values ($1, $2, $3, $4, $5, $6, $7, $8, $9, sha256(convert_to($9, 'UTF8')))`,
    [
      kept.id,
      jobId,
      kept.number,
      kept.at,
      kept.person,
      kept.state,
      kept.revision,
      JSON.stringify(kept.document),
      report,
    ],
  );
  await insertSignatures(client, kept.id, kept.signatures);
}

async function insertSignatures(client: Queryable, id: string, signatures: readonly Signature[]): Promise<void> {
  for (const { role, name, strokes } of signatures)
    await client.query("insert into handover_signature (handover_id, role, name, strokes) values ($1, $2, $3, $4)", [
      id,
      role,
      name,
      JSON.stringify(strokes),
    ]);
}

async function insertVersion(
  client: Queryable,
  {
    jobId,
    revision,
    document,
    made,
  }: {
    readonly jobId: string;
    readonly revision: number;
    readonly document: JobDocument;
    readonly made: NewHandover;
  },
): Promise<number> {
  const { rows } = await client.query(
    `insert into handover (id, job_id, number, person, state, revision, document, report, sha256)
     select $1, $2, coalesce(max(number), 0) + 1, $3, $4, $5, $6, $7, sha256(convert_to($7, 'UTF8'))
     from handover where job_id = $2 returning number`,
    [made.id, jobId, made.person, made.state, revision, JSON.stringify(document), made.report],
  );
  return z.object({ number: z.int() }).parse(rows[0]).number;
}

function signedBy(signatures: readonly Signature[]): string {
  return signatures.length === 0 ? "" : `, signed by ${signatures.map(({ name }) => name).join(" and ")}`;
}
