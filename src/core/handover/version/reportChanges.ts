import type { Report, ReportSection } from "@/core/handover/report/reportSchema";

/** A part of the report that says something else than it did. */
export interface ReportChange {
  readonly section: string;
  readonly title: string;
  /** What it says now and did not before, and what it said before and does not now, each as one line. */
  readonly added: readonly string[];
  readonly gone: readonly string[];
}

/** A log only grows; it is counted, and not compared. */
const LOG = "log";

/**
 * What a report says now that it did not say when it was handed over. The log is left out: it grows with every line,
 * that of the hand over too.
 *
 * For example: of a CT that was turned since, the part "CTs as fitted" has its new row as added, the old one as gone.
 */
export function reportChanges(then: Report, now: Report): readonly ReportChange[] {
  const ids = new Set([...now.sections, ...then.sections].map(({ id }) => id));
  ids.delete(LOG);
  return [...ids].flatMap((id): ReportChange[] => {
    const [before, after] = [then, now].map(({ sections }) => sections.find((own) => own.id === id));
    const [was, is] = [linesOf(before), linesOf(after)];
    const added = is.filter((line) => !was.includes(line));
    const gone = was.filter((line) => !is.includes(line));
    if (added.length === 0 && gone.length === 0) return [];
    return [{ section: id, title: (after ?? before)!.title, added, gone }];
  });
}

/**
 * How many lines the log of a report has.
 *
 * For example: 0 of a report of the short form, which has no log.
 */
export function logLength({ sections }: Report): number {
  return sections.find(({ id }) => id === LOG)?.tables[0]?.rows.length ?? 0;
}

function linesOf(section: ReportSection | undefined): readonly string[] {
  if (!section) return [];
  return [
    ...section.lines,
    ...section.tables.flatMap(({ title, rows }) => rows.map((row) => [title, ...row].filter(Boolean).join(" · "))),
    ...section.courses.map(({ title, values }) => `${title}: ${values.length} values`),
    ...section.pictures.map(({ caption }) => caption),
  ];
}
