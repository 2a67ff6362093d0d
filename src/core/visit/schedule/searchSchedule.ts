import { seededUniform } from "@/core/random";
import type { Slices } from "@/core/slices";
import { ScheduleDecoder } from "@/core/visit/schedule/decodeSchedule";
import type { HeadsAndTails } from "@/core/visit/schedule/scheduleBound";
import type { ScheduleProblem } from "@/core/visit/schedule/scheduleProblem";

/** The best order that was found, and its time in min. */
export interface Found {
  readonly makespanMin: number;
  readonly lateMin: number;
  readonly startMin: Float64Array;
  readonly technician: Int32Array;
  /** Everybody who takes part in a step, a bit each. */
  readonly crew: Int32Array;
}

/** A missed window outweighs any time. */
const LATE_WEIGHT = 1000;
const BEHIND_WEIGHT = 1;
/** What keeping the given order may cost at most, min. */
const ORDER_MIN = 0.5;
const CLOSE_MIN = 1e-6;
/** How often several move at once, and how many. */
const BLOCK_SHARE = 0.25;
const LONGEST_BLOCK = 6;
/** Orders times steps between two looks at whether to stop. */
const SLICE = 9_000;
const FIRST_TEMPERATURE_SHARE = 0.004;
/** The part of the orders that is decoded with whoever is at a place staying there; the rest without. */
const STAY_SHARE = 0.4;
const LAST_TEMPERATURE_SHARE = 0.0005;

/**
 * A good schedule: several orders by rule, the best of them improved by simulated annealing over orders, seeded. Ends
 * early at the bound. Gives way after every slice, so that a worker can be told to stop.
 *
 * @param iterations Orders that are tried.
 */
export function* searchSchedule(
  problem: ScheduleProblem,
  { headMin, tailMin }: HeadsAndTails,
  boundMin: number,
  seed: number,
  iterations: number,
): Slices<Found, number> {
  const { count, activeMin, place } = problem;
  const random = seededUniform(seed);
  const decoder = new ScheduleDecoder(problem);
  let best: Found | undefined;
  let bestCost = Infinity;
  const costOf = (wishes: Float64Array, stay = false): number => {
    const makespanMin = decoder.decode(wishes, stay);
    const value = makespanMin + LATE_WEIGHT * decoder.lateMin;
    // Between orders of one length, the one with less behind its due times is nearer to a shorter one.
    let behind = 0;
    // Among plans of one length the one that keeps the order in which the steps were given is the one that people
    // expect.
    let unusual = 0;
    for (let step = 0; step < count; step++) {
      behind += Math.max(0, decoder.startMin[step]! + activeMin[step]! + tailMin[step]! - boundMin);
      unusual += decoder.startMin[step]! * (count - step);
    }
    unusual *= (2 * ORDER_MIN) / (Math.max(1, boundMin) * count * count);
    if (!best || value + unusual < bestCost - CLOSE_MIN) {
      best = {
        makespanMin,
        lateMin: decoder.lateMin,
        startMin: decoder.startMin.slice(),
        technician: decoder.technician.slice(),
        crew: decoder.crew.slice(),
      };
      bestCost = value + unusual;
    }
    return value + unusual + BEHIND_WEIGHT * behind;
  };
  const rules: readonly ((step: number) => number)[] = [
    (step) => -step,
    (step) => tailMin[step]! + activeMin[step]!,
    (step) => tailMin[step]!,
    (step) => -headMin[step]!,
    (step) => tailMin[step]! - headMin[step]!,
    (step) => -1000 * place[step]! + tailMin[step]!,
    (step) => -1000 * headMin[step]! - place[step]!,
  ];
  const starts: { readonly cost: number; readonly startMin: Float64Array }[] = [];
  for (const rule of rules) {
    for (const stay of [false, true]) {
      const cost = costOf(
        Float64Array.from({ length: count }, (_, step) => rule(step)),
        stay,
      );
      starts.push({ cost, startMin: decoder.startMin.slice() });
      yield 0;
    }
  }
  starts.sort((a, b) => a.cost - b.cost);
  // Ranks instead of minutes: a move is then the same step everywhere.
  const order = Array.from({ length: count }, (_, step) => step).toSorted(
    (a, b) => starts[0]!.startMin[a]! - starts[0]!.startMin[b]!,
  );
  const wishes = new Float64Array(count);
  const rank = () =>
    order.forEach((step, at) => {
      wishes[step] = count - at;
    });
  const slice = Math.max(1, Math.floor(SLICE / count));
  // Staying finds plans with few walks at once; without it there are plans that staying cannot say.
  for (const stay of [true, false]) {
    const tries = Math.ceil(iterations * (stay ? STAY_SHARE : 1 - STAY_SHARE));
    const before = stay ? 0 : iterations - tries;
    if (best) order.sort((a, b) => best!.startMin[a]! - best!.startMin[b]!);
    rank();
    let current = costOf(wishes, stay);
    for (let tried = 0; tried < tries && count > 1; tried++) {
      if (best!.lateMin < CLOSE_MIN && best!.makespanMin <= boundMin + CLOSE_MIN) return best!;
      if (tried % slice === slice - 1) yield (before + tried) / iterations;
      const from = Math.floor(random() * count);
      const to =
        random() < 0.5
          ? Math.floor(random() * count)
          : Math.min(count - 1, Math.max(0, from + Math.floor(random() * 9) - 4));
      if (from === to) continue;
      // A few in a row move together: what belongs to one place stays together.
      const many =
        random() < BLOCK_SHARE ? Math.min(2 + Math.floor(random() * LONGEST_BLOCK), count - Math.max(from, to)) : 1;
      if (many < 1) continue;
      order.splice(to, 0, ...order.splice(from, many));
      rank();
      const cost = costOf(wishes, stay);
      const temperature =
        boundMin * FIRST_TEMPERATURE_SHARE * (LAST_TEMPERATURE_SHARE / FIRST_TEMPERATURE_SHARE) ** (tried / tries);
      if (cost <= current || random() < Math.exp((current - cost) / Math.max(CLOSE_MIN, temperature))) {
        current = cost;
        continue;
      }
      order.splice(from, 0, ...order.splice(to, many));
    }
  }
  return best!;
}
