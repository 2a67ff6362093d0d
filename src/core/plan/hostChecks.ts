import { said, together } from "@/core/sentence";
import type { Finding } from "@/core/findings";
import type { ResolvedPlan } from "@/core/plan/resolvedPlan";
import { possibleHosts } from "@/core/site/meterHost";
import { joined } from "@/core/words";

/** Meters of which nobody said yet whether they are a part of a device of their kit, or a unit by themselves. */
export function hostChecks({ site }: ResolvedPlan): readonly Finding[] {
  return site.meters
    .filter(({ partOf }) => partOf === undefined)
    .flatMap((meter): readonly Finding[] => {
      const hosts = possibleHosts(site, meter);
      if (hosts.length === 0) return [];
      return [
        {
          id: `whose-meter:${meter.id}`,
          code: "whose-meter",
          severity: "fix",
          stage: "plan",
          subject: { kind: "meter", meter: meter.id },
          title: "Whose inputs these are is open",
          detail: together(
            said`${meter.name} is of the same kit as ${joined(hosts.map(({ name }) => name))}. What is `,
            "typed, wired and read depends on which it belongs to.",
          ),
          cure: "Say under Plan, Meters, which device it is a part of, or that it is a unit by itself",
          source: "Kits of the plan",
        },
      ];
    });
}
