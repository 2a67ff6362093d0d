import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { readLineLog } from "@/core/links/bus/lineLog";
import { lineLogText } from "@/core/links/bus/lineLogText";
import { rtuCheck, rtuFrameAt } from "@/core/links/bus/rtuFrame";

/** A frame with its check. */
function framed(...bytes: number[]): number[] {
  const check = rtuCheck(Uint8Array.from(bytes));
  return [...bytes, check & 0xff, check >> 8];
}

const ask = (unit: number, address: number, count: number, code = 3) =>
  framed(unit, code, address >> 8, address & 0xff, count >> 8, count & 0xff);
const tell = (unit: number, values: readonly number[], code = 3) =>
  framed(unit, code, 2 * values.length, ...values.flatMap((value) => [value >> 8, value & 0xff]));
const refuse = (unit: number, why: number, code = 3) => framed(unit, code | 0x80, why);
const hex = (bytes: readonly number[]) => bytes.map((byte) => byte.toString(16).padStart(2, "0")).join(" ");
const line = (timeS: number, bytes: readonly number[]) => `${timeS.toFixed(3)} ${hex(bytes)}`;

/** A client that asks units in turn every 200 ms; each answers after 20 ms but those that are silent. */
function polled(units: readonly number[], rounds: number, silent: readonly number[] = []): string[] {
  return Array.from({ length: rounds * units.length }, (_, at) => {
    const unit = units[at % units.length]!;
    const timeS = at * 0.2;
    return [
      line(timeS, ask(unit, 7000 + unit, 2)),
      ...(silent.includes(unit) ? [] : [line(timeS + 0.02, tell(unit, [0, 1240 + at]))]),
    ].join("\n");
  });
}

describe("the check of a frame", () => {
  it("is that of the published standard", () => {
    expect(rtuCheck(Uint8Array.of(0x01, 0x04, 0x02, 0xff, 0xff))).toBe(0x80b8);
    expect(rtuCheck(new TextEncoder().encode("123456789"))).toBe(0x4b37);
  });

  it("makes 0 of every frame that it ends, and of none with one bit turned", () => {
    fc.assert(
      fc.property(fc.uint8Array({ minLength: 2, maxLength: 60 }), fc.nat(), (bytes, where) => {
        const whole = Uint8Array.from(framed(...bytes));
        expect(rtuCheck(whole)).toBe(0);
        whole[where % whole.length]! ^= 1 << (where % 8);
        expect(rtuCheck(whole)).not.toBe(0);
      }),
    );
  });
});

describe("a frame", () => {
  it("says whom it asks for what", () => {
    expect(rtuFrameAt(Uint8Array.from(ask(11, 7000, 2)), 0)).toMatchObject({
      kind: "request",
      unit: 11,
      code: 3,
      address: 7000,
      count: 2,
      length: 8,
    });
    expect(rtuFrameAt(Uint8Array.from(refuse(11, 2)), 0)).toMatchObject({ kind: "exception", exception: 2, length: 5 });
    expect(rtuFrameAt(Uint8Array.from(tell(11, [1, 2, 3])), 0)).toMatchObject({ kind: "reply", count: 3, length: 11 });
    expect(rtuFrameAt(Uint8Array.of(11, 3, 0), 0)).toBeUndefined();
  });
});

describe("the log of a line", () => {
  it("has the example of its docblock", () => {
    const [request] = [ask(11, 7000, 2)];
    expect(hex(request)).toBe("0b 03 1b 58 00 02 43 96");
    const log = readLineLog(`0.000 ${hex(request).toUpperCase()}`);
    expect(log.units).toMatchObject([{ unit: 11, asked: 1, answered: 0, registers: ["3: 7000 + 2"] }]);
  });

  it("pairs every request with its answer, with the rate and the time to answer of each device", () => {
    const log = readLineLog(polled([11, 12, 21], 20).join("\n"));
    expect(log).toMatchObject({ strayBytes: 0, troubles: [], unreadable: [] });
    expect(log.exchanges).toHaveLength(60);
    for (const unit of log.units) {
      expect(unit).toMatchObject({ asked: 20, answered: 20, refused: 0 });
      expect(unit.answerS).toBeCloseTo(0.02, 6);
      expect(unit.perSecond).toBeCloseTo(20 / (59 * 0.2), 6);
    }
  });

  it("reads the same however an adapter cut the bytes, with garbage between the frames", () => {
    const exchange = fc.record({
      unit: fc.integer({ min: 1, max: 60 }),
      values: fc.array(fc.integer({ min: 0, max: 0xffff }), { minLength: 1, maxLength: 20 }),
      // Not the beginning of a frame: no device has such a number.
      garbage: fc.array(fc.constantFrom(0xff, 0xfe), { maxLength: 4 }),
    });
    fc.assert(
      fc.property(
        fc.array(exchange, { minLength: 1, maxLength: 12 }),
        fc.array(fc.integer({ min: 1, max: 7 })),
        (all, cuts) => {
          const bytes = all.flatMap(({ unit, values, garbage }) => [
            ...garbage,
            ...ask(unit, 7000, values.length),
            ...tell(unit, values),
          ]);
          const lines: string[] = [];
          for (let at = 0, cut = 0; at < bytes.length; cut++) {
            const length = cuts[cut % Math.max(1, cuts.length)] ?? bytes.length;
            lines.push(hex(bytes.slice(at, at + length)));
            at += length;
          }
          const log = readLineLog(lines.join("\n"));
          expect(log.exchanges.map(({ request, answer }) => [request.unit, answer?.count])).toEqual(
            all.map(({ unit, values }) => [unit, values.length]),
          );
          expect(log.strayBytes).toBe(all.reduce((sum, { garbage }) => sum + garbage.length, 0));
        },
      ),
    );
  });

  it("names who never answers, who refuses, and goes on after a wrong check", () => {
    const lines = polled([11, 12], 10, [12]);
    lines.push(line(5, ask(21, 7999, 1)), line(5.02, refuse(21, 2)));
    const broken = ask(11, 7011, 2).with(6, 0);
    lines.push(line(5.2, broken), line(5.4, ask(11, 7011, 2)), line(5.42, tell(11, [0, 7])));
    const log = readLineLog(lines.join("\n"));
    expect(log.units.map(({ unit, answered, refused }) => [unit, answered, refused])).toEqual([
      [11, 11, 0],
      [12, 0, 0],
      [21, 0, 1],
    ]);
    expect(log.troubles.map(({ kind }) => kind)).toEqual(["disturbed", "no-answer", "refused"]);
    expect(log.troubles[1]!.words).toContain("Unit 12 was asked and never answered");
    expect(log.strayBytes).toBe(8);
  });

  it("tells two clients, noise, another speed, and an exchanged pair", () => {
    const second = Array.from({ length: 8 }, (_, at) => line(at * 0.2 + 0.005, ask(31, 7100, 2)));
    const first = Array.from({ length: 8 }, (_, at) => line(at * 0.2, ask(11, 7000, 2)));
    const kinds = (text: readonly string[]) => readLineLog(text.join("\n")).troubles.map(({ kind }) => kind);
    expect(kinds(first.flatMap((own, at) => [own, second[at]!]))).toContain("two-clients");
    const noisy = polled([11], 10).flatMap((own) => [own, hex([0xf1, 0xf2, 0xf3])]);
    expect(kinds(noisy)).toEqual(["disturbed"]);
    const other = Array.from({ length: 40 }, (_, at) => hex([0x91 + (at % 7), 0x35, 0xca]));
    expect(kinds(other)).toEqual(["nothing-readable"]);
    const turned = Array.from({ length: 40 }, () => hex([0x00, 0x00, 0xfc]));
    expect(kinds(turned)).toEqual(["pair-exchanged"]);
  });

  it("is told in words with the names of the plan, a frame a line", () => {
    const text = [...polled([11], 1), line(1, ask(12, 7000, 1)), line(1.02, refuse(12, 2))].join("\n");
    expect(lineLogText(readLineLog(text), new Map([[11, "Grid meter"]])).split("\n")).toEqual([
      "# Unit 12 refused what it was asked: another list of registers than it has",
      "0.000 asks Grid meter (11): holding registers 7011 + 2",
      "0.020 Grid meter (11) answers: holding registers, 2",
      "1.000 asks unit 12: holding registers 7000 + 1",
      "1.020 unit 12 refuses: this register is not there (holding registers)",
    ]);
  });

  it("never fails on what somebody pastes, and names the lines that are none", () => {
    fc.assert(fc.property(fc.string(), (text) => void readLineLog(text)));
    expect(readLineLog("# taken at noon\n0.1 0b 03\nhello\n\n0b0").unreadable).toEqual([3, 5]);
  });
});
