import { z } from "zod";
import { wifiSecretSchema, type WifiSecret } from "@/core/online/passphrase/wifiSecret";
import { query, type Queryable } from "@/db/client";
import { seal, unseal } from "@/db/sealed";

const rowSchema = z.object({ sealed: z.instanceof(Buffer), kept_at: z.date() });

/** Keep a network's name and passphrase of a job, encrypted, in place of what was kept. */
export async function keepPassphrase(jobId: string, secret: WifiSecret): Promise<Date> {
  const sealed = await seal(JSON.stringify(secret), jobId);
  const [row] = await query<{ kept_at: Date }>(
    `insert into passphrase (job_id, sealed) values ($1, $2)
     on conflict (job_id) do update set sealed = excluded.sealed, kept_at = now() returning kept_at`,
    [jobId, sealed],
  );
  return row!.kept_at;
}

/** Since when one is kept; undefined where none is. */
export async function maybePassphraseTime(jobId: string): Promise<Date | undefined> {
  return (await maybeRow(jobId))?.kept_at;
}

/** What is kept, for whoever asks for it on purpose; throws `NotOpened` where it was sealed with another key. */
export async function maybePassphrase(jobId: string): Promise<WifiSecret | undefined> {
  const row = await maybeRow(jobId);
  return row && wifiSecretSchema.parse(JSON.parse(await unseal(row.sealed, jobId)));
}

/** @returns Whether there was one. */
export async function forgetPassphrase(jobId: string): Promise<boolean> {
  return (await query("delete from passphrase where job_id = $1 returning job_id", [jobId])).length > 0;
}

/** Forget it with whatever else a transaction does: what is handed over needs no passphrase of its customer. */
export async function forgetPassphraseIn(client: Queryable, jobId: string): Promise<void> {
  await client.query("delete from passphrase where job_id = $1", [jobId]);
}

async function maybeRow(jobId: string): Promise<z.output<typeof rowSchema> | undefined> {
  const [row] = await query("select sealed, kept_at from passphrase where job_id = $1", [jobId]);
  return row && rowSchema.parse(row);
}
