/**
 * A moment as a report has it, in UTC: whoever reads it may be anywhere.
 *
 * @example momentText("2026-05-06T13:40:12.000Z") // "2026-05-06 13:40 UTC"
 */
export function momentText(at: string): string {
  return `${at.slice(0, 10)} ${at.slice(11, 16)} UTC`;
}
