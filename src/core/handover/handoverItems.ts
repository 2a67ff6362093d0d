import { seenDevices } from "@/core/chain/seenDevices";
import { standingProof, unprovenPhases } from "@/core/control/stepTest";
import type { Finding, FindingStage } from "@/core/findings";
import type { Diagnosis } from "@/core/flows/diagnose";
import { freshSheet } from "@/core/flows/staleReadings";
import { isBeforeCopy } from "@/core/job/copyMark";
import { jobDeadlines } from "@/core/handover/jobDeadlines";
import { ITEM_ENGLISH } from "@/core/handover/words/itemEnglish";
import type { ItemWords } from "@/core/handover/words/itemWords";
import { registrationsOf } from "@/core/handover/registration/registrationsDue";
import { dueDeadlines } from "@/core/job/deadline";
import type { JobDocument } from "@/core/job/jobDocument";
import type { SortedFindings } from "@/core/job/openFindings";
import { resolve } from "@/core/plan/resolve";
import { plainText } from "@/core/sentence";
import type { VisitEntry } from "@/core/visit/visitEntry";
import type { VisitSheet } from "@/core/visit/visitSheet";
import { isOver, stateOf, type VisitState } from "@/core/visit/visitState";

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
/** Findings of these stages are what the items themselves are not told from. */
const FINDING_STAGES: readonly FindingStage[] = ["plan", "place", "wire", "limit", "divert"];

/**
 * All that a finished site has, what is missing first and of that the worst: what is dangerous, what is wrong, what is
 * not proved, what is not done. The site is done when nothing is missing.
 *
 * For example: of a new job without readings the first that is missing is what its findings stop at, then its proof.
 */
export function handoverItems(ground: HandoverGround, words: ItemWords = ITEM_ENGLISH): readonly HandoverItem[] {
  const all = [
    ...findingItems(ground, "stop"),
    ...stoppedSteps(ground, words),
    ...findingItems(ground, "fix"),
    readingsItem(ground, words),
    ...limitItems(ground, words),
    ...onlineItems(ground, words),
    ...lateItems(ground, words),
    ...registrationItems(ground, words),
    ...openSteps(ground, words),
    ...acceptedItems(ground, words),
  ];
  const rank = { missing: 0, accepted: 1, proved: 2 };
  return all.toSorted((a, b) => rank[a.state] - rank[b.state]);
}

/**
 * Where the hand over stands, in a few words: done is a state that is earned.
 *
 * For example: "3 missing".
 */
export function handoverState(items: readonly HandoverItem[], words: ItemWords = ITEM_ENGLISH): string {
  const missing = items.filter(({ state }) => state === "missing").length;
  return words.state(missing);
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

function readingsItem({ document, diagnosis }: HandoverGround, words: ItemWords): HandoverItem {
  const { steps } = freshSheet(document.site, document.tests);
  const read = steps.filter(({ readings }) => readings.length > 0);
  const simulated = read.filter(({ source }) => source === "simulated");
  const copied = read.flatMap(({ readings }) => readings).filter(({ readAt }) => isBeforeCopy(document, readAt));
  const count = read.reduce((sum, { readings }) => sum + readings.length, 0);
  const isProved = diagnosis?.verdict === "as-planned" && read.length > 0 && simulated.length + copied.length === 0;
  const why =
    read.length === 0
      ? words.nothingRead
      : simulated.length > 0
        ? words.simulated(simulated.length, read.length)
        : copied.length > 0 && diagnosis?.verdict === "as-planned"
          ? words.beforeCopy(copied.length, count)
          : diagnosis
            ? words.readSo(words.verdicts[diagnosis.verdict], count, read.length)
            : words.beingWeighed;
  return {
    id: "readings",
    state: isProved ? "proved" : "missing",
    what: words.everyReading(isProved),
    why,
    stage: "prove",
  };
}

function limitItems({ document }: HandoverGround, words: ItemWords): readonly HandoverItem[] {
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
      what: words.limit(limit.powerW, last?.verdict === "holds"),
      why: !last
        ? words.noStepTest
        : last.verdict === "untested" && unproven.length > 0
          ? words.stillToProve(unproven)
          : words.limitVerdicts[last.verdict],
      stage: "limit",
    },
    {
      id: "fallback",
      state: fallback?.verdict === "falls-back" ? "proved" : "missing",
      what: words.fallback(fallback?.verdict === "falls-back"),
      why: fallback ? words.fallbackVerdicts[fallback.verdict] : words.meterNotTaken,
      stage: "limit",
    },
  ];
}

function onlineItems({ document }: HandoverGround, words: ItemWords): readonly HandoverItem[] {
  return seenDevices(resolve(document))
    .filter(({ way }) => way !== undefined)
    .map(({ device }) => {
      const recorded = document.online.find(({ id }) => id === device.id)?.ownerSeesAt;
      const seenAt = isBeforeCopy(document, recorded) ? undefined : recorded;
      return {
        id: `online ${device.id}`,
        state: seenAt ? "proved" : "missing",
        what: words.ownerSees(device.name, seenAt !== undefined),
        why: words.ownPhone(seenAt !== undefined),
        stage: "online",
      };
    });
}

/** What was due and is not done; a registration is told of by itself. */
function lateItems({ document, today }: HandoverGround, words: ItemWords): readonly HandoverItem[] {
  return dueDeadlines(jobDeadlines(document), today)
    .filter(({ state, from }) => state === "late" && from !== "registration")
    .map(({ id, what, daysLeft, lost, from }) => ({
      id: `deadline ${id}`,
      state: "missing",
      what,
      why: [words.daysLeft(daysLeft), lost === "" ? "" : words.lostWhenLate(lost)].filter(Boolean).join("; "),
      stage: "handover",
      part: from === "transfer" ? "transfer" : "deadlines",
    }));
}

function registrationItems({ document, entries, today }: HandoverGround, words: ItemWords): readonly HandoverItem[] {
  const due = registrationsOf(document, entries);
  return due.map(({ id, device, kit, status, dueOn, missing, problem }) => {
    const late = dueOn !== undefined && dueOn < today && status === "open" ? `; ${words.wasDue(dueOn)}` : "";
    const needs = missing.length > 0 ? words.stillNeeds(missing.map((need) => words.needs[need])) : "";
    const open = problem ?? (needs || words.sendIt(dueOn));
    return {
      id: `registration ${id}`,
      state: status === "confirmed" ? "proved" : "missing",
      what: `${kit.what}: ${device.name}`,
      why: status === "confirmed" ? words.registered : status === "sent" ? words.sent : `${open}${late}`,
      stage: "handover",
      part: "register",
    };
  });
}

function stoppedSteps({ sheet, visit }: HandoverGround, words: ItemWords): readonly HandoverItem[] {
  return sheet.steps
    .filter(({ id }) => stateOf(visit, id).status === "stopped")
    .map(({ id, title }) => ({
      id: `step ${id}`,
      state: "missing",
      what: title,
      why: words.stopped,
      stage: "visit",
      step: id,
    }));
}

function openSteps({ sheet, visit }: HandoverGround, words: ItemWords): readonly HandoverItem[] {
  const open = sheet.steps.filter(({ id }) => {
    const state = stateOf(visit, id);
    return !isOver(state) && state.status !== "stopped";
  });
  const [first] = open;
  if (!first) return [{ id: "steps", state: "proved", what: words.everyStep, why: words.byLog, stage: "visit" }];
  const named = open.slice(0, MOST_NAMED).map(({ title }) => title);
  const more = open.length - named.length;
  return [
    {
      id: "steps",
      state: "missing",
      what: words.openSteps(open.length),
      why: [...named, ...(more > 0 ? [words.more(more)] : [])].join("; "),
      stage: "visit",
      step: first.id,
    },
  ];
}

function acceptedItems({ findings, sheet, visit }: HandoverGround, words: ItemWords): readonly HandoverItem[] {
  const skipped = sheet.steps.flatMap(({ id, title }): HandoverItem[] => {
    const { entry } = stateOf(visit, id);
    return entry?.kind === "skip"
      ? [
          {
            id: `skipped ${id}`,
            state: "accepted",
            what: words.skipped(title),
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
