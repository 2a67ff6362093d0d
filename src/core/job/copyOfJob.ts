import { MOST_JOB_NAME_CHARACTERS, type JobDocument } from "@/core/job/jobDocument";
import { cutText } from "@/core/text";

/** Names that are compared must begin with what is left of the longest name with the longest number behind it. */
const LONGEST_SUFFIX = " (copy 99999)".length;

/**
 * The same job under a name that is still free.
 *
 * For example: `copyOfJob(tollgate, ["Tollgate Cottage"]).job.name` gives "Tollgate Cottage (copy)"
 */
export function copyOfJob(document: JobDocument, takenNames: readonly string[]): JobDocument {
  const base = withoutSuffix(document.job.name);
  const taken = new Set(takenNames);
  for (let number = 1; ; number++) {
    const suffix = number === 1 ? " (copy)" : ` (copy ${number})`;
    const name = cutText(base, MOST_JOB_NAME_CHARACTERS - suffix.length).trimEnd() + suffix;
    if (!taken.has(name)) return { ...document, job: { ...document.job, name } };
  }
}

/** What the names of a job's copies all begin with. */
export function nameWithoutCopy(name: string): string {
  return cutText(withoutSuffix(name), MOST_JOB_NAME_CHARACTERS - LONGEST_SUFFIX).trimEnd();
}

/**
 * The beginning of a file name for a job that every system takes.
 *
 * For example: fileStem of "Tollgate Cottage" is "tollgate-cottage"
 */
export function fileStem(document: JobDocument): string {
  const plain = document.job.name
    .normalize("NFKD")
    .replace(/\p{M}/gu, "")
    .replace(/[^A-Za-z0-9]+/g, "-")
    .replace(/^-+|-+$/g, "")
    .toLowerCase();
  return plain || "job";
}

/**
 * A file name for a job.
 *
 * For example: jobFileName of "Tollgate Cottage" is "tollgate-cottage.gormit-job.json"
 */
export function jobFileName(document: JobDocument): string {
  return `${fileStem(document)}.gormit-job.json`;
}

function withoutSuffix(name: string): string {
  return name.replace(/ \(copy(?: \d+)?\)$/, "") || name;
}
