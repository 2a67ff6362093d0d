import fc from "fast-check";
import { expect, test } from "vitest";
import { jsonText, readJsonText } from "@/core/jsonText";

test("whatever JSON can say comes back as it was", () => {
  fc.assert(
    fc.property(fc.jsonValue({ noUnicodeString: false }), (value) => {
      // JSON writes −0 as 0.
      expect(readJsonText(jsonText(value))).toEqual(JSON.parse(JSON.stringify(value)));
    }),
  );
});

test("a key without a value is no key", () => {
  expect(readJsonText(jsonText({ name: "Barn", note: undefined }))).toEqual({ name: "Barn" });
});
