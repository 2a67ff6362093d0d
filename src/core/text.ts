import { z } from "zod";

const NUL = "\u0000";

/**
 * Text that every border takes and a database can keep: whole characters (no half of a surrogate pair) and no NUL,
 * which PostgreSQL has no place for. All text of a person or a file is parsed with it; lengths are checked on top.
 *
 * @example text().safeParse("Küche 🙂").success // true
 * @example text().safeParse("\uD83D").success // false: half an emoji
 */
export function text(): z.ZodString {
  return z
    .string()
    .refine((value) => value.isWellFormed(), "holds half of a character; type it again")
    .refine((value) => !value.includes(NUL), "holds a character that no text can hold (NUL)");
}

/**
 * At most `mostUnits` UTF-16 units of a text, cut between whole characters as people see them.
 *
 * @example cutText("Müller", 3) // "Mül"
 * @example cutText("ab👩‍👧", 4) // "ab": the family is one character
 */
export function cutText(whole: string, mostUnits: number): string {
  if (whole.length <= mostUnits) return whole;
  let end = 0;
  for (const { segment, index } of new Intl.Segmenter("en", { granularity: "grapheme" }).segment(
    whole.slice(0, mostUnits + LONGEST_CHARACTER),
  )) {
    if (index + segment.length > mostUnits) break;
    end = index + segment.length;
  }
  return whole.slice(0, end);
}

/** Behind the cut the segmenter must see the whole character that the cut may run through. */
const LONGEST_CHARACTER = 64;
