import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { plainFinding } from "@/core/findings";
import { planFindings } from "@/core/job/planFindings";
import { wireFindings } from "@/core/job/wireFindings";
import { localText, type NumberStyle } from "@/core/numberStyle";
import { resolve } from "@/core/plan/resolve";
import { allOf, capitalised, joinedSentences, plainText, said, shownText } from "@/core/sentence";
import { saidPower } from "@/core/units";
import { jobFromPattern, shippedPatterns } from "../../tests/fixtures/shipped";

const COMMA: NumberStyle = { decimal: "comma", lengths: "metric" };
const CLASS = /(class \d)\.(\d)/g;
const FEET: NumberStyle = { decimal: "point", lengths: "us" };

describe("a sentence", () => {
  it("has its figures as their reader writes them, and names as they were given", () => {
    const sentence = said`${"Roof 2.1"}: ${1.5} kW at 192.168.7.5, ${[said`${0.25} Ω`, "open"].length} readings`;
    expect(plainText(sentence)).toBe("Roof 2.1: 1.5 kW at 192.168.7.5, 2 readings");
    expect(shownText(sentence, COMMA)).toBe("Roof 2.1: 1,5 kW at 192.168.7.5, 2 readings");
  });

  it("has its lengths, sections and torques in the units of the site, and nothing else", () => {
    const sentence = said`${12} m of ${2.5} mm² in ${3} min, Shed 4 m, ${40} mA, ${2} N·m`;
    expect(shownText(sentence, FEET)).toBe("39.4 ft of 12 AWG (2.5 mm²) in 3 min, Shed 4 m, 40 mA, 2 N·m (18 lb·in)");
    expect(shownText(sentence, COMMA)).toBe("12 m of 2,5 mm² in 3 min, Shed 4 m, 40 mA, 2 N·m");
  });

  it("is the plain text where it has no figure", () => {
    expect(said`Turn ${"the CT"} round`).toBe("Turn the CT round");
    expect(capitalised(said`input ${2} of ${"A 1.2"}`)).toEqual(["Input ", { figure: "2" }, " of A 1.2"]);
    expect(plainText(allOf([said`${1} W`, "nothing", said`${2.5} W`]))).toBe("1 W, nothing and 2.5 W");
    expect(allOf([])).toBe("");
  });

  it("is put together from others without losing a part, in any order of text and figures", () => {
    const part = fc.oneof(fc.string(), fc.double({ noNaN: true, noDefaultInfinity: true }));
    fc.assert(
      fc.property(fc.array(part), fc.string(), (parts, between) => {
        const sentence = joinedSentences(
          parts.map((own) => said`${own}`),
          between,
        );
        expect(plainText(sentence)).toBe(parts.map(String).join(between));
        expect(plainText(said`${sentence}${sentence}`)).toBe(plainText(sentence).repeat(2));
      }),
    );
  });

  it("of a power reads in both styles as its text does", () => {
    fc.assert(
      fc.property(fc.double({ min: -2e6, max: 2e6, noNaN: true }), (powerW) => {
        expect(shownText(saidPower(powerW), COMMA)).toBe(localText(plainText(saidPower(powerW)), COMMA));
      }),
    );
  });
});

describe("the findings of every shipped pattern", () => {
  it.each(shippedPatterns().map(({ id }) => id))("of %s have no decimal point left in a comma style", (id) => {
    const plan = resolve(jobFromPattern(id));
    for (const finding of [...planFindings(plan), ...wireFindings(plan)])
      for (const sentence of [finding.detail, finding.cure])
        // A class is a name, "0.5S", and stays as the standard writes it.
        expect(shownText(sentence, COMMA).replace(CLASS, "$1,$2")).toBe(localText(plainText(sentence), COMMA));
  });

  it("leave as plain text, with the rest as it was", () => {
    const [finding] = planFindings(resolve(jobFromPattern("export-controller")));
    const plain = plainFinding({ ...finding!, detail: said`${1.5} m`, cure: "Shorten it" });
    expect(plain).toEqual({ ...finding, detail: "1.5 m", cure: "Shorten it" });
  });
});
