import { memberOf, portsOf, type FreePort } from "@/core/links/propose/freePort";
import { cableBetweenM } from "@/core/plan/linkEnds";
import type { KitDevice, ResolvedPlan } from "@/core/plan/resolvedPlan";
import type { DraftLink } from "@/core/links/propose/proposeBuses";

/** A horizontal cable of 90 m and two leads of 5 m. */
export const LONGEST_ETHERNET_M = 100;

/**
 * How each device comes into the customer's network: by cable where one can be laid, else by Wi-Fi. A device whose
 * module
 * brings it in does not come in twice, and a cellular module needs no router.
 *
 * For example: A gateway beside the router: a network cable to its first free socket.
 */
export function proposeNetwork(
  { site, joinable }: Pick<ResolvedPlan, "site" | "joinable">,
  others: readonly DraftLink[],
): readonly DraftLink[] {
  const router = joinable.find((device) => device.kit.kind === "router");
  if (!router) return [];
  const sockets = portsOf([router], "ethernet");
  const air = portsOf([router], "wifi")[0];
  let used = 0;
  return joinable
    .filter((device) => device !== router && !isBroughtIn(device, joinable, others))
    .flatMap((device): readonly DraftLink[] => {
      const lan = device.kit.ports.find((port) => port.kind === "ethernet");
      const wlan = device.kit.ports.find((port) => port.kind === "wifi");
      const cableM = cableBetweenM(site, device, router);
      const socket = sockets[used];
      if (lan && socket && cableM !== undefined && cableM <= LONGEST_ETHERNET_M) {
        used++;
        return [wired({ device, port: lan }, socket)];
      }
      if (!wlan || !air) return [];
      return [
        {
          kind: "wifi",
          name: `${device.name} to ${router.name}`,
          members: [memberOf(air), memberOf({ device, port: wlan })],
        },
      ];
    });
}

function wired(end: FreePort, socket: FreePort): DraftLink {
  return {
    kind: "ethernet",
    name: `${end.device.name} to ${socket.device.name}`,
    colours: "T568B",
    members: [memberOf(socket), memberOf(end)],
  };
}

/** Whether a module in one of its slots does it. */
function isBroughtIn(device: KitDevice, devices: readonly KitDevice[], others: readonly DraftLink[]): boolean {
  return others.some(
    (link) =>
      link.kind === "usb" &&
      link.members.some((member) => member.item === device.id) &&
      link.members.some(
        (member) => member.item !== device.id && devices.find(({ id }) => id === member.item)?.kit.kind === "dongle",
      ),
  );
}
