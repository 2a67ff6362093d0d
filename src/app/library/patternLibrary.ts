import { patternSchema, type Pattern } from "@/core/patterns/patternSchema";
import { shippedFiles } from "@/app/library/shippedFiles";

let patterns: Promise<readonly Pattern[]> | undefined;

/** The site patterns that ship with the program, by title. */
export function patternLibrary(): Promise<readonly Pattern[]> {
  patterns ??= shippedFiles("patterns", patternSchema).then((files) =>
    files.map(({ value }) => value).toSorted((a, b) => a.title.localeCompare(b.title, "en")),
  );
  return patterns;
}
