import { z } from "zod";

/**
 * A record of at most so many entries: lists and texts have their lengths bounded where they are declared, and so have
 * records.
 *
 * @example boundedRecord(text(), z.number(), 1).safeParse({ a: 1, b: 2 }).success // false
 */
export function boundedRecord<K extends z.ZodString, V extends z.ZodType>(
  key: K,
  value: V,
  mostEntries: number,
): z.ZodRecord<K, V> {
  return z
    .record(key, value)
    .refine((record) => Object.keys(record).length <= mostEntries, `at most ${mostEntries} entries`);
}
