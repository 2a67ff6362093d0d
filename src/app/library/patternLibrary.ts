import { patternSchema, type Pattern } from "@/core/patterns/patternSchema";
import { shippedFiles } from "@/app/library/shippedFiles";

let patterns: Promise<readonly Pattern[]> | undefined;

/** The site patterns that ship with the program, by id. */
export function patternLibrary(): Promise<readonly Pattern[]> {
  patterns ??= shippedFiles("patterns", patternSchema).then((files) => files.map(({ value }) => value));
  return patterns;
}
