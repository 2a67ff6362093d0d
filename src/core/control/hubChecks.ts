import { said, together } from "@/core/sentence";
import { divertFinding } from "@/core/control/divertFinding";
import type { Finding } from "@/core/findings";
import type { ResolvedPlan } from "@/core/plan/resolvedPlan";
import { distanceBetween } from "@/core/site/distances";
import { joined } from "@/core/words";

/** Each hub with what follows it: who holds the channel, and the pairing window against the longest way. */
export function hubChecks({ site, links, deviceById }: ResolvedPlan): readonly Finding[] {
  return links
    .filter(({ kind }) => kind === "radio")
    .flatMap((link): readonly Finding[] => {
      const hub = deviceById.get(link.members[0]!.item);
      const kit = hub?.kit;
      if (!hub || !kit || kit.kind === "radio-pair") return [];
      const followers = link.members.slice(1).flatMap((member) => deviceById.get(member.item) ?? []);
      const longestMin = Math.max(
        0,
        ...followers.map(({ place }) => distanceBetween(site, hub.place?.id, place?.id).walkMin ?? 0),
      );
      const windowS = kit.timers.pairingWindowS;
      const window = windowS === undefined ? "" : said`; its window is ${windowS} s, the longest way ${longestMin} min`;
      return [
        divertFinding(
          "hub",
          "note",
          hub.id,
          "The hub and what follows it",
          together(
            said`${hub.name} is the hub of ${joined(followers.map(({ name }) => name))} and holds the `,
            said`channel${window}.`,
          ),
          windowS !== undefined && longestMin * 60 > windowS
            ? "Pair beside the hub, then hang it"
            : "Pair the hub first, then each follower",
          `Kit ${kit.id}, timers.pairingWindowS`,
        ),
      ];
    });
}
