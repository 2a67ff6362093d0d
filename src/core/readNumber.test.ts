import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { decimalSignOf, readNumber, twoWaysMessage, type DecimalSign } from "@/core/readNumber";

const SIGNS: readonly DecimalSign[] = ["point", "comma"];

describe("readNumber", () => {
  it.each<readonly [string, number, number]>([
    // text, where the point is decimal, where the comma is
    ["2,47", 2.47, 2.47],
    ["2.47", 2.47, 2.47],
    ["12,5000", 12.5, 12.5],
    ["0,240", 0.24, 0.24],
    ["0.240", 0.24, 0.24],
    ["1234,567", 1234.567, 1234.567],
    ["1.240", 1.24, 1240],
    ["1,240.5", 1240.5, 1240.5],
    ["1.240,5", 1240.5, 1240.5],
    ["1,240,000", 1_240_000, 1_240_000],
    ["1.240.000", 1_240_000, 1_240_000],
    ["1.240.000,25", 1_240_000.25, 1_240_000.25],
    ["1 240", 1240, 1240],
    ["1 240,5", 1240.5, 1240.5],
    ["1’240.5", 1240.5, 1240.5],
    ["−3", -3, -3],
    ["– 3,5", -3.5, -3.5],
    ["+7", 7, 7],
    [",5", 0.5, 0.5],
    ["5.", 5, 5],
    [" 10 ", 10, 10],
    ["-0", 0, 0],
  ])("reads %s as %d where the point is decimal and as %d where the comma is", (text, point, comma) => {
    expect(readNumber(text, "point")).toMatchObject({ kind: "number", value: point });
    expect(readNumber(text, "comma")).toMatchObject({ kind: "number", value: comma });
  });

  it("takes a comma before three digits for thousands, and asks where it may be decimal: never for a decimal", () => {
    expect(readNumber("1,240", "point")).toEqual({ kind: "number", value: 1240, isGrouped: true });
    expect(readNumber("-5,000", "point")).toEqual({ kind: "number", value: -5000, isGrouped: true });
    expect(readNumber("1,240", "comma")).toEqual({ kind: "two-ways", asDecimal: "1,24", asWhole: "1240" });
    expect(readNumber("5,000", "comma")).toEqual({ kind: "two-ways", asDecimal: "5,0", asWhole: "5000" });
    expect(readNumber("1,234", "comma")).toEqual({ kind: "two-ways", asDecimal: "1,2340", asWhole: "1234" });
  });

  it("says in words what to type, and both of it can be read", () => {
    const asked = readNumber("1,240", "comma");
    if (asked.kind !== "two-ways") throw new Error("it was read");
    expect(twoWaysMessage(" 1,240 ", asked)).toBe("1,240 can be read in two ways: type 1,24 or 1240");
    expect(readNumber(asked.asDecimal, "comma")).toMatchObject({ value: 1.24 });
    expect(readNumber(asked.asWhole, "comma")).toMatchObject({ value: 1240 });
  });

  it.each(["ten", "1,2,3", "1.24.000", "1,24.000,5", "1.2.3", "--5", "1e3", "Infinity", "NaN", ".", ",", "-", "5 A"])(
    "does not read %s",
    (text) => {
      for (const sign of SIGNS) expect(readNumber(text, sign)).toEqual({ kind: "unreadable" });
    },
  );

  it("takes blanks for nothing", () => {
    expect(readNumber(" \u00a0", "point")).toEqual({ kind: "nothing" });
  });

  it(
    "reads back every number as each language writes it, with and without thousands, or asks " + "which of two it is",
    () => {
      const written = fc.record({
        value: fc.integer({ min: -1_000_000_000, max: 1_000_000_000 }),
        decimals: fc.integer({ min: 0, max: 4 }),
        language: fc.constantFrom("en-GB", "de-DE", "fr-FR", "de-CH", "sv-SE", "es-ES"),
        useGrouping: fc.boolean(),
      });
      fc.assert(
        fc.property(written, ({ value, decimals, language, useGrouping }) => {
          const number = value / 10 ** decimals;
          const form = new Intl.NumberFormat(language, { minimumFractionDigits: decimals, useGrouping });
          const parts = form.formatToParts(1.5);
          const sign: DecimalSign = parts.find(({ type }) => type === "decimal")!.value === "," ? "comma" : "point";
          const read = readNumber(form.format(number), sign);
          if (read.kind === "two-ways") expect(Number(read.asDecimal.replace(",", "."))).toBe(number);
          else expect(read).toMatchObject({ kind: "number", value: number === 0 ? 0 : number });
        }),
      );
    },
  );

  it("never throws, and never reads what has a letter", () => {
    fc.assert(
      fc.property(fc.string(), fc.constantFrom(...SIGNS), (text, sign) => {
        const { kind } = readNumber(text, sign);
        if (/\p{L}/u.test(text)) expect(kind).toBe("unreadable");
      }),
    );
  });
});

describe("decimalSignOf", () => {
  it.each<readonly [readonly string[], DecimalSign | undefined]>([
    [["1", "2"], "point"],
    [["1.240", "3.600"], "point"],
    [["1,240", "12,5"], "comma"],
    [["1,240", "1,240.5"], "point"],
    [["1.240", "1.240.000"], "comma"],
    [["1,240 W", "0,5 kW"], "comma"],
    [["1,240", "3,600"], undefined],
    [["1,5", "2.5"], undefined],
    [[], "point"],
  ])("of %j is %s", (texts, sign) => expect(decimalSignOf(texts)).toBe(sign));
});
