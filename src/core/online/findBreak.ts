import { CAUSE_IDS, causeOf } from "@/core/online/causes";
import { onlineEvidence, type OnlineEvidence } from "@/core/online/onlineEvidence";
import { IMPOSSIBLE } from "@/core/online/impossible";
import { nextChecks } from "@/core/online/nextChecks";
import type { OnlineAnswer, OnlineRequest } from "@/core/online/onlineSchema";
import { rungProved } from "@/core/online/rungProved";
import { waiting } from "@/core/online/waiting";
import { causeShares, chanceOf, weigh, type CauseHypothesis } from "@/core/online/weigh";
import { capital, joined } from "@/core/words";

/** From here on one cause stands out. */
const FOUND_FROM = 0.7;
const LEAST_SHOWN = 0.01;
const MOST_CAUSES = 8;
const PAIR_SHOWN_FROM = 0.05;
/** Two at once that are less likely do not excuse what one alone cannot explain. */
const PAIR_COUNTS_FROM = 1e-3;
/** What fits less well than this with every cause is explained by none. */
const LEAST_FIT = 0.03;
/** What speaks for a cause: so much likelier with it than on the whole; against it: so much less likely. */
const FOR_FACTOR = 1.15;
const AGAINST_FACTOR = 0.4;
const MOST_REASONS = 3;
const RESTART =
  "Nothing changed: start the device again first, then the router, and wait until both have come up. " +
  "Only then look on.";

/**
 * Where the chain from a device to its owner breaks, and what to do next: every cause weighed by all that was seen.
 *
 * For example: by Wi-Fi, the network seen and joined by the phone, no address in the device, after a change of router:
 * proved up to "network-seen", the passphrase first among the causes.
 */
export function findBreak(request: OnlineRequest): OnlineAnswer {
  const evidence = onlineEvidence(request);
  const hypotheses = weigh(request, evidence);
  const shares = causeShares(hypotheses);
  const order = shares
    .map((probability, cause) => ({ probability, cause }))
    .toSorted((a, b) => b.probability - a.probability);
  const seen = weighed(evidence, hypotheses);
  const contradiction = contradictionOf(evidence, hypotheses);
  const top = order[0]!;
  const checks = nextChecks(request, evidence, hypotheses);
  return {
    verdict: contradiction ? "not-explained" : top.probability >= FOUND_FROM ? "cause-found" : "several",
    rung: rungProved(request, evidence, hypotheses),
    breaksAt: evidence.length === 0 ? null : causeOf(CAUSE_IDS[top.cause]!).breaks,
    causes: order
      .filter(({ probability }, at) => at === 0 || probability >= LEAST_SHOWN)
      .slice(0, MOST_CAUSES)
      .map(({ probability, cause }) => {
        const { title, cure } = causeOf(CAUSE_IDS[cause]!);
        return {
          id: CAUSE_IDS[cause]!,
          title,
          probability,
          why: whyOf(cause, seen),
          cure: [...cure],
        };
      }),
    pairs: hypotheses
      .filter(({ causes, probability }) => causes.length === 2 && probability >= PAIR_SHOWN_FROM)
      .toSorted((a, b) => b.probability - a.probability)
      .map(({ causes, probability }) => ({ ids: causes.map((cause) => CAUSE_IDS[cause]!), probability })),
    nextChecks: checks,
    restart: request.changed === "nothing" ? RESTART : null,
    wait: contradiction ? null : waiting(request, shares, checks[0]),
    contradiction: contradiction ?? null,
  };
}

/** Something seen, with its chance on the whole: before anything was known, and now. */
interface Weighed {
  readonly evidence: OnlineEvidence;
  readonly before: number;
  readonly now: number;
}

function weighed(evidence: readonly OnlineEvidence[], hypotheses: readonly CauseHypothesis[]): readonly Weighed[] {
  return evidence.map((own) => ({
    evidence: own,
    before: own.chances.reduce((sum, chance) => sum + chance, 0) / own.chances.length,
    now: hypotheses.reduce((sum, { causes, probability }) => sum + probability * chanceOf(own, causes), 0),
  }));
}

function whyOf(cause: number, seen: readonly Weighed[]): string {
  const factors = seen.map(({ evidence: { words, chances }, before, now }) => ({
    words,
    of: chances[cause]! / before,
    factor: chances[cause]! / Math.max(now, 1e-12),
  }));
  const speaksFor = factors
    .filter(({ of }) => of > FOR_FACTOR)
    .toSorted((a, b) => b.of - a.of)
    .slice(0, MOST_REASONS);
  const speaksAgainst = factors
    .filter(({ of, factor }) => of < AGAINST_FACTOR || factor < AGAINST_FACTOR)
    .toSorted((a, b) => a.of - b.of)
    .slice(0, 1);
  const { reason } = causeOf(CAUSE_IDS[cause]!);
  const first = speaksFor.length > 0 ? capital(joined(speaksFor.map(({ words }) => words))) : reason;
  return speaksAgainst.length > 0 ? `${first}; against it: ${speaksAgainst[0]!.words}` : first;
}

function contradictionOf(
  evidence: readonly OnlineEvidence[],
  hypotheses: readonly CauseHypothesis[],
): OnlineAnswer["contradiction"] | undefined {
  const told = (pair: readonly OnlineEvidence[], why: string) => ({
    observed: pair.map(({ observed }) => observed),
    why,
  });
  for (const { one, other, why } of IMPOSSIBLE) {
    const pair = [one, other].map(({ check, outcomes }) =>
      evidence.find((own) => own.check === check && outcomes.includes(own.outcome)),
    );
    if (pair[0] && pair[1]) return told([pair[0], pair[1]], bothWords(pair[0], pair[1], why));
  }
  const twice = evidence.find((own) =>
    evidence.some((other) => own.check !== "lamp" && other.check === own.check && other.outcome !== own.outcome),
  );
  if (twice) {
    const other = evidence.find(({ check, outcome }) => check === twice.check && outcome !== twice.outcome)!;
    return told([twice, other], bothWords(twice, other, "one of the two is from another moment"));
  }
  if (evidence.length < 2 || hypotheses.some(({ fit }) => fit >= LEAST_FIT)) return undefined;
  const pair = leastTogether(
    evidence,
    hypotheses.filter(({ causes, probability }) => causes.length === 1 || probability > PAIR_COUNTS_FROM),
  );
  return told(pair, bothWords(pair[0], pair[1], "nothing that is known to happen shows both"));
}

function bothWords(one: OnlineEvidence, other: OnlineEvidence, why: string): string {
  return `${capital(one.words)}, and ${other.words}: ${why}. Look at both again.`;
}

/** The two that even the cause which fits them best explains worst. */
function leastTogether(
  evidence: readonly OnlineEvidence[],
  hypotheses: readonly CauseHypothesis[],
): readonly [OnlineEvidence, OnlineEvidence] {
  let worst = { fit: Infinity, pair: [evidence[0]!, evidence[1]!] as readonly [OnlineEvidence, OnlineEvidence] };
  evidence.forEach((one, at) => {
    for (const other of evidence.slice(at + 1)) {
      const fit = hypotheses.reduce(
        (best, { causes }) =>
          Math.max(best, (chanceOf(one, causes) / one.best) * (chanceOf(other, causes) / other.best)),
        0,
      );
      if (fit < worst.fit) worst = { fit, pair: [one, other] };
    }
  });
  return worst.pair;
}
