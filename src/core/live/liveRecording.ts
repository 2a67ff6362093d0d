import type { Recording } from "@/core/control/stepTest";
import type { Phase } from "@/core/phase";
import { readingTowardLoadW } from "@/core/site/flowWords";
import type { Meter } from "@/core/site/planSchema";

/** One power of an input, and when it was read. */
export interface InputSample {
  readonly input: number;
  readonly powerW: number;
  readonly atMs: number;
}

const MS_PER_S = 1000;

/**
 * The export at a meter over time, of what was read of its inputs: the sum when every input was read again, and each
 * phase by itself. Readings of one round belong together; a round with a gap in it is left out.
 *
 * For example: one input positive toward the loads reading −1500 W: export 1500 W.
 *
 * @param samples Oldest first.
 */
export function liveRecording(meter: Meter, samples: readonly InputSample[], beganMs: number): Recording {
  const tS: number[] = [];
  const exportW: number[] = [];
  const phases = meter.inputs.map((input) => input.measures.find(({ conductor }) => conductor !== "N")?.conductor);
  const perInput = meter.inputs.map((): number[] => []);
  let round = new Map<number, number>();
  for (const { input, powerW, atMs } of samples) {
    const at = meter.inputs.findIndex(({ n }) => n === input);
    if (at < 0 || atMs < beganMs) continue;
    if (round.has(at)) round = new Map();
    round.set(at, -readingTowardLoadW(meter.inputs[at]!.positive, powerW));
    if (round.size < meter.inputs.length) continue;
    tS.push((atMs - beganMs) / MS_PER_S);
    exportW.push([...round.values()].reduce((sum, own) => sum + own, 0));
    round.forEach((own, which) => perInput[which]!.push(own));
    round = new Map();
  }
  const phaseW = Object.fromEntries(
    phases.flatMap((phase, at) => (phase === undefined || phase === "N" ? [] : [[phase as Phase, perInput[at]!]])),
  );
  return meter.inputs.length > 1 && Object.keys(phaseW).length === meter.inputs.length
    ? { tS, exportW, phaseW }
    : { tS, exportW };
}

/**
 * Where nothing was read for more than three usual rounds, s: from and to.
 *
 * For example: readings at 0, 1, 2, 9, 10 s: [[2, 9]].
 */
export function recordingGaps(tS: readonly number[]): readonly (readonly [number, number])[] {
  const steps = tS.slice(1).map((t, at) => t - tS[at]!);
  const usual = steps.toSorted((a, b) => a - b)[Math.floor(steps.length / 2)] ?? 0;
  return steps.flatMap((step, at) =>
    step > MOST_ROUNDS * usual + LEAST_GAP_S ? [[tS[at]!, tS[at + 1]!] as const] : [],
  );
}

const MOST_ROUNDS = 3;
const LEAST_GAP_S = 0.5;
