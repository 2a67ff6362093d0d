import type { ReportCourse, ReportSection, ReportTable } from "@/core/handover/report/reportSchema";

/** What a part of a report may have; all of it may be left out. */
interface SectionParts {
  readonly lines?: readonly string[];
  readonly tables?: readonly ReportTable[];
  readonly courses?: readonly ReportCourse[];
  readonly drawings?: ReportSection["drawings"];
  readonly pictures?: ReportSection["pictures"];
}

/**
 * A part of a report; tables without a row are left out.
 *
 * For example: a part "Links" of a plan without links has no table.
 */
export function section(
  id: string,
  title: string,
  { lines = [], tables = [], courses = [], drawings = [], pictures = [] }: SectionParts,
): ReportSection {
  return {
    id,
    title,
    lines: [...lines],
    tables: tables.filter(({ rows }) => rows.length > 0),
    courses: [...courses],
    drawings,
    pictures,
  };
}

/** A table of a report. For example: heads "CT" and "Ratio", a row for each CT. */
export function table(
  title: string,
  heads: readonly string[],
  rows: readonly (readonly (string | undefined)[])[],
): ReportTable {
  return { title, heads: [...heads], rows: rows.map((row) => row.map((cell) => cell ?? "")) };
}
