import { createHash, randomBytes } from "node:crypto";
import { createWriteStream } from "node:fs";
import { mkdtemp, rm, stat } from "node:fs/promises";
import { tmpdir } from "node:os";
import path from "node:path";
import { Readable } from "node:stream";
import { pipeline } from "node:stream/promises";
import { eachPhotoOf, readBundle } from "@/app/library/bundle/readBundle";
import { writeBundle } from "@/app/library/bundle/writeBundle";

const MB = 1024 * 1024;
const PHOTOS = 50;
const PHOTO_BYTES = 4 * MB;
const LOOK_EVERY_MS = 5;

/** A bundle of 200 MB written and read again as streams: how much more memory that takes, and how long. */
export async function bundleInMemory(): Promise<void> {
  const folder = await mkdtemp(path.join(tmpdir(), "gormit-bench-"));
  const file = path.join(folder, "bundle.zip");
  try {
    const written = await grown(() => pipeline(Readable.fromWeb(bundle() as never), createWriteStream(file)));
    const { size } = await stat(file);
    const read = await grown(() => readBundle(file));
    const photos = await grown(() => eachPhotoOf(file, async () => Promise.resolve()));
    for (const [what, { mb, ms }] of [
      ["written", written],
      ["read and checked", read],
      ["its photographs taken out", photos],
    ] as const)
      console.log(`bundle of ${Math.round(size / MB)} MB ${what}: ${mb} MB more memory, ${ms} ms`);
  } finally {
    await rm(folder, { recursive: true });
  }
}

/** Photographs that are made when their turn comes, each the same whenever it is asked for. */
function bundle(): ReadableStream<Uint8Array> {
  const head = Buffer.from([0xff, 0xd8, 0xff, 0xe0]);
  const bytes = Buffer.concat([head, randomBytes(PHOTO_BYTES)]);
  const sha256 = createHash("sha256").update(bytes).digest("hex");
  const files = Array.from({ length: PHOTOS }, (_, at) => ({
    path: `photos/00000000-0000-4000-8000-${String(at).padStart(12, "0")}.jpg`,
    bytes: bytes.length,
    sha256,
    fetch: async () => Promise.resolve(Buffer.from(bytes)),
  }));
  const about = { job: "Bench", made: "2026-05-04T10:00:00.000Z", gormit: "0", logHead: "0".repeat(64), leavesOut: [] };
  return writeBundle(files, about);
}

async function grown(work: () => Promise<unknown>): Promise<{ readonly mb: number; readonly ms: number }> {
  const before = process.memoryUsage().rss;
  let most = before;
  const timer = setInterval(() => {
    most = Math.max(most, process.memoryUsage().rss);
  }, LOOK_EVERY_MS);
  const began = performance.now();
  await work();
  clearInterval(timer);
  return {
    mb: Math.round((Math.max(most, process.memoryUsage().rss) - before) / MB),
    ms: Math.round(performance.now() - began),
  };
}
