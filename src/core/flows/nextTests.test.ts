import { describe, expect, it } from "vitest";
import { diagnose, fittingWith } from "@/core/flows/diagnose";
import { siteWithFitting } from "@/core/flows/fitting";
import { settlesText } from "@/core/flows/nextTests";
import { normalPoints } from "@/core/flows/normalPoints";
import { simulateSeen } from "@/core/flows/simulateSeen";
import { testSheetShape } from "@/core/flows/testSheetSchema";
import { seededNormal } from "@/core/random";
import { houseSite } from "../../../tests/fixtures/sites";

const restOnly = testSheetShape.parse({
  background: [{ node: "house" }],
  maxFaults: 1,
  steps: [{ label: "solar off", devices: [{ node: "pv", powerW: 0, toleranceW: 0 }] }],
});

describe("nextTests", () => {
  it("tells most by the test that moves the input in doubt", () => {
    const site = houseSite("three-phase");
    const fitted = siteWithFitting(site, fittingWith(site, [{ kind: "dead", meter: "m1", input: 2 }]));
    const outcome = diagnose(site, { ...restOnly, steps: simulateSeen(fitted, restOnly, seededNormal(3)) });
    if (outcome.kind !== "diagnosed") throw new Error(outcome.kind);
    const gains = new Map(outcome.diagnosis.nextTests.map((test) => [test.node, test.gainBits]));
    expect(gains.get("kettleL2")!).toBeGreaterThan(gains.get("kettleL1")!);
    expect(outcome.diagnosis.nextTests.map((test) => test.gainBits)).toEqual([...gains.values()].sort((a, b) => b - a));
  });

  it("lasts: repeating what was just done tells next to nothing", () => {
    const site = houseSite("single-phase");
    const outcome = diagnose(site, { ...restOnly, steps: simulateSeen(site, restOnly, seededNormal(5)) });
    if (outcome.kind !== "diagnosed") throw new Error(outcome.kind);
    const rest = outcome.diagnosis.nextTests.find((test) => test.node === null && test.powerW === 0);
    expect(rest?.gainBits ?? 0).toBeLessThan(0.1);
  });

  it("offers a usual load on a phase that has no test load of its own", () => {
    const full = houseSite("three-phase");
    const site = { ...full, nodes: full.nodes.filter((node) => node.id !== "kettleL3") };
    const outcome = diagnose(site, { ...restOnly, steps: [] });
    if (outcome.kind !== "diagnosed") throw new Error(outcome.kind);
    expect(outcome.diagnosis.nextTests).toContainEqual(
      expect.objectContaining({ node: null, phase: "L3", powerW: 2000 }),
    );
  });

  it("never promises more bits than there is doubt", () => {
    const site = houseSite("split-phase");
    const outcome = diagnose(site, { ...restOnly, steps: [] });
    if (outcome.kind !== "diagnosed") throw new Error(outcome.kind);
    for (const test of outcome.diagnosis.nextTests) expect(test.gainBits).toBeLessThan(Math.log2(24));
  });
});

describe("settlesText", () => {
  it("says how much a test would settle in tenths, and never all or nothing of what it does not know", () => {
    expect([0.01, 0.34, 0.87, 0.99].map(settlesText)).toEqual([
      "would settle little of what is still open",
      "would settle 3 of 10 of what is still open",
      "would settle 9 of 10 of what is still open",
      "would settle nearly all that is still open",
    ]);
  });

  it("is a part of what is open: no test settles more than all, and the best settles the most", () => {
    const outcome = diagnose(houseSite("three-phase"), { ...restOnly, steps: [] });
    if (outcome.kind !== "diagnosed") throw new Error(outcome.kind);
    const shares = outcome.diagnosis.nextTests.map(({ settles }) => settles);
    expect(shares).toEqual(shares.toSorted((a, b) => b - a));
    for (const share of shares) expect(share).toBeLessThanOrEqual(1);
    expect(shares[0]).toBeGreaterThan(0.3);
  });
});

describe("normalPoints", () => {
  it("has no mean and unit spread in every dimension", () => {
    const points = normalPoints(256, 5);
    for (let at = 0; at < 5; at++) {
      expect(points.reduce((sum, point) => sum + point[at]!, 0)).toBeCloseTo(0, 9);
      const variance = points.reduce((sum, point) => sum + point[at]! ** 2, 0) / points.length;
      expect(variance).toBeGreaterThan(0.8);
      expect(variance).toBeLessThan(1.2);
    }
  });
});
