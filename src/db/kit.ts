import { z } from "zod";
import { kitSchema, type Kit } from "@/core/kits/kitSchema";
import type { LibraryKit } from "@/core/kits/libraryKit";
import { pathText } from "@/core/problem";
import { query, transaction } from "@/db/client";

const kitRowSchema = z.object({ id: z.string(), document: z.unknown(), text: z.string(), revision: z.int() });

/** A kit of one's own that this program cannot read any more: shown as broken, with its text. */
export interface BrokenKit {
  readonly id: string;
  readonly text: string;
  readonly problem: string;
}

export type KitOutcome =
  | { readonly kind: "saved"; readonly revision: number }
  /** It was changed since, or is there already; nothing was written. */
  | { readonly kind: "conflict"; readonly revision: number; readonly text: string };

const jobUseSchema = z.object({ id: z.uuid(), name: z.string() });

/** A job that uses a kit. */
export type JobUse = z.output<typeof jobUseSchema>;

/** The kits that users brought in, by name, and those rows that cannot be read as kits. */
export async function manyKits(): Promise<{
  readonly kits: readonly LibraryKit[];
  readonly broken: readonly BrokenKit[];
}> {
  const rows = (
    await query(
      "select id, document, text, revision from kit where deleted_at is null order by document ->> 'name', id",
    )
  ).map(readRow);
  return {
    kits: rows.flatMap((row) => ("kit" in row ? [row] : [])),
    broken: rows.flatMap((row) => ("kit" in row ? [] : [row])),
  };
}

/** A user's kit, unless there is none of this id, it is deleted, or it cannot be read. */
export async function maybeKit(id: string): Promise<LibraryKit | undefined> {
  const [row] = (
    await query("select id, document, text, revision from kit where id = $1 and deleted_at is null", [id])
  ).map(readRow);
  return row && "kit" in row ? row : undefined;
}

/**
 * Keep a user's kit: new (revision 0), or in place of the revision that it was edited from. A deleted one of this id
 * gives way to a new one; its texts stay. The same text sent again is kept once.
 */
export async function saveKit(kit: Kit, text: string, revision: number): Promise<KitOutcome> {
  return transaction(`kit ${kit.id}`, async (client): Promise<KitOutcome> => {
    const {
      rows: [row],
    } = await client.query<{ revision: number; text: string; isDeleted: boolean }>(
      'select revision, text, deleted_at is not null as "isDeleted" from kit where id = $1 for update',
      [kit.id],
    );
    if (row && !row.isDeleted && row.text === text) return { kind: "saved", revision: row.revision };
    if (row && !row.isDeleted && row.revision !== revision)
      return { kind: "conflict", revision: row.revision, text: row.text };
    const {
      rows: [saved],
    } = await client.query<{ revision: number }>(
      `
      insert into kit (id, text, document) values ($1, $2, $3)
      on conflict (id) do update
        set text = $2, document = $3, revision = kit.revision + 1, updated_at = now(), deleted_at = null
      returning revision`,
      [kit.id, text, kit],
    );
    await client.query("insert into kit_revision (kit_id, revision, text) values ($1, $2, $3)", [
      kit.id,
      saved!.revision,
      text,
    ]);
    return { kind: "saved", revision: saved!.revision };
  });
}

/** Put a user's kit away; it can be restored. False when there is none. */
export async function deleteKit(id: string): Promise<boolean> {
  return (
    (await query("update kit set deleted_at = now() where id = $1 and deleted_at is null returning id", [id])).length >
    0
  );
}

/** Bring a deleted kit back. False when there is none that is deleted. */
export async function restoreKit(id: string): Promise<boolean> {
  return (
    (await query("update kit set deleted_at = null where id = $1 and deleted_at is not null returning id", [id]))
      .length > 0
  );
}

/** The jobs whose plan uses a kit, by name. */
export async function manyJobsWithKit(id: string): Promise<readonly JobUse[]> {
  const rows = await query(
    "select id, name from job where deleted_at is null and document -> 'kits' @> $1::jsonb order by name",
    [JSON.stringify([{ id }])],
  );
  return rows.map((row) => jobUseSchema.parse(row));
}

function readRow(row: unknown): LibraryKit | BrokenKit {
  const { id, document, text, revision } = kitRowSchema.parse(row);
  const kit = kitSchema.safeParse(document);
  if (kit.success) return { kit: kit.data, text, origin: "own", revision };
  const [first] = kit.error.issues;
  return { id, text, problem: first ? `${pathText(first.path)}: ${first.message}` : "unreadable" };
}
