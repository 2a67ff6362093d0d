import type { CtClass } from "@/core/site/planSchema";

/** Where a class says anything: from its lowest to its highest point, % of the rated primary current. */
export interface ClassRange {
  readonly lowestPct: number;
  readonly highestPct: number;
}

/** What a class promises at one current. */
export type CtError =
  | { readonly kind: "promised"; readonly ratioErrorPct: number; readonly displacementMin: number | undefined }
  | { readonly kind: "nothing-promised"; readonly lowestPct: number; readonly highestPct: number };

interface ClassPoint {
  readonly currentPct: number;
  readonly ratioErrorPct: number;
  /** Undefined where the class sets no limit. */
  readonly displacementMin: number | undefined;
}

const point = (currentPct: number, ratioErrorPct: number, displacementMin?: number): ClassPoint => ({
  currentPct,
  ratioErrorPct,
  displacementMin,
});

/** IEC 61869-2: limits of ratio error and phase displacement of measuring CTs. */
const CLASS_POINTS: Readonly<Record<CtClass, readonly ClassPoint[]>> = {
  "0.2": [point(5, 0.75, 30), point(20, 0.35, 15), point(100, 0.2, 10), point(120, 0.2, 10)],
  "0.5": [point(5, 1.5, 90), point(20, 0.75, 45), point(100, 0.5, 30), point(120, 0.5, 30)],
  "1": [point(5, 3, 180), point(20, 1.5, 90), point(100, 1, 60), point(120, 1, 60)],
  "0.2S": [point(1, 0.75, 30), point(5, 0.35, 15), point(20, 0.2, 10), point(100, 0.2, 10), point(120, 0.2, 10)],
  "0.5S": [point(1, 1.5, 90), point(5, 0.75, 45), point(20, 0.5, 30), point(100, 0.5, 30), point(120, 0.5, 30)],
  "3": [point(50, 3), point(120, 3)],
};

/** Minutes of arc in a radian. */
const MINUTES_PER_RADIAN = (60 * 180) / Math.PI;
/** A current that is a point of the table but for rounding belongs to it. */
const AT_POINT = 1e-9;

/** @example classRange("0.5S") // { lowestPct: 1, highestPct: 120 } */
export function classRange(ctClass: CtClass): ClassRange {
  const points = CLASS_POINTS[ctClass];
  return { lowestPct: points[0]!.currentPct, highestPct: points.at(-1)!.currentPct };
}

/**
 * The largest ratio error (%) and phase displacement (minutes of arc) that a CT of this class may have at a
 * current, in % of its rated primary; linear between the points of IEC 61869-2. Outside the points the class
 * promises nothing. Class 3 limits no displacement.
 *
 * @example ctErrorAt("1", 12.5) // { kind: "promised", ratioErrorPct: 2.25, displacementMin: 135 }
 * @example ctErrorAt("1", 3).kind // "nothing-promised"
 */
export function ctErrorAt(ctClass: CtClass, currentPct: number): CtError {
  const points = CLASS_POINTS[ctClass];
  const { lowestPct, highestPct } = classRange(ctClass);
  if (currentPct < lowestPct * (1 - AT_POINT) || currentPct > highestPct * (1 + AT_POINT))
    return { kind: "nothing-promised", lowestPct, highestPct };
  const above = Math.max(
    1,
    points.findIndex((candidate) => candidate.currentPct >= currentPct),
  );
  // Beyond the last point by rounding alone, none is found above: the last stretch is meant.
  const upper = points[above] ?? points.at(-1)!;
  const lower = points[points.indexOf(upper) - 1]!;
  const share = Math.min(1, Math.max(0, (currentPct - lower.currentPct) / (upper.currentPct - lower.currentPct)));
  const between = (from: number, to: number) => from + share * (to - from);
  return {
    kind: "promised",
    ratioErrorPct: between(lower.ratioErrorPct, upper.ratioErrorPct),
    displacementMin:
      lower.displacementMin === undefined || upper.displacementMin === undefined
        ? undefined
        : between(lower.displacementMin, upper.displacementMin),
  };
}

/**
 * What a phase displacement does to a power reading at worst, % of the power:
 * 100 · (1 − cos(φ + δ) / cos φ), φ the angle of the load (cos φ = power factor), δ the displacement.
 * The sign of δ is unknown; φ + δ is never the milder case.
 *
 * @param powerFactor From −1 to 1 without 0; its sign is the direction and does not matter here.
 * @example displacementEffectPct(60, 0.8) // 1.324: 60 minutes at cos φ 0.8
 */
export function displacementEffectPct(displacementMin: number, powerFactor: number): number {
  const phi = Math.acos(Math.min(1, Math.abs(powerFactor)));
  const delta = displacementMin / MINUTES_PER_RADIAN;
  return 100 * (1 - Math.cos(phi + delta) / Math.cos(phi));
}

/**
 * The worst error of one phase's power reading, % of that power: ratio error + effect of the displacement +
 * class of the meter. A class without a displacement limit (3) counts none. Undefined where the class
 * promises nothing.
 *
 * @example powerErrorPct({ ctClass: "1", currentPct: 100, meterClassPct: 1, powerFactor: 1 }) // 2.015
 */
export function powerErrorPct({
  ctClass,
  currentPct,
  meterClassPct,
  powerFactor,
}: {
  readonly ctClass: CtClass;
  readonly currentPct: number;
  readonly meterClassPct: number;
  readonly powerFactor: number;
}): number | undefined {
  const error = ctErrorAt(ctClass, currentPct);
  if (error.kind === "nothing-promised") return undefined;
  return error.ratioErrorPct + displacementEffectPct(error.displacementMin ?? 0, powerFactor) + meterClassPct;
}
