/** One character: a set, an escaped one, any, or itself; with how often it stands, where that is said. */
const PART = /(?:\[(?:\\.|[^\]\\])+\]|\\[dDwW.*+?()[\]{}|^$\\/-]|[^\\[\](){}*+?|^$])(\{\d{1,2}(?:,\d{0,2})?\}|[*+?])?/y;
/** Each part of varying length multiplies the ways of trying a text; with one they are its characters squared. */
const MOST_VARYING = 1;

/**
 * Whether a pattern of a serial number is held against any text in no time: characters one after the other, at most one
 * of them any number of times; no groups, no choices. A kit is somebody's file: a pattern that goes round in itself
 * would hold up whoever opens a job with it.
 *
 * @example isQuickPattern("^GKF[0-9]{7}$") // true
 * @example isQuickPattern("^(A+)+$") // false
 */
export function isQuickPattern(pattern: string): boolean {
  const end = pattern.endsWith("$") && !pattern.endsWith("\\$") ? pattern.length - 1 : pattern.length;
  let varying = 0;
  PART.lastIndex = pattern.startsWith("^") ? 1 : 0;
  while (PART.lastIndex < end) {
    const part = PART.exec(pattern);
    if (part === null) return false;
    if (part[1] !== undefined && !/^\{\d+\}$/.test(part[1])) varying++;
  }
  return varying <= MOST_VARYING;
}
