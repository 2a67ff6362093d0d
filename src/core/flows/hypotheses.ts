import { isInputFault, type CandidateFault } from "@/core/flows/faults";
import { applyFault, applyInputFault, plannedFitting, type SiteFitting } from "@/core/flows/fitting";
import type { HypothesisSet } from "@/core/flows/hypothesisSet";
import { HypothesisStore } from "@/core/flows/hypothesisStore";
import { InputStates } from "@/core/flows/inputStates";
import type { SiteResponses } from "@/core/flows/responses";
import type { Site } from "@/core/site/planSchema";
import type { Slices } from "@/core/slices";

/** How many combinations of up to `maxFaults` of `candidates` faults there are, the empty one included. */
export function combinationCount(candidates: number, maxFaults: number): number {
  let sum = 1;
  let choose = 1;
  for (let size = 1; size <= maxFaults; size++) {
    choose = (choose * (candidates - size + 1)) / size;
    sum += Math.max(0, choose);
  }
  return sum;
}

/**
 * Combine up to `maxFaults` distinct faults in every way that can exist, and merge the combinations whose
 * every input answers alike to every possible device power.
 *
 * Faults that move CTs or taps are applied to whole fittings; they are few. Those of single inputs, the
 * bulk, walk through a table of input states that is filled as they are first met. In slices.
 */
export function* hypothesisSet(
  site: Site,
  candidates: readonly CandidateFault[],
  maxFaults: number,
  responses: SiteResponses,
): Slices<HypothesisSet> {
  const states = new InputStates(site, responses, candidates.length);
  yield;
  const store = new HypothesisStore(states.inputCount, combinationCount(candidates.length, maxFaults));
  yield;
  const moving = candidates.flatMap(({ fault }, at) => (isInputFault(fault) ? [] : [at]));
  const single = candidates.flatMap(({ fault }, at) => {
    return isInputFault(fault)
      ? [{ at, fault, slot: states.slotOf(fault.meter, fault.input), prior: candidates[at]!.prior }]
      : [];
  });
  const chosen: number[] = [];

  const addSingles = (ids: Int32Array, from: number, prior: number) => {
    store.add(ids, states, chosen, prior);
    if (chosen.length === maxFaults) return;
    for (let next = from; next < single.length; next++) withSingle(ids, next, prior);
  };
  const withSingle = (ids: Int32Array, next: number, prior: number) => {
    const { at, fault, slot, prior: faultPrior } = single[next]!;
    const before = ids[slot]!;
    ids[slot] = states.after(before, at, (input) => applyInputFault(input, fault));
    chosen.push(at);
    addSingles(ids, next + 1, prior * faultPrior);
    chosen.pop();
    ids[slot] = before;
  };
  /**
   * The same as `addSingles`, a slice for each first fault: a generator at every depth would cost more than the work.
   */
  function* addSinglesInSlices(ids: Int32Array, prior: number): Slices<void> {
    store.add(ids, states, chosen, prior);
    if (chosen.length === maxFaults) return;
    for (let next = 0; next < single.length; next++) {
      withSingle(ids, next, prior);
      yield;
    }
  }
  function* addMoves(fitting: SiteFitting, from: number, prior: number): Slices<void> {
    yield* addSinglesInSlices(states.idsOf(fitting), prior);
    if (chosen.length === maxFaults) return;
    for (let next = from; next < moving.length; next++) {
      const { fault, prior: faultPrior } = candidates[moving[next]!]!;
      chosen.push(moving[next]!);
      yield* addMoves(applyFault(site, fitting, fault), next + 1, prior * faultPrior);
      chosen.pop();
    }
  }
  yield* addMoves(plannedFitting(site), 0, 1);
  return store.finish(states);
}
