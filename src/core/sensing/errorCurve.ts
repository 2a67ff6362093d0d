import { classRange, powerErrorPct } from "@/core/sensing/ctAccuracy";
import type { CtClass } from "@/core/site/planSchema";

/** The error at one current, % and W. */
export interface ErrorPoint {
  readonly currentA: number;
  readonly errorPct: number;
  readonly errorW: number;
}

/** What an error curve is asked of: class, primary in A, supply. */
export interface ErrorQuestion {
  readonly ctClass: CtClass;
  readonly primaryA: number;
  readonly meterClassPct: number;
  readonly powerFactor: number;
  readonly voltageV: number;
}

const POINTS = 48;

/**
 * The worst error of a power reading over the whole range that the class covers, evenly in the logarithm of the
 * current, with the points of the class among them.
 *
 * @example errorCurve({ ctClass: "1", primaryA: 100, meterClassPct: 1, powerFactor: 1, voltageV: 230 })[0] // {
 * currentA: 5, errorPct: 4.137, errorW: 47.576 }
 */
export function errorCurve(question: ErrorQuestion): readonly ErrorPoint[] {
  const { lowestPct, highestPct } = classRange(question.ctClass);
  const ratio = highestPct / lowestPct;
  const currents = Array.from(
    { length: POINTS },
    (_, at) => (question.primaryA / 100) * lowestPct * ratio ** (at / (POINTS - 1)),
  );
  return currents.flatMap((currentA) => errorAt(question, currentA) ?? []);
}

/** The worst error at one current; undefined where the class promises nothing. */
export function errorAt(
  { ctClass, primaryA, meterClassPct, powerFactor, voltageV }: ErrorQuestion,
  currentA: number,
): ErrorPoint | undefined {
  const errorPct = powerErrorPct({ ctClass, currentPct: (100 * currentA) / primaryA, meterClassPct, powerFactor });
  if (errorPct === undefined) return undefined;
  return { currentA, errorPct, errorW: (errorPct / 100) * voltageV * currentA * Math.abs(powerFactor) };
}
