import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { sameJson } from "@/core/sameJson";

describe("sameJson", () => {
  it("takes no notice of the order of keys, nor of keys without a value", () => {
    expect(sameJson({ a: 1, b: [{ c: 2, d: undefined }] }, { b: [{ c: 2 }], a: 1 })).toBe(true);
    expect(sameJson({ a: undefined }, {})).toBe(true);
  });

  it("tells lists in another order, lists from records, and nothing from zero", () => {
    expect(sameJson([1, 2], [2, 1])).toBe(false);
    expect(sameJson([], {})).toBe(false);
    expect(sameJson({ a: 0 }, { a: null })).toBe(false);
    expect(sameJson(null, undefined)).toBe(false);
  });

  it("holds for every value and what reading its JSON gives, and fails for one more key", () => {
    fc.assert(
      fc.property(fc.dictionary(fc.string({ minLength: 1 }), fc.jsonValue()), (value) => {
        // JSON has no minus zero.
        const read: unknown = JSON.parse(JSON.stringify(value));
        expect(sameJson(read, JSON.parse(JSON.stringify(value)))).toBe(true);
        expect(sameJson(value, { ...value, "one more": 1 })).toBe(value["one more"] === 1);
      }),
    );
  });
});
