/** A complex number: a phasor (RMS volts or amperes) or a complex power (W + j var). */
export interface Complex {
  readonly re: number;
  readonly im: number;
}

/** Nothing. */
export const ZERO: Complex = { re: 0, im: 0 };

/** Sum of two phasors. */
export function add(a: Complex, b: Complex): Complex {
  return { re: a.re + b.re, im: a.im + b.im };
}

/** Difference of two phasors. */
export function subtract(a: Complex, b: Complex): Complex {
  return { re: a.re - b.re, im: a.im - b.im };
}

/** Product of two phasors. */
export function multiply(a: Complex, b: Complex): Complex {
  return { re: a.re * b.re - a.im * b.im, im: a.re * b.im + a.im * b.re };
}

/** a ÷ b; b is never zero. */
export function divide(a: Complex, b: Complex): Complex {
  const size = b.re * b.re + b.im * b.im;
  return { re: (a.re * b.re + a.im * b.im) / size, im: (a.im * b.re - a.re * b.im) / size };
}

/** A phasor times a number. */
export function scale(a: Complex, factor: number): Complex {
  return { re: a.re * factor, im: a.im * factor };
}

/** A phasor turned the other way. */
export function conjugate(a: Complex): Complex {
  return { re: a.re, im: -a.im };
}

/** The size of a phasor. */
export function magnitude(a: Complex): number {
  return Math.hypot(a.re, a.im);
}
