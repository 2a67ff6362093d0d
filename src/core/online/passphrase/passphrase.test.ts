import * as fc from "fast-check";
import { describe, expect, it } from "vitest";
import { accessPointName, accessPointWords, fitsAccessPoint } from "@/core/online/accessPointName";
import { keyPresses } from "@/core/online/passphrase/keyPresses";
import { otherReadings, withReading } from "@/core/online/passphrase/lookAlikes";
import { misreadings } from "@/core/online/passphrase/misreadings";
import { passphraseDoubt, WPA_RULE } from "@/core/online/passphrase/passphraseProblem";
import { inGroups, spelled } from "@/core/online/passphrase/spelled";
import { wifiCode } from "@/core/online/passphrase/wifiCode";

const RING = "abcdefghijklmnopqrstuvwxyzABCDEFGHIJKLMNOPQRSTUVWXYZ0123456789-_.! ";
const printable = fc.string({ unit: fc.constantFrom(..."abcXYZ0O1lI5S8B2Zrnmvwu'` ;:\\\",.-"), maxLength: 20 });

describe("the passphrase helper", () => {
  it("spells every character, and says what it is taken for", () => {
    expect(spelled("a0 ").map(({ words }) => words)).toEqual(["small Alfa", "zero", "space"]);
    expect(spelled("a0")[1]!.mistakenFor).toEqual(["O", "o"]);
    expect(spelled("rn").map(({ mistakenFor }) => mistakenFor)).toEqual([["m"], ["m"]]);
    expect(spelled("é")[0]!.words).toBe("the sign é");
    expect(inGroups("abcdefghij")).toEqual(["abcd", "efgh", "ij"]);
  });

  it("shows all of a passphrase in its groups and in its spelling, whatever it is", () => {
    fc.assert(
      fc.property(fc.string({ unit: "grapheme", maxLength: 40 }), (passphrase) => {
        expect(inGroups(passphrase).join("")).toBe(passphrase);
        expect(
          spelled(passphrase)
            .map(({ character }) => character)
            .join(""),
        ).toBe(passphrase);
      }),
    );
  });

  it("lists the likeliest misreadings first, each once, and never what was tried", () => {
    const [first] = misreadings("Harbour0");
    expect(first).toEqual({ passphrase: "HarbourO", what: "“0” as “O” (place 8)" });
    const all = misreadings("Harbour0").map(({ passphrase }) => passphrase);
    expect(all).toContain("harbour0");
    expect(all).toContain("Harbour0 ");
    expect(misreadings("modern ").map(({ passphrase }) => passphrase)).toContain("modem ");
    expect(misreadings("modern ").map(({ passphrase }) => passphrase)).toContain("modern");
    fc.assert(
      fc.property(printable, (tried) => {
        const others = misreadings(tried).map(({ passphrase }) => passphrase);
        expect(new Set(others).size).toBe(others.length);
        expect(others).not.toContain(tried);
        expect(others.length).toBeLessThanOrEqual(24);
      }),
    );
  });

  it("finds the right one among them when one character was misread", () => {
    fc.assert(
      fc.property(printable, fc.nat(), (right, which) => {
        const readings = otherReadings(right);
        fc.pre(readings.length > 0 && readings.length < 12);
        const tried = withReading(right, readings[which % readings.length]!);
        fc.pre(otherReadings(tried).length < 20);
        expect(misreadings(tried).map(({ passphrase }) => passphrase)).toContain(right);
      }),
    );
  });

  it("counts the presses of the shorter way round, and names what the device does not have", () => {
    expect(keyPresses("af", "abcdef")).toEqual({
      kind: "presses",
      keys: [
        { character: "a", direction: "none", presses: 0, total: 1 },
        { character: "f", direction: "down", presses: 1, total: 3 },
      ],
    });
    expect(keyPresses("cc", "abcdef", "previous")).toMatchObject({ keys: [{ presses: 2 }, { presses: 0 }] });
    expect(keyPresses("a?a", "abc")).toEqual({ kind: "not-there", characters: ["?"] });
  });

  it("arrives at every character by the presses that it counts", () => {
    const typed = fc.string({ unit: fc.constantFrom(...RING), maxLength: 30 });
    fc.assert(
      fc.property(typed, fc.constantFrom("first" as const, "previous" as const), (passphrase, startsAt) => {
        const told = keyPresses(passphrase, RING, startsAt);
        if (told.kind !== "presses") throw new Error("every character is in the ring");
        let at = 0;
        let total = 0;
        const entered = told.keys.map(({ direction, presses, total: untilHere }) => {
          expect(presses).toBeLessThanOrEqual(RING.length / 2);
          at = (at + (direction === "down" ? -presses : presses) + RING.length) % RING.length;
          total += presses + 1;
          expect(untilHere).toBe(total);
          const character = RING[at]!;
          if (startsAt === "first") at = 0;
          return character;
        });
        expect(entered.join("")).toBe(passphrase);
      }),
    );
  });

  it("writes the code that a phone joins by, and what is read back from it is what was written", () => {
    expect(wifiCode({ name: "Barn;2", passphrase: "a:b", security: "wpa", isHidden: false })).toBe(
      "WIFI:T:WPA;S:Barn\\;2;P:a\\:b;;",
    );
    expect(wifiCode({ name: "Guests", passphrase: "", security: "open", isHidden: true })).toBe(
      "WIFI:T:nopass;S:Guests;H:true;;",
    );
    expect(wifiCode({ name: "cafe", passphrase: "12345678", security: "wpa", isHidden: false })).toContain('S:"cafe"');
    fc.assert(
      fc.property(printable, printable, (name, passphrase) => {
        const code = wifiCode({ name, passphrase, security: "wpa", isHidden: false });
        expect(fieldsOf(code)).toEqual({ T: "WPA", S: name, P: passphrase });
      }),
    );
  });

  it("doubts what can hardly be right, and no more", () => {
    expect(passphraseDoubt("kurz", WPA_RULE)).toBe("4 characters: a passphrase has 8 to 63");
    expect(passphraseDoubt("Käsekuchen", WPA_RULE)).toContain("ä");
    expect(passphraseDoubt("ends with ", WPA_RULE)).toContain("space");
    expect(passphraseDoubt("good enough 1", WPA_RULE)).toBeUndefined();
    expect(passphraseDoubt("has a # in it", { ...WPA_RULE, excludes: "#" })).toContain("no “#”");
    expect(passphraseDoubt("", WPA_RULE)).toBeUndefined();
  });
});

describe("the name of an access point", () => {
  it("follows from the serial number by the kit's rule", () => {
    expect(accessPointName("kit-{serial:6}", "GKD1234567")).toBe("kit-234567");
    expect(accessPointName("kit-{serial:last:5}", "GKD1234567")).toBe("kit-34567");
    expect(accessPointName("{serial:first:3}x", "GKD1234567")).toBe("GKDx");
    expect(accessPointName("kit-{serial}", " GKD1 ")).toBe("kit-GKD1");
    expect(accessPointName("kit-{serial:6}", "123")).toBeUndefined();
    expect(accessPointWords("kit-{serial:6}")).toBe("kit- and the last 6 characters of its serial number");
    expect(accessPointWords("{serial}")).toBe("its serial number");
  });

  it("tells a device from its neighbour", () => {
    expect(fitsAccessPoint("kit-{serial:6}", "kit-234567", "GKD1234567")).toBe(true);
    expect(fitsAccessPoint("kit-{serial:6}", "kit-234568", "GKD1234567")).toBe(false);
    expect(fitsAccessPoint("kit-{serial:6}", "kit-999999", undefined)).toBe(true);
    expect(fitsAccessPoint("kit-{serial:6}", "kit-99", undefined)).toBe(false);
    fc.assert(
      fc.property(fc.stringMatching(/^[A-Z0-9]{6,12}$/), (serial) => {
        const rule = "kit-{serial:6}";
        expect(fitsAccessPoint(rule, accessPointName(rule, serial)!, serial)).toBe(true);
        expect(fitsAccessPoint(rule, accessPointName(rule, serial)!, undefined)).toBe(true);
      }),
    );
  });
});

/** The fields of a code as a phone reads them: up to a sign that no backslash stands before. */
function fieldsOf(code: string): Record<string, string> {
  const fields: Record<string, string> = {};
  for (const [, key, value] of code.slice("WIFI:".length).matchAll(/([A-Z]):((?:\\.|[^\\;])*);/gs)) {
    const plain = value!.replace(/\\(.)/gs, "$1");
    fields[key!] = /^"[0-9a-fA-F]+"$/.test(value!) ? plain.slice(1, -1) : plain;
  }
  return fields;
}
