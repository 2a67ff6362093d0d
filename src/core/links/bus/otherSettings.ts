import { pollOfLink } from "@/core/links/bus/pollOfLink";
import type { PlanLink } from "@/core/plan/resolvedPlan";

const OTHER_SPEEDS = [9600, 19_200, 38_400, 57_600, 115_200] as const;
const OTHER_SPREADING = [7, 8, 9, 10, 11, 12] as const;

/** The cycle of a line at other speeds, ms. */
export function cyclesAtSpeeds(link: PlanLink): readonly { readonly baud: number; readonly cycleMs: number }[] {
  return OTHER_SPEEDS.flatMap((baud) => {
    const poll = pollOfLink(link, { baud });
    return poll ? [{ baud, cycleMs: poll.cycleMs[0] }] : [];
  });
}

/** The cycle of a line through a radio pair at other spreading factors, ms; none where there is no air in it. */
export function cyclesAtSpreading(
  link: PlanLink,
): readonly { readonly spreadingFactor: number; readonly cycleMs: number }[] {
  if (!pollOfLink(link)?.throughAir) return [];
  return OTHER_SPREADING.flatMap((spreadingFactor) => {
    const poll = pollOfLink(link, { spreadingFactor });
    return poll ? [{ spreadingFactor, cycleMs: poll.cycleMs[0] }] : [];
  });
}
