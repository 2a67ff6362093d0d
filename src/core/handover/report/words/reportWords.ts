import type { Verdict } from "@/core/flows/diagnose";
import type { Signature } from "@/core/handover/version/signature";
import type { ItemWords } from "@/core/handover/words/itemWords";
import type { LinkKind } from "@/core/plan/linkSchema";
import type { Direction, Supply } from "@/core/site/planSchema";
import type { LogLine } from "@/core/visit/visitLog";

/** The parts of a report, in their order. */
export const REPORT_PARTS = [
  "state",
  "site",
  "devices",
  "cts",
  "links",
  "readings",
  "limit",
  "settings",
  "online",
  "papers",
  "photographs",
  "log",
] as const;

/** One part of a report. */
export type ReportPartId = (typeof REPORT_PARTS)[number];

type Heads<Count extends number, Row extends readonly string[] = readonly []> = Row["length"] extends Count
  ? Row
  : Heads<Count, readonly [...Row, string]>;

/**
 * Every word of a report in one language, and the sentences that hold values. A new language is a file that has all of
 * these, and a line in `reportLanguages`. Findings, steps of the visit and what people wrote stay as they are.
 */
export interface ReportWords {
  readonly items: ItemWords;
  readonly parts: Readonly<Record<ReportPartId, string>>;
  /** On its first page, and at the foot of each. */
  readonly reportOf: (job: string) => string;
  readonly contents: string;
  readonly done: string;
  readonly version: (number: number) => string;
  readonly page: (number: number, of: number) => string;
  readonly signers: Readonly<Record<Signature["role"], string>>;
  readonly data: string;
  readonly log: string;
  readonly caution: string;
  /** What stands in it in another language; undefined where nothing does. */
  readonly otherwise: string | undefined;
  readonly states: Readonly<Record<"proved" | "missing" | "accepted", string>>;
  readonly heads: {
    readonly state: Heads<3>;
    readonly devices: Heads<4>;
    readonly cts: Heads<6>;
    readonly links: Heads<4>;
    readonly readings: Heads<4>;
    readonly stepTests: Heads<6>;
    readonly withoutMeter: Heads<6>;
    readonly settings: Heads<5>;
    readonly online: Heads<5>;
    readonly registrations: Heads<6>;
    readonly transfer: Heads<3>;
    readonly log: Heads<4>;
  };
  readonly tables: Readonly<Record<"stepTests" | "withoutMeter" | "registrations" | "transfer", string>>;
  readonly yesNo: (is: boolean) => string;
  readonly supply: (supply: Supply) => string;
  readonly madeBy: (version: string) => string;
  readonly noCt: string;
  readonly nothing: string;
  readonly round: (conductor: string, run: string) => string;
  readonly ratio: (primaryA: number, secondary: string, turns: number, typedA: number) => string;
  readonly arrows: Readonly<Record<Direction, string>>;
  readonly linkKinds: Readonly<Record<LinkKind, string>>;
  readonly address: (address: number) => string;
  readonly terminatorOn: string;
  readonly simulatedStep: string;
  readonly onBench: string;
  readonly nothingRead: string;
  readonly notWeighed: string;
  readonly verdict: (verdict: Verdict) => string;
  readonly likeliest: (what: string, chance: string) => string;
  readonly others: (all: string) => string;
  readonly lessThan: (percent: number) => string;
  readonly noLimit: string;
  readonly limit: (powerW: number, basis: "sum" | "per-phase", secondsAllowed: number) => string;
  readonly rule: (rule: string) => string;
  readonly setPoint: (powerW: number) => string;
  readonly stepVerdicts: ItemWords["limitVerdicts"];
  readonly fallbackVerdicts: ItemWords["fallbackVerdicts"];
  readonly exportOf: (test: string) => string;
  readonly limitMark: (powerW: number) => string;
  readonly notReadBack: string;
  readonly notSaid: string;
  readonly compared: (isDifferent: boolean) => string;
  readonly noWay: string;
  readonly installedOn: (day: string | undefined) => string;
  readonly stageState: (doneOn: string | undefined) => string;
  readonly noPhotograph: string;
  readonly emptyLog: string;
  readonly lastHash: (hash: string) => string;
  readonly logKinds: Readonly<Record<LogLine["kind"], string>>;
}
