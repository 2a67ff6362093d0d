import fc from "fast-check";
import { describe, expect, it } from "vitest";
import {
  lengthInM,
  lengthShown,
  lengthText,
  localText,
  looksMeasured,
  sectionText,
  lengthsOfSupply,
  personStyleSchema,
  usualPersonStyle,
  type NumberStyle,
} from "@/core/numberStyle";
import { withoutEmpty } from "@/core/withoutEmpty";

const POINT: NumberStyle = { decimal: "point", lengths: "metric" };
const COMMA: NumberStyle = { decimal: "comma", lengths: "metric" };
const US: NumberStyle = { decimal: "point", lengths: "us" };
const US_COMMA: NumberStyle = { decimal: "comma", lengths: "us" };

describe("number styles", () => {
  it.each([
    ["1.24 kW from 192.168.7.5", COMMA, "1,24 kW from 192.168.7.5"],
    ["class 0.5S of 100 A : 0.333 V", COMMA, "class 0,5S of 100 A : 0,333 V"],
    ["version 1.2.3", COMMA, "version 1.2.3"],
    ["1.24 kW", POINT, "1.24 kW"],
    ["a lead of 12 m of 2.5 mm²", US, "a lead of 39.4 ft of 12 AWG (2.5 mm²)"],
    ["a lead of 12 m of 2.5 mm²", US_COMMA, "a lead of 39,4 ft of 12 AWG (2,5 mm²)"],
    ["3 × 8.37 mm², twin 2 × 0.823 mm²", US, "3 × 8 AWG, twin 2 × 18 AWG"],
    ["ferrule 0.25 to 2.5 mm², 0.5 N·m", US, "ferrule 22 to 14 AWG (0.25 to 2.5 mm²), 0.5 N·m (4.4 lb·in)"],
    ["ferrule 0.25 to 2.5 mm², 0.5 N·m", COMMA, "ferrule 0,25 to 2,5 mm², 0,5 N·m"],
    ["1.8 to 2.2 N·m", US, "1.8 to 2.2 N·m (16 to 19 lb·in)"],
    ["a busbar of 800 mm²", US, "a busbar of 800 mm²"],
    ["3 min, 50 mA, 16 mm", US, "3 min, 50 mA, 16 mm"],
  ])("write %s in style %o as %s", (text, style, shown) => {
    expect(localText(text, style)).toBe(shown);
  });

  it.each([
    ["Roof 2.1: 1.24 kW at Roof 2.1", COMMA, "Roof 2.1: 1,24 kW at Roof 2.1"],
    ["Shed at 12 m is 12 m away", US, "Shed at 12 m is 39.4 ft away"],
    ["Riser 16 mm² is 16 mm²", US, "Riser 16 mm² is 4 AWG (16 mm²)"],
    ["Roof 2.1 (west) reads 2.1 kW", COMMA, "Roof 2.1 (west) reads 2,1 kW"],
    ["Roof 2.10 is none of them: 2.1", COMMA, "Roof 2.10 is none of them: 2,1"],
  ])("keep the names in %s as they were given", (text, style, shown) => {
    const names = ["Roof 2.1", "Roof 2.1 (west)", "Roof 2.10", "Shed at 12 m", "Riser 16 mm²", "Kettle", "a+b[1.5]*"];
    expect(localText(text, style, names)).toBe(shown);
    expect(localText("a+b[1.5]* 1.5", COMMA, names)).toBe("a+b[1.5]* 1,5");
  });

  it("know which names could be taken for a number", () => {
    expect(["Roof 2.1", "12 m cable", "Kettle", "Board 2", "3 min"].filter(looksMeasured)).toEqual([
      "Roof 2.1",
      "12 m cable",
    ]);
  });

  it("measure lengths in feet and back without losing them", () => {
    expect(lengthText(12, US)).toBe("39.4 ft");
    expect(lengthText(12.5, COMMA)).toBe("12,5 m");
    for (const lengthM of [0.3048, 2, 13.7, 250])
      expect(lengthInM(lengthShown(lengthM, US), US)).toBeCloseTo(lengthM, 2);
    expect(lengthInM(7, POINT)).toBe(7);
  });

  it("name the gauge that is at least as large, and what it stands for where none is the same", () => {
    expect(sectionText(2.5, US)).toBe("12 AWG (2.5 mm²)");
    expect(sectionText(8.37, US)).toBe("8 AWG");
    expect(sectionText(127, US)).toBe("250 kcmil");
    expect(sectionText(2.5, COMMA)).toBe("2,5 mm²");
  });

  it("write a text the same once more that is written already", () => {
    const fragment = fc.constantFrom(
      "12 m",
      "2.5 mm²",
      "8.37 mm²",
      "0.25 to 2.5 mm²",
      "1.2 N·m",
      "1.8 to 2.2 N·m",
      "of",
      "3 ×",
      "(",
      ")",
    );
    const styles = fc.constantFrom(POINT, COMMA, US, US_COMMA);
    fc.assert(
      fc.property(fc.array(fragment), styles, (fragments, style) => {
        const once = localText(fragments.join(" "), style);
        expect(localText(once, style)).toBe(once);
      }),
    );
  });

  it("and days follow the language region until somebody chooses", () => {
    expect(usualPersonStyle("de-AT")).toEqual({ decimal: "comma", dates: "day-first" });
    expect(usualPersonStyle("en-GB")).toEqual({ decimal: "point", dates: "day-first" });
    expect(usualPersonStyle("en-US")).toEqual({ decimal: "point", dates: "month-first" });
    expect(personStyleSchema.parse({ decimal: "comma", lengths: "us" })).toEqual({
      decimal: "comma",
      dates: "day-first",
    });
  });

  it("are in feet where the supply is split phase, whatever the browser's language", () => {
    expect(lengthsOfSupply("split-phase")).toBe("us");
    expect(lengthsOfSupply("single-phase")).toBe("metric");
    expect(lengthsOfSupply("three-phase")).toBe("metric");
  });
});

describe("withoutEmpty", () => {
  it("keeps zeros and empty texts", () => {
    expect(withoutEmpty({ a: 0, b: "", c: undefined })).toEqual({ a: 0, b: "" });
  });
});
