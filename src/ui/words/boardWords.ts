import { inLanguage } from "@/ui/words/inLanguage";

const ENGLISH = {
  larger: "Larger",
  showTheCircuitsAsAList: "Show the circuits as a list",
  showTheRailBoard: "Show the rail board",
  showTheWholeBoard: "Show the whole board",
  smaller: "Smaller",
};

/** What Board says, in one language; a second one has the same words. */
export type BoardWords = typeof ENGLISH;

/** What is said in Board, in the language of the app. */
export const BOARD_WORDS = inLanguage<BoardWords>({ en: ENGLISH });
