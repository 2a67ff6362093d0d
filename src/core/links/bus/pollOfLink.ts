import { airPath, blockOverAirMs } from "@/core/links/air/airPath";
import { busOfLink } from "@/core/links/bus/busOfLink";
import { cycleMs, pollCosts, type PollCost } from "@/core/links/bus/pollCycle";
import type { Rs485Bus } from "@/core/links/bus/rs485Schema";
import type { PlanLink } from "@/core/plan/resolvedPlan";

/** A device's share of a cycle, with what the air adds. */
export interface LinkPollCost extends PollCost {
  readonly radioMs: number;
}

/** What a line asks in a cycle, and how long that takes, ms. */
export interface LinkPoll {
  readonly bus: Rs485Bus;
  readonly costs: readonly LinkPollCost[];
  /** With 0, 1 and 2 dead devices. */
  readonly cycleMs: readonly [number, number, number];
  /** Through a radio pair. */
  readonly throughAir: boolean;
}

/**
 * What a cycle of a line takes, device by device: those behind a radio pair are asked over the air by the same client,
 * so they stand in its cycle. Undefined for what is no line, and for the far side, whose devices are counted here.
 *
 * For example: A meter behind a radio pair at SF 7: its block takes its time on the wire and about 130 ms in the air.
 */
export function pollOfLink(
  link: PlanLink,
  other: { readonly baud?: number; readonly spreadingFactor?: number } = {},
): LinkPoll | undefined {
  const own = busOfLink(link);
  if (!own || link.isFarSide) return undefined;
  const atSpeed = (bus: Rs485Bus): Rs485Bus => (other.baud === undefined ? bus : { ...bus, baud: other.baud });
  const bus = atSpeed(own);
  const path = airPath(link);
  const air = path && {
    ...path,
    settings: { ...path.settings, spreadingFactor: other.spreadingFactor ?? path.settings.spreadingFactor },
  };
  const farBus = path?.farLink && busOfLink(path.farLink);
  const far = farBus && atSpeed(farBus);
  const near = pollCosts(bus).map((cost): LinkPollCost => ({ ...cost, radioMs: 0 }));
  const beyond =
    far && air
      ? pollCosts(far).map((cost): LinkPollCost => {
          const radioMs = far.devices
            .find(({ id }) => id === cost.device)!
            .poll.reduce((sum, { registers }) => sum + blockOverAirMs(air, registers), 0);
          return { ...cost, radioMs, aliveMs: cost.aliveMs + radioMs, deadMs: cost.deadMs + radioMs };
        })
      : [];
  const costs = [...near, ...beyond];
  return {
    bus,
    costs,
    cycleMs: [cycleMs(costs, 0), cycleMs(costs, 1), cycleMs(costs, 2)],
    throughAir: beyond.length > 0,
  };
}
