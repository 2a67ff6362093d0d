import sharp from "sharp";
import type { Pictures } from "@/app/threads/printTasks";
import { keepPhotoPrint, manyPhotoPrints, maybePhoto } from "@/db/photo";

/** Two a row on a page, at 200 dots an inch. */
const PRINTED_PX = 700;
const QUALITY = 72;
/** More than these are told by their captions alone: a document of hundreds is a bundle's work. */
const MOST_PICTURES = 200;
/** As many at once as lie in memory at their full size. */
const AT_ONCE = 2;

/** Photographs of a job, as small as they are printed. One that cannot be read is left out. */
export async function printedPictures(jobId: string, ids: readonly string[]): Promise<Pictures> {
  const wanted = [...new Set(ids)].slice(0, MOST_PICTURES);
  const made = new Map(await manyPhotoPrints(jobId, wanted));
  const waiting = wanted.filter((id) => !made.has(id));
  const work = async () => {
    for (let id = waiting.shift(); id !== undefined; id = waiting.shift()) {
      const photo = await maybePhoto(jobId, id);
      const small = photo && (await makePhotoPrint(id, photo.bytes));
      if (small) made.set(id, small);
    }
  };
  await Promise.all(Array.from({ length: AT_ONCE }, work));
  return Object.fromEntries(made);
}

/** Make a photograph as small as it is printed, and keep it; undefined where it cannot be read. */
export async function makePhotoPrint(id: string, bytes: Buffer): Promise<Buffer | undefined> {
  const size = { width: PRINTED_PX, height: PRINTED_PX, fit: "inside" as const, withoutEnlargement: true };
  const made = sharp(bytes).resize(size).flatten({ background: "#ffffff" }).jpeg({ quality: QUALITY });
  const small = await made.toBuffer().catch(() => undefined);
  if (small) await keepPhotoPrint(id, small);
  return small;
}
