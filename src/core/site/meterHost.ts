import type { Finding } from "@/core/findings";
import type { Meter, Site, SiteNode } from "@/core/site/planSchema";
import { joined } from "@/core/words";

/**
 * Whether a meter is a unit by itself, and not the inputs of another device. Only the plan says so: that two things are
 * of one kit does not.
 */
export function isOwnUnit({ partOf }: Pick<Meter, "partOf">): boolean {
  return partOf === undefined || partOf === null;
}

/** The meters whose inputs are a device's own. */
export function metersOf(site: Site, device: string): readonly Meter[] {
  return site.meters.filter(({ partOf }) => partOf === device);
}

/** Devices that a meter could be a part of: those of its kit. */
export function possibleHosts(site: Site, { kit }: Pick<Meter, "kit">): readonly SiteNode[] {
  return kit === undefined ? [] : site.nodes.filter((node) => node.kit === kit);
}

/**
 * The device that a meter is most likely a part of; undefined where the plan leaves it open: none of its kit, or
 * several of which not just one is at its place.
 *
 * @example Two inverters of one kit in two places, a meter of that kit in the barn: the inverter in the barn.
 */
export function likelyHost(site: Site, meter: Pick<Meter, "kit" | "place">): string | undefined {
  const hosts = possibleHosts(site, meter);
  const near = hosts.filter(({ place }) => place !== undefined && place === meter.place);
  return hosts.length === 1 ? hosts[0]!.id : near.length === 1 ? near[0]!.id : undefined;
}

/** Meters of which nobody said yet whether they are a part of a device of their kit, or a unit by themselves. */
export function hostFindings(site: Site): readonly Finding[] {
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
          detail: `${meter.name} is of the same kit as ${joined(hosts.map(({ name }) => name))}. What is typed, wired and read depends on which it belongs to.`,
          cure: "Say under Plan, Meters, which device it is a part of, or that it is a unit by itself",
          source: "Kits of the plan",
        },
      ];
    });
}
