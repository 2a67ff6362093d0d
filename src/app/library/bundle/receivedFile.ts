import { createHash } from "node:crypto";
import { createWriteStream } from "node:fs";
import { mkdtemp, rm } from "node:fs/promises";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { Readable } from "node:stream";
import { pipeline } from "node:stream/promises";

const TIMEOUT_MS = 10 * 60_000;

/** A body that was received into a file, with its SHA-256; or that it was more than is taken. */
export type ReceivedFile =
  { readonly kind: "file"; readonly path: string; readonly sha256: string } | { readonly kind: "too-large" };

/** Receive a body of any length into a file that is gone when `work` has ended; in memory lies only what just came. */
export async function withReceivedFile<T>(
  request: Request,
  mostBytes: number,
  work: (file: ReceivedFile) => Promise<T>,
): Promise<T> {
  const folder = await mkdtemp(join(tmpdir(), "gormit-bundle-"));
  try {
    return await work(await received(request, mostBytes, join(folder, "bundle.zip")));
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}

async function received(request: Request, mostBytes: number, path: string): Promise<ReceivedFile> {
  const hash = createHash("sha256");
  let bytes = 0;
  const measured = async function* (source: AsyncIterable<Uint8Array>) {
    for await (const chunk of source) {
      bytes += chunk.length;
      if (bytes > mostBytes) throw new TooLarge();
      hash.update(chunk);
      yield chunk;
    }
  };
  // What Node calls its stream and what the browser's standard calls it are told apart by the types alone.
  const body = request.body
    ? Readable.fromWeb(request.body as Parameters<typeof Readable.fromWeb>[0])
    : Readable.from([]);
  try {
    await pipeline(body, measured, createWriteStream(path), { signal: AbortSignal.timeout(TIMEOUT_MS) });
  } catch (error) {
    if (error instanceof TooLarge) return { kind: "too-large" };
    throw error;
  }
  return { kind: "file", path, sha256: hash.digest("hex") };
}

class TooLarge extends Error {}
