import { isDeepStrictEqual } from "node:util";
import { describe, expect, it } from "vitest";
import { diagnose, type Diagnosis } from "@/core/flows/diagnose";
import type { Fault } from "@/core/flows/faults";
import type { TestSheet } from "@/core/flows/testSheetSchema";
import type { Site } from "@/core/site/planSchema";
import { DISTURBANCES, oddSheet, type OddSheet } from "../../../tests/reference/oddSheets";

const SHEETS_A_KIND = 14;
const CERTAIN: readonly Diagnosis["verdict"][] = ["as-planned", "faults-found"];

interface Tried extends OddSheet {
  readonly diagnosis: Diagnosis;
}

function diagnosed(site: Site, sheet: TestSheet): Diagnosis {
  const outcome = diagnose(site, sheet);
  if (outcome.kind !== "diagnosed") throw new Error(outcome.kind);
  return outcome.diagnosis;
}

const tried = (isSound: boolean): readonly Tried[] =>
  DISTURBANCES.flatMap((what, kind) =>
    Array.from({ length: SHEETS_A_KIND }, (_, at) => {
      const odd = oddSheet(what, 31 * at + 1009 * kind + (isSound ? 5 : 7), isSound);
      return { ...odd, diagnosis: diagnosed(odd.site, odd.sheet) };
    }),
  );

const names = ({ diagnosis }: Tried, at = 0, truth: readonly Fault[] = []) => {
  const found = diagnosis.hypotheses[at];
  return found !== undefined && [found.faults, ...found.alternatives].some((own) => isDeepStrictEqual(own, truth));
};
const share = <T>(of: readonly T[], is: (one: T) => boolean) => of.filter(is).length / Math.max(1, of.length);

describe("A sheet with one thing outside the model", () => {
  const sound = tried(true);
  const faulty = tried(false);

  it("accuses a sound fitting in no more than 1 % of all, and 3 % of any kind", () => {
    const accused = ({ diagnosis }: Tried) => diagnosis.verdict === "faults-found";
    expect(share(sound, accused)).toBeLessThanOrEqual(0.01);
    // Of few sheets of a kind one would be too many already.
    for (const what of DISTURBANCES) expect(sound.filter((one) => one.what === what && accused(one))).toEqual([]);
  });

  it("has a wrong certain verdict in no more than 2 %", () => {
    const all = [...sound, ...faulty];
    const isWrong = (one: Tried) => CERTAIN.includes(one.diagnosis.verdict) && !namesTruth(one);
    expect(share(all, isWrong)).toBeLessThanOrEqual(0.02);
  });

  it("is explained where a steady load is far above the usual", () => {
    const steady = [...sound, ...faulty].filter(({ what }) => what === "steady load");
    expect(share(steady, ({ diagnosis }) => diagnosis.verdict === "not-explained")).toBeLessThanOrEqual(0.1);
  });

  it("says of every doubt which readings, what they would be, and which step to read again", () => {
    const doubtful = [...sound, ...faulty].filter(({ diagnosis }) => diagnosis.verdict === "reading-doubtful");
    expect(doubtful.length).toBeGreaterThan(SHEETS_A_KIND);
    for (const { diagnosis, sheet } of doubtful) {
      const { doubt, nextTests } = diagnosis;
      expect(doubt!.why.length).toBeGreaterThan(20);
      expect(doubt!.readings.length).toBeGreaterThan(0);
      expect(doubt!.readings.every(({ wouldBeW }) => Number.isFinite(wouldBeW))).toBe(true);
      expect(nextTests[0]!.devices).toEqual(sheet.steps[doubt!.step]!.devices);
    }
    for (const { diagnosis } of [...sound, ...faulty].filter((one) => !doubtful.includes(one)))
      expect(diagnosis.doubt).toBeUndefined();
  });
});

describe("A single fault on a sheet where nothing is odd", () => {
  const plain = Array.from({ length: 60 }, (_, at) => {
    const odd = oddSheet("nothing", 90_001 + 13 * at, false);
    return { ...odd, diagnosis: diagnosed(odd.site, odd.sheet) };
  });

  it("is found at once in 70 % of those that more than one reading shows, and named first in 95 % of all", () => {
    // The solar meter sees the sun in one step only: what is wrong with it waits for a second reading.
    const shownTwice = plain.filter(({ truth }) => truth.every(({ meter }) => meter === "m1"));
    const isFound = (one: Tried) => one.diagnosis.verdict === "faults-found" && namesTruth(one);
    expect(share(shownTwice, isFound)).toBeGreaterThanOrEqual(0.7);
    expect(share(plain, namesTruth)).toBeGreaterThanOrEqual(0.95);
  });

  it("is found once the step in doubt was read a second time", () => {
    const waiting = plain.filter(({ diagnosis }) => diagnosis.verdict === "reading-doubtful");
    expect(waiting.length).toBeGreaterThan(0);
    for (const { site, sheet, again, diagnosis, truth, ...rest } of waiting) {
      const steps = [...sheet.steps, again[diagnosis.doubt!.step]!];
      const after = diagnosed(site, { ...sheet, steps });
      expect(after.verdict).not.toBe("reading-doubtful");
      expect(namesTruth({ ...rest, site, sheet, again, truth, diagnosis: after })).toBe(true);
    }
  });
});

/** Whether the best explanation, or one that reads the same, is what was done to the site. */
function namesTruth(one: Tried): boolean {
  return names(one, 0, one.truth);
}
