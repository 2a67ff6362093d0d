import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { busFaultText, probeText } from "@/core/links/bus/busFaultText";
import { canModel, type CanLine } from "@/core/links/bus/canModel";
import { readMultimeter, type BusFault, type BusModel, type BusReading } from "@/core/links/bus/multimeter";
import { rs485Model } from "@/core/links/bus/rs485Model";
import { rs485RequestSchema } from "@/core/links/bus/rs485Schema";

function bus(count: number, change: { distanceM?: number; bias?: boolean } = {}): BusModel {
  return rs485Model(
    rs485RequestSchema.parse({
      baud: 9600,
      devices: Array.from({ length: count }, (_, at) => ({
        id: `d${at}`,
        role: at === 0 ? "client" : "server",
        distanceM: at === 0 ? 0 : (change.distanceM ?? 20),
        unitLoad: 0.125,
        address: at + 1,
        terminator: at === 0 || at === count - 1,
        bias: at === 0 && change.bias !== false ? { upOhm: 560, downOhm: 560 } : null,
      })),
    }),
  );
}

function seen(of: BusModel, faults: readonly BusFault[]): readonly BusReading[] {
  return of.probes.map((probe) => ({ ...probe, value: of.expected(faults, probe).most }));
}

/** Whether no probe tells what was found from what is there. */
function looksAlike(of: BusModel, found: readonly BusFault[], fault: BusFault): boolean {
  return of.probes.every(
    (probe) =>
      Math.abs(of.expected(found, probe).most - of.expected([fault], probe).most) <=
      6 + 0.1 * Math.abs(of.expected([fault], probe).most),
  );
}

describe("readMultimeter", () => {
  it("finds a bus as planned from 60 Ω and a positive idle voltage", () => {
    const healthy = bus(3);
    const [first] = seen(healthy, []);
    expect(first!.value).toBeGreaterThan(58);
    expect(first!.value).toBeLessThan(62);
    expect(readMultimeter(healthy, seen(healthy, [])).kind).toBe("as-planned");
  });

  it("says from 120 Ω that a terminator is missing, and what to measure to tell which", () => {
    const verdict = readMultimeter(bus(3, { distanceM: 100 }), [{ what: "ohm", where: "first", value: 119 }]);
    expect(verdict.explanations[0]!.faults.map((fault) => fault.kind)).toEqual(["terminator-missing"]);
    expect(verdict.next).toBeDefined();
  });

  it.each<readonly [string, number, BusFault["kind"]]>([
    ["40 Ω", 40, "terminator-extra"],
    ["1 Ω", 1, "short"],
  ])("reads %s as %s Ω of %s", (_name, value, kind) => {
    const [best] = readMultimeter(bus(3), [{ what: "ohm", where: "first", value }]).explanations;
    expect(best!.faults[0]!.kind).toBe(kind);
  });

  it("reads a negative idle voltage at the far end as exchanged cores, and none as missing bias", () => {
    const [r1, r2, v1, v2] = seen(bus(3), []);
    expect(readMultimeter(bus(3), [r1!, v1!, { ...v2!, value: -v2!.value }]).explanations[0]!.faults[0]!.kind).toBe(
      "exchanged",
    );
    expect(
      readMultimeter(bus(3), [r1!, r2!, { ...v1!, value: 2 }, { ...v2!, value: 1 }]).explanations[0]!.faults,
    ).toEqual([{ kind: "bias-missing", at: 0 }]);
  });

  it("explains nothing by what no two faults make", () => {
    expect(
      readMultimeter(bus(3), [
        { what: "ohm", where: "first", value: 60 },
        { what: "idle-mv", where: "first", value: 4000 },
      ]).kind,
    ).toBe("not-explained");
  });

  it("recovers every injected single fault on any bus, or one that no probe tells from it", () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 2, max: 10 }),
        fc.integer({ min: 5, max: 120 }),
        fc.nat(),
        fc.nat(),
        (count, distanceM, kind, where) => {
          const of = bus(count, { distanceM });
          const at = 1 + (where % (count - 1));
          const inner = count > 2 ? 1 + (where % (count - 2)) : undefined;
          const faults: readonly BusFault[] = [
            { kind: "terminator-missing", at: where % 2 === 0 ? 0 : count - 1 },
            { kind: "open", at },
            { kind: "exchanged", at },
            { kind: "short", at: (where % (2 * count - 1)) / 2 },
            { kind: "bias-missing", at: 0 },
            { kind: "plus-to-ground" },
            { kind: "minus-to-ground" },
            ...(inner === undefined ? [] : [{ kind: "terminator-extra" as const, at: inner }]),
          ];
          const fault = faults[kind % faults.length]!;
          const verdict = readMultimeter(of, seen(of, [fault]));
          const [best] = verdict.explanations;
          expect(best!.faults).toHaveLength(1);
          expect(best!.faults[0]!.kind === fault.kind || looksAlike(of, best!.faults, fault)).toBe(true);
        },
      ),
      { numRuns: 200 },
    );
  });

  it("gives every fault its words and one cure that names the device", () => {
    for (const kind of ["terminator-missing", "terminator-extra", "open", "exchanged"] as const) {
      const { text, cure } = busFaultText(bus(3), "rs485", { kind, at: 1 });
      expect(text).toContain("d1");
      expect(cure).toContain("d1");
    }
    expect(busFaultText(bus(3), "rs485", { kind: "short", at: 0.5 }).cure).toContain("one by one");
    expect(probeText(bus(3), "rs485", { what: "ohm", where: "last" })).toBe("A to B at d2");
  });
});

describe("where on a line a fault is", () => {
  it("is said as a stretch where the places look alike, while what it is is certain", () => {
    const of = bus(5, { distanceM: 10 });
    const readings = seen(of, [{ kind: "open", at: 2 }]).filter(({ what }) => what === "ohm" || what === "idle-mv");
    const verdict = readMultimeter(of, readings);
    expect(verdict.kind).toBe("fault");
    const { faults, places } = verdict.explanations[0]!;
    expect(faults.map(({ kind }) => kind)).toEqual(["open"]);
    expect(places[0]!.length).toBeGreaterThan(1);
    expect(places[0]).toContain(2);
    const { text } = busFaultText(of, "rs485", faults[0]!, places[0]);
    expect(text).toMatch(/somewhere between d\d and d\d/);
  });

  it("is told of a short by the cable on the way to it: nearer to one end than to the other", () => {
    const of = bus(6, { distanceM: 120 });
    for (const at of [0.5, 2, 4.5]) {
      const { explanations } = readMultimeter(of, seen(of, [{ kind: "short", at }]));
      expect(explanations[0]!.faults).toEqual([{ kind: "short", at }]);
    }
  });

  it("is told of bias that is missing at any device that has one", () => {
    const of = rs485Model(
      rs485RequestSchema.parse({
        baud: 9600,
        devices: [0, 1, 2].map((at) => ({
          id: `d${at}`,
          role: at === 1 ? "client" : "server",
          distanceM: at === 0 ? 0 : 300,
          address: at + 1,
          terminator: at !== 1,
          bias: at === 0 || at === 2 ? { upOhm: 560, downOhm: 560 } : null,
        })),
      }),
    );
    for (const at of [0, 2])
      expect(readMultimeter(of, seen(of, [{ kind: "bias-missing", at }])).explanations[0]!.faults).toEqual([
        { kind: "bias-missing", at },
      ]);
  });

  it("takes any resistance between an open and a grounded bias rail for what was planned", () => {
    const of = bus(3);
    const { least, most } = of.expected([], { what: "ohm", where: "first" });
    expect(least).toBeLessThan(most - 1);
    for (const value of [least, (least + most) / 2, most])
      expect(readMultimeter(of, [{ what: "ohm", where: "first", value }]).explanations[0]!.faults).toEqual([]);
  });

  it("answers for the longest line that a request may hold", () => {
    const of = bus(64, { distanceM: 15 });
    expect(readMultimeter(of, seen(of, [{ kind: "short", at: 10 }])).explanations[0]!.faults[0]!.kind).toBe("short");
  });
});

describe("a CAN line under the multimeter", () => {
  const line = (change: Partial<CanLine> = {}) =>
    canModel({
      devices: [
        { name: "Inverter", terminator: true },
        { name: "Battery", terminator: true },
      ],
      lengthM: 6,
      busLoad: 0.3,
      ...change,
    });

  it("shows 60 Ω with everything off, and both cores near 2.5 V with supplies on, CANH above CANL", () => {
    const [ohm, , high, low] = seen(line(), []);
    expect(ohm!.value).toBeCloseTo(60, 0);
    expect(high!.value).toBeGreaterThan(2500);
    expect(low!.value).toBeLessThan(2500);
    expect(readMultimeter(line(), seen(line(), [])).kind).toBe("as-planned");
  });

  it("reads 120 Ω as a terminator missing or a core open, and knows a probe that tells more", () => {
    const verdict = readMultimeter(line(), [{ what: "ohm", where: "first", value: 120 }]);
    expect(verdict.explanations.slice(0, 3).map(({ faults }) => faults[0]?.kind)).toContain("terminator-missing");
    expect(verdict.kind).toBe("ambiguous");
    expect(verdict.next).toBeDefined();
  });

  it("recovers every injected single fault, or one that no probe tells from it", () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 60 }), fc.nat(), (lengthM, kind) => {
        const of = line({ lengthM });
        const { fault } = of.faults[kind % of.faults.length]!;
        const [best] = readMultimeter(of, seen(of, [fault])).explanations;
        expect(best!.faults.some((found) => found.kind === fault.kind) || looksAlike(of, best!.faults, fault)).toBe(
          true,
        );
      }),
    );
  });
});
