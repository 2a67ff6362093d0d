/**
 * Values in fewer bars of equal width, each the mean of its own: what lies under them stays the same.
 *
 * @param at where each value begins, in equal steps
 * @param most bars, 1 or more
 * @returns `at` and `lines` untouched where there are no more than `most`
 * @example fewerBars([0, 1, 2, 3], [[1, 3, 5, 7]], 2) // { at: [0, 2], lines: [[2, 6]] }
 */
export function fewerBars(
  at: readonly number[],
  lines: readonly (readonly number[])[],
  most: number,
): { readonly at: readonly number[]; readonly lines: readonly (readonly number[])[] } {
  const width = Math.ceil(at.length / most);
  if (width <= 1) return { at, lines };
  const starts = Array.from({ length: Math.ceil(at.length / width) }, (_, bar) => bar * width);
  return {
    at: starts.map((start) => at[start]!),
    lines: lines.map((values) => starts.map((start) => mean(values.slice(start, start + width)))),
  };
}

function mean(values: readonly number[]): number {
  return values.reduce((sum, value) => sum + value, 0) / Math.max(1, values.length);
}
