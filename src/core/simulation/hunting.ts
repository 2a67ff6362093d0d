/** A controller that holds the grid at its set-point by steps of its power. */
export interface Integrator {
  readonly name: string;
  /** Import that it is content with, W. */
  readonly setPointW: number;
  /** How fast it takes up a difference, 1/s. */
  readonly gainPerS: number;
  readonly periodS: number;
  /** Age of what it acts on. */
  readonly delayS: number;
  readonly leastW: number;
  readonly mostW: number;
}

/** Grid and both actors over time, W, and whether they hunt. */
export interface HuntTrace {
  readonly tS: readonly number[];
  readonly gridW: readonly number[];
  readonly aW: readonly number[];
  readonly bW: readonly number[];
  readonly isHunting: boolean;
  /** Power that one gives and the other takes at the end, W. */
  readonly exchangedW: number;
}

const STEP_S = 0.1;
const TRACE_S = 180;
const TAIL_S = 40;
const SWING_W = 80;
const EXCHANGE_W = 100;
const LAG_S = 0.4;
const GAPS_W = [0, 50, 100, 150, 200] as const;
const SLOWER = [1, 2, 4, 8] as const;

/**
 * Two integrators on one grid CT after the surplus changes: whether they hunt, and whether one ends up feeding the
 * other.
 *
 * For example: Two of the same speed and set-point share without end: they drift, and a battery can feed a heater.
 *
 * @param surplusW Before and after a third of the time.
 */
export function simulateHunt(a: Integrator, b: Integrator, surplusW: readonly [number, number]): HuntTrace {
  const steps = Math.round(TRACE_S / STEP_S);
  const grid = new Float64Array(steps);
  const power = [new Float64Array(steps), new Float64Array(steps)];
  const target = [0, 0];
  const output = [0, 0];
  const approach = 1 - Math.exp(-STEP_S / LAG_S);
  for (let step = 0; step < steps; step++) {
    const surplus = step * STEP_S < TRACE_S / 3 ? surplusW[0] : surplusW[1];
    [a, b].forEach((own, which) => {
      const every = Math.max(1, Math.round(own.periodS / STEP_S));
      // Two clocks never start together.
      if ((step + which * Math.floor(every / 3)) % every === 0) {
        const seen = grid[Math.max(0, step - 1 - Math.round(own.delayS / STEP_S))]!;
        target[which] = Math.min(
          own.mostW,
          Math.max(own.leastW, target[which]! + own.gainPerS * own.periodS * (own.setPointW - seen)),
        );
      }
      output[which] = output[which]! + approach * (target[which]! - output[which]!);
      power[which]![step] = output[which]!;
    });
    grid[step] = output[0]! + output[1]! - surplus;
  }
  const from = steps - Math.round(TAIL_S / STEP_S);
  const swing = (values: Float64Array) => Math.max(...values.subarray(from)) - Math.min(...values.subarray(from));
  const mean = (values: Float64Array) => values.subarray(from).reduce((sum, value) => sum + value, 0) / (steps - from);
  const [meanA, meanB] = [mean(power[0]!), mean(power[1]!)];
  const every = 5;
  const thin = (values: Float64Array) =>
    Array.from({ length: Math.floor(steps / every) }, (_, at) => Math.round(values[at * every]!));
  return {
    tS: Array.from({ length: Math.floor(steps / every) }, (_, at) => Math.round(at * every * STEP_S * 10) / 10),
    gridW: thin(grid),
    aW: thin(power[0]!),
    bW: thin(power[1]!),
    isHunting: swing(grid) > SWING_W && turns(grid, from) > 3,
    exchangedW: meanA * meanB < 0 ? Math.min(Math.abs(meanA), Math.abs(meanB)) : 0,
  };
}

/** How often values turn round by a tenth of what counts as a swing. */
function turns(values: Float64Array, from: number): number {
  let count = 0,
    direction = 0,
    last = values[from]!;
  for (let at = from; at < values.length; at++) {
    const change = values[at]! - last;
    if (Math.abs(change) < SWING_W / 10) continue;
    if (direction !== 0 && Math.sign(change) !== direction) count++;
    direction = Math.sign(change);
    last = values[at]!;
  }
  return count;
}

/** A set-point and speed that keep two controllers apart. */
export interface Apart {
  readonly setPointW: number;
  readonly gainPerS: number;
}

/**
 * The smallest change to the second controller that keeps the two apart: its set-point so far below the first's, and as
 * slow, that neither hunts nor feeds the other, whether surplus comes or goes. Undefined when none of those tried does.
 *
 * For example: A heater beside a battery at 0 W: content with −50 W, four times slower.
 */
export function settingsApart(first: Integrator, second: Integrator, surplusW: number): Apart | undefined {
  for (const slower of SLOWER)
    for (const gap of GAPS_W) {
      const tried = { ...second, setPointW: first.setPointW - gap, gainPerS: second.gainPerS / slower };
      const runs = [simulateHunt(first, tried, [0, surplusW]), simulateHunt(first, tried, [surplusW, -surplusW / 4])];
      if (runs.every(({ isHunting, exchangedW }) => !isHunting && exchangedW < EXCHANGE_W))
        return { setPointW: tried.setPointW, gainPerS: tried.gainPerS };
    }
  return undefined;
}
