import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { judgeCanLog, readCandump, writeCandump } from "@/core/links/bus/candump";

const EXPECTED = [
  { id: 0x6c0, perSecond: 1, name: "Limits", sender: "Battery" },
  { id: 0x6a0, perSecond: 1, name: "Inverter alive", sender: "Inverter" },
];

describe("a candump log", () => {
  it("is read line by line; what is none is listed by its number", () => {
    const text =
      "(1.500000) can0 6C0#0102\nnonsense\n\n(1.6) can0 000006D8#\n(1.7) can0 6C0#1\n(1.8) can0 12#00\r\n(1.9) " +
      "can1 7FF#R\n";
    const { frames, unreadable } = readCandump(text);
    expect(frames).toEqual([
      { timeS: 1.5, channel: "can0", id: 0x6c0, isExtended: false, bytes: 2, kind: "data" },
      { timeS: 1.6, channel: "can0", id: 0x6d8, isExtended: true, bytes: 0, kind: "data" },
      { timeS: 1.9, channel: "can1", id: 0x7ff, isExtended: false, bytes: 0, kind: "request" },
    ]);
    expect(unreadable).toEqual([2, 5, 6]);
  });

  it("comes back as it was written", () => {
    const frame = fc
      .record({
        timeS: fc.integer({ min: 0, max: 1e9 }).map((micros) => micros / 1e6),
        channel: fc.constantFrom("can0", "vcan1"),
        isExtended: fc.boolean(),
        bytes: fc.integer({ min: 0, max: 8 }),
        raw: fc.nat({ max: 0x7ff }),
        kind: fc.constantFrom("data" as const, "request" as const, "fd" as const, "error" as const),
      })
      .map(({ raw, ...rest }) => ({
        ...rest,
        isExtended: rest.isExtended || rest.kind === "error",
        bytes: rest.kind === "request" ? 0 : rest.bytes,
        id: rest.kind === "error" ? raw : rest.isExtended ? raw + 0x18000000 : raw,
      }));
    fc.assert(
      fc.property(fc.array(frame, { maxLength: 40 }), (frames) => {
        expect(readCandump(writeCandump(frames))).toEqual({ frames, unreadable: [] });
      }),
    );
  });

  it("tells load, rates, and when the battery's last frame came", () => {
    const frames = Array.from({ length: 61 }, (_, second) => [
      { timeS: 100 + second, channel: "can0", id: 0x6a0, isExtended: false, bytes: 8, kind: "data" as const },
      ...(second <= 41
        ? [{ timeS: 100.2 + second, channel: "can0", id: 0x6c0, isExtended: false, bytes: 8, kind: "data" as const }]
        : []),
    ]).flat();
    const log = judgeCanLog(writeCandump(frames), 500_000, EXPECTED);
    expect(log).toMatchObject({ frames: 103, durationS: 60 });
    expect(log.busLoadPct).toBeCloseTo((100 * 103 * 135) / (60 * 500_000), 9);
    expect(log.lines.map((line) => [line.name, line.count, Math.round(line.perSecond * 100) / 100])).toEqual([
      ["Inverter alive", 61, 1],
      ["Limits", 42, 1],
    ]);
    expect(log.missing).toHaveLength(1);
    expect(log.missing[0]).toMatchObject({ frame: { name: "Limits", sender: "Battery" } });
    expect(log.missing[0]!.lastS).toBeCloseTo(41.2, 6);
    expect(log.missing[0]!.silentS).toBeCloseTo(18.8, 6);
  });

  it("names a frame that never came, and says nothing of an empty log", () => {
    expect(
      judgeCanLog("(1) can0 6A0#00\n(9) can0 6A0#00", 500_000, EXPECTED).missing.map(({ frame, lastS }) => [
        frame.name,
        lastS,
      ]),
    ).toContainEqual(["Limits", undefined]);
    expect(judgeCanLog("", 500_000, EXPECTED)).toMatchObject({ frames: 0, missing: [], busLoadPct: 0 });
  });

  it("reads requests with a length, CAN FD, error frames and raw lengths as the tools of can-utils write them", () => {
    const fd = "0".repeat(128);
    const { frames, unreadable } = readCandump(
      `(1.0) can0 6A0#R8\n(1.1) can0 6A1##1${fd}\n(1.2) can0 20000040#0000000000000000\n(1.3) can0 6A2#11.22.33\n` +
        `(1.4) can0 6A3#1122334455667788_B\n(1.5) can0 6A4#112233445566778899\n(1.6) can0 6A5##1${fd}00\n` +
        "(1.7) can0 6A6#0102 R\n",
    );
    expect(frames.map(({ kind, id, bytes }) => [kind, id, bytes])).toEqual([
      ["request", 0x6a0, 0],
      ["fd", 0x6a1, 64],
      ["error", 0x40, 8],
      ["data", 0x6a2, 3],
      ["data", 0x6a3, 8],
      ["data", 0x6a6, 2],
    ]);
    expect(unreadable).toEqual([6, 7]);
  });

  it("reads what stands on a screen too, and doubts a length that does not fit", () => {
    const { frames, unreadable } = readCandump(
      " (1436509052.249713)  vcan0  6C0   [5]  2A 36 6C 2B BA\n (1.5)  can0  6C1   [8]  remote request\n" +
        " (1.6)  can0  20000080   [8]  00 00 08 00 00 00 00 00   ERRORFRAME\n (1.7)  can0  6C2   [3]  01 02\n" +
        " (1.8)  can0  6C3  [12]  00 11 22 33 44 55 66 77 88 99 AA BB\n",
    );
    expect(frames.map(({ kind, id, bytes }) => [kind, id, bytes])).toEqual([
      ["data", 0x6c0, 5],
      ["request", 0x6c1, 0],
      ["error", 0x80, 8],
      ["fd", 0x6c3, 12],
    ]);
    expect(unreadable).toEqual([4]);
  });

  it("counts error frames by what they say, apart from the frames of the bus", () => {
    const log = judgeCanLog(
      "(1) can0 6A0#00\n(2) can0 20000020#00\n(3) can0 20000060#00\n(4) can0 20000200#00",
      500_000,
      [],
    );
    expect(log).toMatchObject({ frames: 1, errorFrames: 3 });
    expect(log.errors).toEqual([
      { words: "nobody acknowledged", count: 2 },
      { words: "bus off", count: 1 },
      { words: "of a kind that it does not name", count: 1 },
    ]);
    expect(log.lines).toHaveLength(1);
  });
});
