import { describe, expect, it } from "vitest";
import { explainReading } from "@/core/flows/explainReading";
import { predict } from "@/core/flows/predict";
import { powerText } from "@/core/units";
import type { Site } from "@/core/site/planSchema";
import { houseSite } from "../../../tests/fixtures/sites";

const at = { meter: "m1", input: 1 };
const tenAmps = { devices: [{ node: "house", powerW: 2300, reactiveVar: 0 }] };

describe("explainReading", () => {
  it("takes the example of its docblock apart", () => {
    const turned = withCt({ arrow: "to-grid" });
    expect(explainReading(turned, tenAmps, at)).toEqual([
      { name: "sign", value: "−1", because: "positive means into the site, arrow against what the kit wants" },
      { name: "gain", value: "1", because: "input set to 200 A, CT of 200 A" },
      { name: "V", value: "230 V at 0°", because: "tap V1 is on L1" },
      { name: "I", value: "10 A at 0°", because: "through the window" },
      { name: "P", value: "−2.30 kW", because: "what the input reads" },
    ]);
  });

  it("ends at what predict reads, whatever is done to the CT", () => {
    for (const change of [{ turns: 3 }, { primaryA: 80 }, { leads: "swapped" as const }, { around: [] }]) {
      const site = withCt(change);
      expect(explainReading(site, tenAmps, at).at(-1)!.value).toBe(
        powerText(predict(site, "fitted", tenAmps).inputs[0]!.powerW),
      );
    }
  });

  it("says nothing of an input without a CT, or with one of another kind", () => {
    expect(explainReading({ ...houseSite("single-phase"), cts: [] }, tenAmps, at)).toEqual([]);
    expect(explainReading(withCt({ secondary: { value: 5, unit: "A" } }), tenAmps, at)).toEqual([]);
  });
});

function withCt(change: Partial<Site["cts"][number]>): Site {
  const site = houseSite("single-phase");
  return { ...site, cts: [{ ...site.cts[0]!, ...change }] };
}
