import { createHash } from "node:crypto";
import { eachPhotoOf, readBundle } from "@/app/library/bundle/readBundle";
import { imageType } from "@/app/library/imageType";
import { checkBundle, type BundleOutcome } from "@/core/handover/bundle/checkBundle";
import { renumbered } from "@/core/handover/bundle/renumbered";
import { transaction } from "@/db/client";
import { bringHandoverIn } from "@/db/handover";
import { createJobIn, type CreateOutcome, type WrittenJob } from "@/db/job";
import { bringPhotoIn } from "@/db/photo";
import { sha256Hex } from "@/db/visitChain";
import { manyTakenIds, writeEntries } from "@/db/visitEntry";

const PHOTOS = "photos/";

type WholeBundle = Extract<BundleOutcome, { kind: "whole" }>;

/** Whether the bundle in a file is as it was made. Nothing is kept. */
export async function checkedBundle(file: string): Promise<BundleOutcome> {
  const read = await readBundle(file);
  if (read.kind === "bad-file") return read;
  const files = read.files.map(({ content, ...own }) => ({ ...own, text: content?.toString("utf8") }));
  return checkBundle(files, sha256Hex);
}

/** What is brought in, as what, and from which file. */
export interface BroughtIn {
  readonly file: string;
  readonly bundle: WholeBundle;
  readonly written: WrittenJob;
  /** Of the new job. */
  readonly id: string;
  readonly request: string | undefined;
}

/** How it came out, and whether its lines had to get ids of their own, since the first job stands here too. */
export type BroughtOutcome = CreateOutcome & { readonly isRenumbered: boolean };

/**
 * Keep a job with its log, photographs and hand overs, all of it or nothing. Where nothing of it is here yet, every
 * line keeps its id, and the log its hashes.
 */
export async function bringBundle({ file, bundle, written, id, request }: BroughtIn): Promise<BroughtOutcome> {
  const photos = bundle.manifest.files.map(({ path }) => path).filter((path) => path.startsWith(PHOTOS));
  const taken = await manyTakenIds([
    ...photos.map(idOfPhoto),
    ...bundle.entries.map((entry) => entry.id),
    ...bundle.handovers.map((handover) => handover.id),
  ]);
  const isRenumbered = taken.length > 0;
  const idOf = (old: string) => (isRenumbered ? idWithin(id, old) : old);
  const outcome = await transaction(`job ${id}`, async (client): Promise<CreateOutcome> => {
    const made = await createJobIn(client, written, { id, request });
    if (made.kind !== "created") return made;
    await writeEntries(
      client,
      id,
      bundle.entries.map((entry) => renumbered(entry, idOf)),
    );
    for (const handover of bundle.handovers) await bringHandoverIn(client, id, { ...handover, id: idOf(handover.id) });
    await eachPhotoOf(file, async (path, bytes) => {
      const type = imageType(bytes);
      if (type) await bringPhotoIn(client, id, idOf(idOfPhoto(path)), { type, bytes });
    });
    return made;
  });
  return { ...outcome, isRenumbered };
}

function idOfPhoto(path: string): string {
  return path.slice(PHOTOS.length, path.lastIndexOf("."));
}

/** An id that is the same each time for the same job and the same old id (the form of RFC 9562, version 8). */
function idWithin(job: string, old: string): string {
  const hex = createHash("sha256").update(`${job} ${old}`).digest("hex");
  return `${hex.slice(0, 8)}-${hex.slice(8, 12)}-8${hex.slice(13, 16)}-a${hex.slice(17, 20)}-${hex.slice(20, 32)}`;
}
