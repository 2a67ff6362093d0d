import { fittingWith } from "@/core/flows/diagnose";
import { candidateFaults, type Fault } from "@/core/flows/faults";
import { inputCanExist, siteWithFitting } from "@/core/flows/fitting";
import { predict } from "@/core/flows/predict";
import type { DeviceState } from "@/core/flows/stateSchema";
import type { TestSheet } from "@/core/flows/testSheetSchema";
import type { Site } from "@/core/site/planSchema";
import { phasesOf } from "@/core/site/tree";

export interface PlainHypothesis {
  readonly faults: readonly Fault[];
  readonly probability: number;
}

/**
 * The slow reference: every combination becomes a plan with that fitting, every number comes from `predict`,
 * and the evidence is one large Gaussian over all readings. Combinations that predict alike for every unit
 * of device power are added up. Background and known devices are as the domain page says, nothing shared
 * with the fast path but the list of faults and how one fault changes a fitting.
 */
export function plainDiagnose(site: Site, sheet: TestSheet): readonly PlainHypothesis[] {
  const candidates = candidateFaults(site);
  const exists = inputCanExist(site);
  const groups = new Map<string, { faults: readonly Fault[]; prior: number; best: number; logEvidence: number }>();
  for (const chosen of subsets(candidates.length, sheet.maxFaults)) {
    const faults = chosen.map((at) => candidates[at]!.fault);
    const fitting = fittingWith(site, faults);
    if (!fitting.inputs.every(exists)) continue;
    const prior = chosen.reduce((product, at) => product * candidates[at]!.prior, 1);
    const fitted = siteWithFitting(site, fitting);
    const key = signature(fitted, sheet);
    const known = groups.get(key);
    if (known) {
      known.prior += prior;
      if (prior > known.best) Object.assign(known, { best: prior, faults });
    } else groups.set(key, { faults, prior, best: prior, logEvidence: logEvidence(fitted, sheet) });
  }
  const all = [...groups.values()];
  const largest = Math.max(...all.map((group) => Math.log(group.prior) + group.logEvidence));
  const weights = all.map((group) => Math.exp(Math.log(group.prior) + group.logEvidence - largest));
  const sum = weights.reduce((total, weight) => total + weight, 0);
  return all
    .map((group, at) => ({ faults: group.faults, probability: weights[at]! / sum }))
    .sort((a, b) => b.probability - a.probability);
}

/** ln N(readings; μ, Σ) of a plan as fitted. */
function logEvidence(fitted: Site, sheet: TestSheet): number {
  const y: number[] = [];
  const mean: number[] = [];
  const noise: number[] = [];
  const effects: { latent: string; response: number }[][] = [];
  const phases = (node: string) =>
    phasesOf(
      fitted.nodes.find((candidate) => candidate.id === node)!,
      fitted,
    );
  sheet.steps.forEach((step, at) =>
    step.readings.forEach((reading) => {
      const read = (devices: DeviceState[]) =>
        predict(fitted, "fitted", { devices }).inputs.find(
          (input) => input.meter === reading.meter && input.input === reading.input,
        )!.powerW;
      const onPhase = (node: string, phase: string, powerW: number, reactiveVar: number): DeviceState => ({
        node,
        powerW: 0,
        reactiveVar: 0,
        perPhase: { [phase]: { powerW, reactiveVar } },
      });
      const known = new Set(step.devices.map((device) => device.node));
      let expected = step.devices.length > 0 ? read(step.devices.map(({ toleranceW: _, ...device }) => device)) : 0;
      const own: { latent: string; response: number }[] = [];
      for (const load of (sheet.background ?? []).filter((candidate) => !known.has(candidate.node))) {
        for (const phase of phases(load.node)) {
          const perWatt = read([onPhase(load.node, phase, 1, 0)]);
          const perVar = read([onPhase(load.node, phase, 0, 1)]);
          expected += load.meanW * perWatt;
          own.push({ latent: `${load.node} ${phase} W`, response: load.sdW * perWatt });
          own.push({ latent: `${load.node} ${phase} var`, response: load.sdVar * perVar });
          own.push({ latent: `${load.node} ${phase} drift ${at}`, response: load.driftSdW * perWatt });
        }
      }
      for (const { toleranceW, ...device } of step.devices) {
        const response = toleranceW * read([{ node: device.node, powerW: 1, reactiveVar: 0 }]);
        own.push({ latent: `${device.node} tolerance ${at}`, response });
      }
      y.push(reading.powerW);
      mean.push(expected);
      noise.push(sheet.noise.absoluteW ** 2 + (sheet.noise.relative * reading.powerW) ** 2);
      effects.push(own);
    }),
  );
  const sigma = effects.map((a, i) =>
    effects.map((b, j) => {
      const shared = a.reduce(
        (sum, effect) => sum + effect.response * (b.find((other) => other.latent === effect.latent)?.response ?? 0),
        0,
      );
      return shared + (i === j ? noise[i]! : 0);
    }),
  );
  return logGaussian(
    y.map((value, at) => value - mean[at]!),
    sigma,
  );
}

/** By Gaussian elimination, no factor shared with the fast path. */
function logGaussian(residual: number[], sigma: number[][]): number {
  const n = residual.length;
  const a = sigma.map((row, at) => [...row, residual[at]!]);
  let logDet = 0;
  for (let pivot = 0; pivot < n; pivot++) {
    logDet += Math.log(a[pivot]![pivot]!);
    for (let row = pivot + 1; row < n; row++) {
      const factor = a[row]![pivot]! / a[pivot]![pivot]!;
      for (let column = pivot; column <= n; column++) a[row]![column]! -= factor * a[pivot]![column]!;
    }
  }
  const solution = new Array<number>(n).fill(0);
  for (let row = n - 1; row >= 0; row--) {
    let sum = a[row]![n]!;
    for (let column = row + 1; column < n; column++) sum -= a[row]![column]! * solution[column]!;
    solution[row] = sum / a[row]![row]!;
  }
  const distance = residual.reduce((sum, value, at) => sum + value * solution[at]!, 0);
  return -0.5 * (distance + logDet + n * Math.log(2 * Math.PI));
}

/** Readings of every input for one watt and one var of every power that a device can have. */
function signature(fitted: Site, sheet: TestSheet): string {
  const background = new Set((sheet.background ?? []).map((load) => load.node));
  const units = fitted.nodes
    .filter((node) => node.kind !== "grid")
    .flatMap((node): DeviceState[] => {
      const phases = phasesOf(node, fitted);
      if (phases.length === 2 && !background.has(node.id)) {
        return [
          { node: node.id, powerW: 1e6, reactiveVar: 0 },
          { node: node.id, powerW: 0, reactiveVar: 1e6 },
        ];
      }
      return phases.flatMap((phase) => [
        { node: node.id, powerW: 0, reactiveVar: 0, perPhase: { [phase]: { powerW: 1e6, reactiveVar: 0 } } },
        { node: node.id, powerW: 0, reactiveVar: 0, perPhase: { [phase]: { powerW: 0, reactiveVar: 1e6 } } },
      ]);
    });
  return units
    .flatMap((unit) => predict(fitted, "fitted", { devices: [unit] }).inputs.map((input) => Math.round(input.powerW)))
    .join();
}

function* subsets(count: number, most: number, from = 0): Generator<number[]> {
  yield [];
  if (most === 0) return;
  for (let first = from; first < count; first++) {
    for (const rest of subsets(count, most - 1, first + 1)) yield [first, ...rest];
  }
}
