import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { can, canRequestSchema, frameBits } from "@/core/links/bus/can";
import { ethernet, ethernetRequestSchema, type EthernetLead } from "@/core/links/network/ethernet";
import { loraAirTimeMs, radio, radioRequestSchema } from "@/core/links/air/radio";

describe("can", () => {
  const bus = (change: object = {}) =>
    can(canRequestSchema.parse({ bitrate: 500_000, lengthM: 20, terminators: 2, ...change }));

  it("gives the example of its docblock, with the sample point as a part or in percent", () => {
    expect(bus()).toEqual({ marginNs: 1050, maxLengthM: 125, busLoadPct: 0, resistanceOffOhm: 60, findings: [] });
    expect(bus({ samplePoint: 87.5 })).toEqual(bus());
  });

  it("counts the longest frames, of both lengths of identifier", () => {
    expect(frameBits(8, false)).toBe(135);
    expect(frameBits(0, false)).toBe(55);
    expect(frameBits(8, true)).toBe(160);
    expect(
      bus({
        frames: [
          { id: 0x6c0, bytes: 8, perSecond: 100 },
          { id: 0x6df, bytes: 8, perSecond: 100, extended: true },
        ],
      }).busLoadPct,
    ).toBeCloseTo((100 * 29_500) / 500_000, 9);
  });

  it("has no margin left exactly at its longest line", () => {
    fc.assert(
      fc.property(
        fc.constantFrom(125_000, 250_000, 500_000, 1_000_000),
        fc.integer({ min: 0, max: 400 }),
        (bitrate, loopDelayNs) => {
          const { maxLengthM } = bus({ bitrate, loopDelayNs });
          const at = bus({ bitrate, loopDelayNs, lengthM: maxLengthM });
          expect(at.marginNs).toBeCloseTo(Math.min(0, 0.875e9 / bitrate - 2 * loopDelayNs), 6);
        },
      ),
    );
  });

  it.each([
    [{ lengthM: 130 }, ["too-long"]],
    [{ lengthM: 110 }, ["beyond-usual"]],
    [{ terminators: 1 }, ["terminator-missing"]],
    [{ terminators: 0 }, ["terminator-missing"]],
    [{ terminators: 3 }, ["terminator-extra"]],
    [{ frames: [{ id: 1, bytes: 8, perSecond: 2500 }] }, ["bus-load"]],
  ])("finds with %o: %o", (change, codes) => {
    expect(bus(change).findings.map((finding) => finding.code)).toEqual(codes);
  });

  it("refuses an 11-bit identifier of 12 bits", () => {
    expect(
      canRequestSchema.safeParse({
        bitrate: 500_000,
        lengthM: 1,
        terminators: 2,
        frames: [{ id: 0x800, bytes: 1, perSecond: 1 }],
      }).error?.issues[0]?.path,
    ).toEqual(["frames", 0, "id"]);
  });
});

describe("radio", () => {
  const link = {
    frequencyMhz: 868,
    txDbm: 14,
    gainsDbi: 4,
    distanceM: 55,
    exponent: 2.7,
    wallsDb: [8, 12],
    marginDb: 10,
    spreadingFactor: 7,
    bandwidthKhz: 125,
    codingRate: 5,
    preamble: 8,
    payloadBytes: 20,
  };
  const of = (change: object = {}) => radio(radioRequestSchema.parse({ ...link, ...change }));

  it.each([
    [7, 125, 5, 8, 20, 56.576],
    [9, 125, 5, 8, 20, 185.344],
    [12, 125, 5, 8, 20, 1318.912],
    [10, 250, 6, 8, 51, 353.28],
    [7, 500, 8, 6, 0, 6.72],
  ])(
    "has a frame of SF%d, %d kHz, 4/%d, preamble %d, %d bytes in the air for %d ms",
    (spreadingFactor, bandwidthKhz, codingRate, preamble, payloadBytes, ms) => {
      expect(loraAirTimeMs({ spreadingFactor, bandwidthKhz, codingRate, preamble, payloadBytes })).toBeCloseTo(ms, 6);
    },
  );

  it("sums the losses, and compares what arrives with what is heard", () => {
    const result = of();
    const loss = 20 * Math.log10(868) - 27.55 + 27 * Math.log10(55) + 20;
    expect(result.pathLossDb).toBeCloseTo(loss, 9);
    expect(result.rxDbm).toBeCloseTo(18 - loss, 9);
    expect(result.sensitivityDbm).toBeCloseTo(-174 + 10 * Math.log10(125_000) + 6 - 7.5, 9);
    expect(result.linkMarginDb).toBeCloseTo(result.rxDbm - result.sensitivityDbm, 9);
    expect(result.findings).toEqual([]);
    expect(of({ gainsDbi: [2, 2] }).rxDbm).toBeCloseTo(result.rxDbm, 9);
  });

  it("finds a link with little to spare, and one that is none", () => {
    expect(of({ distanceM: 1300 }).findings.map((finding) => finding.code)).toEqual(["margin-low"]);
    expect(of({ distanceM: 30_000, exponent: 3.5 }).findings).toMatchObject([{ code: "no-link", severity: "stop" }]);
  });

  it("hears further and takes longer with every step of the spreading factor", () => {
    for (let spreadingFactor = 6; spreadingFactor < 12; spreadingFactor++) {
      const [slow, fast] = [of({ spreadingFactor: spreadingFactor + 1 }), of({ spreadingFactor })];
      expect(slow.airTimeMs).toBeGreaterThan(fast.airTimeMs);
      expect(slow.sensitivityDbm).toBeLessThan(fast.sensitivityDbm);
    }
  });
});

describe("ethernet", () => {
  const A = [
    "white-green",
    "green",
    "white-orange",
    "blue",
    "white-blue",
    "orange",
    "white-brown",
    "brown",
  ] as EthernetLead["endA"];
  const B = [
    "white-orange",
    "orange",
    "white-green",
    "blue",
    "white-blue",
    "green",
    "white-brown",
    "brown",
  ] as EthernetLead["endA"];
  const split = [
    "white-orange",
    "orange",
    "white-green",
    "green",
    "white-blue",
    "blue",
    "white-brown",
    "brown",
  ] as EthernetLead["endA"];
  const swapped = (end: EthernetLead["endA"], i: number, j: number) =>
    end.map((colour, at) => (at === i ? end[j]! : at === j ? end[i]! : colour));

  it("knows straight leads of both standards, and a crossed one", () => {
    expect(ethernet({ endA: A, endB: A })).toEqual({
      verdict: "straight",
      standardA: "T568A",
      standardB: "T568A",
      faults: [],
    });
    expect(ethernet({ endA: B, endB: B }).verdict).toBe("straight");
    expect(ethernet({ endA: A, endB: B })).toMatchObject({
      verdict: "crossed",
      standardA: "T568A",
      standardB: "T568B",
      faults: [],
    });
  });

  it("finds a split pair that a continuity test would pass", () => {
    const result = ethernet({ endA: split, endB: split });
    expect(result.verdict).toBe("split-pair");
    expect(result.faults.map(({ pinA, pinB }) => [pinA, pinB])).toEqual([
      [3, 6],
      [4, 5],
    ]);
  });

  it("names the pins of a miswire and of an open core", () => {
    expect(ethernet({ endA: B, endB: swapped(B, 0, 1) })).toMatchObject({
      verdict: "miswire",
      faults: [
        { pinA: 1, pinB: 2 },
        { pinA: 2, pinB: 1 },
      ],
    });
    const alsoMoved = B.map((colour, at) =>
      at === 2 ? ("blue" as const) : at === 3 ? ("white-green" as const) : at === 7 ? ("open" as const) : colour,
    );
    expect(ethernet({ endA: B, endB: alsoMoved })).toMatchObject({
      verdict: "open",
      faults: [
        { kind: "open", pinA: 8 },
        { kind: "miswire", pinA: 3, pinB: 4 },
        { kind: "miswire", pinA: 4, pinB: 3 },
      ],
    });
    const crossedAndOpen = A.map((colour, at) => (at === 7 ? ("open" as const) : colour));
    expect(ethernet({ endA: B, endB: crossedAndOpen }).faults).toMatchObject([{ kind: "open", pinA: 8 }]);
    const broken = B.map((colour, at) => (at === 4 ? ("open" as const) : colour));
    expect(ethernet({ endA: B, endB: broken })).toMatchObject({
      verdict: "open",
      faults: [{ kind: "open", pinA: 5, pinB: null, text: "white-blue on pin 5 at A comes out nowhere at B" }],
    });
    expect(ethernet({ endA: broken, endB: broken }).faults).toMatchObject([{ pinA: 5, pinB: 5 }]);
  });

  it("calls any exchange of two cores at one end a miswire of just those, unless it makes a crossed lead", () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 7 }), fc.integer({ min: 0, max: 7 }), (i, j) => {
        const result = ethernet({ endA: B, endB: swapped(B, i, j) });
        expect(result.verdict).toBe(i === j ? "straight" : "miswire");
        expect(result.faults).toHaveLength(i === j ? 0 : 2);
      }),
    );
  });

  it("refuses a colour twice and a ninth pin", () => {
    expect(ethernetRequestSchema.safeParse({ endA: B, endB: B.map(() => "blue") }).success).toBe(false);
    expect(ethernetRequestSchema.safeParse({ endA: [...B, "open"], endB: B }).error?.issues[0]?.path).toEqual(["endA"]);
  });
});
