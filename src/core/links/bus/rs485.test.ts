import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { characterMs, cycleMs, gapMs, pollCosts } from "@/core/links/bus/pollCycle";
import { rs485 } from "@/core/links/bus/rs485";
import { rs485RequestSchema, type Rs485Bus } from "@/core/links/bus/rs485Schema";
import { plainText } from "@/core/sentence";
import { nodeVolts, type Resistor } from "../../../../tests/reference/plainNetwork";

type Device = Partial<Rs485Bus["devices"][number]>;
type Loose = Omit<Partial<Rs485Bus>, "devices"> & { devices?: Device[] };

const CLIENT: Device = {
  id: "ctl",
  role: "client",
  distanceM: 0,
  unitLoad: 1,
  terminator: true,
  bias: { upOhm: 560, downOhm: 560 },
};
const METER: Device = {
  id: "meter",
  role: "server",
  address: 11,
  distanceM: 38,
  stubM: 0.2,
  unitLoad: 0.125,
  terminator: true,
  poll: [{ registers: 20 }, { registers: 6 }],
  turnaroundMs: 12,
  timeoutMs: 500,
  retries: 1,
};

function bus(change: Loose = {}): Rs485Bus {
  return rs485RequestSchema.parse({ baud: 9600, devices: [CLIENT, METER], ...change });
}

function codes(change: Loose): readonly string[] {
  return rs485(bus(change)).findings.map((finding) => finding.code);
}

describe("rs485", () => {
  it("gives the numbers of a client and a meter 38 m apart", () => {
    const result = rs485(bus());
    expect(result).toMatchObject({ lengthM: 38, maxLengthM: 1200, terminationMatters: false });
    expect(result.roundTripNs).toBeCloseTo(76 / (0.299792458 * 0.66), 9);
    expect(result.bitNs).toBeCloseTo(104_166.67, 1);
    expect(result.loadOhm).toBeCloseTo(1 / (2 / 120 + 1.125 / 12_000), 9);
    // At the client: its own side, and the far one behind 38 m there and back.
    const ownOhm = 1 / (1 / 120 + 1 / 12_000);
    const farOhm = 1 / (1 / 120 + 0.125 / 12_000) + 2 * 84 * 0.038;
    const nearOhm = (ownOhm * farOhm) / (ownOhm + farOhm);
    expect(result.resistanceOffOhm).toBeCloseTo(nearOhm, 4);
    expect(result.resistanceOffBiasOhm).toBeCloseTo((nearOhm * 1120) / (nearOhm + 1120), 4);
    expect(result.idleMv).toBeCloseTo((5000 * nearOhm) / (1120 + nearOhm), 4);
    expect(result.idleFarMv).toBeCloseTo((result.idleMv * (farOhm - 2 * 84 * 0.038)) / farOhm, 4);
    const end = 1 / (1 / 120 + 1.125 / 12_000);
    expect(result.farEndMv).toBeCloseTo((1500 * end) / (end + 2 * 84 * 0.038), 9);
    expect(result.stubLimitM).toBeCloseTo(250 * 0.299792458 * 0.066, 9);
  });

  it("takes the poll cycle from characters, gaps and turnaround, and dead devices from time-outs", () => {
    const result = rs485(bus());
    const character = 10 / 9.6;
    // Two blocks: 13 + 40 and 13 + 12 characters, four gaps, two turnarounds.
    expect(result.pollCycleMs).toBeCloseTo((53 + 25) * character + 4 * 3.5 * character + 24, 9);
    expect(result.worstCycleMs[0]).toBe(result.pollCycleMs);
    expect(result.worstCycleMs[1]).toBeCloseTo(2 * 2 * (8 * character + 500), 9);
    expect(result.worstCycleMs[2]).toBe(result.worstCycleMs[1]);
  });

  it("fixes the gap above 19200 Bd and counts a parity bit", () => {
    expect(gapMs({ baud: 19_200, dataBits: 8, parity: "none", stopBits: 1 })).toBeCloseTo(3.5 * (10 / 19.2), 9);
    expect(gapMs({ baud: 38_400, dataBits: 8, parity: "none", stopBits: 1 })).toBe(1.75);
    expect(characterMs({ baud: 1000, dataBits: 8, parity: "even", stopBits: 2 })).toBe(12);
  });

  it.each<readonly [string, Loose]>([
    ["no-client", { devices: [{ ...METER, distanceM: 0 }] }],
    ["two-clients", { devices: [CLIENT, METER, { ...CLIENT, id: "monitor", distanceM: 2, terminator: false }] }],
    ["address-missing", { devices: [CLIENT, { ...METER, address: undefined }] }],
    ["address-range", { devices: [CLIENT, { ...METER, address: 248 }] }],
    ["address-duplicate", { devices: [CLIENT, { ...METER, terminator: false }, { ...METER, id: "second" }] }],
    ["serial-mismatch", { devices: [CLIENT, { ...METER, parity: "even" }] }],
    ["too-long", { devices: [CLIENT, { ...METER, distanceM: 1201 }] }],
    ["too-long", { baud: 250_000, devices: [CLIENT, { ...METER, distanceM: 401 }] }],
    ["stub-too-long", { devices: [CLIENT, { ...METER, stubM: 5 }] }],
    ["too-many-unit-loads", { devices: [CLIENT, { ...METER, unitLoad: 31.5 }] }],
    ["terminator-missing", { baud: 115_200, devices: [CLIENT, { ...METER, distanceM: 400, terminator: false }] }],
    [
      "terminator-misplaced",
      { devices: [CLIENT, { ...METER, terminator: true }, { ...METER, id: "last", address: 12, terminator: false }] },
    ],
    ["terminator-extra", { devices: [CLIENT, METER, { ...METER, id: "last", address: 12 }] }],
    ["termination-optional", {}],
    ["idle-too-low", { devices: [{ ...CLIENT, bias: null }, METER] }],
    [
      "level-too-low",
      { cable: { ohmPerKm: 900, velocityFactor: 0.66, z0Ohm: 120 }, devices: [CLIENT, { ...METER, distanceM: 800 }] },
    ],
  ])("finds %s", (code, change) => {
    expect(codes(change)).toContain(code);
  });

  it("finds nothing but that terminators make no difference on a short good line", () => {
    expect(codes({})).toEqual(["termination-optional"]);
    expect(codes({ receiver: "fail-safe", devices: [{ ...CLIENT, bias: null }, METER] })).toEqual([
      "termination-optional",
    ]);
  });

  it("names both clients and every remedy", () => {
    const [finding] = rs485(bus({ devices: [CLIENT, { ...CLIENT, id: "monitor", distanceM: 1 }] })).findings;
    expect(finding).toMatchObject({
      severity: "stop",
      subject: { kind: "link-device", device: "monitor" },
      detail: expect.stringContaining("ctl and monitor") as string,
    });
    expect(finding!.cure).toMatch(/port of its own, a gateway, or let it read through ctl/);
  });

  it("gives the same totals for a line that is walked from the other end", () => {
    const device = fc.record({
      distanceM: fc.double({ min: 0.1, max: 200, noNaN: true }),
      unitLoad: fc.constantFrom(0.125, 0.25, 1),
      terminator: fc.boolean(),
    });
    fc.assert(
      fc.property(
        fc.array(device, { minLength: 2, maxLength: 20 }),
        fc.constantFrom(2400, 9600, 115_200),
        fc.nat(),
        (devices, baud, which) => {
          const line = devices.map((entry, at) => ({
            id: `d${at}`,
            role: at === which % devices.length ? ("client" as const) : ("server" as const),
            address: at + 1,
            ...entry,
            distanceM: at === 0 ? 0 : entry.distanceM,
            poll: [{ registers: at + 1 }],
          }));
          const back = line
            .toReversed()
            .map((entry, at) => ({ ...entry, distanceM: at === 0 ? 0 : line[line.length - at]!.distanceM }));
          const [there, again] = [rs485(bus({ baud, devices: line })), rs485(bus({ baud, devices: back }))];
          for (const field of ["lengthM", "roundTripNs", "loadOhm", "idleMv", "pollCycleMs"] as const)
            expect(again[field]).toBeCloseTo(there[field], 6);
          expect(again.findings.map((finding) => finding.id).sort()).toEqual(
            there.findings.map((finding) => finding.id).sort(),
          );
        },
      ),
    );
  });

  it("never takes less time with more devices dead", () => {
    fc.assert(
      fc.property(
        fc.array(
          fc.record({
            registers: fc.integer({ min: 1, max: 125 }),
            timeoutMs: fc.nat({ max: 2000 }),
            retries: fc.nat({ max: 3 }),
          }),
          { minLength: 1, maxLength: 12 },
        ),
        (servers) => {
          const costs = pollCosts(
            bus({
              devices: [
                CLIENT,
                ...servers.map(({ registers, ...server }, at) => ({
                  ...METER,
                  ...server,
                  id: `s${at}`,
                  address: at + 1,
                  poll: [{ registers }],
                })),
              ],
            }),
          );
          const cycles = [0, 1, 2].map((dead) => cycleMs(costs, dead));
          expect(cycles[1]).toBeGreaterThanOrEqual(cycles[0]!);
          expect(cycles[2]).toBeGreaterThanOrEqual(cycles[1]!);
        },
      ),
    );
  });
});

describe("a long line", () => {
  const long = (change: Loose = {}) =>
    rs485(
      bus({
        devices: [
          { ...CLIENT, unitLoad: 0.125 },
          { ...METER, distanceM: 1000 },
        ],
        ...change,
      }),
    );

  it("is held less at its far end, and the finding goes by the lower of the two", () => {
    const { idleMv, idleFarMv, findings } = long();
    expect([Math.round(idleMv), Math.round(idleFarMv)]).toEqual([351, 146]);
    const finding = findings.find(({ code }) => code === "idle-too-low");
    expect(plainText(finding!.detail)).toContain("146 mV idle at the far end");
    expect(long({ receiver: "fail-safe" }).findings.map(({ code }) => code)).not.toContain("idle-too-low");
  });

  it("is the network of resistors that it is, solved as one matrix: any lengths, loads, terminators and biases", () => {
    const anyDevice = fc.record({
      distanceM: fc.integer({ min: 1, max: 400 }),
      unitLoad: fc.constantFrom(0.125, 0.25, 1),
      terminator: fc.boolean(),
      bias: fc.option(
        fc.record({ upOhm: fc.integer({ min: 390, max: 2000 }), downOhm: fc.integer({ min: 390, max: 2000 }) }),
      ),
    });
    fc.assert(
      fc.property(fc.array(anyDevice, { minLength: 2, maxLength: 7 }), fc.nat(), (own, pick) => {
        const client = pick % own.length;
        const devices = own.map((device, at) => ({
          ...device,
          id: `d${at}`,
          role: at === client ? ("client" as const) : ("server" as const),
          distanceM: at === 0 ? 0 : device.distanceM,
          address: at + 1,
        }));
        const request = bus({ devices });
        const resistors = (isRailThere: boolean): Resistor[] =>
          devices.flatMap((device, at): Resistor[] => [
            [`a${at}`, `b${at}`, 12_000 / device.unitLoad],
            ...(device.terminator ? ([[`a${at}`, `b${at}`, 120]] as const) : []),
            ...(device.bias ? ([[`b${at}`, "ground", device.bias.downOhm]] as const) : []),
            ...(device.bias && isRailThere ? ([[`a${at}`, "rail", device.bias.upOhm]] as const) : []),
            ...(at > 0
              ? ([
                  [`a${at - 1}`, `a${at}`, 0.084 * device.distanceM],
                  [`b${at - 1}`, `b${at}`, 0.084 * device.distanceM],
                ] as const)
              : []),
          ]);
        const apart = (volts: ReadonlyMap<string, number>, at: number) => volts.get(`a${at}`)! - volts.get(`b${at}`)!;
        const places = devices.map((_, at) =>
          devices.slice(1, at + 1).reduce((sum, { distanceM }) => sum + distanceM, 0),
        );
        const far = places.at(-1)! - places[client]! >= places[client]! ? devices.length - 1 : 0;
        const result = rs485(request);
        const idle = nodeVolts(resistors(true), { railV: 5 });
        if (devices.some(({ bias }) => bias)) {
          expect(result.idleMv).toBeCloseTo(1000 * apart(idle, client), 3);
          expect(result.idleFarMv).toBeCloseTo(1000 * apart(idle, far), 3);
        } else expect([result.idleMv, result.idleFarMv]).toEqual([0, 0]);
        const ohm = (at: number, isRailThere: boolean) =>
          apart(nodeVolts(resistors(isRailThere), { sent: { into: `a${at}`, outOf: `b${at}` } }), at);
        expect(result.resistanceOffOhm).toBeCloseTo(ohm(client, false), 3);
        expect(result.resistanceOffBiasOhm).toBeCloseTo(ohm(client, true), 3);
        expect(result.resistanceOffFarOhm).toBeCloseTo(ohm(far, false), 3);
        expect(result.resistanceOffFarBiasOhm).toBeCloseTo(ohm(far, true), 3);
      }),
      { numRuns: 60 },
    );
  });
});
