import { describe, expect, it } from "vitest";
import { repeatStep, setAfter, setReading } from "@/core/flows/editSheet";
import { asksSunAfter, atMeanMoments, momentSpreadW, readingSpan, readingTurns } from "@/core/flows/moments";
import { predict } from "@/core/flows/predict";
import { diagnose, diagnoseRequestSchema, type Diagnosis } from "@/core/flows/diagnose";
import { testSheetShape, type TestSheet } from "@/core/flows/testSheetSchema";
import { siteSchema } from "@/core/site/siteSchema";

const LEFT_OUT = { arrow: "to-load", positive: "to-load", primaryA: 100, secondary: { value: 50, unit: "mA" } };

/** A house with a grid meter in the hall and a solar meter in the barn, twelve minutes' walk away. */
const site = siteSchema.parse({
  supply: { system: "single-phase", voltageV: 230 },
  places: [
    { id: "hall", name: "Hall" },
    { id: "barn", name: "Barn" },
  ],
  ways: [{ from: "hall", to: "barn", walkMin: 12 }],
  nodes: [
    { id: "grid", kind: "grid", name: "Supply" },
    { id: "board", kind: "board", name: "Board", fedFrom: "grid", phases: ["L1"], place: "hall" },
    { id: "pv", kind: "pv-inverter", name: "Barn roof", fedFrom: "board", phases: ["L1"], ratedW: 5000, place: "barn" },
    { id: "house", kind: "load", name: "House", fedFrom: "board", phases: ["L1"] },
  ],
  meters: [
    {
      id: "gm",
      name: "Grid meter",
      place: "hall",
      taps: { V1: "L1" },
      inputs: [{ ...LEFT_OUT, n: 1, tap: "V1", measures: [{ run: "board", conductor: "L1" }] }],
    },
    {
      id: "sm",
      name: "Solar meter",
      place: "barn",
      taps: { V1: "L1" },
      inputs: [{ ...LEFT_OUT, n: 1, tap: "V1", measures: [{ run: "pv", conductor: "L1" }] }],
    },
  ],
});

/** The sun falls from 3600 to 2400 W while somebody walks from the barn to the hall; the house draws 500 W. */
function walkedSheet(afterW?: number): TestSheet {
  const steps = [
    { label: "Solar off", pvW: [0, 0], known: { powerW: 0, toleranceW: 0 } },
    {
      label: "Sun",
      pvW: [-3600, -2400],
      known: { powerW: -3600, toleranceW: 40, ...(afterW !== undefined && { afterW }) },
    },
  ].map(({ label, pvW, known }) => ({
    label,
    devices: [{ node: "pv", ...known }],
    readings: [
      { meter: "sm", input: 1, powerW: pvW[0]! },
      { meter: "gm", input: 1, powerW: 500 + pvW[1]! },
    ],
  }));
  return testSheetShape.parse({ steps, maxFaults: 2 });
}

describe("readingTurns", () => {
  it("begins and ends at the sun, and takes the nearest meter first", () => {
    expect(readingTurns(site, walkedSheet().steps[1]!)).toEqual([
      { kind: "sun", node: "pv", when: "before" },
      { kind: "meter", meter: "sm" },
      { kind: "meter", meter: "gm" },
      { kind: "sun", node: "pv", when: "after" },
    ]);
  });

  it("needs no sun where nothing runs by it", () => {
    expect(readingTurns(site, walkedSheet().steps[0]!).map(({ kind }) => kind)).toEqual(["meter", "meter"]);
    expect(asksSunAfter(site, walkedSheet().steps[0]!)).toBe(false);
  });

  it("asks for the sun again where the meters hang apart, or where one took its time", () => {
    expect(asksSunAfter(site, walkedSheet().steps[1]!)).toBe(true);
    const near = { ...site, meters: site.meters.map((meter) => ({ ...meter, place: "hall" })) };
    expect(asksSunAfter(near, walkedSheet().steps[1]!)).toBe(false);
    const typed = (readAt: string, sheet: TestSheet, meter: string) =>
      setReading(sheet, 1, { meter, input: 1 }, -1900, readAt);
    const slow = typed("2026-06-01T10:05:00.000Z", typed("2026-06-01T10:00:00.000Z", walkedSheet(), "sm"), "gm");
    expect(readingSpan(near, slow.steps[1]!)).toEqual({ seconds: 300, isLong: true });
    expect(asksSunAfter(near, slow.steps[1]!)).toBe(true);
  });
});

describe("a sun that was read before and after", () => {
  it("is at its mean, as much wider as it went", () => {
    const [, step] = atMeanMoments(walkedSheet(-2400)).steps;
    expect(step!.devices[0]).toMatchObject({ powerW: -3000 });
    expect(step!.devices[0]!.toleranceW).toBeCloseTo(Math.hypot(40, 1200 / Math.sqrt(12)), 9);
    expect(momentSpreadW(site, walkedSheet(-2400).steps[1]!)).toEqual([600, 600]);
    expect(momentSpreadW(site, walkedSheet().steps[1]!)).toBeUndefined();
  });

  it("never blames a fitting for a cloud, and is sure of the plan once the sun was read again", () => {
    const [once, twice] = [undefined, -2400].map((afterW) => diagnosed(walkedSheet(afterW)));
    expect(once!.verdict).not.toBe("faults-found");
    expect(twice!.hypotheses[0]!.faults).toEqual([]);
    expect(twice!.verdict).not.toBe("reading-doubtful");
  });

  it("tells more where the sun stood still than where nobody looked again", () => {
    const planned = predict(site, "planned", {
      devices: [
        { node: "pv", powerW: -3600, reactiveVar: 0 },
        { node: "house", powerW: 500, reactiveVar: 0 },
      ],
    });
    const still = (afterW?: number) => {
      const sheet = walkedSheet(afterW);
      const readings = planned.inputs.map(({ meter, input, powerW }) => ({
        meter,
        input,
        powerW: (meter === "sm" ? 1.15 : 1) * powerW,
      }));
      return diagnosed({ ...sheet, steps: [sheet.steps[0]!, { ...sheet.steps[1]!, readings }] });
    };
    const asPlanned = [still(), still(-3600)].map(
      ({ hypotheses }) => hypotheses.find(({ faults }) => faults.length === 0)?.probability ?? 0,
    );
    expect(asPlanned[1]).toBeLessThan(asPlanned[0]!);
  });

  it("is read anew when the step is repeated", () => {
    const repeated = repeatStep(setAfter(walkedSheet(), 1, "pv", -3000), 1, "again");
    expect(repeated.steps[1]!.devices[0]).toHaveProperty("afterW", -3000);
    expect(repeated.steps[2]!.devices[0]).not.toHaveProperty("afterW");
    expect(setAfter(repeated, 1, "pv", undefined).steps[1]!.devices[0]).not.toHaveProperty("afterW");
  });

  it("is refused for a power given by phases, with where it stands", () => {
    const sheet = walkedSheet(-2400);
    const steps = sheet.steps.map((step) => ({
      ...step,
      devices: step.devices.map((device) => ({ ...device, perPhase: { L1: { powerW: -3000 } } })),
    }));
    const parsed = diagnoseRequestSchema.safeParse({ site, ...sheet, steps });
    expect(parsed.error?.issues[0]?.path).toEqual(["steps", 1, "devices", 0, "afterW"]);
  });
});

function diagnosed(sheet: TestSheet): Diagnosis {
  const outcome = diagnose(site, sheet);
  if (outcome.kind !== "diagnosed") throw new Error(outcome.kind);
  return outcome.diagnosis;
}
