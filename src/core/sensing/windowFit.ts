/** Diameter of the smallest circle round 1, 2, 3 … equal circles of diameter 1. */
const PACKED = [0, 1, 2, 2.155, 2.414, 2.701, 3, 3, 3.304, 3.613, 3.813];

/**
 * The window that conductors need, mm: their smallest enclosing circle, taking all as thick as the thickest. Every
 * further turn brings each of them through once more.
 *
 * @param outersMm Diameter over the insulation of each conductor.
 * @example windowDiameterMm([8, 8], 1) // 16
 */
export function windowDiameterMm(outersMm: readonly number[], turns: number): number {
  const count = outersMm.length * turns;
  const widest = Math.max(0, ...outersMm);
  // Far beyond the table circles fill about four fifths of the area.
  return widest * (PACKED[count] ?? Math.sqrt(count / 0.8));
}
