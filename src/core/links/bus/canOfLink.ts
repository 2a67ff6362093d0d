import type { Kit } from "@/core/kits/kitSchema";
import { USUAL_CAN_BUS, type CanBus } from "@/core/links/bus/can";
import { linkItems, memberDistancesM, memberPort } from "@/core/links/linkItems";
import type { Link } from "@/core/links/linkSchema";
import type { ExpectedFrame } from "@/core/links/bus/candump";
import type { Site } from "@/core/site/planSchema";

/**
 * A planned CAN link as the bus that `can` computes with. Undefined for another kind of link or when a member is gone.
 */
export function canOfLink(site: Site, kits: readonly Kit[], link: Link): CanBus | undefined {
  const items = linkItems(site, kits);
  if (link.kind !== "can" || link.members.some((member) => memberPort(items, member) === undefined)) return undefined;
  return {
    ...USUAL_CAN_BUS,
    bitrate: link.baud ?? USUAL_CAN_BUS.bitrate,
    lengthM: memberDistancesM(site, items, link).reduce<number>((sum, distance) => sum + (distance ?? 0), 0),
    terminators: link.members.filter((member) => member.terminator).length,
    frames: link.members
      .flatMap((member) => memberPort(items, member)!.item.kit.can?.frames ?? [])
      .map(({ id, bytes, perSecond, extended }) => ({ id, bytes, perSecond, extended })),
  };
}

/** The cyclic frames that the kits of a link send. */
export function expectedFrames(site: Site, kits: readonly Kit[], link: Link): readonly ExpectedFrame[] {
  const items = linkItems(site, kits);
  return link.members.flatMap((member) => {
    const end = memberPort(items, member);
    return (end?.item.kit.can?.frames ?? []).map(({ id, perSecond, name }) => ({
      id,
      perSecond,
      name,
      sender: end!.item.name,
    }));
  });
}
