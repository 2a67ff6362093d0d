import { z } from "zod";
import { countFindings, type Finding, type FindingStage } from "@/core/findings";
import { diagnose, type Diagnosis } from "@/core/flows/diagnose";
import { diagnosisCostMs } from "@/core/flows/diagnosisCost";
import { isAllSeen } from "@/core/flows/editSheet";
import { freshSheet, staleStep } from "@/core/flows/staleReadings";
import type { TestStep } from "@/core/flows/testSheetSchema";
import { isBeforeCopy } from "@/core/job/copyMark";
import { jobDeadlineSchema, jobDeadlines } from "@/core/handover/jobDeadlines";
import type { JobDocument } from "@/core/job/jobDocument";
import { inputTag } from "@/core/site/inputTag";
import { joined } from "@/core/words";
import { sortFindings } from "@/core/job/openFindings";
import type { VisitEntry } from "@/core/visit/visitEntry";
import { visitSheet, type VisitSheet } from "@/core/visit/visitSheet";
import { isOver, openGates, stateOf, visitState, type VisitState } from "@/core/visit/visitState";
import { hasReadings, rememberedFindings, type JobView } from "@/core/stages";
import { plainText, type Sentence } from "@/core/sentence";
import { cutText } from "@/core/text";

/** A summary is made at every save: it looks for fewer faults at once rather than take longer than this, ms. */
const SUMMARY_BUDGET_MS = 1_000;

const MOST_NEXT_CHARACTERS = 300;
const UNJUDGED = "Open Prove: this site takes longer to be judged than a list can wait for";
const READ_HERE = "Read every meter on the site: what was read here was simulated, or is from before the copy";
const PLANNING: readonly FindingStage[] = ["plan", "place", "wire"];
const BEFORE_PROVING: readonly FindingStage[] = [...PLANNING, "visit"];

/** One line about a job, as it is kept beside it. */
export const jobSummarySchema = z.object({
  supply: z.string(),
  state: z.enum(["placing", "to-prove", "proving", "faults-found", "proved"]),
  findings: z.object({ stop: z.int(), fix: z.int(), note: z.int() }),
  next: z.string(),
  deadlines: z.array(jobDeadlineSchema).default([]),
});

/** One line about a job. */
export type JobSummary = z.output<typeof jobSummarySchema>;
/** What a summary asks for its verdict. */
export type Judge = (job: Pick<JobDocument, "site" | "tests">) => Diagnosis | undefined;

/** How far a job is. */
export type JobState = JobSummary["state"];

/**
 * One line about a job: its supply, how far it is, its findings, and the one next thing to do.
 *
 * For example: A job with a CT missing: state `placing`, next "Place the CT of input 2 round L2 of Main board".
 *
 * @param entries The log of its visit; the last entry about each step is enough.
 * @param judge Gives the verdict on the readings; whoever sums up the same job again and again may remember it.
 */
export function jobSummary(
  document: JobDocument,
  entries: readonly VisitEntry[] = [],
  judge: Judge = quickDiagnosis,
): JobSummary {
  try {
    return wholeSummary(document, entries, judge);
  } catch (error) {
    // A defect in one check must not keep a job from being saved: what was typed comes before what is said of it.
    const reason = error instanceof Error ? error.message : String(error);
    return {
      supply: supplyText(document.site.supply),
      state: "placing",
      findings: { stop: 0, fix: 0, note: 0 },
      next: cutText(`Open the job: its summary could not be made (${reason})`, MOST_NEXT_CHARACTERS),
      deadlines: [],
    };
  }
}

function wholeSummary(document: JobDocument, entries: readonly VisitEntry[], judge: Judge): JobSummary {
  const isRead = hasReadings(document);
  const diagnosis = isRead ? judge(document) : undefined;
  const sheet = visitSheet(document);
  const view = { document, sheet, visit: visitState(sheet, entries, document.visit.id), diagnosis };
  const { open } = sortFindings(rememberedFindings()(view), document.accepted);
  return {
    supply: supplyText(document.site.supply),
    state: jobState(document, open, diagnosis),
    findings: { ...countFindings(open) },
    next: plainText(nextThing(view, open, isRead && !diagnosis ? UNJUDGED : undefined).said),
    deadlines: [...jobDeadlines(document)],
  };
}

/** The one next thing to do, and where it is done. */
export interface NextThing {
  readonly said: Sentence;
  readonly stage: FindingStage;
  readonly subject: Finding["subject"];
}

/**
 * The next thing to do, over all stages: what stops, what the readings say, what is to be put right, then the next step
 * of the visit.
 *
 * @param unjudged What to do where the readings have no verdict yet.
 */
export function nextThing(
  { document, sheet, visit, diagnosis }: JobView,
  open: readonly Finding[],
  unjudged?: string,
): NextThing {
  const of = (finding: Finding): NextThing => ({ said: finding.cure, stage: finding.stage, subject: finding.subject });
  const prove = (said: Sentence, step?: TestStep): NextThing => ({
    said,
    stage: "prove",
    subject: step?.id === undefined ? { kind: "job" } : { kind: "step", step: step.id },
  });
  const place = open.filter(({ stage }) => BEFORE_PROVING.includes(stage));
  const stop = place.find((finding) => finding.severity === "stop");
  if (stop) return of(stop);
  if (document.site.meters.length === 0)
    return { said: "Add a meter to the plan", stage: "plan", subject: { kind: "job" } };
  // A CT was changed: what its input showed before tells of a fitting that is no more.
  const stale = staleStep(document.site, document.tests);
  if (stale)
    return prove(
      `Read again, since ${tagsOf(document.site, stale.readings)} changed: ${stale.label}`,
      document.tests.steps[stale.step],
    );
  // What the meters show is believed before what somebody wrote down about the CTs.
  if (diagnosis?.verdict === "faults-found") return prove(diagnosis.hypotheses[0]!.cure[0]!);
  // Nothing is turned before it was read again.
  if (diagnosis?.verdict === "reading-doubtful") return prove(diagnosis.nextTests[0]!.label);
  const fix = place.find((finding) => finding.severity === "fix");
  if (fix) return of(fix);
  if (unjudged !== undefined) return prove(unjudged);
  switch (diagnosis?.verdict) {
    case "ambiguous":
      return prove(diagnosis.nextTests[0]?.label ?? "Check the CTs by eye: no test tells these explanations apart");
    case "not-explained":
      return prove("Check the readings and the known powers: no two faults explain them");
    case "as-planned":
    case undefined: {
      // Readings that were taken without a visit sheet ask for none afterwards.
      const hasBegun = [...visit.values()].some(isOver);
      const [first] = document.tests.steps;
      // Somebody came because a reading is wrong, and the sheet lies ready: what is read says what to do.
      if (!diagnosis && !hasBegun && first && document.visit.reason === "reading-wrong")
        return prove(`Read every meter: ${first.label}`, first);
      const step = diagnosis && !hasBegun ? undefined : nextStep(sheet, visit);
      if (step) return { said: step.title, stage: "visit", subject: { kind: "step", step: step.id } };
      return prove(
        diagnosis
          ? isReadHere(document)
            ? "Every reading is proved"
            : READ_HERE
          : "Prove the flows: take the first readings",
      );
    }
  }
}

function tagsOf(site: JobDocument["site"], readings: readonly { meter: string; input: number }[]): string {
  return joined(readings.map(({ meter, input }) => inputTag(site, meter, input)));
}

/** The first step of a visit that can be done now. */
function nextStep(sheet: VisitSheet, visit: VisitState): VisitSheet["steps"][number] | undefined {
  return sheet.steps.find((step) => {
    const state = stateOf(visit, step.id);
    return !isOver(state) && state.status !== "waiting" && openGates(sheet, visit, step).length === 0;
  });
}

/** "Three phase, 230 V 50 Hz". */
export function supplyText(supply: JobDocument["site"]["supply"]): string {
  const names = { "single-phase": "Single phase", "split-phase": "Split phase", "three-phase": "Three phase" } as const;
  const volts =
    supply.system === "split-phase" ? `${supply.voltageV}/${2 * supply.voltageV} V` : `${supply.voltageV} V`;
  return `${names[supply.system]}, ${volts} ${supply.frequencyHz} Hz`;
}

function jobState(document: JobDocument, open: readonly Finding[], diagnosis: Diagnosis | undefined): JobState {
  if (diagnosis?.verdict === "faults-found") return "faults-found";
  if (diagnosis?.verdict === "as-planned" && isReadHere(document)) return "proved";
  if (diagnosis || hasReadings(document)) return "proving";
  return open.some(({ stage, severity }) => PLANNING.includes(stage) && severity !== "note") ? "placing" : "to-prove";
}

/** What was computed, or read before the job was copied, proves nothing of this site. */
function isReadHere(document: JobDocument): boolean {
  return (
    isAllSeen(document.tests) &&
    document.tests.steps.every(({ readings }) => readings.every(({ readAt }) => !isBeforeCopy(document, readAt)))
  );
}

/** The diagnosis with as many faults at once as the budget allows; undefined where not even single faults do. */
export function quickDiagnosis({ site, tests: all }: Pick<JobDocument, "site" | "tests">): Diagnosis | undefined {
  const tests = freshSheet(site, all);
  for (let maxFaults = Math.min(tests.maxFaults, 2); maxFaults >= Math.min(tests.maxFaults, 1); maxFaults--) {
    const sheet = { ...tests, maxFaults };
    if (diagnosisCostMs(site, sheet) > SUMMARY_BUDGET_MS) continue;
    const outcome = diagnose(site, sheet);
    return outcome.kind === "diagnosed" ? outcome.diagnosis : undefined;
  }
  return undefined;
}
