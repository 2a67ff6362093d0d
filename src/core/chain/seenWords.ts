import type { Chain } from "@/core/chain/chainOf";
import { lampPatterns, patternWords } from "@/core/chain/lampPatterns";
import { checkOf } from "@/core/online/checks";
import { outcomeClass } from "@/core/online/onlineEvidence";
import type { Observed } from "@/core/online/onlineSchema";

/**
 * What was seen of a device, as a part of a sentence: with the value and its unit where one was typed.
 *
 * For example: a signal of -67.5 gives "the signal is good: -67.5 dBm".
 */
export function seenWords(
  { check, outcome }: Observed,
  { device, request }: Pick<Chain, "device" | "request">,
): string {
  if (check === "lamp") {
    const pattern = lampPatterns(device.kit).find(({ id }) => id === outcome);
    return pattern
      ? `${pattern.lamp.lamp} ${patternWords(pattern.lamp)}: ${pattern.lamp.means}`
      : `${outcome}: the kit does not name it any more`;
  }
  const { typed, outcomes, unit } = checkOf(check);
  const own = request ? outcomes[outcomeClass(check, outcome, request)] : undefined;
  const words = own ?? checkOf(check).question;
  return typed === "number" || (typed === "address" && outcome !== "duplicate")
    ? `${words}: ${outcome} ${unit ?? ""}`.trim()
    : check === "display" && outcome !== "dark"
      ? `its display shows “${outcome}”`
      : words;
}
