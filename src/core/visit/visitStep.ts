import { shortTimeText } from "@/core/units";

const S_PER_MIN = 60;
/** The parts of a visit, in the order in which most of it is done. */
export const VISIT_PHASES = [
  "arrive",
  "isolate",
  "mount",
  "power",
  "clamps",
  "links",
  "power-up",
  "configure",
  "prove",
  "online",
  "close",
] as const;

/** A part of the visit, in the order of work. */
export type VisitPhase = (typeof VISIT_PHASES)[number];

/** What kinds of step there are: rules make them, order rules choose them. */
export type StepTag =
  | "as-found"
  | "ask"
  | "clear"
  | "count"
  | "inverters-off"
  | "inverters-on"
  | "island"
  | "loads"
  | "look-over"
  | "on-generator"
  | "test-dead"
  | "test-live"
  | "test-running"
  | "restore-backup"
  | "rule"
  | "status"
  | "watch"
  | "battery-polarity"
  | "bleed"
  | "bond"
  | "cellular-level"
  | "clamp"
  | "compare"
  | "configure"
  | "contact"
  | "covers"
  | "ct-leads"
  | "ct-test"
  | "enter-network"
  | "firmware"
  | "isolate"
  | "labels"
  | "measure-link"
  | "mount"
  | "neutral-earth"
  | "on"
  | "on-ac"
  | "on-battery"
  | "on-dc"
  | "online"
  | "owner"
  | "pair"
  | "pair-open"
  | "prove"
  | "prove-dead"
  | "reach"
  | "reconnect"
  | "restart"
  | "restore"
  | "serial"
  | "signal"
  | "sim"
  | "strings"
  | "survey"
  | "taps"
  | "tell"
  | "tidy"
  | "unload"
  | "wire-link"
  | "wire-power";

/** The parts of the visit, in words. */
export const PHASE_WORDS: Readonly<Record<VisitPhase, string>> = {
  arrive: "Arrive and look",
  isolate: "Isolate and prove dead",
  mount: "Fix",
  power: "Power wiring",
  clamps: "CTs and meters",
  links: "Links",
  "power-up": "Power up",
  configure: "Configure",
  prove: "Prove the flows",
  online: "Go online",
  close: "Close up",
};

/** A number to measure, with what it may be and what to look for where it is not. */
export interface ValueField {
  readonly id: string;
  readonly label: string;
  readonly unit: string;
  /** What a right site shows, in words, where that says more than the limits. */
  readonly expected?: string;
  readonly least?: number;
  readonly most?: number;
  /** What to check next when it is outside. */
  readonly outside: string;
}

/** One answer to a step's question, and whether it is the good one. */
export interface Choice {
  readonly id: string;
  readonly label: string;
  readonly isGood: boolean;
  /** It is neither good nor bad yet: look again after this long at most, min. */
  readonly waitMin?: number;
  /** What to do about this one; else what the question says. */
  readonly next?: string;
}

/** A value that was typed into a device, to be read back there. */
export interface ReadBackField {
  readonly id: string;
  readonly label: string;
  readonly value: string;
}

/** What shows that a step was done. */
export type AskedEvidence =
  | { readonly kind: "tick" }
  | { readonly kind: "values"; readonly fields: readonly ValueField[] }
  | {
      readonly kind: "choice";
      readonly question: string;
      readonly options: readonly Choice[];
      readonly outside: string;
    }
  | { readonly kind: "serial"; readonly pattern: string | undefined }
  /** What was typed is read back, line by line. */
  | { readonly kind: "read-back"; readonly fields: readonly ReadBackField[]; readonly outside: string }
  /** Everybody who works there says so by name. */
  | { readonly kind: "names"; readonly question: string; readonly count: number };

/** A timer that runs by itself once a step's active part is done. */
export interface StepWait {
  readonly what: "watch" | "boot" | "bleed" | "firmware" | "pairing" | "built-in-test" | "reconnect" | "first-data";
  readonly label: string;
}

/** A step that comes first, and the rule that says so. */
export interface Need {
  readonly step: string;
  /** The rule that asks for it. */
  readonly rule: string;
}

/** One step of a visit. Its id follows from the plan, not from its words: it stays when a name changes. */
export interface VisitStep {
  readonly id: string;
  /** What kind of step it is; order rules choose by it. */
  readonly tag: StepTag;
  readonly stage: VisitPhase;
  readonly title: string;
  readonly place: string | undefined;
  /** The device, meter, equipment, board or link that it is about. */
  readonly about: string | undefined;
  readonly why: string;
  readonly content: readonly { readonly label: string; readonly value: string }[];
  readonly caution: string | undefined;
  readonly evidence: AskedEvidence;
  readonly wantsPhoto: boolean;
  readonly activeMin: number;
  readonly waitMin: number;
  readonly waiting: StepWait | undefined;
  /** How many take part, all of them at once; whoever works there where it says so. */
  readonly people: number | "all";
  readonly needs: readonly Need[];
  /** A safety gate: skipped only with a reason, and nothing behind it is recorded before. */
  readonly isGate: boolean;
  readonly window: { readonly after: string; readonly withinMin: number } | undefined;
  /** The method that is active, and what the other would do. */
  readonly school:
    { readonly question: string; readonly active: string; readonly other: string; readonly why: string } | undefined;
  readonly source: string;
  readonly rule: string;
}

/**
 * How long a step runs on unattended, as it is said.
 *
 * @example waitText({ waitMin: 0.2 }) // "12 s"
 */
export function waitText({ waitMin }: Pick<VisitStep, "waitMin">): string {
  return shortTimeText(waitMin * S_PER_MIN);
}

/** A step as a rule yields it, before its order is worked out. */
export type StepDraft = Pick<VisitStep, "tag" | "stage" | "title" | "why" | "activeMin" | "source"> &
  Partial<Omit<VisitStep, "tag" | "stage" | "title" | "why" | "activeMin" | "source" | "needs" | "id" | "rule">>;
