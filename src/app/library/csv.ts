import Papa from "papaparse";

/** A cell that a spreadsheet would take for a formula is written as text. */
const FORMULA = /^[=+\-@\t\r]/;

/** Rows as a CSV download: comma, quotes where needed, a byte-order mark so that spreadsheets read it as UTF-8. */
export function csvResponse(name: string, rows: readonly Readonly<Record<string, string | number>>[], columns: readonly string[]): Response {
  const safe = rows.map((row) => Object.fromEntries(Object.entries(row).map(([key, value]) => [key, typeof value === "string" && FORMULA.test(value) ? `'${value}` : value])));
  return new Response(`\uFEFF${Papa.unparse(safe, { columns: [...columns] })}\r\n`, {
    headers: { "content-type": "text/csv; charset=utf-8", "content-disposition": `attachment; filename="${name}.csv"` },
  });
}
