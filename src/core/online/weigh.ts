import { ipv4Number, isInside, parsedSubnet } from "@/core/ipv4";
import { CAUSE_IDS, causeOf, type CauseId } from "@/core/online/causes";
import type { OnlineEvidence } from "@/core/online/onlineEvidence";
import type { OnlineRequest } from "@/core/online/onlineSchema";

/** What is as good as never met by a way is still thought of: somebody may have named the way wrong. */
const OTHER_WAY = 0.01;
/** Two things at once, against what their chances would give: whoever looks for a second often finds it was one. */
const PAIR_SHARE = 0.15;
const HEARS_BOTH_BANDS = 0.03;
const OVERLAP_KNOWN = 10;
const OVERLAP_EXCLUDED = 0.03;

/** One or two causes, by their place in the list of causes, and how likely they are. */
export interface CauseHypothesis {
  readonly causes: readonly [number] | readonly [number, number];
  probability: number;
  /** How well it explains what was seen: 1 where every outcome is its likeliest. */
  readonly fit: number;
}

/**
 * Every cause, and every two that break different rungs, weighed by Bayes' rule: prior by way and by what changed,
 * times the chance of all that was seen.
 *
 * For example: with nothing seen, the probabilities are the priors.
 */
export function weigh(request: OnlineRequest, evidence: readonly OnlineEvidence[]): readonly CauseHypothesis[] {
  const weights = CAUSE_IDS.map((cause) => weightOf(cause, request));
  const total = weights.reduce((sum, own) => sum + own, 0);
  const hypotheses: CauseHypothesis[] = [];
  let sum = 0;
  const add = (causes: CauseHypothesis["causes"], prior: number) => {
    const chances = evidence.map((own) => chanceOf(own, causes));
    const probability = chances.reduce((product, own) => product * own, prior);
    const fit = chances.reduce((product, own, at) => product * Math.min(1, own / evidence[at]!.best), 1);
    sum += probability;
    hypotheses.push({ causes, probability, fit });
  };
  weights.forEach((own, a) => {
    add([a], own / total);
    for (let b = a + 1; b < weights.length; b++)
      if (areIndependent(CAUSE_IDS[a]!, CAUSE_IDS[b]!)) add([a, b], (PAIR_SHARE * own * weights[b]!) / total ** 2);
  });
  // Every chance is above 0, so the sum is, however much was seen; where it is too small for a number, nothing is told.
  for (const own of hypotheses) own.probability = sum > 0 ? own.probability / sum : 1 / hypotheses.length;
  return hypotheses;
}

/** The chance of something seen when these causes are there. */
export function chanceOf(
  { chances, ofPair }: Pick<OnlineEvidence, "chances" | "ofPair">,
  [a, b]: CauseHypothesis["causes"] | readonly number[],
): number {
  return b === undefined ? chances[a!]! : ofPair(a!, b);
}

/** How likely each cause is; of a pair each has half. */
export function causeShares(hypotheses: readonly CauseHypothesis[]): readonly number[] {
  const shares = CAUSE_IDS.map(() => 0);
  for (const { causes, probability } of hypotheses)
    for (const cause of causes) shares[cause]! += probability / causes.length;
  return shares;
}

/** Whoever only needs longer has nothing else; of two that break one rung the second would never be seen. */
function areIndependent(a: CauseId, b: CauseId): boolean {
  return a !== "wait-longer" && b !== "wait-longer" && causeOf(a).breaks !== causeOf(b).breaks;
}

function weightOf(id: CauseId, { way, changed, bandsGhz, subnet, accessPoint }: OnlineRequest): number {
  const { weight, ways, after } = causeOf(id);
  const byWay = ways.includes(way) ? 1 : OTHER_WAY;
  const byChange = (changed && after?.[changed]) ?? 1;
  return weight * byWay * byChange * byKit(id, bandsGhz, subnet, accessPoint);
}

/** What the kit and the site's network say before anything is looked at. */
function byKit(
  id: CauseId,
  bandsGhz: readonly number[],
  subnetText: string | undefined,
  accessPoint: string | undefined,
): number {
  if (id === "band-not-heard") return bandsGhz.includes(5) && bandsGhz.includes(2.4) ? HEARS_BOTH_BANDS : 1;
  const subnet = subnetText === undefined ? undefined : parsedSubnet(subnetText);
  if (id !== "own-subnet-overlap" || !subnet || accessPoint === undefined) return 1;
  return isInside(ipv4Number(accessPoint)!, subnet) ? OVERLAP_KNOWN : OVERLAP_EXCLUDED;
}
