import * as fc from "fast-check";
import { describe, expect, it } from "vitest";
import { dayAfter, daysLeftText, deadlineSchema, dueDeadlines } from "@/core/job/deadline";

const due = (on: string, more: object = {}) =>
  deadlineSchema.parse({ id: "00000000-0000-4000-8000-000000000001", what: "Register the inverter", on, ...more });

describe("deadlines", () => {
  it("stand by how near they are, those that are done last", () => {
    const all = [due("2026-12-30"), due("2026-11-22"), due("2026-11-18"), due("2026-11-01", { doneOn: "2026-10-30" })];
    expect(dueDeadlines(all, "2026-11-20").map(({ state, daysLeft }) => [state, daysLeft])).toEqual([
      ["late", -2],
      ["soon", 2],
      ["later", 40],
      ["done", -19],
    ]);
  });

  it("are said in words, and count days and not hours", () => {
    expect([-2, -1, 0, 1, 9].map(daysLeftText)).toEqual([
      "2 days late",
      "1 day late",
      "today",
      "in 1 day",
      "in 9 days",
    ]);
    fc.assert(
      fc.property(fc.integer({ min: -400, max: 400 }), (days) => {
        const on = new Date(Date.parse("2026-06-15") + days * 86_400_000).toISOString().slice(0, 10);
        expect(dueDeadlines([due(on)], "2026-06-15")[0]!.daysLeft).toBe(days);
      }),
    );
  });

  it("stay days that others can read, however far away what was typed is", () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 9999 }), fc.integer({ min: 0, max: 3650 }), (year, days) => {
        const from = `${String(year).padStart(4, "0")}-12-31`;
        const after = dayAfter(from, days);
        expect(deadlineSchema.shape.on.safeParse(after).success).toBe(true);
        expect(after >= from).toBe(true);
      }),
    );
    expect(dayAfter("9999-12-31", 30)).toBe("9999-12-31");
  });

  it("have a day that there is, and something that is due", () => {
    const problem = (more: object) =>
      deadlineSchema.safeParse({ ...due("2026-12-30"), ...more }).error?.issues[0]?.path.join();
    expect(problem({ on: "2026-02-30" })).toBe("on");
    expect(problem({ what: " " })).toBe("what");
    expect(problem({ remindDays: 400 })).toBe("remindDays");
  });
});
