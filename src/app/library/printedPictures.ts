import sharp from "sharp";
import type { Pictures } from "@/app/threads/printTasks";
import { maybePhoto } from "@/db/photo";

/** Two a row on a page, at 200 dots an inch. */
const PRINTED_PX = 700;
const QUALITY = 72;
/** More than these are told by their captions alone: a document of hundreds is a bundle's work. */
const MOST_PICTURES = 200;
/** As many at once as lie in memory at their full size. */
const AT_ONCE = 4;

/** Photographs of a job, as small as they are printed. One that cannot be read is left out. */
export async function printedPictures(jobId: string, ids: readonly string[]): Promise<Pictures> {
  const waiting = [...new Set(ids)].slice(0, MOST_PICTURES);
  const made: Record<string, Uint8Array> = {};
  const work = async () => {
    for (let id = waiting.shift(); id !== undefined; id = waiting.shift()) {
      const small = await smallPicture(jobId, id);
      if (small) made[id] = small;
    }
  };
  await Promise.all(Array.from({ length: AT_ONCE }, work));
  return made;
}

async function smallPicture(jobId: string, id: string): Promise<Uint8Array | undefined> {
  const photo = await maybePhoto(jobId, id);
  if (!photo) return undefined;
  const size = { width: PRINTED_PX, height: PRINTED_PX, fit: "inside" as const, withoutEnlargement: true };
  const made = sharp(photo.bytes).resize(size).flatten({ background: "#ffffff" }).jpeg({ quality: QUALITY });
  return made.toBuffer().catch(() => undefined);
}
