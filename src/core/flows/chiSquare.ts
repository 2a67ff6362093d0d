const MAX_TERMS = 10_000;
const RELATIVE_END = 1e-14;

/**
 * The probability that a chi-square variable with `degrees` degrees of freedom exceeds `value`:
 * Q(k/2, x/2), by the series below k/2 + 1 and the continued fraction above it.
 * Source: Abramowitz and Stegun, Handbook of Mathematical Functions, 6.5.29 and 6.5.31.
 *
 * @example chiSquareSurvival(3.841459, 1) // 0.05
 */
export function chiSquareSurvival(value: number, degrees: number): number {
  if (degrees <= 0 || value <= 0) return 1;
  if (!Number.isFinite(value)) return 0;
  const a = degrees / 2;
  const x = value / 2;
  const scale = Math.exp(a * Math.log(x) - x - logGamma(a));
  return x < a + 1 ? 1 - scale * lowerSeries(a, x) : scale * upperFraction(a, x);
}

function lowerSeries(a: number, x: number): number {
  let term = 1 / a;
  let sum = term;
  for (let n = 1; n < MAX_TERMS && term > sum * RELATIVE_END; n++) {
    term *= x / (a + n);
    sum += term;
  }
  return sum;
}

function upperFraction(a: number, x: number): number {
  // Lentz's method on 1 / (x + 1 − a − 1(1−a) / (x + 3 − a − …)).
  let b = x + 1 - a;
  let c = Number.MAX_VALUE;
  let d = 1 / b;
  let fraction = d;
  for (let n = 1; n < MAX_TERMS; n++) {
    const numerator = -n * (n - a);
    b += 2;
    d = 1 / (numerator * d + b);
    c = b + numerator / c;
    const change = c * d;
    fraction *= change;
    if (Math.abs(change - 1) < RELATIVE_END) break;
  }
  return fraction;
}

/** ln Γ(a) for the whole and half-whole a that degrees of freedom give: by recurrence from Γ(1) and Γ(½) = √π. */
function logGamma(a: number): number {
  let sum = 0;
  let rest = a;
  for (; rest > 1; rest--) sum += Math.log(rest - 1);
  return rest === 1 ? sum : sum + Math.log(Math.PI) / 2;
}
