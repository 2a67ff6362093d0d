import type { Kit } from "@/core/kits/kitSchema";
import { linkItems, memberPort, type LinkItem } from "@/core/links/linkItems";
import type { Link } from "@/core/links/linkSchema";
import { pollOfLink } from "@/core/links/bus/pollOfLink";
import { airPath } from "@/core/links/air/airPath";
import { isOwnUnit } from "@/core/site/meterHost";
import type { Meter, Site } from "@/core/site/planSchema";

/** How old a reading of a meter can be where it is used. */
export interface ReadingAge {
  readonly meter: Meter;
  readonly reader: LinkItem;
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
 * @example A transmitter that reports every 10 s: up to 10 000 ms at its hub.
 */
export function readingAges(site: Site, kits: readonly Kit[], links: readonly Link[]): readonly ReadingAge[] {
  const items = linkItems(site, kits);
  return site.meters.flatMap((meter): readonly ReadingAge[] => {
    const kit = kits.find((candidate) => candidate.id === meter.kit);
    const own = items.find((item) =>
      isOwnUnit(meter) ? item.id === meter.id && asksOnALine(meter, links) : item.id === meter.partOf,
    );
    if (own) return [{ meter, reader: own, oldestMs: INSIDE_MS, oneDeadMs: INSIDE_MS, way: "inside the device" }];
    const radio = links.find(
      (link) => link.kind === "radio" && link.members.some((member) => member.item === meter.id),
    );
    const reportS = kit?.metering?.transmitter?.reportS;
    const hub = radio?.members.find((member) => member.item !== meter.id);
    if (hub && reportS !== undefined) {
      const reader = items.find(({ id }) => id === hub.item);
      return reader
        ? [{ meter, reader, oldestMs: 1000 * reportS, oneDeadMs: 1000 * reportS, way: `every ${reportS} s by radio` }]
        : [];
    }
    const line = links.find((link) => link.kind === "rs485" && link.members.some((member) => member.item === meter.id));
    if (!line) return [];
    const asking = links.find((link) => airPath(site, kits, links, link)?.farLink?.id === line.id) ?? line;
    const poll = pollOfLink(site, kits, links, asking);
    const reader = memberPort(items, asking.members[0]!)?.item;
    return poll && reader
      ? [
          {
            meter,
            reader,
            oldestMs: poll.cycleMs[0],
            oneDeadMs: poll.cycleMs[1],
            way: poll.throughAir ? "over RS-485 and radio" : "over RS-485",
          },
        ]
      : [];
  });
}

/** Whether a meter is itself the one that asks, as a controller with inputs of its own is. */
function asksOnALine({ id }: Meter, links: readonly Link[]): boolean {
  return links.some(({ kind, members }) => kind === "rs485" && members[0]!.item === id);
}
