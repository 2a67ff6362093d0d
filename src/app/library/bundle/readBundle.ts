import { createHash } from "node:crypto";
import { openPromise, type Entry, type ZipFile } from "yauzl";
import { imageType } from "@/app/library/imageType";
import { bundlePart, MOST_FILES } from "@/core/handover/bundle/bundleParts";
import type { BundleFile } from "@/core/handover/bundle/manifest";
import type { Problem } from "@/core/problem";

/** A zip that holds so many times its own size is made to fill a memory. */
const MOST_UNPACKED_BYTES = 600 * 1024 * 1024;
const HEAD_BYTES = 16;
/** Flag of a zip's entry: it is encrypted. */
const ENCRYPTED = 1;

/** A file of a bundle as it was found; those that are read have their bytes. */
export interface FoundFile extends BundleFile {
  readonly content: Buffer | undefined;
}

export type BundleReading =
  | { readonly kind: "read"; readonly files: readonly FoundFile[] }
  | { readonly kind: "bad-file"; readonly problems: readonly Problem[] };

/**
 * Read a bundle once: each file that a bundle may have is unpacked as a stream and gets its fingerprint. Nothing is
 * written anywhere; a path that no bundle has, one that stands twice, and what unpacks to more than it may is named.
 */
export async function readBundle(file: string): Promise<BundleReading> {
  return withZip(file, async (zip) => {
    const files: FoundFile[] = [];
    const problems: Problem[] = [];
    let unpacked = 0;
    for await (const entry of entriesOf(zip)) {
      const path = entry.fileName;
      unpacked += entry.uncompressedSize;
      const problem = entryProblem(entry, files, unpacked);
      if (problem) problems.push({ path: [path.slice(0, 200)], message: problem });
      // What unpacks to more than is taken is not unpacked to the end.
      if (problems.length > 0) continue;
      const found = await unpackedFile(zip, entry);
      if (typeof found === "string") problems.push({ path: [path], message: found });
      else files.push(found);
    }
    return problems.length > 0 ? { kind: "bad-file", problems } : { kind: "read", files };
  });
}

/** Unpack the photographs of a bundle one after the other; `keep` has ended with one before the next is unpacked. */
export async function eachPhotoOf(file: string, keep: (path: string, bytes: Buffer) => Promise<void>): Promise<void> {
  const outcome = await withZip(file, async (zip) => {
    for await (const entry of entriesOf(zip)) {
      if (!entry.fileName.startsWith("photos/")) continue;
      const chunks: Buffer[] = [];
      for await (const chunk of await zip.openReadStreamPromise(entry)) chunks.push(chunk as Buffer);
      await keep(entry.fileName, Buffer.concat(chunks));
    }
    return { kind: "read", files: [] };
  });
  // Nothing of a job is kept without all of its photographs.
  if (outcome.kind === "bad-file") throw new Error(`eachPhotoOf: ${outcome.problems[0]?.message}`);
}

function entryProblem(entry: Entry, before: readonly FoundFile[], unpacked: number): string | undefined {
  const part = bundlePart(entry.fileName);
  if (!part) return "no bundle has such a file";
  if (before.some(({ path }) => path === entry.fileName)) return "stands twice";
  if ((entry.generalPurposeBitFlag & ENCRYPTED) !== 0) return "is encrypted";
  if (entry.uncompressedSize > part.most) return `unpacks to more than ${part.most} bytes`;
  if (before.length >= MOST_FILES) return `is one of more than ${MOST_FILES} files`;
  return unpacked > MOST_UNPACKED_BYTES ? "all files together unpack to more than a bundle may" : undefined;
}

async function unpackedFile(zip: ZipFile, entry: Entry): Promise<FoundFile | string> {
  const hash = createHash("sha256");
  const kept: Buffer[] = [];
  const isRead = bundlePart(entry.fileName)?.isRead === true;
  let head = Buffer.alloc(0);
  let bytes = 0;
  try {
    for await (const chunk of await zip.openReadStreamPromise(entry)) {
      const part = chunk as Buffer;
      hash.update(part);
      bytes += part.length;
      if (isRead) kept.push(part);
      if (head.length < HEAD_BYTES) head = Buffer.concat([head, part]).subarray(0, HEAD_BYTES);
    }
  } catch (error) {
    return `cannot be unpacked: ${messageOf(error)}`;
  }
  if (entry.fileName.startsWith("photos/") && extensionOf(head) !== entry.fileName.split(".").at(-1))
    return "is no picture of the kind that its name says";
  return {
    path: entry.fileName,
    bytes,
    sha256: hash.digest("hex"),
    content: isRead ? Buffer.concat(kept) : undefined,
  };
}

/** How a picture's file is called; undefined where it is none. */
export function extensionOf(bytes: Buffer): "jpg" | "png" | "webp" | undefined {
  const type = imageType(bytes);
  return type === undefined
    ? undefined
    : ({ "image/jpeg": "jpg", "image/png": "png", "image/webp": "webp" } as const)[type];
}

async function withZip(file: string, work: (zip: ZipFile) => Promise<BundleReading>): Promise<BundleReading> {
  let zip: ZipFile;
  try {
    zip = await openPromise(file, { lazyEntries: true, autoClose: false, strictFileNames: true });
  } catch (error) {
    return { kind: "bad-file", problems: [{ path: [], message: `this is no whole zip file: ${messageOf(error)}` }] };
  }
  try {
    return await work(zip);
  } catch (error) {
    if (!(error instanceof BadZip)) throw error;
    return { kind: "bad-file", problems: [{ path: [], message: `the zip file is damaged: ${error.message}` }] };
  } finally {
    zip.close();
  }
}

/** The list of a zip cannot be read, or names a path that leads out of it. */
class BadZip extends Error {}

async function* entriesOf(zip: ZipFile): AsyncGenerator<Entry> {
  const entries = zip.eachEntry();
  for (;;) {
    const next = await entries.next().catch((error: unknown) => {
      throw new BadZip(messageOf(error));
    });
    if (next.done) return;
    yield next.value;
  }
}

function messageOf(error: unknown): string {
  return error instanceof Error ? error.message : String(error);
}
