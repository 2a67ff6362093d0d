import { z } from "zod";
import { bundlePart, MANIFEST_PATH, MOST_FILES, SUMS_PATH } from "@/core/handover/bundle/bundleParts";
import type { Problem } from "@/core/problem";

const sha256Schema = z.string().regex(/^[0-9a-f]{64}$/, "a SHA-256 has 64 hexadecimal digits");

/** One file of a bundle. */
const bundleFileSchema = z.strictObject({
  path: z.string().max(200),
  bytes: z.int().min(0),
  sha256: sha256Schema,
  what: z.string().max(200),
});

/** What is in a bundle, each file with its fingerprint. */
export const manifestSchema = z.strictObject({
  format: z.literal("gormit-handover", 'this is no bundle: "format" must be "gormit-handover"'),
  version: z.literal(1, "this program reads version 1 of the bundle"),
  job: z.string().max(200).describe("Its name"),
  made: z.iso.datetime().describe("When"),
  gormit: z.string().max(40).describe("Version of the program"),
  logHead: sha256Schema.describe("The last hash of the log"),
  leavesOut: z.array(z.string().max(60)).max(20),
  files: z.array(bundleFileSchema).max(MOST_FILES),
});

/** What is in a bundle. */
export type BundleManifest = z.output<typeof manifestSchema>;
/** One file of a bundle, as it is listed or as it was found. */
export type BundleFile = Pick<z.output<typeof bundleFileSchema>, "path" | "bytes" | "sha256">;

/**
 * What is not in a bundle as its manifest says: changed, missing, or there without being listed. Each by its path.
 *
 * For example: a report of which one byte was changed: [{ path: ["report.pdf"], message: "was changed: …" }].
 */
export function manifestProblems(manifest: BundleManifest, found: readonly BundleFile[]): readonly Problem[] {
  const own = found.filter(({ path }) => path !== MANIFEST_PATH && path !== SUMS_PATH);
  const listed = new Map(manifest.files.map((file) => [file.path, file]));
  return [
    ...own.flatMap(({ path, bytes, sha256 }): Problem[] => {
      const file = listed.get(path);
      if (!file) return [{ path: [path], message: "is not listed in the manifest: it was put in afterwards" }];
      if (file.sha256 === sha256) return [];
      const size = file.bytes === bytes ? "" : `, and it has ${bytes} bytes in place of ${file.bytes}`;
      return [{ path: [path], message: `was changed: its fingerprint is not the one in the manifest${size}` }];
    }),
    ...manifest.files
      .filter(({ path }) => !own.some((file) => file.path === path))
      .map(({ path }) => ({ path: [path], message: "is missing" })),
    ...manifest.files
      .filter(({ path }) => !bundlePart(path))
      .map(({ path }) => ({ path: [MANIFEST_PATH, path], message: "no bundle has such a file" })),
  ];
}

/**
 * The list of fingerprints as `sha256sum -c` reads it: a line each.
 *
 * For example: `sumsText([{ path: "a", sha256: "12" }])` gives "12  a\n"
 */
export function sumsText(files: readonly Pick<BundleFile, "path" | "sha256">[]): string {
  return files.map(({ path, sha256 }) => `${sha256}  ${path}\n`).join("");
}

/**
 * What is not as the list of fingerprints says.
 *
 * For example: a list that leaves the manifest out: one problem of the list.
 */
export function sumsProblems(text: string, found: readonly BundleFile[]): readonly Problem[] {
  const lines = new Set(text.split("\n").filter((line) => line !== ""));
  const wanted = found.filter(({ path }) => path !== SUMS_PATH).map((file) => sumsText([file]).trimEnd());
  const isSame = lines.size === wanted.length && wanted.every((line) => lines.has(line));
  return isSame ? [] : [{ path: [SUMS_PATH], message: "does not say what is in the bundle" }];
}
