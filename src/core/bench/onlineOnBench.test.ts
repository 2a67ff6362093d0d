import * as fc from "fast-check";
import { describe, expect, it } from "vitest";
import { isNetworkFault, type NetworkFault } from "@/core/bench/networkFault";
import { lampsOnBench, onlineDevices, rungOnBench } from "@/core/bench/onlineOnBench";
import { rungHeight } from "@/core/online/rungs";
import { resolve } from "@/core/plan/resolve";
import { jobFromPattern, shippedPatterns } from "../../../tests/fixtures/shipped";

const [own] = onlineDevices(resolve(jobFromPattern("three-phase-storage")));
const device = own!.device;
const LONG_MIN = 600;

describe("the way online on a bench", () => {
  it("comes with its time: start, joining, first contact, first data", () => {
    const rungs = [0, 2, 5, 10, LONG_MIN].map((minutes) => rungHeight(rungOnBench(own!, [], minutes)));
    expect(rungs).toEqual(rungs.toSorted((a, b) => a - b));
    expect(rungOnBench(own!, [], LONG_MIN)).toBe("data-arrives");
    expect(rungOnBench(own!, [], 0)).toBe("powered");
  });

  it("ends at the lowest of what is wrong, and no fault of another device ends it", () => {
    const rung = (...faults: NetworkFault[]) => rungOnBench(own!, faults, LONG_MIN);
    expect(rung({ kind: "no-power", device })).toBeNull();
    expect(rung({ kind: "passphrase-wrong", device })).toBe("network-seen");
    expect(rung({ kind: "line-down" }, { kind: "no-address", device })).toBe("joined");
    expect(rung({ kind: "no-power", device: "another" })).toBe("data-arrives");
    expect(rung({ kind: "clock-off", device, seconds: 30 })).toBe("data-arrives");
    expect(rung({ kind: "clock-off", device, seconds: -90_000 })).toBe("internet");
    expect(rung({ kind: "other-account", device })).toBe("service-reached");
    expect(isNetworkFault({ kind: "dead" })).toBe(false);
  });

  it("is shown by the lamps of the kit", () => {
    expect(lampsOnBench(own!, "data-arrives")).toContain("Net green, steady");
    expect(lampsOnBench(own!, "joined")).toContain("Net orange, blinks in groups, 4 times");
    expect(lampsOnBench(own!, "network-seen")[0]).toMatch(/^Net (white|orange)/);
    expect(lampsOnBench(own!, null).every((words) => words.endsWith("dark"))).toBe(true);
  });

  it("never comes further by a fault, in any pattern", () => {
    const all = shippedPatterns().flatMap(({ id }) => onlineDevices(resolve(jobFromPattern(id))));
    const kinds = ["gateway-off", "line-down", "login-page", "names-fail", "service-blocked"] as const;
    fc.assert(
      fc.property(
        fc.constantFrom(...all),
        fc.subarray([...kinds]),
        fc.double({ min: 0, max: 100, noNaN: true }),
        (one, planted, minutes) => {
          const faults = planted.map((kind): NetworkFault => ({ kind }));
          const before = rungHeight(rungOnBench(one, faults.slice(1), minutes));
          const after = rungHeight(rungOnBench(one, faults, minutes));
          expect(after).toBeLessThanOrEqual(before);
          expect(lampsOnBench(one, rungOnBench(one, faults, minutes)).every((words) => words !== "")).toBe(true);
        },
      ),
    );
  });
});
