import { CAUSE_IDS } from "@/core/online/causes";
import type { OnlineAnswer, OnlineRequest } from "@/core/online/onlineSchema";

/** Less than this is no waiting. */
const LEAST_MIN = 0.5;

/**
 * How much longer to wait, where that is worth more than the next check. Waiting is an act: it takes minutes, and with
 * the chance p that nothing else is wrong it cures. It is chosen where nothing else is as likely, or where the bits
 * that it tells a minute (the entropy of p, and the cure with it) are more than those of the next check.
 *
 * For example: switched on 2 minutes ago, first contact after 10: 8 minutes.
 *
 * @param shares The probability of each cause.
 */
export function waiting(
  { waits, changed, observed }: OnlineRequest,
  shares: readonly number[],
  best: OnlineAnswer["nextChecks"][number] | undefined,
): OnlineAnswer["wait"] {
  const chance = shares[CAUSE_IDS.indexOf("wait-longer")]!;
  const usualMin = changed === "firmware" ? Math.max(waits.firmwareMin, waits.contactMin) : waits.contactMin;
  const since = observed
    .filter(({ check }) => check === "minutes-since-power" || check === "minutes-since-change")
    .map(({ outcome }) => Number(outcome));
  // Nobody said when it began: it cannot be told whether the time is over.
  if (since.length === 0) return null;
  const minutes = Math.ceil(usualMin - Math.min(...since));
  if (minutes < LEAST_MIN || chance <= 0) return null;
  const bitsAMinute = (entropyBits(chance) * (1 + chance)) / minutes;
  const checkBitsAMinute = best ? best.gainBits / best.minutes : 0;
  if (chance < Math.max(...shares) && bitsAMinute <= checkBitsAMinute) return null;
  return {
    minutes,
    why:
      `It may take ${usualMin} min from power or a change to the first contact, and a restart begins anew. ` +
      `With ${Math.round(100 * chance)} % nothing else is wrong.`,
  };
}

function entropyBits(chance: number): number {
  if (chance <= 0 || chance >= 1) return 0;
  return -chance * Math.log2(chance) - (1 - chance) * Math.log2(1 - chance);
}
