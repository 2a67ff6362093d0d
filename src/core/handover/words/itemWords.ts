import type { Verdict } from "@/core/flows/diagnose";
import type { JobDocument } from "@/core/job/jobDocument";
import type { NEED_IDS } from "@/core/kits/registrationKitSchema";

type LimitTests = JobDocument["limit"];

/**
 * What a hand over says of each thing that is proved, missing or accepted, in one language: the words, and the
 * sentences that hold values. What others have named or written stays as they did.
 */
export interface ItemWords {
  readonly verdicts: Readonly<Record<Verdict, string>>;
  readonly limitVerdicts: Readonly<Record<LimitTests["proofs"][number]["verdict"], string>>;
  readonly fallbackVerdicts: Readonly<Record<LimitTests["fallbackTests"][number]["verdict"], string>>;
  readonly needs: Readonly<Record<(typeof NEED_IDS)[number], string>>;
  readonly nothingRead: string;
  readonly beingWeighed: string;
  readonly simulated: (count: number, all: number) => string;
  readonly beforeCopy: (count: number, all: number) => string;
  readonly readSo: (verdict: string, readings: number, steps: number) => string;
  readonly everyReading: (isProved: boolean) => string;
  readonly limit: (powerW: number, isProved: boolean) => string;
  readonly noStepTest: string;
  readonly stillToProve: (phases: readonly string[]) => string;
  readonly fallback: (isProved: boolean) => string;
  readonly meterNotTaken: string;
  readonly ownerSees: (device: string, isSeen: boolean) => string;
  readonly ownPhone: (isSeen: boolean) => string;
  readonly daysLeft: (days: number) => string;
  readonly lostWhenLate: (lost: string) => string;
  readonly registered: string;
  readonly sent: string;
  readonly stillNeeds: (needs: readonly string[]) => string;
  readonly sendIt: (until: string | undefined) => string;
  readonly wasDue: (on: string) => string;
  readonly stopped: string;
  readonly everyStep: string;
  readonly byLog: string;
  readonly openSteps: (count: number) => string;
  readonly more: (count: number) => string;
  readonly skipped: (step: string) => string;
  /** Where the whole stands: done is a state that is earned. */
  readonly state: (missing: number) => string;
}
