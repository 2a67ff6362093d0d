import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { cutText, text } from "@/core/text";
import { distinctNames } from "@/core/words";

const anyName = fc.oneof(
  fc.string({ unit: "grapheme", maxLength: 100 }),
  fc.constantFrom("👩‍👧".repeat(30), "e\u0301".repeat(60), "🙂", "a".repeat(90)),
);

describe("text", () => {
  it.each([
    ["half an emoji", "\uD83D"],
    ["the other half", "\uDE42 x"],
    ["a NUL", "a\u0000b"],
  ])("refuses %s", (_, value) => {
    expect(text().safeParse(value).success).toBe(false);
  });

  it("takes whole characters of every kind, and is trimmed and bounded like any other", () => {
    expect(text().trim().max(5).parse(" 🙂ü\t\n")).toBe("🙂ü");
    expect(text().max(2).safeParse("abc").success).toBe(false);
  });
});

describe("cutText", () => {
  it("cuts between whole characters, never longer than asked, and as long as can be", () => {
    fc.assert(
      fc.property(anyName, fc.nat({ max: 90 }), (name, most) => {
        const cut = cutText(name, most);
        expect(cut.length).toBeLessThanOrEqual(most);
        expect(name.startsWith(cut)).toBe(true);
        expect(cut.isWellFormed()).toBe(true);
        const characters = [...new Intl.Segmenter("en", { granularity: "grapheme" }).segment(name)].map(
          ({ segment }) => segment,
        );
        expect(
          characters.slice(0, [...new Intl.Segmenter("en", { granularity: "grapheme" }).segment(cut)].length).join(""),
        ).toBe(cut);
        if (name.length <= most) expect(cut).toBe(name);
      }),
    );
  });
});

describe("distinctNames", () => {
  it("tells all of them apart, within the length, and leaves alone what stands alone", () => {
    fc.assert(
      fc.property(fc.array(anyName, { maxLength: 12 }), (names) => {
        const items = names.map((name, at) => ({ name, more: `device-${at}` }));
        const distinct = distinctNames(items, 64);
        expect(new Set(distinct).size).toBe(names.length);
        for (const name of distinct) expect(name.length).toBeLessThanOrEqual(64);
        names.forEach((name, at) => {
          if (name.length <= 64 && names.every((other, which) => which === at || cutText(other, 64) !== name))
            expect(distinct[at]).toBe(name);
        });
      }),
    );
  });
});
