import fc from "fast-check";
import { describe, expect, it } from "vitest";
import type { RatioForm } from "@/core/kits/ratioForm";
import { ratioEntry, saidRatioForm } from "@/core/sensing/ratioEntry";
import { plainText } from "@/core/sentence";
import { STANDARD_PRIMARIES_A } from "@/core/site/standardPrimaries";

const FIVE_A = { value: 5, unit: "A" as const };
const anySecondary = fc.constantFrom(
  FIVE_A,
  { value: 1, unit: "A" as const },
  { value: 333, unit: "mV" as const },
  { value: 0.333, unit: "V" as const },
  { value: 50, unit: "mA" as const },
);
const anyPrimaryA = fc.constantFrom(...STANDARD_PRIMARIES_A);
const stepped = fc
  .record({
    min: fc.constantFrom(1, 5, 10),
    step: fc.constantFrom(0.5, 1, 5, 10),
    steps: fc.integer({ min: 1, max: 400 }),
  })
  .map(({ min, step, steps }) => ({ min, step, max: min + step * steps }));
const anyForm: fc.Arbitrary<RatioForm> = fc.oneof(
  stepped.map((range) => ({ kind: "ratio" as const, ...range })),
  stepped.map((range) => ({ kind: "primary" as const, ...range })),
  fc
    .uniqueArray(fc.constantFrom(...STANDARD_PRIMARIES_A), { minLength: 1, maxLength: 6 })
    .map((values) => ({ kind: "list" as const, values })),
);

describe("The number to type for a CT", () => {
  it("is its ratio, its primary or a value of the list, as the kit asks for it", () => {
    const ratio = ratioEntry({ kind: "ratio", min: 1, max: 1000, step: 1 }, 600, FIVE_A);
    expect(ratio).toMatchObject({ kind: "entry", value: 120 });
    const primary = ratioEntry({ kind: "primary", min: 5, max: 2000, step: 5 }, 600, FIVE_A);
    expect(primary).toMatchObject({ kind: "entry", value: 600 });
    const list = ratioEntry({ kind: "list", values: [20, 120, 400] }, 600, FIVE_A);
    expect(list).toMatchObject({ kind: "entry", value: 120 });
  });

  it("has the CT beside it, so that whoever types it sees what it is of", () => {
    const entry = ratioEntry({ kind: "ratio", min: 1, max: 1000, step: 1 }, 600, FIVE_A);
    expect(entry.kind === "entry" && plainText(entry.text)).toBe("120 (600 A : 5 A)");
  });

  it("is the same CT again when it is read back, whatever the kit asks for", () => {
    fc.assert(
      fc.property(anyForm, anyPrimaryA, anySecondary, (form, primaryA, secondary) => {
        const entry = ratioEntry(form, primaryA, secondary);
        if (entry.kind !== "entry") return;
        const inUnit = secondary.unit.startsWith("m") ? secondary.value / 1000 : secondary.value;
        const readBackA = entry.value === primaryA ? primaryA : entry.value * inUnit;
        expect(readBackA).toBeCloseTo(primaryA, 6);
        if (form.kind === "list") expect(form.values).toContain(entry.value);
        else expect(entry.value >= form.min && entry.value <= form.max).toBe(true);
      }),
    );
  });

  it("where there is none, is replaced by primaries that can be typed, the nearest first", () => {
    fc.assert(
      fc.property(anyForm, anyPrimaryA, anySecondary, (form, primaryA, secondary) => {
        const entry = ratioEntry(form, primaryA, secondary);
        if (entry.kind === "entry") return;
        const far = entry.primariesA.map((candidate) => Math.abs(candidate - primaryA));
        expect(far).toEqual(far.toSorted((a, b) => a - b));
        for (const candidate of entry.primariesA) expect(ratioEntry(form, candidate, secondary).kind).toBe("entry");
        expect(entry.primariesA).not.toContain(primaryA);
        expect(plainText(entry.why)).not.toBe("");
      }),
    );
  });

  it.each([
    [{ kind: "ratio", min: 10, max: 100, step: 1 }, 40, "8 is below the least entry 10"],
    [{ kind: "ratio", min: 1, max: 100, step: 1 }, 600, "120 is above the largest entry 100"],
    [{ kind: "primary", min: 50, max: 1000, step: 50 }, 60, "60 is not on a step of 50"],
    [{ kind: "list", values: [50, 100] }, 75, "the list has no 75"],
  ] as const)("says why there is none: %o at %d A", (form, primaryA, why) => {
    const entry = ratioEntry(form as RatioForm, primaryA, FIVE_A);
    expect(entry.kind === "not-possible" && plainText(entry.why)).toBe(why);
  });

  it("counts steps from the least entry or from zero: kits do either", () => {
    const form: RatioForm = { kind: "primary", min: 5, max: 605, step: 50 };
    expect(ratioEntry(form, 55, FIVE_A).kind).toBe("entry");
    expect(ratioEntry(form, 600, FIVE_A).kind).toBe("entry");
    expect(ratioEntry(form, 60, FIVE_A).kind).toBe("not-possible");
  });

  it("is what the form says that it takes, in words", () => {
    expect(plainText(saidRatioForm({ kind: "ratio", min: 1, max: 1000, step: 1 }))).toBe(
      "a ratio from 1 to 1000 in steps of 1",
    );
    expect(plainText(saidRatioForm({ kind: "primary", min: 5, max: 600, step: 5 }))).toBe(
      "primary amperes from 5 to 600 in steps of 5",
    );
    expect(plainText(saidRatioForm({ kind: "list", values: [60, 100] }))).toBe("one of 60, 100");
  });
});
