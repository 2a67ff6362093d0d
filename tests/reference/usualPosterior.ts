import { EvidenceScorer } from "@/core/flows/evidence";
import { evidenceOf } from "@/core/flows/doubt";
import { hypothesisSet } from "@/core/flows/hypotheses";
import { testProblem } from "@/core/flows/testProblem";
import type { TestSheet } from "@/core/flows/testSheetSchema";
import type { Site } from "@/core/site/planSchema";
import { inOneGo } from "@/core/slices";

/** The probabilities of all explanations where nothing is odd, likeliest first: the exact Gaussian part. */
export function usualPosterior(site: Site, sheet: TestSheet): readonly number[] {
  const problem = testProblem(site, sheet);
  const set = inOneGo(hypothesisSet(site, problem.candidates, sheet.maxFaults, problem.responses));
  const scorer = new EvidenceScorer(set, evidenceOf(problem, problem.seen));
  const logs = Array.from({ length: set.count }, (_, id) => Math.log(set.weights[id]!) + scorer.score(id).logEvidence);
  const most = Math.max(...logs);
  const weights = logs.map((log) => Math.exp(log - most));
  const sum = weights.reduce((total, weight) => total + weight, 0);
  return weights.map((weight) => weight / sum).toSorted((a, b) => b - a);
}
