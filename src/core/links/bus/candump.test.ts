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
      { timeS: 1.5, channel: "can0", id: 0x6c0, isExtended: false, bytes: 2 },
      { timeS: 1.6, channel: "can0", id: 0x6d8, isExtended: true, bytes: 0 },
      { timeS: 1.9, channel: "can1", id: 0x7ff, isExtended: false, bytes: 0 },
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
      })
      .map(({ raw, ...rest }) => ({ ...rest, id: rest.isExtended ? raw + 0x18000000 : raw }));
    fc.assert(
      fc.property(fc.array(frame, { maxLength: 40 }), (frames) => {
        expect(readCandump(writeCandump(frames))).toEqual({ frames, unreadable: [] });
      }),
    );
  });

  it("tells load, rates, and when the battery's last frame came", () => {
    const frames = Array.from({ length: 61 }, (_, second) => [
      { timeS: 100 + second, channel: "can0", id: 0x6a0, isExtended: false, bytes: 8 },
      ...(second <= 41 ? [{ timeS: 100.2 + second, channel: "can0", id: 0x6c0, isExtended: false, bytes: 8 }] : []),
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
});
