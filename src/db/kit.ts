import { z } from "zod";
import { kitSchema, type Kit } from "@/core/kits/kitSchema";
import type { LibraryKit } from "@/core/kits/libraryKit";
import { query } from "@/db/client";

const kitRowSchema = z.object({ document: kitSchema, text: z.string() })
  .transform((row): LibraryKit => ({ kit: row.document, text: row.text, origin: "own" }));

const jobUseSchema = z.object({ id: z.uuid(), name: z.string() });

/** A job that uses a kit. */
export type JobUse = z.output<typeof jobUseSchema>;

/** The kits that users brought in, by name. */
export async function manyKits(): Promise<readonly LibraryKit[]> {
  const rows = await query("select document, text from kit where deleted_at is null order by document ->> 'name'");
  return rows.map((row) => kitRowSchema.parse(row));
}

/** A user's kit, unless there is none of this id or it is deleted. */
export async function maybeKit(id: string): Promise<LibraryKit | undefined> {
  const [row] = await query("select document, text from kit where id = $1 and deleted_at is null", [id]);
  return row && kitRowSchema.parse(row);
}

/** Keep a user's kit, new or in place of the one of this id. */
export async function saveKit(kit: Kit, text: string): Promise<void> {
  await query(`
    insert into kit (id, text, document) values ($1, $2, $3)
    on conflict (id) do update set text = $2, document = $3, revision = kit.revision + 1, updated_at = now(), deleted_at = null`,
    [kit.id, text, kit]);
}

/** Put a user's kit away; it can be restored. False when there is none. */
export async function deleteKit(id: string): Promise<boolean> {
  return (await query("update kit set deleted_at = now() where id = $1 and deleted_at is null returning id", [id])).length > 0;
}

/** Bring a deleted kit back. False when there is none that is deleted. */
export async function restoreKit(id: string): Promise<boolean> {
  return (await query("update kit set deleted_at = null where id = $1 and deleted_at is not null returning id", [id])).length > 0;
}

/** The jobs whose plan uses a kit, by name. */
export async function manyJobsWithKit(id: string): Promise<readonly JobUse[]> {
  const rows = await query("select id, name from job where deleted_at is null and document -> 'kits' @> $1::jsonb order by name", [JSON.stringify([{ id }])]);
  return rows.map((row) => jobUseSchema.parse(row));
}
