import type { Kit, KitKind } from "@/core/kits/kitSchema";
import { cableBetweenM, linkItems, type KitPort, type LinkItem } from "@/core/links/linkItems";
import type { Link } from "@/core/links/linkSchema";
import type { Site } from "@/core/site/planSchema";

/** Who asks, where several could: whoever acts on the readings before whoever only shows them. */
const CLIENT_RANK: readonly KitKind[] = ["energy-manager", "export-controller", "logger", "hybrid-inverter", "pv-inverter"];
const METER_LABEL = /m(e?t(e)?r|eter)|port m|^m$/i;
/** Lines up to this many devices are put in the shortest order by trying every one. */
const MOST_TRIED = 7;

interface FreePort {
  readonly item: LinkItem;
  readonly port: KitPort;
}

/**
 * The links that a plan and its kits ask for: each RS-485 server on the bus of whoever should read it, in the order that
 * takes least cable, terminators at both ends; each battery on the CAN of its inverter. Nothing is proposed across places
 * that no cable joins: that is a radio's work.
 *
 * @example A hybrid with a METER port, a meter and a battery: one RS-485 line of two and one CAN line of two.
 */
export function proposeLinks(site: Site, kits: readonly Kit[]): readonly Link[] {
  const items = linkItems(site, kits);
  return [...rs485Links(site, items), ...canLinks(site, items)].map((link, at) => ({ ...link, id: `${link.kind}-${at + 1}` }));
}

function rs485Links(site: Site, items: readonly LinkItem[]): readonly Link[] {
  const servers = items.flatMap((item): readonly FreePort[] => {
    const port = item.kit.ports.find((candidate) => candidate.kind === "rs485" && candidate.role === "server");
    return port ? [{ item, port }] : [];
  });
  const clients = items.flatMap((item) => item.kit.ports.filter((port) => port.kind === "rs485" && port.role === "client").map((port) => ({ item, port })))
    .filter(({ item }) => CLIENT_RANK.includes(item.kit.kind))
    .toSorted((a, b) => CLIENT_RANK.indexOf(a.item.kit.kind) - CLIENT_RANK.indexOf(b.item.kit.kind));
  const buses = new Map<FreePort, FreePort[]>();
  for (const server of servers) {
    const isMeter = server.item.kit.metering !== undefined && server.item.kit.kind === "meter";
    const possible = clients.filter((client) => client.item.id !== server.item.id && cableBetweenM(site, client.item, server.item) !== undefined && mayRead(client, server));
    // A port that is named for meters takes the meter; the others take the rest.
    const client = possible.find(({ item, port }) => METER_LABEL.test(port.label) === isMeter || ownPorts(item) === 1) ?? possible[0];
    if (client) buses.set(client, [...(buses.get(client) ?? []), server]);
  }
  return [...buses].map(([client, read]): Link => {
    const ordered = shortestLine(site, client, read);
    return {
      id: "", kind: "rs485", name: `${client.item.name}, ${client.port.label}`, ...(client.item.kit.serial ? { baud: client.item.kit.serial.baud } : {}),
      members: ordered.map(({ item, port }, at) => ({
        item: item.id, port: port.id, ...((at === 0 || at === ordered.length - 1) ? { terminator: true } : {}),
        ...(port.role === "server" ? { address: addressOf(ordered, at) } : {}),
      })),
    };
  });
}

/** An inverter reads meters and batteries, not other inverters or chargers; a controller reads all. */
function mayRead(client: FreePort, server: FreePort): boolean {
  const isInverter = client.item.kit.kind === "hybrid-inverter" || client.item.kit.kind === "pv-inverter";
  return !isInverter || server.item.kit.kind === "meter" || server.item.kit.kind === "battery" || server.item.kit.kind === "backup-box";
}

function ownPorts(item: LinkItem): number {
  return item.kit.ports.filter((port) => port.kind === "rs485" && port.role === "client").length;
}

/** The address of the kit while it is free on this line, else the lowest that is. */
function addressOf(line: readonly FreePort[], at: number): number {
  const wanted = (index: number) => line[index]!.item.kit.serial?.address ?? 1;
  const taken = new Set<number>();
  for (let index = 0; index <= at; index++) {
    if (line[index]!.port.role !== "server") continue;
    let address = wanted(index);
    while (taken.has(address)) address++;
    taken.add(address);
    if (index === at) return address;
  }
  return wanted(at);
}

/** The client and what it reads as a line, with the client at an end, along the least cable. */
function shortestLine(site: Site, client: FreePort, read: readonly FreePort[]): readonly FreePort[] {
  const between = (a: FreePort, b: FreePort) => cableBetweenM(site, a.item, b.item) ?? Number.MAX_SAFE_INTEGER;
  const lengthOf = (line: readonly FreePort[]) => line.slice(1).reduce((sum, port, at) => sum + between(line[at]!, port), 0);
  if (read.length <= MOST_TRIED) {
    return orders(read).map((order) => [client, ...order]).reduce((best, line) => (lengthOf(line) < lengthOf(best) ? line : best), [client, ...read]);
  }
  const line = [client];
  const left = [...read];
  while (left.length > 0) {
    const last = line.at(-1)!;
    const nearest = left.reduce((best, port) => (between(last, port) < between(last, best) ? port : best));
    line.push(nearest);
    left.splice(left.indexOf(nearest), 1);
  }
  return line;
}

function orders<T>(items: readonly T[]): readonly (readonly T[])[] {
  if (items.length <= 1) return [items];
  return items.flatMap((item, at) => orders(items.toSpliced(at, 1)).map((rest) => [item, ...rest]));
}

function canLinks(site: Site, items: readonly LinkItem[]): readonly Link[] {
  const portOf = (item: LinkItem) => item.kit.ports.find((port) => port.kind === "can");
  const inverters = items.filter((item) => item.kit.kind !== "battery" && portOf(item));
  const batteries = items.filter((item) => item.kit.kind === "battery" && portOf(item));
  return inverters.flatMap((inverter): readonly Link[] => {
    // Only the first module of a bank speaks to the inverter.
    const battery = batteries.find((candidate) => cableBetweenM(site, inverter, candidate) !== undefined);
    if (!battery) return [];
    return [{ id: "", kind: "can", name: `${inverter.name} to ${battery.name}`, ...(inverter.kit.can ? { baud: inverter.kit.can.bitrate } : {}),
      members: [{ item: inverter.id, port: portOf(inverter)!.id, terminator: true }, { item: battery.id, port: portOf(battery)!.id, terminator: true }] }];
  });
}
