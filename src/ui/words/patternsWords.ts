import { counted } from "@/core/words";
import { inLanguage } from "@/ui/words/inLanguage";

const ENGLISH = {
  allPatterns: "All patterns",
  alreadyThere: "already there",
  batteryThreePhaseRadio: "battery, three phase, radio …",
  cable: "Cable",
  emptyWhereNoneCanBeLaid: "empty where none can be laid",
  howFarIsIt: "How far is it",
  inputsWithTheirCTsKits: (inputs: number, kits: number) =>
    `${counted(inputs, "input with its CT", "inputs with their CTs")}, ${counted(kits, "kit", "kits")}`,
  jobs: "Jobs",
  mainFuse: "Main fuse",
  makeThePlan: "Make the plan",
  nameOfTheJob: "Name of the job",
  noPatternHasAllOfTheseWordsTake:
    "No pattern has all of these words. Take one that is near and change the plan, or start with a blank one " +
    "under Jobs.",
  noPlanComesOfTheseAnswersYet: "No plan comes of these answers yet.",
  onSite: "on site",
  onSuchASite: "On such a site",
  phaseOf: (name: string) => `Phase of ${name}`,
  place: "Place",
  questions: "Questions",
  railBoardOf: (title: string) => `Rail board of ${title}`,
  railBoardOfThePlan: "Rail board of the plan",
  rating: "Rating",
  searchThePatterns: "Search the patterns",
  singlePhase: "single phase",
  singlePhaseL1N: "Single phase (L1, N)",
  splitPhase: "split phase",
  splitPhaseL1L2N: "Split phase (L1, L2, N)",
  supply: "Supply",
  thePlanThatComesOfIt: "The plan that comes of it",
  threePhase: "three phase",
  threePhaseL1L2L3N: "Three phase (L1, L2, L3, N)",
  to: (name: string, name2: string) => `${name} to ${name2}`,
  walk: "Walk",
  whatIsOnTheSite: "What is on the site",
  whatKindOfSiteIsIt: "What kind of site is it?",
};

/** What Patterns says, in one language; a second one has the same words. */
export type PatternsWords = typeof ENGLISH;

/** What is said in Patterns, in the language of the app. */
export const PATTERNS_WORDS = inLanguage<PatternsWords>({ en: ENGLISH });
