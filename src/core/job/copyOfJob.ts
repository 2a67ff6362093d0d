import type { JobDocument } from "@/core/job/jobDocument";

const MAX_NAME = 80;

/**
 * The same job under a name that is still free.
 *
 * @example copyOfJob(tollgate, ["Tollgate Cottage"]).job.name // "Tollgate Cottage (copy)"
 */
export function copyOfJob(document: JobDocument, takenNames: readonly string[]): JobDocument {
  const base = document.job.name.replace(/ \(copy(?: \d+)?\)$/, "");
  for (let number = 1; ; number++) {
    const suffix = number === 1 ? " (copy)" : ` (copy ${number})`;
    const name = base.slice(0, MAX_NAME - suffix.length).trimEnd() + suffix;
    if (!takenNames.includes(name)) return { ...document, job: { ...document.job, name } };
  }
}

/**
 * A file name for a job that every system takes.
 *
 * @example jobFileName of "Tollgate Cottage" is "tollgate-cottage.gormit-job.json"
 */
export function jobFileName(document: JobDocument): string {
  const plain = document.job.name.normalize("NFKD").replace(/\p{M}/gu, "").replace(/[^A-Za-z0-9]+/g, "-").replace(/^-+|-+$/g, "").toLowerCase();
  return `${plain || "job"}.gormit-job.json`;
}
