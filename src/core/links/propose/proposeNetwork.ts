import { memberOf, portsOf, type FreePort } from "@/core/links/propose/freePort";
import { cableBetweenM, type LinkItem } from "@/core/links/linkItems";
import type { DraftLink } from "@/core/links/propose/proposeBuses";
import type { Site } from "@/core/site/planSchema";

/** A horizontal cable of 90 m and two leads of 5 m. */
export const LONGEST_ETHERNET_M = 100;

/**
 * How each device comes into the customer's network: by cable where one can be laid, else by Wi-Fi. A device whose
 * module
 * brings it in does not come in twice, and a cellular module needs no router.
 *
 * @example A gateway beside the router: a network cable to its first free socket.
 */
export function proposeNetwork(
  site: Site,
  items: readonly LinkItem[],
  others: readonly DraftLink[],
): readonly DraftLink[] {
  const router = items.find((item) => item.kit.kind === "router");
  if (!router) return [];
  const sockets = portsOf([router], "ethernet");
  const air = portsOf([router], "wifi")[0];
  let used = 0;
  return items
    .filter((item) => item !== router && !isBroughtIn(item, items, others))
    .flatMap((item): readonly DraftLink[] => {
      const lan = item.kit.ports.find((port) => port.kind === "ethernet");
      const wlan = item.kit.ports.find((port) => port.kind === "wifi");
      const cableM = cableBetweenM(site, item, router);
      const socket = sockets[used];
      if (lan && socket && cableM !== undefined && cableM <= LONGEST_ETHERNET_M) {
        used++;
        return [wired({ item, port: lan }, socket)];
      }
      if (!wlan || !air) return [];
      return [
        {
          kind: "wifi",
          name: `${item.name} to ${router.name}`,
          members: [memberOf(air), memberOf({ item, port: wlan })],
        },
      ];
    });
}

function wired(end: FreePort, socket: FreePort): DraftLink {
  return {
    kind: "ethernet",
    name: `${end.item.name} to ${socket.item.name}`,
    colours: "T568B",
    members: [memberOf(socket), memberOf(end)],
  };
}

/** Whether a module in one of its slots does it. */
function isBroughtIn(item: LinkItem, items: readonly LinkItem[], others: readonly DraftLink[]): boolean {
  return others.some(
    (link) =>
      link.kind === "usb" &&
      link.members.some((member) => member.item === item.id) &&
      link.members.some(
        (member) => member.item !== item.id && items.find(({ id }) => id === member.item)?.kit.kind === "dongle",
      ),
  );
}
