const MB = 1024 * 1024;

/** What a file of a bundle is. */
export interface BundlePart {
  readonly what: string;
  /** What it may have at most, in bytes, once it is unpacked. */
  readonly most: number;
  /** Read when it comes back; everything else is for people. */
  readonly isRead: boolean;
}

/** The list of fingerprints that standard tools check: `sha256sum -c SHA256SUMS`. */
export const SUMS_PATH = "SHA256SUMS";
/** What is in the bundle, each file with its fingerprint. */
export const MANIFEST_PATH = "manifest.json";
/** The job as its file has it. */
export const JOB_PATH = "job.gormit-job.json";
/** The log line by line, each with its hash. */
export const LOG_PATH = "log.chain";
/** The report as data: its SHA-256 is the fingerprint on its pages. */
export const REPORT_PATH = "report.json";

/** Files of a bundle: a photograph a file, a hand over three; all others once. */
export const MOST_FILES = 1000;

const UUID = "[0-9a-f]{8}(?:-[0-9a-f]{4}){3}-[0-9a-f]{12}";
const part = (what: string, mostMb: number, isRead = false): BundlePart => ({ what, most: mostMb * MB, isRead });
const FIXED: Readonly<Record<string, BundlePart>> = {
  [MANIFEST_PATH]: part("What is in the bundle, with fingerprints", 1, true),
  [SUMS_PATH]: part("Fingerprints for standard tools", 1, true),
  [JOB_PATH]: part("The job", 8, true),
  [LOG_PATH]: part("The log as a chain", 32, true),
  [REPORT_PATH]: part("The report as data", 16, true),
  "report.pdf": part("The report", 64),
  "readings.csv": part("The readings", 16),
  "log.csv": part("The log", 32),
  "labels.csv": part("The labels", 4),
  "labels.pdf": part("The labels", 16),
  "wiring.csv": part("The wiring", 4),
  "wiring.pdf": part("The wiring", 16),
  "materials.csv": part("The materials", 4),
};
const NUMBERED: readonly (readonly [RegExp, BundlePart])[] = [
  [new RegExp(`^photos/${UUID}\\.(?:jpg|png|webp)$`), part("A photograph", 12)],
  [/^handovers\/[1-9]\d{0,5}\.json$/, part("A hand over", 9, true)],
  [/^handovers\/[1-9]\d{0,5}\.report\.json$/, part("The report of a hand over as data", 16, true)],
];

/**
 * What a path in a bundle stands for; undefined for one that no bundle has. Nothing else is unpacked, so that a path
 * leads nowhere.
 *
 * For example: `bundlePart("report.pdf")` is "The report", `bundlePart("../report.pdf")` is undefined.
 */
export function bundlePart(path: string): BundlePart | undefined {
  return Object.hasOwn(FIXED, path) ? FIXED[path] : NUMBERED.find(([form]) => form.test(path))?.[1];
}
