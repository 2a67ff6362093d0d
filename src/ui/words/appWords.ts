import { inLanguage } from "@/ui/words/inLanguage";

const ENGLISH = {
  allJobs: "All jobs",
  aSiteReadsWrong: "A site reads wrong",
  deadlines: "Deadlines",
  editAKit: "Edit a kit",
  gormit: "Gormit",
  jobs: "Jobs",
  kits: "Kits",
  lookAtTheTerminalInWhichGormit:
    "Look at the terminal in which Gormit was started, start it again if it has ended, then try again.",
  mostLikelyTheDatabaseDoesNotAnswer:
    "Most likely the database does not answer. Nothing is lost: what was saved is kept, and what you typed since " +
    "then is kept in this browser.",
  noSuchJob: "No such job",
  noSuchKit: "No such kit",
  noSuchPattern: "No such pattern",
  somethingOnThePageFailedNothing:
    "Something on the page failed. Nothing is lost: what was saved is kept, and what you typed since then is " +
    "kept in this browser.",
  startFromAPattern: "Start from a pattern",
  theJobWasDeletedOrTheAddress:
    "The job was deleted, or the address is wrong. A job that was just deleted can be brought back from the list.",
  thereIsNothingHere: "There is nothing here",
  thisPageCouldNotBeShown: "This page could not be shown",
  tryAgain: "Try again",
  tryAgainIfItFailsAgainReload: (message: string) =>
    `Try again; if it fails again, reload the page. What failed: ${message}`,
  whereEveryCtGoesWhatEachMeter:
    "Where every CT goes, what each meter should read, and what is wrong when it does not.",
  yourSite: "Your site",
};

/** What App says, in one language; a second one has the same words. */
export type AppWords = typeof ENGLISH;

/** What is said in App, in the language of the app. */
export const APP_WORDS = inLanguage<AppWords>({ en: ENGLISH });
