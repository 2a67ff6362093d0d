/** Rated primary currents that split-core and solid-core CTs are usually sold with, A, ascending. */
export const STANDARD_PRIMARIES_A = [
  25, 40, 50, 60, 75, 80, 100, 120, 150, 200, 250, 300, 400, 500, 600, 800, 1000,
] as const;
