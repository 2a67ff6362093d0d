import { describe, expect, it } from "vitest";
import { networkFaults, networkFaultWords } from "@/ui/bench/networkFaultWords";

const online = [
  { device: "hybrid", name: "Hybrid inverter", rung: null, lamps: [], address: null },
  { device: "charger", name: "Car charger", rung: null, lamps: [], address: null },
];

describe("what can be planted between a bench and its owner", () => {
  it("has words of its own for each, with the device's name and not its id", () => {
    const words = networkFaults({ online }).map((fault) => networkFaultWords(fault, { online }));
    expect(new Set(words).size).toBe(words.length);
    expect(words).toHaveLength(5 + 6 * online.length);
    expect(words.join("\n")).not.toMatch(/hybrid/);
    expect(words).toContain("Car charger: its clock is 10 days off");
  });

  it("is nothing where nobody is seen, and names a device that is gone by its id", () => {
    expect(networkFaults({ online: [] })).toEqual([]);
    expect(networkFaultWords({ kind: "no-power", device: "gone" }, { online })).toBe("gone has no power");
  });
});
