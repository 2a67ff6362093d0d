const PRIMES = [2, 3, 5, 7, 11, 13, 17, 19, 23, 29, 31, 37, 41, 43, 47, 53, 59, 61, 67, 71, 73, 79, 83, 89, 97, 101];

/**
 * Fixed points spread like independent standard normals: a Kronecker sequence (fractional parts of k·√prime)
 * through the Box–Muller transform, each point with its mirror image so that odd moments vanish.
 *
 * @returns `count` points (even) of `dimensions` numbers.
 * @example normalPoints(32, 1).reduce((sum, [x]) => sum + x, 0) // 0
 */
export function normalPoints(count: number, dimensions: number): readonly Float64Array[] {
  const points: Float64Array[] = [];
  for (let k = 1; points.length < count; k++) {
    const point = new Float64Array(dimensions);
    for (let at = 0; at < dimensions; at += 2) {
      const radius = Math.sqrt(-2 * Math.log(spread(k, at)));
      const angle = 2 * Math.PI * spread(k, at + 1);
      point[at] = radius * Math.cos(angle);
      if (at + 1 < dimensions) point[at + 1] = radius * Math.sin(angle);
    }
    points.push(
      point,
      point.map((value) => -value),
    );
  }
  return points;
}

function spread(k: number, dimension: number): number {
  // Beyond the table the primes repeat, shifted, so that no two dimensions run in step.
  const prime = PRIMES[dimension % PRIMES.length]!;
  const turn = Math.floor(dimension / PRIMES.length);
  const value = (k + 0.5) * Math.sqrt(prime) * (1 + turn * Math.SQRT2);
  return Math.max(value - Math.floor(value), 1e-12);
}
