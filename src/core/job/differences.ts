import microdiff from "microdiff";
import type { JobDocument } from "@/core/job/jobDocument";
import { pathText } from "@/core/problem";
import { cutText } from "@/core/text";

/** One place in which two versions of a job differ, with what stands in each. */
export interface Difference {
  readonly path: string;
  readonly mine: string;
  readonly theirs: string;
}

const NOTHING = "nothing";
const LONGEST = 60;

/**
 * Where two versions of a job differ, for a person to choose by.
 *
 * For example: `differences(mine, theirs)` gives [{ path: "site.cts[1].arrow", mine: "to-load", theirs: "to-grid" }]
 */
export function differences(mine: JobDocument, theirs: JobDocument): readonly Difference[] {
  return microdiff(theirs, mine).map((change) => ({
    path: pathText(change.path),
    mine: change.type === "REMOVE" ? NOTHING : shortText(change.value),
    theirs: change.type === "CREATE" ? NOTHING : shortText(change.oldValue),
  }));
}

function shortText(value: unknown): string {
  const text = typeof value === "string" ? value : JSON.stringify(value);
  return text.length > LONGEST ? `${cutText(text, LONGEST)}…` : text;
}
