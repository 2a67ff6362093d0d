import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { balance, balanceRequestSchema, type BalanceRole, type ShownValue } from "@/core/flows/balance";

describe("balance", () => {
  it("says so when sources and loads add up", () => {
    expect(balance([shown("grid", 1000), shown("solar", 500), shown("house", 1500)]).verdict).toBe("balances");
  });

  it("allows each display half of its last digit", () => {
    const values = [
      shown("grid", 1240, { resolutionW: 10 }),
      shown("solar", 2000, { resolutionW: 10 }),
      shown("house", 3250, { resolutionW: 10 }),
    ];
    expect(balance(values)).toMatchObject({ verdict: "within-rounding", gapW: -10, roundingW: 15 });
  });

  it("lets lag explain what a house changes by between two looks", () => {
    expect(balance([shown("grid", 1000), shown("house", 1300, { atS: 20 })]).verdict).toBe("lag-would-explain");
    expect(balance([shown("grid", 1000), shown("house", 1300)]).verdict).toBe("does-not-balance");
  });

  it("names the value whose sign closes the gap", () => {
    const result = balance([shown("grid", 1240), shown("solar", 2000), shown("house", 760)]);
    expect(result).toMatchObject({ gapW: 2480, cause: { kind: "sign-flip", role: "grid", leftW: 0 } });
    expect(result.text).toContain("grid value has the wrong sign");
  });

  it("names the value that is counted twice", () => {
    expect(balance([shown("grid", 1000), shown("battery", 600), shown("house", 1000)]).cause).toMatchObject({
      kind: "counted-twice",
      role: "battery",
    });
  });

  it("names a missing load or source when nothing else closes the gap", () => {
    expect(balance([shown("grid", 3000), shown("house", 1900)]).cause).toEqual({
      kind: "missing-device",
      flow: "sink",
      powerW: 1100,
      leftW: 0,
    });
    expect(balance([shown("grid", 300), shown("house", 1900)]).cause).toMatchObject({
      kind: "missing-device",
      flow: "source",
    });
  });

  it("finds any sign that was flipped in a balanced set of unequal values", () => {
    const watts = fc.integer({ min: 500, max: 9000 });
    fc.assert(
      fc.property(watts, watts, fc.constantFrom(0, 1, 2), (gridW, solarW, flipped) => {
        fc.pre(
          Math.abs(gridW - solarW) > 800 && Math.abs(gridW - 2 * solarW) > 800 && Math.abs(2 * gridW - solarW) > 800,
        );
        const values = [shown("grid", gridW), shown("solar", solarW), shown("house", gridW + solarW)];
        const wrong = values.with(flipped, { ...values[flipped]!, shownW: -values[flipped]!.shownW });
        // Turning the house round doubles the whole; turning it back is the only single flip that mends it.
        expect(balance(wrong).cause).toMatchObject({ kind: "sign-flip", role: values[flipped]!.role });
      }),
    );
  });

  it("refuses a value that is given twice", () => {
    const parsed = balanceRequestSchema.safeParse({ values: [shown("grid", 1), shown("grid", 2)] });
    expect(parsed.error?.issues[0]?.path).toEqual(["values", 1, "role"]);
  });
});

function shown(role: BalanceRole, shownW: number, more: Partial<ShownValue> = {}): ShownValue {
  const isLoad = role === "house" || role === "heater" || role === "vehicle";
  return { role, shownW, positive: isLoad ? "sink" : "source", resolutionW: 1, atS: 0, ...more };
}
