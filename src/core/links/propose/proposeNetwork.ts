import { memberOf, portsOf, type FreePort } from "@/core/links/propose/freePort";
import { cableBetweenM } from "@/core/plan/linkEnds";
import type { KitDevice, ResolvedPlan } from "@/core/plan/resolvedPlan";
import { distanceBetween } from "@/core/site/distances";
import type { Site } from "@/core/site/planSchema";
import type { DraftLink } from "@/core/links/propose/proposeBuses";

/** A horizontal cable of 90 m and two leads of 5 m. */
export const LONGEST_ETHERNET_M = 100;

/** A router or access point with what is still free of it. */
interface Router {
  readonly device: KitDevice;
  readonly sockets: FreePort[];
  readonly air: FreePort | undefined;
}

/**
 * How each device comes into the customer's network: at the nearest router, by cable where one can be laid, else by
 * Wi-Fi. A second router hangs from the first. A device whose module brings it in does not come in twice, and a
 * cellular module needs no router.
 *
 * For example: A gateway beside the router: a network cable to its first free socket.
 */
export function proposeNetwork(
  { site, joinable }: Pick<ResolvedPlan, "site" | "joinable">,
  others: readonly DraftLink[],
): readonly DraftLink[] {
  const routers = joinable
    .filter(({ kit }) => kit.kind === "router")
    .map((device): Router => ({
      device,
      sockets: [...portsOf([device], "ethernet")],
      air: portsOf([device], "wifi")[0],
    }));
  return joinable
    .filter((device) => device !== routers[0]?.device && !isBroughtIn(device, joinable, others))
    .flatMap((device): readonly DraftLink[] => {
      const own = routers.find((router) => router.device === device);
      // A router hangs from one before it, so that none hangs from itself in the end.
      const before = own ? routers.slice(0, routers.indexOf(own)) : routers;
      return byCable(site, device, own?.sockets, before) ?? byAir(site, device, before);
    });
}

/** By cable to the nearest router that has a socket left; undefined where none can be laid. */
function byCable(
  site: Site,
  device: KitDevice,
  ownSockets: FreePort[] | undefined,
  routers: readonly Router[],
): readonly DraftLink[] | undefined {
  const lan = ownSockets?.[0]?.port ?? device.kit.ports.find((port) => port.kind === "ethernet");
  const [nearest] = routers
    .filter(({ sockets }) => sockets.length > 0)
    .map((router) => ({ router, cableM: cableBetweenM(site, device, router.device) ?? Infinity }))
    .filter(({ cableM }) => cableM <= LONGEST_ETHERNET_M)
    .toSorted((a, b) => a.cableM - b.cableM);
  const socket = lan && nearest?.router.sockets.shift();
  if (!lan || !socket) return undefined;
  ownSockets?.shift();
  return [wired({ device, port: lan }, socket)];
}

function byAir(site: Site, device: KitDevice, routers: readonly Router[]): readonly DraftLink[] {
  const wlan = device.kit.ports.find((port) => port.kind === "wifi");
  const awayM = (router: Router) => {
    const { straightM, cableM } = distanceBetween(site, device.place?.id, router.device.place?.id);
    return straightM ?? cableM ?? Number.MAX_VALUE;
  };
  const [nearest] = routers.filter(({ air }) => air !== undefined).toSorted((a, b) => awayM(a) - awayM(b));
  if (!wlan || !nearest?.air) return [];
  return [
    {
      kind: "wifi",
      name: `${device.name} to ${nearest.device.name}`,
      members: [memberOf(nearest.air), memberOf({ device, port: wlan })],
    },
  ];
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
