/** Below this no cable resists; an ideal joint would have no place in the equations, Ω. */
const LEAST_OHM = 0.001;
/** What two cores that touch resist, Ω. */
const TOUCH_OHM = 0.01;
/** Everything leaks a little to ground, so that nothing floats, Ω. */
const LEAK_OHM = 1e9;
/** Two cores a device: a core meets its own pair and the next, exchanged or not. */
const BAND = 3;

/** A device on a line, as resistors. */
export interface LinePoint {
  /** Between its two terminals: inputs and terminators side by side, Ω. */
  readonly acrossOhm: number;
  readonly bias: { readonly upOhm: number; readonly downOhm: number } | undefined;
}

/** What is between two devices. */
export interface LineSegment {
  /** Of one conductor, Ω. */
  readonly ohm: number;
  readonly isOpen?: boolean;
  readonly isExchanged?: boolean;
}

/** A two-core line: one segment fewer than points. */
export interface Line {
  readonly points: readonly LinePoint[];
  readonly segments: readonly LineSegment[];
  /** Where the cores touch: 2 is at the third device, 1.5 halfway between the second and the third. */
  readonly shorts?: readonly number[];
  /** The core that touches ground at the first device. */
  readonly grounded?: readonly ("plus" | "minus")[];
}

/** What the upper ends of the bias resistors are joined to. */
export type Rail = { readonly kind: "powered"; readonly vccV: number } | { readonly kind: "open" | "grounded" };

/** A resistor network with what flows into it. */
interface Network {
  readonly nodes: number;
  readonly band: Float64Array;
  readonly currentA: Float64Array;
}

/**
 * Both cores at every device against ground, V, with supplies on and nobody driving: Kirchhoff's current law at every
 * core of every device, G·v = i, with each bias network where it is and the cable between.
 *
 * For example: 560/560 Ω at 5 V, 120 Ω at both ends of 1 km of 84 Ω: 352 mV at the near end, 146 mV at the far one.
 */
export function idleLevels(line: Line, vccV: number): readonly { readonly plusV: number; readonly minusV: number }[] {
  const { network, at } = networkOf(line, { kind: "powered", vccV });
  factorInPlace(network);
  const volts = solveFor(network, network.currentA);
  return line.points.map((_, which) => ({ plusV: volts[2 * at(which)]!, minusV: volts[2 * at(which) + 1]! }));
}

/**
 * Between the two cores at each of some devices with every supply off, Ω: what a test current of 1 A drops there. A
 * dead supply leaves the upper ends of the bias resistors open, or on ground: the truth is between the two.
 */
export function resistancesAt(line: Line, where: readonly number[], rail: "open" | "grounded"): readonly number[] {
  const { network, at } = networkOf(line, { kind: rail });
  factorInPlace(network);
  return where.map((which) => {
    const [plus, minus] = [2 * at(which), 2 * at(which) + 1];
    const currentA = new Float64Array(network.nodes);
    currentA[plus] = 1;
    currentA[minus] = -1;
    const volts = solveFor(network, currentA);
    return volts[plus]! - volts[minus]!;
  });
}

/** The line as conductances; a short in the middle of a segment is a point of its own. */
function networkOf(
  { points, segments, shorts = [], grounded = [] }: Line,
  rail: Rail,
): { readonly network: Network; readonly at: (which: number) => number } {
  const inner = new Set(shorts.filter((place) => !Number.isInteger(place)));
  const places = inner.size === 0 ? [...points.keys()] : [...points.keys(), ...inner].toSorted((a, b) => a - b);
  const at = (place: number) => (inner.size === 0 ? place : places.indexOf(place));
  const nodes = 2 * places.length;
  const network: Network = {
    nodes,
    band: new Float64Array(nodes * (BAND + 1)),
    currentA: new Float64Array(nodes),
  };
  for (let node = 0; node < nodes; node++) toGround(network, node, LEAK_OHM);
  for (const [which, point] of points.entries()) {
    const plus = 2 * at(which);
    between(network, plus, plus + 1, point.acrossOhm);
    if (!point.bias) continue;
    toGround(network, plus + 1, point.bias.downOhm);
    if (rail.kind === "open") continue;
    toGround(network, plus, point.bias.upOhm);
    if (rail.kind === "powered") network.currentA[plus]! += rail.vccV / point.bias.upOhm;
  }
  for (const place of shorts) {
    const plus = 2 * at(place);
    between(network, plus, plus + 1, TOUCH_OHM);
  }
  for (const core of grounded) toGround(network, core === "plus" ? 0 : 1, TOUCH_OHM);
  places.slice(1).forEach((place, before) => {
    const from = places[before]!;
    // An exchange is at the device's own terminals, an open core in front of them.
    const { ohm, isOpen, isExchanged } = segments[Math.ceil(place) - 1]!;
    const isLast = Number.isInteger(place);
    const own = Math.max(LEAST_OHM, ohm * (place - from));
    const [plus, minus] = isLast && isExchanged ? [2 * before + 3, 2 * before + 2] : [2 * before + 2, 2 * before + 3];
    if (!(isLast && isOpen)) between(network, 2 * before, plus, own);
    between(network, 2 * before + 1, minus, own);
  });
  return { network, at };
}

function toGround({ band }: Network, node: number, ohm: number): void {
  band[node * (BAND + 1) + BAND]! += 1 / ohm;
}

function between(network: Network, a: number, b: number, ohm: number): void {
  toGround(network, a, ohm);
  toGround(network, b, ohm);
  const [low, high] = [Math.min(a, b), Math.max(a, b)];
  network.band[high * (BAND + 1) + BAND - (high - low)]! -= 1 / ohm;
}

/** Banded Cholesky: each row holds its BAND neighbours below and itself. */
function factorInPlace({ nodes, band }: Network): void {
  const row = BAND + 1;
  for (let i = 0; i < nodes; i++) {
    const first = Math.max(0, i - BAND);
    for (let j = first; j <= i; j++) {
      let sum = band[i * row + BAND - (i - j)]!;
      for (let k = Math.max(first, j - BAND); k < j; k++)
        sum -= band[i * row + BAND - (i - k)]! * band[j * row + BAND - (j - k)]!;
      band[i * row + BAND - (i - j)] = j < i ? sum / band[j * row + BAND]! : Math.sqrt(sum);
    }
  }
}

/** Voltages for what flows in, from a network that is factored. */
function solveFor({ nodes, band }: Network, currentA: Float64Array): Float64Array {
  const row = BAND + 1;
  const volts = currentA.slice();
  for (let i = 0; i < nodes; i++) {
    let left = volts[i]!;
    for (let k = Math.max(0, i - BAND); k < i; k++) left -= band[i * row + BAND - (i - k)]! * volts[k]!;
    volts[i] = left / band[i * row + BAND]!;
  }
  for (let i = nodes - 1; i >= 0; i--) {
    let left = volts[i]!;
    for (let k = i + 1; k <= Math.min(nodes - 1, i + BAND); k++) left -= band[k * row + BAND - (k - i)]! * volts[k]!;
    volts[i] = left / band[i * row + BAND]!;
  }
  return volts;
}
