import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { kitDoubts } from "@/core/kits/kitDoubts";
import { isQuickPattern } from "@/core/kits/quickPattern";
import { serialDoubt } from "@/core/kits/serialDoubt";
import { shippedKits } from "../../../tests/fixtures/shipped";

const part = fc.constantFrom("G", "K", "[0-9]{7}", "[A-Z]", "\\d{4}", "-", ".", "[^\\]]", "\\.", "Ä", " ", "\\/");
const varying = fc.constantFrom("[0-9]+", "A*", "[A-Z]{2,4}", "\\d{3,}", "X?");
const choice = fc.constantFrom("(A+)+", "(a|aa)", "(?:[0-9]*)*", "a|b", "(A)\\1", "(?=A)", "[0-9]+[0-9]+$x", "(");

describe("A pattern of serial numbers", () => {
  it("of fixed parts, with one of varying length, is tried, and means what it means to any other program", () => {
    fc.assert(
      fc.property(
        fc.array(part, { minLength: 1, maxLength: 8 }),
        fc.option(varying),
        fc.boolean(),
        fc.string({ maxLength: 30 }),
        (parts, one, isAnchored, typed) => {
          const inner = [...parts, ...(one === null ? [] : [one])].join("");
          const pattern = isAnchored ? `^${inner}$` : inner;
          expect(isQuickPattern(pattern)).toBe(true);
          const serial = typed.trim();
          const isDoubted = serial !== "" && !new RegExp(pattern).test(serial);
          expect(serialDoubt(pattern, typed) !== undefined).toBe(isDoubted);
        },
      ),
    );
  });

  it("with groups, choices or two parts of varying length is not tried at all", () => {
    fc.assert(
      fc.property(fc.array(part, { maxLength: 4 }), choice, fc.array(part, { maxLength: 4 }), (before, own, after) => {
        const pattern = [...before, own, ...after].join("");
        expect(isQuickPattern(pattern)).toBe(false);
        expect(serialDoubt(pattern, "A".repeat(60))).toBeUndefined();
      }),
    );
  });

  it("that would go round in itself for years holds nobody up", () => {
    for (const pattern of ["^(A+)+$", `^${"(A|A)".repeat(30)}$`, `^${"A*".repeat(30)}$`, "^(([A-Z])+.)+[A-Z]([A-Z])+$"])
      expect(serialDoubt(pattern, `${"A".repeat(59)}!`)).toBeUndefined();
  });

  it("that is not tried is doubted where its kit is shown, with how to write it", () => {
    const kit = shippedKits().find(({ serialPattern }) => serialPattern !== undefined)!;
    expect(kitDoubts(kit)).toEqual([]);
    const [doubt, ...others] = kitDoubts({ ...kit, serialPattern: "^(A|B)+$" });
    expect(others).toEqual([]);
    expect(doubt?.path).toEqual(["serialPattern"]);
    const [example] = /\^\S+\$/.exec(doubt!.message)!;
    expect(isQuickPattern(example)).toBe(true);
  });

  it("of every shipped kit is tried", () => {
    for (const { serialPattern } of shippedKits())
      if (serialPattern !== undefined) expect(isQuickPattern(serialPattern)).toBe(true);
  });
});
