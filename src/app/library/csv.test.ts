import fc from "fast-check";
import Papa from "papaparse";
import { describe, expect, it } from "vitest";
import { csvResponse, safeCell } from "@/app/library/csv";

/** What a spreadsheet takes for a formula at the beginning of a cell. */
const STARTS = ["=", "+", "-", "@", "\t", "\r", "＝", "＋", "－", "＠"];

describe("safeCell", () => {
  it.each(STARTS)("makes text of a cell that begins with %j, or has it behind a separator inside", (sign) => {
    expect(safeCell(`${sign}1+1`)).not.toBe(`${sign}1+1`);
    for (const separator of [",", ";", "\n"]) expect(safeCell(`x${separator}${sign}cmd`)).toContain(`${separator}'`);
    expect(safeCell(` "${sign}1+1`)).toContain(`'${sign}`);
  });

  it.each(["-12.5", "+3", "1,5", "Roof 2.1", "L1-L2", "a = b", "mail@home", ""])("leaves %j as it is", (cell) => {
    expect(safeCell(cell)).toBe(cell);
  });

  it("leaves no cell that a spreadsheet computes, whatever it takes for a separator", () => {
    const anyCell = fc
      .array(fc.constantFrom(...STARTS, ",", ";", "\n", " ", "'", '"', "1", "x", "cmd|' /C calc'!A0"), {
        maxLength: 12,
      })
      .map((parts) => parts.join(""));
    fc.assert(
      fc.property(anyCell, (cell) => {
        const safe = String(safeCell(cell));
        if (/^[-+]?\d+(?:[.,]\d+)?$/.test(safe)) return;
        for (const separator of [",", ";", "\t", "\n"]) {
          for (const part of safe.split(separator))
            expect(part.replace(/^[\s"']*/, (start) => (start.includes("'") ? "'" : ""))).not.toMatch(
              /^[=+\-@＝＋－＠]/,
            );
        }
      }),
    );
  });
});

describe("csvResponse", () => {
  it("quotes every cell, and reads back as it was written", async () => {
    const rows = [
      { a: 'say "hi"', b: 3 },
      { a: "two\nlines", b: -1.5 },
    ];
    const response = csvResponse("x", { rows, columns: ["a", "b"] });
    const body = (await response.text()).replace(/^\uFEFF/, "");
    expect(body.split("\r\n")[0]).toBe('"a","b"');
    expect(Papa.parse(body.trimEnd(), { header: true }).data).toEqual([
      { a: 'say "hi"', b: "3" },
      { a: "two\nlines", b: "-1.5" },
    ]);
    expect(response.headers.get("cache-control")).toBe("private, no-store");
  });
});
