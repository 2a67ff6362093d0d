import { pollOfLink } from "@/core/links/bus/pollOfLink";
import { askerOf } from "@/core/plan/linkEnds";
import type { KitDevice, PlanMeter, ResolvedPlan } from "@/core/plan/resolvedPlan";
import type { Meter } from "@/core/site/planSchema";

/** How old a reading of a meter can be where it is used. */
export interface ReadingAge {
  readonly meter: Meter;
  readonly reader: KitDevice;
  /** At most, with everything alive and with one device dead, ms. */
  readonly oldestMs: number;
  readonly oneDeadMs: number;
  /** "over RS-485", "over RS-485 and radio", "every 10 s by radio", "inside the device". */
  readonly way: string;
}

/** A device reads its own inputs at least this often, ms. */
const INSIDE_MS = 200;

/**
 * The age of each meter's reading at whoever uses it: a cycle of its line, with the air in it; the report interval of a
 * radio transmitter; next to nothing where the meter is part of the device.
 *
 * For example: A transmitter that reports every 10 s: up to 10 000 ms at its hub.
 */
export function readingAges(plan: ResolvedPlan): readonly ReadingAge[] {
  return plan.meters.flatMap((planMeter): readonly ReadingAge[] => {
    const { meter, kit, host } = planMeter;
    const own = plan.joinableById.get(host?.id ?? (asksOnALine(planMeter) ? meter.id : ""));
    if (own) return [{ meter, reader: own, oldestMs: INSIDE_MS, oneDeadMs: INSIDE_MS, way: "inside the device" }];
    const links = plan.links.filter(({ members }) => members.some(({ item }) => item === meter.id));
    const hub = links.find(({ kind }) => kind === "radio")?.ends.find(({ member }) => member.item !== meter.id);
    const reportS = kit?.metering?.transmitter?.reportS;
    if (hub && reportS !== undefined) {
      const oldestMs = 1000 * reportS;
      return hub.device
        ? [{ meter, reader: hub.device, oldestMs, oneDeadMs: oldestMs, way: `every ${reportS} s by radio` }]
        : [];
    }
    const line = links.find(({ kind }) => kind === "rs485");
    if (!line) return [];
    const asking = plan.links.find(({ beyond }) => beyond?.line === line) ?? line;
    const poll = pollOfLink(asking);
    const asker = askerOf(asking);
    if (!poll || !asker) return [];
    const [oldestMs, oneDeadMs] = poll.cycleMs;
    const way = poll.throughAir ? "over RS-485 and radio" : "over RS-485";
    return [{ meter, reader: asker.device, oldestMs, oneDeadMs, way }];
  });
}

/** Whether a meter is itself the one that asks, as a controller with inputs of its own is. */
function asksOnALine({ id, self }: PlanMeter): boolean {
  return self.links.some((link) => link.kind === "rs485" && askerOf(link)?.device.id === id);
}
