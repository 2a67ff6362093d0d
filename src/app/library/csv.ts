import Papa from "papaparse";
import { PRIVATE } from "@/app/api/respond";

/**
 * A cell that a spreadsheet would take for a formula: one that begins with = + − @, a tab or a carriage return, or
 * their full-width forms; and one with such a beginning behind a separator or a line's end inside, since a program that
 * takes another separator splits the cell there, quotes or not.
 */
const FORMULA = /(?:^|[,;\t\r\n|])[\s"'\u00A0]*[=+\-@\t\r＝＋－＠−]/u;
/** A plain number is none, whatever its sign. */
const NUMBER = /^[-+]?\d+(?:[.,]\d+)?$/;

/** Rows of a table with its columns in order. */
export interface CsvTable {
  readonly columns: readonly string[];
  readonly rows: readonly Readonly<Record<string, string | number>>[];
}

/**
 * A cell as text that no spreadsheet computes.
 *
 * @example safeCell("=1+1") // "'=1+1"
 * @example safeCell("-12.5") // "-12.5"
 */
export function safeCell(value: string | number): string | number {
  if (typeof value === "number" || NUMBER.test(value)) return value;
  // Inside, the sign goes behind an apostrophe too: only there does it stop a cell that was split in two.
  return FORMULA.test(value)
    ? value.replace(/(^|[,;\t\r\n|])([\s"'\u00A0]*)([=+\-@\t\r＝＋－＠−])/gu, "$1$2'$3")
    : value;
}

/** A table as CSV: comma, every cell quoted, a byte-order mark so that spreadsheets read it as UTF-8. */
export function csvText({ rows, columns }: CsvTable): string {
  const safe = rows.map((row) => Object.fromEntries(Object.entries(row).map(([key, value]) => [key, safeCell(value)])));
  return `\uFEFF${Papa.unparse(safe, { columns: [...columns], quotes: true })}\r\n`;
}

/** A table as a CSV download. */
export function csvResponse(name: string, table: CsvTable): Response {
  return new Response(csvText(table), {
    headers: {
      ...PRIVATE,
      "content-type": "text/csv; charset=utf-8",
      "content-disposition": `attachment; filename="${name}.csv"`,
    },
  });
}
