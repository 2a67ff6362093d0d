/**
 * Whether an hour is within a stretch of the day that may pass midnight; none where both ends are the same.
 *
 * @example isWithin(1, 22, 6) // true
 */
export function isWithin(hour: number, fromH: number, toH: number): boolean {
  return fromH === toH ? false : fromH < toH ? hour >= fromH && hour < toH : hour >= fromH || hour < toH;
}
