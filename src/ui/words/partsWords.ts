import { inLanguage } from "@/ui/words/inLanguage";

const ENGLISH = {
  andMore: (value: number) => `and ${value} more`,
  aNewVersionOfGormitIsReadyWhatYou: "A new version of Gormit is ready. What you typed is kept.",
  asTheSystem: "as the system",
  cannotBeComputed: (of: string) => `${of} cannot be computed.`,
  cannotBeReadChooseItAgain: (name: string) => `${name} cannot be read. Choose it again.`,
  dark: "dark",
  endTheLinkOf: (when: string) => `End the link of ${when}`,
  expected: "expected",
  file: "file",
  gormit: "Gormit",
  gormitsServerCannotBeReached: "Gormit's server cannot be reached. Nothing was changed; try again.",
  hasMbAtMostMbAreRead: (name: string, sizeMb: number, value: number) =>
    `${name} has ${sizeMb} MB; at most ${value} MB are read.`,
  isKept: (value: string) => `; ${value} is kept`,
  isKeptOf: (problem: string, value: string) => `${problem}; “${value}” is kept`,
  kW: (value: number) => `${value} kW`,
  light: "light",
  look: (words: string) => `Look: ${words}`,
  lookPressFor: (words: string, words2: string) => `Look: ${words}. Press for ${words2}.`,
  makeANewLinkTheOldOneEnds: "Make a new link, the old one ends",
  measured: "measured",
  move: (name: string) => `Move ${name}`,
  moveDragOrSpaceAndTheArrows: (name: string) => `Move ${name}: drag, or Space and the arrows`,
  needsAConnection: "needs a connection",
  note: "note",
  notes: "notes",
  notNow: "Not now",
  notReadYetNothingIsLost: "Not read yet; nothing is lost:",
  of: (about: string) => `of ${about}`,
  optional: "optional",
  otherSignOf: (label: string) => `Other sign of ${label}`,
  over: (called: string, place: string) => `${called} over ${place}.`,
  placeOf: (indexOf: number, idsCount: number) => `place ${indexOf} of ${idsCount}`,
  putDown: (called: string, place: string) => `${called} put down, ${place}.`,
  putTheValueRightTheFindingsNameIt: (why: string) => `${why}. Put the value right; the findings name it.`,
  staysWhereItWas: (called: string) => `${called} stays where it was.`,
  stop: "stop",
  takenUp: (called: string, place: string) => `${called} taken up, ${place}.`,
  theServerGaveAnAnswerThatMakes:
    "The server gave an answer that makes no sense. Load the page again before you go on.",
  toFix: "to fix",
  useItNow: "Use it now",
  which: "Which?",
};

/** What Parts says, in one language; a second one has the same words. */
export type PartsWords = typeof ENGLISH;

/** What is said in Parts, in the language of the app. */
export const PARTS_WORDS = inLanguage<PartsWords>({ en: ENGLISH });
