import { z } from "zod";
import { text } from "@/core/text";

/** Ways of working in which makers differ: what may be said of each. */
export const PRACTICE_OPTIONS = {
  configureWhen: ["before-ac", "after-ac"],
  moduleWhen: ["before-power", "after-power"],
  firmwareWhen: ["early", "late"],
  pairingAt: ["hub", "follower"],
  energise: ["island-first", "grid-first"],
} as const;

const why = text().trim().min(1, "say why").max(300, "at most 300 characters").describe("The maker's reason");
const practice = <T extends readonly [string, ...string[]]>(options: T, what: string) =>
  z
    .strictObject({ option: z.enum(options).describe("What the maker asks for"), why })
    .optional()
    .describe(what);

/** How the maker wants it done, where makers differ; each with the reason. */
export const practiceSchema = z
  .strictObject({
    configureWhen: practice(PRACTICE_OPTIONS.configureWhen, "Settings before AC is closed, or after"),
    moduleWhen: practice(PRACTICE_OPTIONS.moduleWhen, "A communication module is seated before power, or after"),
    firmwareWhen: practice(PRACTICE_OPTIONS.firmwareWhen, "Firmware early, or at the end"),
    pairingAt: practice(PRACTICE_OPTIONS.pairingAt, "Pairing is opened at the hub, or at the follower"),
    energise: practice(PRACTICE_OPTIONS.energise, "The backup side proved alone first, or the grid first"),
  })
  .default({});

/** Ways of working in which makers differ. */
export type PracticeId = keyof typeof PRACTICE_OPTIONS;
