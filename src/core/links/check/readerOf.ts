import type { Kit } from "@/core/kits/kitSchema";
import type { KitDevice, PlanMeter, ResolvedPlan } from "@/core/plan/resolvedPlan";
import { linkChoice, type LinkOption } from "@/core/sensing/linkChoice";
import { distanceBetween } from "@/core/site/distances";

/** Who reads a meter, and by what its readings could get there. */
export interface ReaderAdvice {
  readonly reader: KitDevice;
  readonly options: readonly LinkOption[];
}

/**
 * The device that reads a meter, the client of the line it is on, else the first that could ask it, with wire, radio
 * pair and network ranked by the distance between their places. Undefined when nobody reads it or both are at one
 * place.
 *
 * For example: A meter in the hall and the hybrid that reads it in the garage: wire first.
 */
export function readerOf(
  { site, links, joinable }: ResolvedPlan,
  { meter, kit, self }: PlanMeter,
): ReaderAdvice | undefined {
  const line = links.find(({ members }) => members.some(({ item }) => item === meter.id));
  const reader =
    line?.ends.find(({ port }) => port?.role === "client")?.device ??
    joinable.find(
      (device) =>
        device.id !== meter.id &&
        device.kit !== kit &&
        device.kit.ports.some((port) => port.kind === "rs485" && port.role === "client"),
    );
  if (!reader?.place || !self.place || reader.place === self.place) return undefined;
  const { cableM, straightM } = distanceBetween(site, self.place.id, reader.place.id);
  return {
    reader,
    options: linkChoice({ cableM, straightM, hasNetworkAtBothEnds: joinsNetwork(kit) && joinsNetwork(reader.kit) }),
  };
}

function joinsNetwork(kit: Kit | undefined): boolean {
  return kit?.network !== undefined && (kit.network.wired || kit.network.bandsGhz.length > 0);
}
