/** A seeded uniform source on [0, 1): the mulberry32 generator (public domain). */
export function seededUniform(seed: number): () => number {
  let state = seed >>> 0;
  return () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let mixed = Math.imul(state ^ (state >>> 15), state | 1);
    mixed ^= mixed + Math.imul(mixed ^ (mixed >>> 7), mixed | 61);
    return ((mixed ^ (mixed >>> 14)) >>> 0) / 2 ** 32;
  };
}

/**
 * A seeded source of independent standard normal numbers (Box–Muller).
 *
 * For example: `seededNormal(1)()` gives the same number every time
 */
export function seededNormal(seed: number): () => number {
  const uniform = seededUniform(seed);
  return () => Math.sqrt(-2 * Math.log(1 - uniform())) * Math.cos(2 * Math.PI * uniform());
}
