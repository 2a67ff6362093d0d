import type { VisitEntry, VisitEntryKind } from "@/core/visit/visitEntry";
import { visitOfEntry } from "@/core/visit/visitState";
import type { JobDocument } from "@/core/job/jobDocument";

/** A saved change of a job: which parts of its document it touched. */
export interface PlanChange {
  readonly revision: number;
  readonly at: string;
  readonly parts: readonly string[];
}

/** One line as it is shown and exported. */
export interface LogLine {
  readonly id: string;
  readonly at: string;
  readonly person: string;
  readonly kind: VisitEntryKind | "plan-change" | "accepted";
  readonly title: string;
  readonly text: string;
  readonly photo: string | undefined;
  /** The id of the visit that it was recorded on; what is of the job as a whole is of none. */
  readonly visit: string | undefined;
  /** Corrected by a later line. */
  readonly isCorrected: boolean;
}

/** The lines of a log, in words. */
export const LOG_WORDS: Readonly<Record<LogLine["kind"], string>> = {
  start: "started",
  result: "recorded",
  skip: "skipped",
  reopen: "opened again",
  note: "note",
  photo: "photo",
  correction: "correction",
  "plan-change": "plan changed",
  accepted: "finding accepted",
};

/** Changes that come closer together than this are one line. */
const SAME_CHANGE_MS = 120_000;

/**
 * Everything that happened on a job, oldest first: what was recorded, changes of the plan, findings that were let
 * stand.
 */
export function visitLog(
  entries: readonly VisitEntry[],
  changes: readonly PlanChange[],
  accepted: JobDocument["accepted"],
): readonly LogLine[] {
  const corrected = new Set(entries.flatMap((entry) => (entry.kind === "correction" ? [entry.corrects] : [])));
  const titleOf = new Map(entries.flatMap((entry) => ("title" in entry ? [[entry.step, entry.title] as const] : [])));
  const lines = entries.map((entry): LogLine => ({
    id: entry.id,
    at: entry.at,
    person: entry.person,
    kind: entry.kind,
    visit: visitOfEntry(entry),
    photo: entry.kind === "photo" ? entry.photo : undefined,
    isCorrected: corrected.has(entry.id),
    title:
      "title" in entry
        ? entry.title
        : "step" in entry && entry.step !== undefined
          ? (titleOf.get(entry.step) ?? entry.step)
          : "",
    text: entryText(entry, entries),
  }));
  return [
    ...lines,
    ...together(changes).map(({ revision, at, parts }): LogLine => ({
      id: `revision-${revision}`,
      at,
      person: "",
      kind: "plan-change",
      title: `Revision ${revision}`,
      text: parts.join(", "),
      photo: undefined,
      visit: undefined,
      isCorrected: false,
    })),
    ...accepted.map(({ finding, title, person, reason, at }): LogLine => ({
      id: `accepted-${finding}`,
      at,
      person,
      kind: "accepted",
      title: title || finding,
      text: reason,
      photo: undefined,
      visit: undefined,
      isCorrected: false,
    })),
  ].toSorted((a, b) => a.at.localeCompare(b.at));
}

function entryText(entry: VisitEntry, entries: readonly VisitEntry[]): string {
  switch (entry.kind) {
    case "start":
      return "";
    case "result":
      return [recordedWords(entry), ...entry.outside.map((line) => `outside: ${line}`)].filter(Boolean).join("; ");
    case "skip":
    case "reopen":
      return entry.reason;
    case "note":
    case "photo":
      return entry.text;
    case "correction": {
      const wrong = entries.find(({ id }) => id === entry.corrects);
      return `${entry.text}${wrong ? ` (corrects ${LOG_WORDS[wrong.kind]} of ${wrong.at.slice(11, 16)})` : ""}`;
    }
  }
}

/** As it was shown when it was recorded; what came over the interface without words, by its names. */
function recordedWords({ said, values, choice, serial }: Extract<VisitEntry, { kind: "result" }>): string {
  return (
    said ||
    [...Object.entries(values ?? {}).map(([id, value]) => `${id} ${value}`), choice, serial]
      .filter((part) => part !== undefined)
      .join("; ")
  );
}

function together(changes: readonly PlanChange[]): readonly PlanChange[] {
  const groups: PlanChange[] = [];
  for (const change of changes) {
    const last = groups.at(-1);
    if (last && Date.parse(change.at) - Date.parse(last.at) < SAME_CHANGE_MS)
      groups[groups.length - 1] = { ...change, parts: [...new Set([...last.parts, ...change.parts])] };
    else groups.push(change);
  }
  return groups;
}

/** Lines that hold all of the words, of one kind or person where that is asked. */
export function searchLog(lines: readonly LogLine[], words: string, kind: string, person: string): readonly LogLine[] {
  const wanted = words.toLowerCase().split(/\s+/).filter(Boolean);
  return lines.filter((line) => {
    const all = `${line.person} ${LOG_WORDS[line.kind]} ${line.title} ${line.text}`.toLowerCase();
    return (
      (kind === "" || line.kind === kind) &&
      (person === "" || line.person === person) &&
      wanted.every((word) => all.includes(word))
    );
  });
}
