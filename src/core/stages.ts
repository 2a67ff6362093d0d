import { chainFindings, chainState } from "@/core/chain/chainFindings";
import { controlFindings, limitState } from "@/core/control/controlFindings";
import type { Finding, FindingStage } from "@/core/findings";
import type { Diagnosis, Verdict } from "@/core/flows/diagnose";
import { freshSheet } from "@/core/flows/staleReadings";
import type { JobDocument } from "@/core/job/jobDocument";
import { placeFindings } from "@/core/job/placeFindings";
import { planFindings } from "@/core/job/planFindings";
import { proveFindings } from "@/core/job/proveFindings";
import { wireFindings } from "@/core/job/wireFindings";
import { inOneGo, type Slices } from "@/core/slices";
import { readBackFindings } from "@/core/live/readBackFindings";
import { resolve } from "@/core/plan/resolve";
import type { VisitEntry } from "@/core/visit/visitEntry";
import { visitSheet, type VisitSheet } from "@/core/visit/visitSheet";
import { visitFindings, visitState, type VisitState } from "@/core/visit/visitState";
import { visitProgress } from "@/core/visit/sheetSchedule";

/** A job with what was worked out from it: all that its stages look at. */
export interface JobView {
  readonly document: JobDocument;
  readonly sheet: VisitSheet;
  /** Where the visit stands by its log. */
  readonly visit: VisitState;
  /** The verdict on the readings, where there are any and it is known. */
  readonly diagnosis: Diagnosis | undefined;
}

/** One stage of a job, with what it finds and how far it is. */
export interface Stage {
  readonly id: FindingStage;
  readonly name: string;
  /** The letter that goes there after `g`. */
  readonly key: string;
  /** What its findings are made from: only when any of it changed they are made anew. */
  readonly from: (view: JobView) => readonly unknown[];
  readonly findings: (view: JobView) => readonly Finding[];
  /** How far it is, in a few words. @param wrong Open findings that are to be put right. */
  readonly state: (view: JobView, wrong: number) => string;
}

const VERDICT_WORDS: Readonly<Record<Verdict, string>> = {
  "as-planned": "as planned",
  "faults-found": "faults found",
  ambiguous: "not certain yet",
  "not-explained": "not explained",
  "reading-doubtful": "read it again",
};

const ofControl = ({ document: { site, kits, links, limit, divert } }: JobView) => [site, kits, links, limit, divert];
const controlOf = (stage: FindingStage) => (view: JobView) =>
  controlFindings(resolve(view.document)).filter((finding) => finding.stage === stage);

/** The stages that there are, in the order of work: whatever lists them reads this table. */
export const STAGES: readonly Stage[] = [
  {
    id: "plan",
    name: "Plan",
    key: "n",
    from: ({ document: { site, kits } }) => [site, kits],
    findings: ({ document }) => planFindings(resolve(document)),
    state: (_view, wrong) => toPutRight(wrong) ?? "holds together",
  },
  {
    id: "place",
    name: "Place",
    key: "l",
    from: ({ document: { site } }) => [site],
    findings: ({ document }) => placeFindings(resolve(document)),
    state: (_view, wrong) => toPutRight(wrong) ?? "as planned",
  },
  {
    id: "wire",
    name: "Wire",
    key: "w",
    from: ({ document: { site, kits, links, network, limit, readBacks } }) => [
      site,
      kits,
      links,
      network,
      readBacks,
      // What was read back is compared with the limit, too.
      readBacks.length > 0 ? limit : undefined,
    ],
    findings: ({ document }) => [...wireFindings(resolve(document)), ...readBackFindings(document)],
    state: ({ document: { links } }, wrong) =>
      toPutRight(wrong) ?? (links.length === 0 ? "no links" : links.length === 1 ? "1 link" : `${links.length} links`),
  },
  {
    id: "visit",
    name: "Run",
    key: "r",
    from: ({ sheet, visit }) => [sheet, visit],
    findings: ({ sheet, visit }) => visitFindings(sheet, visit),
    state: ({ sheet, visit }) => {
      const { over, all, stopped } = visitProgress(sheet, visit);
      return stopped > 0 ? `${stopped} stopped` : `${over} of ${all}`;
    },
  },
  {
    id: "prove",
    name: "Prove",
    key: "p",
    from: ({ document: { site }, diagnosis }) => [site, diagnosis],
    findings: ({ document: { site }, diagnosis }) => (diagnosis ? proveFindings(site, diagnosis) : []),
    state: ({ document, diagnosis }) =>
      diagnosis ? VERDICT_WORDS[diagnosis.verdict] : hasReadings(document) ? "weighing" : "no readings yet",
  },
  {
    id: "limit",
    name: "Limit",
    key: "i",
    from: ofControl,
    findings: controlOf("limit"),
    state: ({ document }, wrong) => toPutRight(wrong) ?? limitState(document.limit),
  },
  {
    id: "divert",
    name: "Divert",
    key: "d",
    from: ofControl,
    findings: controlOf("divert"),
    state: (_view, wrong) => toPutRight(wrong) ?? "surplus",
  },
  {
    id: "online",
    name: "Online",
    key: "o",
    from: ({ document: { site, kits, links, network, online } }) => [site, kits, links, network, online],
    findings: ({ document }) => chainFindings(resolve(document), document.online),
    state: ({ document }, wrong) => toPutRight(wrong) ?? chainState(resolve(document), document.online),
  },
  {
    id: "handover",
    name: "Hand over",
    key: "h",
    from: () => [],
    findings: () => [],
    state: () => "what is missing",
  },
  {
    id: "bench",
    name: "Bench",
    key: "b",
    from: () => [],
    findings: () => [],
    state: () => "simulated",
  },
];

/** Whether anything was read yet, of the fitting as it is now. */
export function hasReadings({ site, tests }: Pick<JobDocument, "site" | "tests">): boolean {
  return freshSheet(site, tests).steps.some((step) => step.readings.length > 0);
}

/** What is worked out of a job. */
export interface WorkedOut {
  readonly view: JobView;
  /** The log that the visit's state was told by. */
  readonly entries: readonly VisitEntry[];
  /** Findings of all stages, in their order. */
  readonly findings: readonly Finding[];
}

/**
 * Findings of all stages, in their order, remembering those of a stage whose ground did not change. For example: asked
 * twice of the same view, the second answer is the first.
 */
export function rememberedFindings(): (view: JobView) => readonly Finding[] {
  const findingsOf = findingsInSlices();
  return (view) => inOneGo(findingsOf(view));
}

interface RecordedSheet {
  readonly sheet: VisitSheet;
  readonly entries: readonly VisitEntry[];
  /** Of the visit. */
  readonly id: string;
}

/**
 * All that is worked out of a job, in slices, remembering what its last change did not touch: the sheet, where the
 * visit stands, the findings of each stage.
 */
export function rememberedWork(): (
  document: JobDocument,
  entries: readonly VisitEntry[],
  diagnosis: Diagnosis | undefined,
) => Slices<WorkedOut> {
  const sheetOf = remembered(
    ({ site, kits, links, network, visit, job }: JobDocument) => [site, kits, links, network, visit, job],
    visitSheet,
  );
  const stateOf = remembered(
    ({ sheet, entries, id }: RecordedSheet) => [sheet, entries, id],
    ({ sheet, entries, id }) => visitState(sheet, entries, id),
  );
  const findingsOf = findingsInSlices();
  return function* (document, entries, diagnosis) {
    const sheet = sheetOf(document);
    yield;
    const visit = stateOf({ sheet, entries, id: document.visit.id });
    yield;
    const view: JobView = { document, sheet, visit, diagnosis };
    return { view, entries, findings: yield* findingsOf(view) };
  };
}

function findingsInSlices(): (view: JobView) => Slices<readonly Finding[]> {
  const of = STAGES.map(({ from, findings }) => remembered(from, findings));
  return function* (view) {
    const all: Finding[] = [];
    for (const findingsOf of of) {
      all.push(...findingsOf(view));
      yield;
    }
    return all;
  };
}

/** A function that gives its last value again while what that was made from is the same. */
function remembered<Q, T>(from: (question: Q) => readonly unknown[], make: (question: Q) => T): (question: Q) => T {
  let last: { readonly from: readonly unknown[]; readonly value: T } | undefined;
  return (question) => {
    const ground = from(question);
    if (last?.from.every((part, at) => Object.is(part, ground[at]))) return last.value;
    last = { from: ground, value: make(question) };
    return last.value;
  };
}

function toPutRight(wrong: number): string | undefined {
  return wrong > 0 ? `${wrong} to fix` : undefined;
}
