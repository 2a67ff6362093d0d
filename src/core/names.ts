import { text } from "@/core/text";

/** What an id has at most, in characters. */
export const MOST_ID_CHARACTERS = 64;
/** What a name has at most, in characters. */
export const MOST_NAME_CHARACTERS = 80;

/** What is referred to by: trimmed, 1 to 64 characters. */
export const idSchema = text()
  .trim()
  .min(1, "give an id")
  .max(MOST_ID_CHARACTERS, `an id has at most ${MOST_ID_CHARACTERS} characters`)
  .describe("Id, unique among its kind");
/** What people call something: trimmed, 1 to 80 characters. */
export const nameSchema = text()
  .trim()
  .min(1, "give a name")
  .max(MOST_NAME_CHARACTERS, `a name has at most ${MOST_NAME_CHARACTERS} characters`)
  .describe("Name, as people call it");
