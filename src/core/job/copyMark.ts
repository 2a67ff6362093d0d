import type { z } from "zod";
import type { copiedSchema } from "@/core/job/copiedSchema";
import { momentText } from "@/core/momentText";
import type { JobDocument } from "@/core/job/jobDocument";
import { joined } from "@/core/words";

/** What a job's file leaves out, and a copy therefore has not. */
export const LEFT_OUT = ["log", "photographs", "hand overs", "passphrase"] as const;
/** What a bundle leaves out: it has the proof with it. */
export const LEFT_OUT_OF_BUNDLE = ["passphrase"] as const;

/**
 * A job that is marked as a copy: what was read, tested and seen before it was made is of the first one, and proves
 * nothing here.
 *
 * For example: of a file that was imported on the 2nd, a reading of the 1st proves nothing.
 *
 * @param at when it is made, ISO 8601
 */
export function markedCopy(document: JobDocument, how: z.output<typeof copiedSchema>["how"], at: string): JobDocument {
  return { ...document, copied: { at, how, without: [...LEFT_OUT] } };
}

/**
 * A job that was brought in with its log, photographs and hand overs: what was proved is proved. Where it was a copy
 * before, it stays that one.
 *
 * For example: of a job that was duplicated and then brought elsewhere: its mark is that of the duplicate.
 */
export function markedBrought(document: JobDocument, at: string): JobDocument {
  return document.copied ? document : { ...document, copied: { at, how: "bundle", without: [...LEFT_OUT_OF_BUNDLE] } };
}

/**
 * Whether something was recorded before a job was copied; what has no time was, since whatever is recorded now has one.
 *
 * For example: of a job that is no copy never.
 *
 * @param at when it was recorded, ISO 8601
 */
export function isBeforeCopy({ copied }: Pick<JobDocument, "copied">, at: string | undefined): boolean {
  return (
    copied !== undefined && copied.how !== "bundle" && (at === undefined || Date.parse(at) < Date.parse(copied.at))
  );
}

/**
 * What a copy is, in words; undefined of a job that is none.
 *
 * For example: "A copy, made 2026-11-02 09:10 UTC from a file, without its log, photographs, hand overs and passphrase:
 * what was read, tested or seen before proves nothing here."
 */
export function copyWords({ copied }: Pick<JobDocument, "copied">): string | undefined {
  if (!copied) return undefined;
  if (copied.how === "bundle")
    return `Brought in ${momentText(copied.at)} from a bundle, with its log, photographs and hand overs.`;
  const from = copied.how === "file" ? "from a file" : "of another job";
  const without = copied.without.length > 0 ? `, without its ${joined(copied.without)}` : "";
  const at = momentText(copied.at);
  return `A copy, made ${at} ${from}${without}: what was read, tested or seen before proves nothing here.`;
}
