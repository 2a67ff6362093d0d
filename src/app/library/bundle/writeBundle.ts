import { createHash } from "node:crypto";
import { Readable } from "node:stream";
import { ZipFile } from "yazl";
import { MANIFEST_PATH, SUMS_PATH, bundlePart } from "@/core/handover/bundle/bundleParts";
import { manifestSchema, sumsText, type BundleFile, type BundleManifest } from "@/core/handover/bundle/manifest";

/** A file of a bundle that is at hand, or one that is fetched in its turn, with its fingerprint known before. */
export type NewBundleFile =
  { readonly path: string; readonly bytes: Buffer } | (BundleFile & { readonly fetch: () => Promise<Buffer> });

/**
 * A bundle as a stream: its files, the manifest with their fingerprints, and the list that standard tools check. Files
 * that are fetched lie in memory one at a time.
 */
export function writeBundle(
  files: readonly NewBundleFile[],
  about: Omit<BundleManifest, "format" | "version" | "files">,
): ReadableStream<Uint8Array> {
  const zip = new ZipFile();
  const mtime = new Date(about.made);
  const listed = files.map((file) => {
    if ("fetch" in file) zip.addReadStreamLazy(file.path, { mtime, size: file.bytes, compress: false }, opened(file));
    else zip.addBuffer(file.bytes, file.path, { mtime });
    return "fetch" in file ? { path: file.path, bytes: file.bytes, sha256: file.sha256 } : fingerprint(file);
  });
  const manifest = manifestSchema.parse({
    format: "gormit-handover",
    version: 1,
    ...about,
    files: listed.map((file) => ({ ...file, what: bundlePart(file.path)?.what ?? "" })),
  });
  const text = Buffer.from(`${JSON.stringify(manifest, null, 2)}\n`);
  zip.addBuffer(text, MANIFEST_PATH, { mtime });
  const sums = sumsText([...listed, fingerprint({ path: MANIFEST_PATH, bytes: text })]);
  zip.addBuffer(Buffer.from(sums), SUMS_PATH, { mtime });
  zip.end();
  const output = Readable.from(zip.outputStream);
  // Whoever downloads it must see that it broke off, and not wait for the rest.
  zip.on("error", (error: Error) => output.destroy(error));
  // What Node calls its stream and what the browser's standard calls it are told apart by the types alone.
  return Readable.toWeb(output) as ReadableStream<Uint8Array>;
}

type Opener = (done: (error: unknown, stream: NodeJS.ReadableStream) => void) => void;

function opened({ fetch }: { readonly fetch: () => Promise<Buffer> }): Opener {
  return (done) => {
    fetch().then(
      (bytes) => done(null, Readable.from([bytes])),
      (error: unknown) => done(error, Readable.from([])),
    );
  };
}

function fingerprint({ path, bytes }: { readonly path: string; readonly bytes: Buffer }): BundleFile {
  return { path, bytes: bytes.length, sha256: createHash("sha256").update(bytes).digest("hex") };
}
