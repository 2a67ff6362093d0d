import fc from "fast-check";
import { describe, expect, it, vi } from "vitest";
import { serialDoubt } from "@/core/kits/serialDoubt";

const PATTERN = "^GKF[0-9]{7}$";

describe("A serial number", () => {
  it("that fits its kit's pattern, or has none to fit, is not doubted", () => {
    fc.assert(
      fc.property(fc.stringMatching(/^GKF[0-9]{7}$/), (serial) => {
        expect(serialDoubt(PATTERN, serial)).toBeUndefined();
        expect(serialDoubt(PATTERN, ` ${serial} `)).toBeUndefined();
      }),
    );
    expect(serialDoubt(undefined, "anything")).toBeUndefined();
    expect(serialDoubt(PATTERN, " ")).toBeUndefined();
  });

  it("with one look-alike, or small letters, is given back as it may be", () => {
    fc.assert(
      fc.property(fc.stringMatching(/^GKF[0-9]{7}$/), fc.nat(6), (serial, at) => {
        const letters: Readonly<Record<string, string>> = {
          "0": "O",
          "1": "I",
          "2": "Z",
          "5": "S",
          "6": "G",
          "8": "B",
        };
        const swap = letters[serial[3 + at]!];
        fc.pre(swap !== undefined);
        const read = serial.slice(0, 3 + at) + swap + serial.slice(4 + at);
        expect(serialDoubt(PATTERN, read)?.instead).toBe(serial);
        expect(serialDoubt(PATTERN, read.toLowerCase())?.instead).toBe(serial);
      }),
    );
  });

  it("that no exchange makes fit is doubted without a guess, its pattern in words", () => {
    expect(serialDoubt(PATTERN, "XX")).toEqual({ words: "GKF, then 7 digits", instead: undefined });
    expect(serialDoubt("^[A-Z]{2}[0-9]$", "?")?.words).toBe("2 capital letters, then 1 digit");
    expect(serialDoubt("^[A-Z]+-\\d$", "?")?.words).toBe("as the pattern ^[A-Z]+-\\d$ says");
  });

  it("of nothing but look-alikes is not tried in its millions of ways", () => {
    // Counted, not timed: each way that is tried is held against the pattern once.
    const tried = vi.spyOn(RegExp.prototype, "test");
    expect(serialDoubt(PATTERN, "0".repeat(60))?.instead).toBeUndefined();
    expect(tried.mock.calls.length).toBeLessThan(3_000);
    tried.mockRestore();
  });

  it("of any text is looked at in no time and without a throw", () => {
    fc.assert(
      fc.property(fc.string({ maxLength: 60 }), (typed) => {
        const doubt = serialDoubt(PATTERN, typed);
        if (doubt?.instead !== undefined) expect(serialDoubt(PATTERN, doubt.instead)).toBeUndefined();
      }),
    );
  });
});
