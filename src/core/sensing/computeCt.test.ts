import { describe, expect, it } from "vitest";
import { plainFinding } from "@/core/findings";
import { computeCt, ctRequestSchema, type CtRequest } from "@/core/sensing/computeCt";

const question = (change: Partial<CtRequest> = {}): CtRequest =>
  ctRequestSchema.parse({
    class: "1",
    meterClassPct: 1,
    primaryA: 100,
    secondary: { value: 0.333, unit: "V" },
    currentA: 20,
    powerFactor: 1,
    voltageV: 230,
    ...change,
  });

describe("computeCt", () => {
  it("gives the example of its docblock", () => {
    const answer = computeCt(question());
    expect(answer).toMatchObject({
      ratioErrorPct: 1.5,
      displacementMin: 90,
      promised: true,
      burdenVa: null,
      longestLeadM: null,
      ratioEntry: null,
      findings: [],
    });
    expect(answer.powerErrorPct).toBeCloseTo(2.534, 3);
    expect(answer.powerErrorW).toBeCloseTo(116.6, 1);
  });

  it("promises nothing below the class, says so, and gives no number that would look like a promise", () => {
    const answer = computeCt(question({ currentA: 2 }));
    expect(answer).toMatchObject({
      promised: false,
      ratioErrorPct: null,
      displacementMin: null,
      powerErrorPct: null,
      powerErrorW: null,
    });
    expect(answer.findings.map(plainFinding)).toMatchObject([
      { code: "below-class", severity: "note", detail: "2 A is 2 % of 100 A; class 1 promises nothing below 5 %." },
    ]);
  });

  it("says of class 3 that its power error counts no displacement", () => {
    const answer = computeCt(question({ class: "3", currentA: 60 }));
    expect(answer).toMatchObject({ promised: true, ratioErrorPct: 3, displacementMin: null, powerErrorPct: 4 });
    expect(answer.findings.map((finding) => finding.code)).toEqual(["no-displacement-limit"]);
  });

  it("works out burden and longest lead of a current-output CT", () => {
    const five = {
      secondary: { value: 5, unit: "A" },
      primaryA: 600,
      currentA: 300,
      leadAreaMm2: 2.5,
      ratedVa: 5,
      meterVa: 0.5,
    } as const;
    const answer = computeCt(question({ ...five, leadLengthM: 10 }));
    // 5² · 2 · 0.0172 · 10 / 2.5 = 3.44 VA of lead, 0.5 of meter, 0.1 of contacts.
    expect(answer.burdenVa).toBeCloseTo(4.04, 10);
    expect(answer.longestLeadM).toBeCloseTo(4.4 / 0.344, 10);
    expect(answer.warmLongestLeadM).toBeCloseTo(4.4 / 0.4128, 10);
    expect(answer.findings).toEqual([]);
    // The same contacts at a fifth of the current take a 25th.
    const one = computeCt(question({ ...five, secondary: { value: 1, unit: "A" }, leadLengthM: 10 }));
    expect(one.burdenVa).toBeCloseTo(0.1376 + 0.5 + 0.004, 10);
  });

  it.each([
    [12, "note"],
    [20, "fix"],
  ] as const)("finds a lead of %d m too long: %s", (leadLengthM, severity) => {
    const answer = computeCt(
      question({
        secondary: { value: 5, unit: "A" },
        primaryA: 600,
        currentA: 300,
        leadAreaMm2: 2.5,
        ratedVa: 5,
        meterVa: 0.5,
        leadLengthM,
      }),
    );
    expect(answer.findings).toMatchObject([{ code: "burden", severity }]);
  });

  it.each([
    [{ kind: "ratio", min: 1, max: 1000, step: 1 }, 600, 120],
    [{ kind: "primary", min: 5, max: 1000, step: 5 }, 600, 600],
    [{ kind: "list", values: [200, 600] }, 600, 600],
    [{ kind: "list", values: [40, 120] }, 600, 120],
    [{ kind: "ratio", min: 1, max: 100, step: 1 }, 600, null],
    [{ kind: "primary", min: 50, max: 1000, step: 50 }, 120, null],
    [{ kind: "list", values: [200, 300] }, 600, null],
  ] as const)("answers %o for %d A : 5 A with %s", (ratioForm, primaryA, entry) => {
    const answer = computeCt(
      question({
        secondary: { value: 5, unit: "A" },
        primaryA,
        currentA: primaryA / 2,
        ratioForm: ratioForm as CtRequest["ratioForm"],
      }),
    );
    expect(answer.ratioEntry).toBe(entry);
    expect(answer.findings.some((finding) => finding.code === "ratio-entry")).toBe(entry === null);
  });

  it("names primaries that can be typed instead, nearest first", () => {
    const answer = computeCt(
      question({ primaryA: 120, currentA: 60, ratioForm: { kind: "primary", min: 50, max: 1000, step: 50 } }),
    );
    expect(answer.findings.map(plainFinding)[0]?.cure).toBe("Fit a CT of 100, 150, 50, 200 A");
  });

  it.each([
    ["powerFactor", 0],
    ["primaryA", 0],
    ["currentA", -1],
    ["class", "2"],
    ["ratioForm", { kind: "primary", min: 10, max: 5, step: 1 }],
  ])("refuses %s = %s", (field, value) => {
    expect(ctRequestSchema.safeParse({ ...question(), [field]: value }).error?.issues[0]?.path[0]).toBe(field);
  });
});
