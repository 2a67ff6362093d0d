import type { Meter, Site, SiteNode } from "@/core/site/planSchema";

/**
 * Whether a meter is a unit by itself, and not the inputs of another device. Only the plan says so: that two things are
 * of one kit does not.
 */
export function isOwnUnit({ partOf }: Pick<Meter, "partOf">): boolean {
  return partOf === undefined || partOf === null;
}

/** Devices that a meter could be a part of: those of its kit. */
export function possibleHosts(site: Site, { kit }: Pick<Meter, "kit">): readonly SiteNode[] {
  return kit === undefined ? [] : site.nodes.filter((node) => node.kit === kit);
}

/**
 * The device that a meter is most likely a part of; undefined where the plan leaves it open: none of its kit, or
 * several of which not just one is at its place.
 *
 * For example: Two inverters of one kit in two places, a meter of that kit in the barn: the inverter in the barn.
 */
export function likelyHost(site: Site, meter: Pick<Meter, "kit" | "place">): string | undefined {
  const hosts = possibleHosts(site, meter);
  const near = hosts.filter(({ place }) => place !== undefined && place === meter.place);
  return hosts.length === 1 ? hosts[0]!.id : near.length === 1 ? near[0]!.id : undefined;
}
