import type { ExportLimitRequest } from "@/core/simulation/exportLimitSchema";

type Loop = Pick<ExportLimitRequest, "inverters" | "meter" | "controller">;

/** Finer than any time constant that is tried, s. */
const STEP_S = 0.001;

/**
 * The linear loop of an export limit on the sum, the plain way: no end, no ramp, no dead band, every reading as old as
 * it can be, its history looked up step by step. How much of a swing is left after so many seconds, against what there
 * was so long before: below 1 it dies out, above it grows.
 */
export function swingGrowth({ inverters, meter, controller }: Loop, gainPerS: number, seconds: number): number {
  const rated = inverters.reduce((sum, { ratedW }) => sum + ratedW, 0);
  const stepsOf = (ms: number) => Math.round(ms / 1000 / STEP_S);
  const oldest = stepsOf(meter.samplePeriodMs + meter.delayMs);
  const period = stepsOf(controller.periodMs);
  const count = Math.round(seconds / STEP_S);
  const outputs = inverters.map(() => 0);
  const grid: number[] = [];
  const commands: number[] = [];
  let allowed = 1;
  for (let step = 0; step < count; step++) {
    if (step % period === 0)
      allowed -= ((gainPerS * controller.periodMs) / 1000) * (grid[step - oldest] ?? 0) * (1 + meter.errorPct / 100);
    commands.push(allowed);
    let made = 0;
    inverters.forEach(({ deadTimeMs, tauMs, ratedW }, which) => {
      const heard = commands[step - stepsOf(deadTimeMs)] ?? 0;
      const share = tauMs <= 0 ? 1 : 1 - Math.exp((-1000 * STEP_S) / tauMs);
      outputs[which] = outputs[which]! + share * (heard - outputs[which]!);
      made += (outputs[which]! * ratedW) / rated;
    });
    grid.push(made);
  }
  const largest = (from: number, to: number) =>
    grid
      .slice(Math.round(from * count), Math.round(to * count))
      .reduce((most, watt) => Math.max(most, Math.abs(watt)), 0);
  return largest(2 / 3, 1) / largest(1 / 3, 2 / 3);
}

/** The gain at which a swing neither dies out nor grows, 1/s. */
export function plainEdge(loop: Loop): number {
  let [dies, grows] = [0, 50];
  for (let halving = 0; halving < 14; halving++) {
    const middle = (dies + grows) / 2;
    if (swingGrowth(loop, middle, 90) < 1) dies = middle;
    else grows = middle;
  }
  return dies;
}
