import { seenDevices } from "@/core/chain/seenDevices";
import { standingProof, unprovenPhases } from "@/core/control/stepTest";
import type { Finding, FindingStage } from "@/core/findings";
import type { Diagnosis, Verdict } from "@/core/flows/diagnose";
import { freshSheet } from "@/core/flows/staleReadings";
import { isBeforeCopy } from "@/core/job/copyMark";
import { jobDeadlines } from "@/core/handover/jobDeadlines";
import { NEED_WORDS, registrationsOf } from "@/core/handover/registration/registrationsDue";
import { daysLeftText, dueDeadlines } from "@/core/job/deadline";
import type { JobDocument } from "@/core/job/jobDocument";
import type { SortedFindings } from "@/core/job/openFindings";
import { resolve } from "@/core/plan/resolve";
import { plainText } from "@/core/sentence";
import type { VisitEntry } from "@/core/visit/visitEntry";
import type { VisitSheet } from "@/core/visit/visitSheet";
import { isOver, stateOf, type VisitState } from "@/core/visit/visitState";
import { joined } from "@/core/words";

/** One thing that a finished site has: proved, missing, or let stand by somebody with a reason. */
export interface HandoverItem {
  readonly id: string;
  readonly state: "proved" | "missing" | "accepted";
  readonly what: string;
  readonly why: string;
  /** Where it is filled. */
  readonly stage: FindingStage | "handover";
  /** A step of the visit, where it is one. */
  readonly step?: string;
  /** The part of the stage that fills it. */
  readonly part?: string;
}

/** What a hand over is told from. */
export interface HandoverGround {
  readonly document: JobDocument;
  readonly sheet: VisitSheet;
  readonly visit: VisitState;
  readonly diagnosis: Diagnosis | undefined;
  readonly findings: SortedFindings;
  /** The log, in the order of its arrival. */
  readonly entries: readonly VisitEntry[];
  /** As a date, 2026-11-20. */
  readonly today: string;
}

const MOST_NAMED = 3;
const WITHOUT_PROOF = "nothing was read yet";
const VERDICTS: Readonly<Record<Verdict, string>> = {
  "as-planned": "the readings say that everything is as planned",
  "faults-found": "the readings show a fault in the fitting",
  ambiguous: "the readings leave more than one explanation",
  "not-explained": "nothing explains the readings",
  "reading-doubtful": "one reading is doubtful",
};
const LIMIT_VERDICTS = {
  holds: "a step test on site held it",
  "too-long": "the last step test was above it for too long",
  "too-high": "the last step test settled above it",
  hunts: "the last step test did not come to rest",
  untested: "the last step test never came near it",
} as const;
const FALLBACK_VERDICTS = {
  "falls-back": "without the meter the inverters fell back in time",
  late: "without the meter the inverters fell back too late",
  stays: "without the meter the inverters went on",
  untested: "the last test had nothing to fall back from",
} as const;
/** Findings of these stages are what the items themselves are not told from. */
const FINDING_STAGES: readonly FindingStage[] = ["plan", "place", "wire", "limit", "divert"];

/**
 * All that a finished site has, what is missing first and of that the worst: what is dangerous, what is wrong, what is
 * not proved, what is not done. The site is done when nothing is missing.
 *
 * For example: of a new job without readings the first that is missing is what its findings stop at, then its proof.
 */
export function handoverItems(ground: HandoverGround): readonly HandoverItem[] {
  const all = [
    ...findingItems(ground, "stop"),
    ...stoppedSteps(ground),
    ...findingItems(ground, "fix"),
    readingsItem(ground),
    ...limitItems(ground),
    ...onlineItems(ground),
    ...lateItems(ground),
    ...registrationItems(ground),
    ...openSteps(ground),
    ...acceptedItems(ground),
  ];
  const rank = { missing: 0, accepted: 1, proved: 2 };
  return all.toSorted((a, b) => rank[a.state] - rank[b.state]);
}

/**
 * Where the hand over stands, in a few words: done is a state that is earned.
 *
 * For example: "3 missing".
 */
export function handoverState(items: readonly HandoverItem[]): string {
  const missing = items.filter(({ state }) => state === "missing").length;
  return missing === 0 ? "done" : `${missing} missing`;
}

function findingItems({ findings }: HandoverGround, severity: Finding["severity"]): readonly HandoverItem[] {
  return findings.open
    .filter((finding) => finding.severity === severity && FINDING_STAGES.includes(finding.stage))
    .map((finding) => ({
      id: `finding ${finding.id}`,
      state: "missing",
      what: finding.title,
      why: plainText(finding.detail),
      stage: finding.stage,
    }));
}

function readingsItem({ document, diagnosis }: HandoverGround): HandoverItem {
  const { steps } = freshSheet(document.site, document.tests);
  const read = steps.filter(({ readings }) => readings.length > 0);
  const simulated = read.filter(({ source }) => source === "simulated");
  const copied = read.flatMap(({ readings }) => readings).filter(({ readAt }) => isBeforeCopy(document, readAt));
  const count = read.reduce((sum, { readings }) => sum + readings.length, 0);
  const isProved = diagnosis?.verdict === "as-planned" && read.length > 0 && simulated.length + copied.length === 0;
  const why =
    read.length === 0
      ? WITHOUT_PROOF
      : simulated.length > 0
        ? `${simulated.length} of ${read.length} steps are simulated: they prove nothing of the site`
        : copied.length > 0 && diagnosis?.verdict === "as-planned"
          ? `${copied.length} of ${count} readings are from before this copy was made: read again what is here`
          : diagnosis
            ? `${VERDICTS[diagnosis.verdict]}; ${count} readings in ${read.length} steps`
            : "the readings are being weighed";
  return {
    id: "readings",
    state: isProved ? "proved" : "missing",
    what: isProved ? "Every reading is proved" : "Not every reading is proved",
    why,
    stage: "prove",
  };
}

function limitItems({ document }: HandoverGround): readonly HandoverItem[] {
  const { limit } = document;
  if (limit.powerW === undefined) return [];
  const isOfHere = ({ at }: { readonly at: string }) => !isBeforeCopy(document, at);
  const last = standingProof({ ...limit, proofs: limit.proofs.filter(isOfHere) });
  const fallback = limit.fallbackTests.findLast((test) => !test.onBench && isOfHere(test));
  const unproven = last ? unprovenPhases(last) : [];
  return [
    {
      id: "limit",
      state: last?.verdict === "holds" ? "proved" : "missing",
      what: `The export limit of ${limit.powerW} W is ${last?.verdict === "holds" ? "" : "not "}proved`,
      why: !last
        ? "no step test of this limit was recorded on site"
        : last.verdict === "untested" && unproven.length > 0
          ? `still to prove: ${joined(unproven)}`
          : LIMIT_VERDICTS[last.verdict],
      stage: "limit",
    },
    {
      id: "fallback",
      state: fallback?.verdict === "falls-back" ? "proved" : "missing",
      what:
        fallback?.verdict === "falls-back"
          ? "The inverters fall back without their meter"
          : "Not proved: the inverters fall back without their meter",
      why: fallback ? FALLBACK_VERDICTS[fallback.verdict] : "the meter was not taken away yet",
      stage: "limit",
    },
  ];
}

function onlineItems({ document }: HandoverGround): readonly HandoverItem[] {
  return seenDevices(resolve(document))
    .filter(({ way }) => way !== undefined)
    .map(({ device }) => {
      const recorded = document.online.find(({ id }) => id === device.id)?.ownerSeesAt;
      const seenAt = isBeforeCopy(document, recorded) ? undefined : recorded;
      return {
        id: `online ${device.id}`,
        state: seenAt ? "proved" : "missing",
        what: seenAt ? `The owner sees ${device.name}` : `The owner does not see ${device.name} yet`,
        why: seenAt ? "their own phone showed its data" : "their own phone has not shown its data yet",
        stage: "online",
      };
    });
}

/** What was due and is not done; a registration is told of by itself. */
function lateItems({ document, today }: HandoverGround): readonly HandoverItem[] {
  return dueDeadlines(jobDeadlines(document), today)
    .filter(({ state, from }) => state === "late" && from !== "registration")
    .map(({ id, what, daysLeft, lost, from }) => ({
      id: `deadline ${id}`,
      state: "missing",
      what,
      why: [daysLeftText(daysLeft), lost === "" ? "" : `lost when it is late: ${lost}`].filter(Boolean).join("; "),
      stage: "handover",
      part: from === "transfer" ? "transfer" : "deadlines",
    }));
}

function registrationItems({ document, entries, today }: HandoverGround): readonly HandoverItem[] {
  const due = registrationsOf(document, entries);
  return due.map(({ id, device, kit, status, dueOn, missing, problem }) => {
    const late = dueOn !== undefined && dueOn < today && status === "open" ? `; was due on ${dueOn}` : "";
    const needs = missing.length > 0 ? `it still needs ${joined(missing.map((need) => NEED_WORDS[need]))}` : "";
    const by = dueOn === undefined ? "" : ` until ${dueOn}`;
    const open = problem ?? (needs || `everything for it is there: send it${by}`);
    return {
      id: `registration ${id}`,
      state: status === "confirmed" ? "proved" : "missing",
      what: `${kit.what}: ${device.name}`,
      why:
        status === "confirmed"
          ? "registered, and confirmed"
          : status === "sent"
            ? "sent; its confirmation is not there yet"
            : `${open}${late}`,
      stage: "handover",
      part: "register",
    };
  });
}

function stoppedSteps({ sheet, visit }: HandoverGround): readonly HandoverItem[] {
  return sheet.steps
    .filter(({ id }) => stateOf(visit, id).status === "stopped")
    .map(({ id, title }) => ({
      id: `step ${id}`,
      state: "missing",
      what: title,
      why: "it was stopped: something is outside its limits",
      stage: "visit",
      step: id,
    }));
}

function openSteps({ sheet, visit }: HandoverGround): readonly HandoverItem[] {
  const open = sheet.steps.filter(({ id }) => {
    const state = stateOf(visit, id);
    return !isOver(state) && state.status !== "stopped";
  });
  const [first] = open;
  if (!first) return [{ id: "steps", state: "proved", what: "Every step is done", why: "by the log", stage: "visit" }];
  const named = open.slice(0, MOST_NAMED).map(({ title }) => title);
  const more = open.length - named.length;
  return [
    {
      id: "steps",
      state: "missing",
      what: open.length === 1 ? "One step is open" : `${open.length} steps are open`,
      why: `${named.join("; ")}${more > 0 ? `; and ${more} more` : ""}`,
      stage: "visit",
      step: first.id,
    },
  ];
}

function acceptedItems({ findings, sheet, visit }: HandoverGround): readonly HandoverItem[] {
  const skipped = sheet.steps.flatMap(({ id, title }): HandoverItem[] => {
    const { entry } = stateOf(visit, id);
    return entry?.kind === "skip"
      ? [
          {
            id: `skipped ${id}`,
            state: "accepted",
            what: `Skipped: ${title}`,
            why: `${entry.person}: ${entry.reason}`,
            stage: "visit",
            step: id,
          },
        ]
      : [];
  });
  return [
    ...findings.accepted.map(({ finding, reason, person }): HandoverItem => ({
      id: `accepted ${finding.id}`,
      state: "accepted",
      what: finding.title,
      why: `${person}: ${reason}`,
      stage: finding.stage,
    })),
    ...skipped,
  ];
}
