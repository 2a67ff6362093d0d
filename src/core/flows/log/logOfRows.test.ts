import { expect, it } from "vitest";
import { logOfRows, type LogColumn } from "@/core/flows/log/logOfRows";

const rowsOf = (names: string, ...lines: readonly string[]) =>
  lines.map((line) => Object.fromEntries(names.split(";").map((name, at) => [name, line.split(";")[at] ?? ""])));
const mapped = (column: string, change: Partial<LogColumn> = {}) => ({
  time: "t",
  series: [{ id: "x", from: { column, unit: "W" as const, ...change } }],
});

it("reads dates, clock times over midnight and seconds, with either decimal sign", () => {
  const times = (...texts: readonly string[]) => {
    const outcome = logOfRows(rowsOf("t;p", ...texts.map((text) => `${text};1`)), mapped("p"));
    return outcome.kind === "log" ? outcome.times.map((time) => time - outcome.times[0]!) : outcome.problems;
  };
  expect(times("2026-06-01 12:00", "2026-06-01 12:05", "2026-06-01T12:10:30")).toEqual([0, 300, 630]);
  expect(times("2026-06-01 12:00+02:00", "2026-06-01 11:00Z", "2026-06-01 12:30Z")).toEqual([0, 3600, 9000]);
  expect(times("01.06.2026 23:55", "02.06.2026 00:00", "02.06.2026 00:05")).toEqual([0, 300, 600]);
  expect(times("23:50", "23:55", "00:00", "00:05")).toEqual([0, 300, 600, 900]);
  expect(times("0,5", "1,5", "2,5")).toEqual([0, 1, 2]);
});

it("makes watts of kW and of the kWh of each period, and takes export off import", () => {
  const rows = rowsOf("t;in;out;kw", "0;0,10;0,00;1,5", "300;0,20;0,05;-2,25", "600;;0;0", "900;0,15;0,30;");
  const values = (change: Parameters<typeof mapped>) => {
    const outcome = logOfRows(rows, mapped(...change));
    return outcome.kind === "log" ? outcome.series.get("x")!.map((watts) => watts && Math.round(watts)) : outcome;
  };
  expect(values(["kw", { unit: "kW" }])).toEqual([1500, -2250, 0, null]);
  expect(values(["kw", { unit: "kW", isTurned: true }])).toEqual([-1500, 2250, -0, null]);
  expect(values(["in", { unit: "kWh", minus: "out" }])).toEqual([1200, 1800, null, -1800]);
});

it("tells every row and column that it cannot read, all at once", () => {
  expect(logOfRows(rowsOf("t;p", "0;1", "soon;2", "2;many"), mapped("p"))).toEqual({
    kind: "bad",
    problems: ["Row 3: “soon” is no time", "Row 4, p: “many” is no number"],
  });
  expect(logOfRows(rowsOf("t;p", "0;1", "0;2", "1;3"), mapped("p"))).toMatchObject({ kind: "bad" });
  expect(logOfRows(rowsOf("t;p", "0;1,240", "1;3,600", "2;2,000"), mapped("p"))).toMatchObject({
    kind: "bad",
    problems: [expect.stringContaining("two ways")],
  });
});

it("asks for a unit that nobody said, of every column at once, and reads nothing in the wrong one", () => {
  const series = ["Grid", "Sun"].map((column) => ({ id: column, from: { column } }));
  const rows = rowsOf("t;Grid;Sun", "0;1.5;2", "300;1.6;2", "600;1.7;2");
  const asked = logOfRows(rows, { time: "t", series });
  expect(asked).toMatchObject({
    kind: "bad",
    problems: [/“Grid”/, /“Sun”/].map((name) => expect.stringMatching(name)),
  });
});
