import { CAUSE_IDS, causeOf } from "@/core/online/causes";
import { lampChance } from "@/core/online/chances";
import { checkOf, COMMON_CHECK_IDS, type CheckId } from "@/core/online/checks";
import { commonEvidence, lampRuler, type OnlineEvidence } from "@/core/online/onlineEvidence";
import type { OnlineAnswer, OnlineRequest } from "@/core/online/onlineSchema";
import { chanceOf, type CauseHypothesis } from "@/core/online/weigh";

const MOST_SHOWN = 8;
const LEAST_BITS = 0.005;
/** What is less likely does not bear on what to look at next. */
const LEAST_PROBABILITY = 1e-4;
const LAMP_MINUTES = 0.5;
/** Against all patterns that the kit names: one that it does not. */
const UNNAMED_PATTERN = 0.3;

type Outcome = Pick<OnlineEvidence, "chances" | "ofPair">;

/**
 * What to look at next: by what it tells of the cause, in bits a minute of work (the mutual information of outcome and
 * cause: I = H(outcome) - H(outcome | cause)).
 *
 * For example: where everything else was seen and passphrase and band are alike, the band that the phone is on.
 */
export function nextChecks(
  request: OnlineRequest,
  evidence: readonly OnlineEvidence[],
  hypotheses: readonly CauseHypothesis[],
): OnlineAnswer["nextChecks"] {
  const likely = hypotheses.filter(({ probability }) => probability > LEAST_PROBABILITY);
  const seen = new Set(evidence.map(({ check }) => check));
  const common = COMMON_CHECK_IDS.filter(
    (id) => !seen.has(id) && (checkOf(id).ways?.includes(request.way) ?? true),
  ).map((check) => ({
    check: check as CheckId,
    minutes: checkOf(check).minutes,
    outcomes: Object.keys(checkOf(check).outcomes)
      .filter((outcome) => outcome !== "other-subnet" || request.subnet !== undefined)
      .map((outcome): Outcome => commonEvidence(check, outcome, request)),
  }));
  const lamp =
    request.lamps.length > 0 && !seen.has("lamp")
      ? [{ check: "lamp" as const, minutes: LAMP_MINUTES, outcomes: lampOutcomes(request) }]
      : [];
  return [...common, ...lamp]
    .map(({ check, minutes, outcomes }) => ({
      check,
      minutes,
      gainBits: informationBits(outcomes, likely),
      why: whatItTells(outcomes, likely),
    }))
    .filter(({ gainBits }) => gainBits >= LEAST_BITS)
    .toSorted((a, b) => b.gainBits / b.minutes - a.gainBits / a.minutes)
    .slice(0, MOST_SHOWN);
}

/** Every pattern of the kit, and one that it does not name. */
function lampOutcomes({ lamps }: OnlineRequest): readonly Outcome[] {
  const raw = lamps.map((pattern) => CAUSE_IDS.map((cause) => lampChance(cause, pattern)));
  const sums = CAUSE_IDS.map((_, cause) => raw.reduce((sum, own) => sum + own[cause]!, UNNAMED_PATTERN));
  const all = [...raw, CAUSE_IDS.map(() => UNNAMED_PATTERN)];
  return all.map((own): Outcome => {
    const chances = own.map((chance, cause) => chance / sums[cause]!);
    return { chances, ofPair: (a, b) => chances[lampRuler(a, b)]! };
  });
}

function informationBits(outcomes: readonly Outcome[], hypotheses: readonly CauseHypothesis[]): number {
  let bits = 0;
  for (const outcome of outcomes) {
    let sum = 0;
    let known = 0;
    for (const { causes, probability } of hypotheses) {
      const chance = chanceOf(outcome, causes);
      sum += probability * chance;
      if (chance > 0) known += probability * chance * Math.log2(chance);
    }
    if (sum > 0) bits += known - sum * Math.log2(sum);
  }
  return Math.max(0, bits);
}

/** The likeliest cause, and the one that the check tells best from it. */
function whatItTells(outcomes: readonly Outcome[], hypotheses: readonly CauseHypothesis[]): string {
  const single = hypotheses
    .filter(({ causes }) => causes.length === 1)
    .toSorted((a, b) => b.probability - a.probability);
  const [first] = single;
  if (!first) return "Tells one cause from another";
  const apart = (other: CauseHypothesis) =>
    other.probability *
    outcomes.reduce((sum, own) => sum + Math.abs(chanceOf(own, other.causes) - chanceOf(own, first.causes)), 0);
  const second = single.slice(1).toSorted((a, b) => apart(b) - apart(a))[0];
  const title = ({ causes }: CauseHypothesis) => `“${causeOf(CAUSE_IDS[causes[0]]!).title}”`;
  return second ? `Tells ${title(first)} from ${title(second)}` : `Confirms ${title(first)}`;
}
