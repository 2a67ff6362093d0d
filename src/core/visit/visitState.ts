import { figure, joinedSentences, plainText, said, type Figure, type Sentence } from "@/core/sentence";
import type { Finding } from "@/core/findings";
import { given } from "@/core/given";
import { serialDoubt } from "@/core/kits/serialDoubt";
import { FIRST_VISIT } from "@/core/plan/visitSettings";
import type { VisitEntry } from "@/core/visit/visitEntry";
import type { VisitSheet } from "@/core/visit/visitSheet";
import type { VisitStep } from "@/core/visit/visitStep";
import { MAX_STEPS } from "@/core/visit/schedule/scheduleSchema";
import { joined } from "@/core/words";

/** Where a step stands. */
export type StepStatus = "open" | "waiting" | "done" | "stopped" | "skipped";

/** Where a step stands by the log. */
export interface StepState {
  readonly status: StepStatus;
  /** The entry that made it so. */
  readonly entry: VisitEntry | undefined;
  /** When its waiting part ends, ms since 1970; while it waits. */
  readonly waitsUntilMs: number | undefined;
  /** Its content changed since it was recorded. */
  readonly needsLook: boolean;
}

/** Where every step stands by the log. */
export type VisitState = ReadonlyMap<string, StepState>;

const MINUTE_MS = 60_000;
/** More open steps than this are counted, not named. */
const MOST_NAMED = 3;
const OPEN: StepState = { status: "open", entry: undefined, waitsUntilMs: undefined, needsLook: false };

/**
 * Where each step of a sheet stands, from the log in the order of its entries. A step recorded with other content than
 * it has now is marked for another look; what was recorded stays.
 *
 * @param visit Which visit of the job: what other visits recorded is theirs.
 * For example: A result whose value is outside its limits: `stopped`, until another result or a skip with its reason.
 */
export function visitState(sheet: VisitSheet, entries: readonly VisitEntry[], visit = FIRST_VISIT): VisitState {
  const state = new Map<string, StepState>(sheet.steps.map((step) => [step.id, OPEN]));
  const steps = new Map(sheet.steps.map((step) => [step.id, step]));
  for (const entry of entries) {
    if (visitOfEntry(entry) !== visit) continue;
    const step = "step" in entry && entry.step !== undefined ? steps.get(entry.step) : undefined;
    if (!step || entry.kind === "note" || entry.kind === "photo" || entry.kind === "correction") continue;
    const needsLook = entry.content !== contentMark(step);
    switch (entry.kind) {
      case "start":
        state.set(step.id, {
          status: "waiting",
          entry,
          waitsUntilMs: Date.parse(entry.at) + (step.activeMin + step.waitMin) * MINUTE_MS,
          needsLook: false,
        });
        break;
      case "result": {
        const waitMin = stillToWaitMin(step, entry.choice);
        state.set(step.id, {
          status: entry.outside.length > 0 ? "stopped" : waitMin === undefined ? "done" : "waiting",
          entry,
          waitsUntilMs: waitMin === undefined ? undefined : Date.parse(entry.at) + waitMin * MINUTE_MS,
          needsLook,
        });
        break;
      }
      case "skip":
        state.set(step.id, { status: "skipped", entry, waitsUntilMs: undefined, needsLook });
        break;
      case "reopen":
        state.set(step.id, { ...OPEN, entry });
        break;
    }
  }
  return state;
}

/** How long what was chosen has to be waited for, min; undefined where it is an answer. */
function stillToWaitMin({ evidence }: VisitStep, choice: string | undefined): number | undefined {
  return evidence.kind === "choice" ? evidence.options.find(({ id }) => id === choice)?.waitMin : undefined;
}

/** Which visit of its job an entry is of. */
export function visitOfEntry({ visit }: VisitEntry): string {
  return visit ?? FIRST_VISIT;
}

/** What was recorded on one visit of a job, in its order. */
export function entriesOf(entries: readonly VisitEntry[], visit: string): readonly VisitEntry[] {
  const isOfIt = (entry: VisitEntry) => visitOfEntry(entry) === visit;
  return entries.every(isOfIt) ? entries : entries.filter(isOfIt);
}

/** Where one step stands; open where the log says nothing of it. */
export function stateOf(state: VisitState, step: string): StepState {
  return state.get(step) ?? OPEN;
}

/** Done, or let be with a reason. */
export function isOver({ status }: StepState): boolean {
  return status === "done" || status === "skipped";
}

/**
 * A short mark of what a step says and asks: it changes when the content does, not when only its order does (FNV-1a).
 */
export function contentMark({ title, content, evidence }: Pick<VisitStep, "title" | "content" | "evidence">): string {
  let hash = 0x811c9dc5;
  for (const character of JSON.stringify([title, content, evidence]))
    hash = Math.imul(hash ^ character.codePointAt(0)!, 0x01000193) >>> 0;
  return hash.toString(16);
}

/** What was recorded of a step, to be judged. */
export interface Recorded {
  readonly values?: Readonly<Record<string, number>> | undefined;
  readonly choice?: string | undefined;
  readonly serial?: string | undefined;
  /** What each line reads back, or the names of those who were asked, by the ids of the evidence. */
  readonly texts?: Readonly<Record<string, string>> | undefined;
}

/**
 * What of a recording is outside its limits, each with what to check next; empty when all is good.
 *
 * For example: 0.8 Ω where a bond is at most 0.5: one line.
 */
export function outsideLimits(step: Pick<VisitStep, "evidence">, recorded: Recorded): readonly string[] {
  return saidOutside(step, recorded).map(plainText);
}

function saidOutside({ evidence }: Pick<VisitStep, "evidence">, recorded: Recorded): readonly Sentence[] {
  switch (evidence.kind) {
    case "tick":
      return [];
    case "values":
      return evidence.fields.flatMap(({ id, label, unit, least, most, outside }) => {
        const value = recorded.values?.[id];
        const isOutside =
          value !== undefined && ((least !== undefined && value < least) || (most !== undefined && value > most));
        return isOutside
          ? [said`${label} ${signed(value)} ${unit}, expected ${saidLimits(least, most, unit)}. ${outside}.`]
          : [];
      });
    case "choice": {
      const option = evidence.options.find(({ id }) => id === recorded.choice);
      return option && !option.isGood && option.waitMin === undefined
        ? [`${option.label}. ${option.next ?? evidence.outside}.`]
        : [];
    }
    case "read-back":
      return evidence.fields.flatMap(({ id, label, value }) => {
        const read = recorded.texts?.[id];
        return read === undefined || read === value
          ? []
          : [`${label} reads “${read}”, expected “${value}”. ${evidence.outside}.`];
      });
    case "names":
      return [];
    case "serial":
      // A number that does not look like one is doubted where it is typed and in the findings; it stops nobody.
      return [];
  }
}

/**
 * A recording with its labels and units; nothing for a tick.
 *
 * For example: `recordedText(bond, { values: { bond: 0.2 } })` gives "Bond 0.2 Ω"
 */
export function recordedText(
  { evidence }: Pick<VisitStep, "evidence">,
  { values, choice, serial, texts }: Recorded,
): string {
  switch (evidence.kind) {
    case "tick":
      return "";
    case "values":
      return evidence.fields
        .flatMap(({ id, label, unit }) => {
          const value = values?.[id];
          return value === undefined ? [] : [plainText(said`${label} ${signed(value)} ${unit}`)];
        })
        .join(", ");
    case "choice":
      return evidence.options.find(({ id }) => id === choice)?.label ?? "";
    case "serial":
      return serial ?? "";
    case "read-back":
      return evidence.fields
        .flatMap(({ id, label }) => (texts?.[id] === undefined ? [] : `${label} ${texts[id]}`))
        .join(", ");
    case "names":
      return joined(Object.values(texts ?? {}));
  }
}

/** Digits with a real minus sign. */
function signed(value: number): Figure {
  return figure(String(value).replace("-", "−"));
}

/** @example limitsText(0, 0.5, "Ω") // "0 to 0.5 Ω" */
export function limitsText(least: number | undefined, most: number | undefined, unit: string): string {
  return plainText(saidLimits(least, most, unit));
}

function saidLimits(least: number | undefined, most: number | undefined, unit: string): Sentence {
  const short = (value: number) => signed(Number(value.toPrecision(4)));
  if (least !== undefined && most !== undefined) return said`${short(least)} to ${short(most)} ${unit}`;
  return least !== undefined
    ? said`at least ${short(least)} ${unit}`
    : most !== undefined
      ? said`at most ${short(most)} ${unit}`
      : said`any ${unit}`;
}

/** Whether a recording has all that its step asks for. */
export function isComplete({ evidence }: Pick<VisitStep, "evidence">, recorded: Recorded): boolean {
  switch (evidence.kind) {
    case "tick":
      return true;
    case "values":
      return evidence.fields.every(({ id }) => recorded.values?.[id] !== undefined);
    case "choice":
      return recorded.choice !== undefined;
    case "serial":
      return recorded.serial !== undefined && recorded.serial.trim() !== "";
    case "read-back":
      return evidence.fields.every(({ id }) => isTyped(recorded.texts?.[id]));
    case "names":
      return nameIds(evidence.count).every((id) => isTyped(recorded.texts?.[id]));
  }
}

/** The ids under which so many people say their names. */
export function nameIds(count: number): readonly string[] {
  return Array.from({ length: count }, (_, at) => `name-${at + 1}`);
}

function isTyped(text: string | undefined): boolean {
  return text !== undefined && text.trim() !== "";
}

/** What the log finds: steps outside their limits, gates skipped, steps to look at again. */
export function visitFindings(sheet: VisitSheet, state: VisitState): readonly Finding[] {
  const source = "Run sheet and log";
  return [
    ...sheet.findings,
    ...tooLong(sheet, source),
    ...lateGates(sheet, state, source),
    ...sheet.steps.flatMap((step): readonly Finding[] => {
      const { status, entry, needsLook } = stateOf(state, step.id);
      const subject = { kind: "step", step: step.id } as const;
      return given(
        status === "stopped" &&
          entry?.kind === "result" && {
            id: `stopped:${step.id}`,
            code: "step-outside",
            severity: step.isGate ? ("stop" as const) : ("fix" as const),
            stage: "visit" as const,
            subject,
            title: "A step is outside its limits",
            detail: asRecorded(step, entry),
            cure: said`Put it right, and record again: ${step.title}`,
            source,
          },
        status === "skipped" &&
          step.isGate &&
          entry?.kind === "skip" && {
            id: `gate-skipped:${step.id}`,
            code: "gate-skipped",
            severity: "fix" as const,
            stage: "visit" as const,
            subject,
            title: "A safety gate was skipped",
            detail: said`${step.title}: “${entry.reason}”, ${entry.person}.`,
            cure: said`${step.title}, or let it stand in the report with this reason`,
            source,
          },
        status === "done" && entry?.kind === "result" && doubtfulSerial(step, entry.serial, source),
        needsLook && {
          id: `look-again:${step.id}`,
          code: "look-again",
          severity: "note" as const,
          stage: "visit" as const,
          subject,
          title: "Changed since it was recorded",
          detail: said`${step.title}: the plan says something else now than when it was recorded.`,
          cure: "Look again, and record it once more",
          source,
        },
      );
    }),
  ];
}

function doubtfulSerial(step: VisitStep, serial: string | undefined, source: string): Finding | false {
  const pattern = step.evidence.kind === "serial" ? step.evidence.pattern : undefined;
  const doubt = serial === undefined ? undefined : serialDoubt(pattern, serial);
  if (!doubt) return false;
  return {
    id: `serial-doubted:${step.id}`,
    code: "serial-doubted",
    severity: "note",
    stage: "visit",
    subject: { kind: "step", step: step.id },
    title: "A serial number looks unusual",
    detail: said`${step.title}: ${serial!}; one of this kit is ${doubt.words}.`,
    cure:
      doubt.instead === undefined ? "Read the plate once more" : `It may be ${doubt.instead}: read the plate once more`,
    source,
  };
}

/** What was outside, with its figures; in the words of its time where the plan asks for something else by now. */
function asRecorded(step: VisitStep, entry: Extract<VisitEntry, { kind: "result" }>): Sentence {
  const now = saidOutside(step, entry);
  const then = entry.outside.join(" ");
  return now.map(plainText).join(" ") === then ? joinedSentences(now, " ") : then;
}

function tooLong({ steps }: VisitSheet, source: string): readonly Finding[] {
  if (steps.length <= MAX_STEPS) return [];
  return [
    {
      id: "sheet-too-long",
      code: "sheet-too-long",
      severity: "note",
      stage: "visit",
      subject: { kind: "job" },
      title: "The sheet is too long for a schedule",
      detail: said`${steps.length} steps; a schedule is worked out for at most ${MAX_STEPS}.`,
      cure: "Part the site into two jobs, or go by the order of the sheet",
      source,
    },
  ];
}

/** Gates that are open while something behind them is recorded: an earlier error made them late, and it is said. */
function lateGates(sheet: VisitSheet, state: VisitState, source: string): readonly Finding[] {
  const last = sheet.steps.at(-1);
  // What was finished by an earlier edition of the sheet is not gone over again.
  if (!last || isOver(stateOf(state, last.id))) return [];
  const done = sheet.steps.filter(({ id }) => stateOf(state, id).status === "done");
  if (done.length === 0) return [];
  const followers = new Map<string, VisitStep[]>();
  for (const step of sheet.steps)
    for (const { step: need } of step.needs) {
      const own = followers.get(need);
      if (own) own.push(step);
      else followers.set(need, [step]);
    }
  return sheet.steps.flatMap((gate): readonly Finding[] => {
    if (!gate.isGate || isOver(stateOf(state, gate.id))) return [];
    const after = allBehind(gate, followers);
    const behind = done.filter(({ id }) => after.has(id));
    if (behind.length === 0) return [];
    return [
      {
        id: `gate-late:${gate.id}`,
        code: "gate-late",
        severity: "fix",
        stage: "visit",
        subject: { kind: "step", step: gate.id },
        title: "A safety gate comes too late",
        detail: said`${gate.title} is open, and behind it is recorded: ${openGatesText(behind)}.`,
        cure: said`Stop, do it now: ${gate.title}; then look again at what came after it`,
        source,
      },
    ];
  });
}

/** The ids of all steps that wait for one, however far. */
function allBehind({ id }: VisitStep, followers: ReadonlyMap<string, readonly VisitStep[]>): ReadonlySet<string> {
  const seen = new Set<string>();
  const open = [id];
  for (let at = open.pop(); at !== undefined; at = open.pop())
    for (const follower of followers.get(at) ?? [])
      if (!seen.has(follower.id)) {
        seen.add(follower.id);
        open.push(follower.id);
      }
  return seen;
}

/**
 * Safety gates that must be over before a step is recorded: those among all that comes before it, however far.
 *
 * For example: Of a CT whose leads are not in yet: the step of its leads.
 */
export function openGates(sheet: VisitSheet, state: VisitState, step: VisitStep): readonly VisitStep[] {
  const byId = new Map(sheet.steps.map((own) => [own.id, own]));
  const seen = new Set<string>();
  const gates: VisitStep[] = [];
  const walk = (own: VisitStep): void => {
    for (const { step: id } of own.needs) {
      const before = byId.get(id);
      if (!before || seen.has(id)) continue;
      seen.add(id);
      if (before.isGate && !isOver(stateOf(state, id))) gates.push(before);
      walk(before);
    }
  };
  walk(step);
  return gates;
}

/**
 * Steps by their titles, the first few of many.
 *
 * @example openGatesText([{ title: "Prove dead" }]) // "Prove dead"
 */
export function openGatesText(gates: readonly Pick<VisitStep, "title">[]): string {
  const titles = gates.map(({ title }) => title);
  return titles.length <= MOST_NAMED
    ? joined(titles)
    : `${titles.slice(0, MOST_NAMED).join(", ")} and ${titles.length - MOST_NAMED} more`;
}
