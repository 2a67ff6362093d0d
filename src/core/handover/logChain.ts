import { z } from "zod";

/** What the first line of a log is chained to: nothing. */
export const CHAIN_BEGIN = "0".repeat(64);

const hashSchema = z.string().regex(/^[0-9a-f]{64}$/);

/** How a check of a log's chain came out. */
export const chainCheckSchema = z.strictObject({
  lines: z.int().describe("Lines that were looked at"),
  head: hashSchema.describe("The hash of the last line that holds: it stands for the whole log up to it"),
  broken: z
    .strictObject({
      at: z.int().describe("The line, from 1"),
      why: z.enum(["changed", "not-chained"]).describe("Changed since it was chained, or never chained"),
    })
    .nullable(),
});

/** How a check came out. */
export type ChainCheck = z.output<typeof chainCheckSchema>;

/** One line of a log as it is kept: its text, and what it was chained by. */
export interface ChainedLine {
  /** As it was hashed, byte by byte. */
  readonly text: string;
  /** Hexadecimal; undefined where it was never chained. */
  readonly hash: string | undefined;
}

/**
 * Whether a log is as it was written: the hash of each line is that of the line before and its own text together. The
 * first that does not fit is told; what comes after it proves nothing.
 *
 * For example: a log of two lines whose second was changed: broken at 2, its head is the hash of the first.
 *
 * @param hashOf SHA-256 of a text (FIPS 180-4), hexadecimal.
 */
export function checkChain(lines: Iterable<ChainedLine>, hashOf: (text: string) => string): ChainCheck {
  let head = CHAIN_BEGIN;
  let at = 0;
  for (const { text, hash } of lines) {
    at++;
    if (hash === undefined) return { lines: at, head, broken: { at, why: "not-chained" } };
    const next = hashOf(linkText(head, text));
    if (next !== hash) return { lines: at, head, broken: { at, why: "changed" } };
    head = next;
  }
  return { lines: at, head, broken: null };
}

/**
 * What is hashed for a line: the hash before it, a space, and the line.
 *
 * @example linkText("ab", "{}") // "ab {}"
 */
export function linkText(before: string, text: string): string {
  return `${before} ${text}`;
}
