import type { Kit } from "@/core/kits/kitSchema";
import { linkItems, memberPort, type LinkItem } from "@/core/links/linkItems";
import type { Link } from "@/core/links/linkSchema";
import { linkChoice, type LinkOption } from "@/core/sensing/linkChoice";
import { distanceBetween } from "@/core/site/distances";
import type { Meter, Site } from "@/core/site/planSchema";

/** Who reads a meter, and by what its readings could get there. */
export interface ReaderAdvice {
  readonly reader: LinkItem;
  readonly options: readonly LinkOption[];
}

/**
 * The device that reads a meter, the client of the line it is on, else the first that could ask it, with wire, radio
 * pair and network ranked by the distance between their places. Undefined when nobody reads it or both are at one
 * place.
 *
 * @example A meter in the hall and the hybrid that reads it in the garage: wire first.
 */
export function readerOf(
  site: Site,
  kits: readonly Kit[],
  links: readonly Link[],
  meter: Meter,
): ReaderAdvice | undefined {
  const items = linkItems(site, kits);
  const line = links.find((link) => link.members.some((member) => member.item === meter.id));
  const client = line?.members
    .map((member) => memberPort(items, member))
    .find((end) => end?.port.role === "client")?.item;
  const reader =
    client ??
    items.find(
      (item) =>
        item.id !== meter.id &&
        item.kit.id !== meter.kit &&
        item.kit.ports.some((port) => port.kind === "rs485" && port.role === "client"),
    );
  if (!reader || reader.place === undefined || meter.place === undefined || reader.place === meter.place)
    return undefined;
  const { cableM, straightM } = distanceBetween(site, meter.place, reader.place);
  const hasNetworkAtBothEnds = joinsNetwork(kits.find((kit) => kit.id === meter.kit)) && joinsNetwork(reader.kit);
  return { reader, options: linkChoice({ cableM, straightM, hasNetworkAtBothEnds }) };
}

function joinsNetwork(kit: Kit | undefined): boolean {
  return kit?.network !== undefined && (kit.network.wired || kit.network.bandsGhz.length > 0);
}
