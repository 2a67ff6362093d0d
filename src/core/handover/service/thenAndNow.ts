import { expectedReadings, type ExpectedReading } from "@/core/flows/expectedReadings";
import { freshSheet } from "@/core/flows/staleReadings";
import type { TestSheet, TestStep } from "@/core/flows/testSheetSchema";
import type { JobDocument } from "@/core/job/jobDocument";
import { inputTag } from "@/core/site/inputTag";
import type { Site } from "@/core/site/planSchema";

/** One input in one step, as it was read at the hand over and as it is read now. */
export interface ThenAndNow {
  readonly step: string;
  readonly tag: string;
  readonly meter: string;
  readonly input: number;
  readonly thenW: number;
  readonly thenExpectedW: number;
  readonly nowW: number;
  readonly nowExpectedW: number;
  readonly kind: ThenKind;
}

/** How a reading stands beside the one of then. */
export type ThenKind = "as-then" | "right-now" | "wrong-as-then" | "turned-since" | "other-since";

/** What each means, in words. */
export const THEN_WORDS: Readonly<Record<ThenKind, string>> = {
  "as-then": "as expected, then and now",
  "right-now": "as expected now, and was not",
  "wrong-as-then": "not as expected, then neither",
  "turned-since": "other direction since",
  "other-since": "not as expected since",
};

interface Judged {
  readonly powerW: number;
  readonly expected: ExpectedReading;
}

/** Nearer than this share, or than the band, to what it should be but for its sign: it is turned. */
const TURNED_WITHIN = 0.25;

/**
 * What is read now beside what was read at a hand over, for each input in the same step, in the order of now. Two are
 * of the same step by its id, else by its name. Powers differ from day to day, so each is held against what was
 * expected on its day.
 *
 * For example: 2.1 kW importing at the hand over and -2.0 kW now, with 2.0 kW expected: `turned-since`.
 */
export function thenAndNow(then: JobDocument, now: JobDocument): readonly ThenAndNow[] {
  const [before, after] = [judged(then), judged(now)];
  return after.flatMap(({ step, readings }) => {
    const old =
      before.find((own) => own.step.id !== undefined && own.step.id === step.id) ??
      before.find((own) => own.step.label === step.label);
    if (!old) return [];
    return readings.flatMap(({ meter, input, own }): ThenAndNow[] => {
      const was = old.readings.find((one) => one.meter === meter && one.input === input);
      return was
        ? [
            {
              step: step.label,
              tag: inputTag(now.site, meter, input),
              meter,
              input,
              thenW: was.own.powerW,
              thenExpectedW: was.own.expected.meanW,
              nowW: own.powerW,
              nowExpectedW: own.expected.meanW,
              kind: kindOf(was.own, own),
            },
          ]
        : [];
    });
  });
}

function kindOf(then: Judged, now: Judged): ThenKind {
  const [wasRight, isRight] = [isInside(then), isInside(now)];
  if (isRight) return wasRight ? "as-then" : "right-now";
  if (!wasRight) return "wrong-as-then";
  const { meanW, bandW } = now.expected;
  const nearW = Math.max(bandW, TURNED_WITHIN * Math.abs(meanW));
  return Math.abs(now.powerW + meanW) <= nearW ? "turned-since" : "other-since";
}

function isInside({ powerW, expected }: Judged): boolean {
  return Math.abs(powerW - expected.meanW) <= expected.bandW;
}

function judged({ site, tests }: { readonly site: Site; readonly tests: TestSheet }) {
  const sheet = freshSheet(site, tests);
  const expected = expectedReadings(site, sheet, undefined);
  return sheet.steps.map((step: TestStep, at) => ({
    step,
    readings: step.readings.flatMap(({ meter, input, powerW }) => {
      const own = expected[at]?.find((one) => one.meter === meter && one.input === input);
      return own ? [{ meter, input, own: { powerW, expected: own } }] : [];
    }),
  }));
}
