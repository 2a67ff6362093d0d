import { given } from "@/core/given";
import { said, together, type Sentence } from "@/core/sentence";
import { ipv4Number, ipv4Text, isInside, parsedSubnet, subnetText, type Subnet } from "@/core/ipv4";
import type { Network } from "@/core/plan/linkSchema";
import type { KitDevice, PlanLink, ResolvedPlan } from "@/core/plan/resolvedPlan";

/** A device of the customer's network. */
export interface NetworkDevice {
  readonly device: KitDevice;
  readonly link: PlanLink;
  readonly at: number;
  readonly way: "cable" | "Wi-Fi";
  /** Typed for it; undefined where the router gives one. */
  readonly ipv4: string | undefined;
  /** A free one to type, where the network is known. */
  readonly proposed: string | undefined;
  readonly outbound: readonly { readonly port: number; readonly protocol: string; readonly why: string }[];
}

/** Fixed addresses begin here, above what routers give first. */
const FIRST_FIXED = 200;

/**
 * Who is in the customer's network, by which way, with which address, and what must get out for it. Proposed addresses
 * are free, inside the network, and outside what the router gives by itself.
 *
 * For example: In 192.168.7.0/24 with a pool from .100 to .199: the first fixed address proposed is 192.168.7.200.
 */
export function addressPlan({ links, network }: ResolvedPlan): readonly NetworkDevice[] {
  const subnet = network.subnet === undefined ? undefined : parsedSubnet(network.subnet);
  const members = links
    .filter(({ kind }) => kind === "ethernet" || kind === "wifi")
    .flatMap((link) => link.ends.map(({ member, device }, at) => ({ link, member, device, at })));
  const taken = new Set(
    [network.gateway, ...members.map(({ member }) => member.ipv4)].flatMap((text) =>
      text === undefined ? [] : (ipv4Number(text) ?? []),
    ),
  );
  return members.flatMap(({ link, member, device, at }): readonly NetworkDevice[] => {
    if (!device || device.kit.kind === "router") return [];
    const proposed = member.ipv4 === undefined && subnet ? freeAddress(subnet, network, taken) : undefined;
    return [
      {
        device,
        link,
        at,
        way: link.kind === "wifi" ? "Wi-Fi" : "cable",
        ipv4: member.ipv4,
        proposed,
        outbound: device.kit.network?.outbound ?? [],
      },
    ];
  });
}

function freeAddress(subnet: Subnet, network: Network, taken: Set<number>): string | undefined {
  const pool = poolOf(network);
  // What the router gives is stepped over at once: a network of millions may be nothing but that.
  const free = (from: number, end: number) => {
    for (let address = from; address < end; address++) {
      if (pool && address >= pool.from && address <= pool.to) address = pool.to;
      else if (!taken.has(address)) return address;
    }
    return undefined;
  };
  const first = subnet.first + 1;
  const start = Math.min(subnet.first + FIRST_FIXED, subnet.last);
  // A network that does not reach so far, or is full from there on, is looked through from its first address.
  const address = free(start, subnet.last) ?? free(first, start);
  if (address === undefined) return undefined;
  taken.add(address);
  return ipv4Text(address);
}

function poolOf({ poolFrom, poolTo }: Network): { readonly from: number; readonly to: number } | undefined {
  const [from, to] = [poolFrom, poolTo].map((text) => (text === undefined ? undefined : ipv4Number(text)));
  return from === undefined || to === undefined ? undefined : { from, to };
}

function isInPool(address: number, network: Network): boolean {
  const pool = poolOf(network);
  return pool !== undefined && address >= pool.from && address <= pool.to;
}

/** What is wrong with one fixed address, as a code with its words; empty when nothing is. */
export interface AddressFault {
  readonly code: "address-outside" | "address-reserved" | "address-taken" | "address-in-pool" | "own-network-overlaps";
  readonly severity: "stop" | "fix" | "note";
  readonly title: string;
  readonly detail: Sentence;
  readonly cure: Sentence;
}

/**
 * What is wrong with a device's place in the network: a fixed address outside it, reserved, given twice or in the
 * router's pool; and a device whose own access point uses the same network as the customer's.
 */
export function addressFaults(
  own: NetworkDevice,
  all: readonly NetworkDevice[],
  network: Network,
): readonly AddressFault[] {
  const subnet = network.subnet === undefined ? undefined : parsedSubnet(network.subnet);
  return given(fixedAddressFaults(own, all, network, subnet), subnet && accessPointFault(own, subnet));
}

/** What is wrong with an address that was given by hand. */
function fixedAddressFaults(
  own: NetworkDevice,
  all: readonly NetworkDevice[],
  network: Network,
  subnet: Subnet | undefined,
): readonly AddressFault[] {
  const { device, ipv4 } = own;
  const address = ipv4 === undefined ? undefined : ipv4Number(ipv4);
  if (address === undefined) return [];
  const free = subnet && freeAddress(subnet, network, takenAddresses(all, network));
  const cure = free
    ? said`Give ${device.name} ${free}, or let the router give it one`
    : said`Let the router give ${device.name} its address`;
  const twin = all.find((other) => other !== own && other.ipv4 !== undefined && ipv4Number(other.ipv4) === address);
  return given<AddressFault>(
    (twin !== undefined || network.gateway === ipv4) && {
      code: "address-taken",
      severity: "stop",
      title: "One address for two",
      detail: said`${device.name} and ${twin?.device.name ?? "the router"} both have ${ipv4}.`,
      cure,
    },
    subnet && outsideFault(own, address, subnet, cure),
    isInPool(address, network) && {
      code: "address-in-pool",
      severity: "fix",
      title: "Fixed address where the router gives its own",
      detail: together(
        said`${device.name} has ${ipv4}, between ${network.poolFrom} and ${network.poolTo}: the `,
        "router can give it to another.",
      ),
      cure,
    },
  );
}

function outsideFault(
  { device, ipv4 }: NetworkDevice,
  address: number,
  subnet: Subnet,
  cure: Sentence,
): AddressFault | undefined {
  if (!isInside(address, subnet))
    return {
      code: "address-outside",
      severity: "fix",
      title: "Address outside the network",
      detail: said`${device.name} has ${ipv4}; the network is ${subnetText(subnet)}.`,
      cure,
    };
  if (address !== subnet.first && address !== subnet.last) return undefined;
  return {
    code: "address-reserved",
    severity: "fix",
    title: "Reserved address",
    detail: together(
      said`${ipv4} is ${address === subnet.first ? "the name of the network" : "for all at once"}; `,
      said`${device.name} cannot have it.`,
    ),
    cure,
  };
}

/** A device whose own access point has an address of the customer's network. */
function accessPointFault({ device }: NetworkDevice, subnet: Subnet): AddressFault | undefined {
  const accessPoint = device.kit.network?.accessPoint?.address;
  const itsNumber = accessPoint === undefined ? undefined : ipv4Number(accessPoint);
  if (accessPoint === undefined || itsNumber === undefined || !isInside(itsNumber, subnet)) return undefined;
  return {
    code: "own-network-overlaps",
    severity: "note",
    title: "Its own access point uses the customer's network",
    detail: together(
      said`${device.name} is at ${accessPoint} over its own access point, inside ${subnetText(subnet)}: `,
      "a phone in both reaches the wrong one.",
    ),
    cure: said`Leave the customer's Wi-Fi before ${accessPoint} is opened`,
  };
}

function takenAddresses(all: readonly NetworkDevice[], { gateway }: Network): Set<number> {
  return new Set([
    ...all.flatMap(({ ipv4 }) => (ipv4 ? (ipv4Number(ipv4) ?? []) : [])),
    ...(gateway ? [ipv4Number(gateway)!] : []),
  ]);
}
