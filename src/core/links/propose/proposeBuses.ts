import type { KitKind } from "@/core/kits/kitSchema";
import { meterByCascade } from "@/core/links/meterByCascade";
import { memberOf, portsOf, type FreePort } from "@/core/links/propose/freePort";
import { cableBetweenM, outgoingPort } from "@/core/plan/linkEnds";
import type { KitDevice, ResolvedPlan } from "@/core/plan/resolvedPlan";
import type { Link } from "@/core/plan/linkSchema";
import type { Site } from "@/core/site/planSchema";

/** Who asks, where several could: whoever acts on the readings before whoever only shows them. */
const CLIENT_RANK: readonly KitKind[] = [
  "energy-manager",
  "export-controller",
  "logger",
  "hybrid-inverter",
  "battery-inverter",
  "pv-inverter",
  "adapter",
];
/** Whoever leads several inverters; without one the first hybrid does. */
const LEADERS: readonly KitKind[] = ["energy-manager", "export-controller", "logger", "adapter"];
const INVERTERS: readonly KitKind[] = ["hybrid-inverter", "battery-inverter", "pv-inverter"];
const METER_LABEL = /m(e?t(e)?r|eter)|port m|^m$/i;
/** Lines up to this many devices are put in the shortest order by trying every one. */
const MOST_TRIED = 7;
const LAST_ADDRESS = 247;
/** No way round is worth a device in the middle that has one plug, m. */
const DEAD_END_M = 10_000;
/** What a client in the middle must save, m: two ends are easier to terminate where it stands at one. */
const MIDDLE_M = 1;
const SAME_M = 1e-9;

/** A proposed link, before it has its id. */
export type DraftLink = Omit<Link, "id">;

/** A client and what it reads along one line; `isAir` where the line ends in one half of a radio pair. */
interface Bus {
  readonly client: FreePort;
  readonly servers: FreePort[];
}

/**
 * The RS-485 lines that a plan asks for: each server on the line of whoever should read it, in the order that takes
 * least cable, with terminators at both ends. Where no cable goes, one half of a radio pair stands at either end, with
 * the air between them: two lines and a radio link.
 *
 * For example: A meter in the house, an inverter in the outbuilding, a radio pair: inverter to pair, pair to meter,
 * pair to pair.
 */
export function proposeBuses({ site, joinable }: Pick<ResolvedPlan, "site" | "joinable">): readonly DraftLink[] {
  const ports = portsOf(joinable, "rs485");
  const servers = joinable.flatMap((device): readonly FreePort[] => {
    const port = device.kit.ports.find((candidate) => candidate.kind === "rs485" && candidate.role === "server");
    return port ? [{ device, port }] : [];
  });
  const clients = ports
    .filter(
      ({ device, port }) =>
        (port.role === "client" || (port.role === "either" && device.kit.kind === "pv-inverter")) &&
        CLIENT_RANK.includes(device.kit.kind),
    )
    .toSorted((a, b) => CLIENT_RANK.indexOf(a.device.kit.kind) - CLIENT_RANK.indexOf(b.device.kit.kind));
  const hasLeader = joinable.some(({ kit }) => LEADERS.includes(kit.kind));
  const halves = ports.filter(({ device, port }) => device.kit.kind === "radio-pair" && port.role === "either");
  const buses = new Map<string, Bus>();
  const beyond = new Map<string, Bus & { readonly near: FreePort; readonly far: FreePort }>();
  const keyOf = ({ device, port }: FreePort) => `${device.id} ${port.id}`;
  const addTo = (client: FreePort, server: FreePort) => {
    const bus = buses.get(keyOf(client)) ?? { client, servers: [] };
    bus.servers.push(server);
    buses.set(keyOf(client), bus);
  };
  for (const server of servers) {
    const able = clients.filter(
      (client) =>
        client.device.id !== server.device.id &&
        mayRead(client, server, hasLeader) &&
        !isMetersElsewhere(client, server, joinable) &&
        !isFull(client, buses.get(keyOf(client)), server),
    );
    const client = fitting(
      able.filter((candidate) => cableBetweenM(site, candidate.device, server.device) !== undefined),
      server,
    );
    if (client) {
      addTo(client, server);
      continue;
    }
    const pair = pairFor(site, able, halves, server);
    if (!pair) continue;
    const key = `${keyOf(pair.near)} ${keyOf(pair.far)}`;
    const known = beyond.get(key);
    if (known) known.servers.push(server);
    else {
      beyond.set(key, { client: pair.client, servers: [server], near: pair.near, far: pair.far });
      addTo(pair.client, pair.near);
    }
  }
  const taken = new Set<number>();
  const near = [...buses.values()].map(({ client, servers: read }) =>
    lineOf(site, client, read, beyond.size > 0 ? taken : new Set<number>()),
  );
  // Both sides of a pair are one bus of addresses.
  const far = [...beyond.values()].map((bus) => lineOf(site, bus.far, bus.servers, taken, bus.client));
  const air = [...beyond.values()].flatMap(({ near: one, far: other }): readonly DraftLink[] => {
    const aerial = (half: FreePort) => half.device.kit.ports.find((port) => port.kind === "radio");
    const [a, b] = [aerial(one), aerial(other)];
    return a && b
      ? [
          {
            kind: "radio",
            name: `${one.device.name} to ${other.device.name}`,
            members: [memberOf({ device: one.device, port: a }), memberOf({ device: other.device, port: b })],
          },
        ]
      : [];
  });
  return [...near, ...far, ...air];
}

/**
 * An inverter reads meters, batteries and backup boxes, not other inverters or chargers; a controller reads all; an
 * adapter reads inverters.
 */
function mayRead(client: FreePort, server: FreePort, hasLeader: boolean): boolean {
  const kind = server.device.kit.kind;
  if (client.device.kit.kind === "adapter")
    return kind === "pv-inverter" || kind === "hybrid-inverter" || kind === "meter";
  const isInverter = INVERTERS.includes(client.device.kit.kind);
  // In a cascade without a controller the first inverter leads the others.
  const isCascaded = !hasLeader && client.device.kit.kind === "hybrid-inverter" && kind === "pv-inverter";
  return !isInverter || isCascaded || kind === "meter" || kind === "battery" || kind === "backup-box";
}

/**
 * Where a kit has the meter change its place: at that device while inverters are cascaded behind it, at the inverter
 * itself where there is one that has a terminal for it.
 */
function isMetersElsewhere(client: FreePort, server: FreePort, joinable: readonly KitDevice[]): boolean {
  if (server.device.kit.kind !== "meter") return false;
  const place = meterByCascade(joinable);
  return place !== undefined && place.id !== client.device.id;
}

/** An adapter has one inverter to itself. */
function isFull(client: FreePort, bus: Bus | undefined, server: FreePort): boolean {
  const isMeter = server.device.kit.kind === "meter";
  return (
    client.device.kit.kind === "adapter" &&
    !isMeter &&
    (bus?.servers ?? []).some(({ device }) => device.kit.kind !== "meter")
  );
}

/** A port that is named for meters takes the meter; the others take the rest. */
function fitting(possible: readonly FreePort[], server: FreePort): FreePort | undefined {
  const isMeter = server.device.kit.metering !== undefined && server.device.kit.kind === "meter";
  return (
    possible.find(({ device, port }) => METER_LABEL.test(port.label) === isMeter || ownPorts(device) === 1) ??
    possible[0]
  );
}

function ownPorts(device: KitDevice): number {
  return device.kit.ports.filter((port) => port.kind === "rs485" && port.role === "client").length;
}

function pairFor(
  site: Site,
  clients: readonly FreePort[],
  halves: readonly FreePort[],
  server: FreePort,
): { readonly client: FreePort; readonly near: FreePort; readonly far: FreePort } | undefined {
  for (const client of clients) {
    const near = halves.find((half) => cableBetweenM(site, half.device, client.device) !== undefined);
    const far = halves.find(
      (half) =>
        half !== near &&
        half.device.kit.id === near?.device.kit.id &&
        cableBetweenM(site, half.device, server.device) !== undefined,
    );
    if (near && far) return { client, near, far };
  }
  return undefined;
}

function lineOf(
  site: Site,
  client: FreePort,
  servers: readonly FreePort[],
  taken: Set<number>,
  asker: FreePort = client,
): DraftLink {
  const ordered = shortestLine(site, client, servers);
  const baud = asker.device.kit.serial?.baud;
  return {
    kind: "rs485",
    name:
      client === asker
        ? `${client.device.name}, ${client.port.label}`
        : `${client.device.name} for ${asker.device.name}`,
    ...(baud === undefined ? {} : { baud }),
    members: ordered.map((end, at) => ({
      ...memberOf(end),
      ...(at === 0 || at === ordered.length - 1 ? { terminator: true } : {}),
      ...(end.port.role === "server" ? { address: addressFor(end, taken) } : {}),
    })),
  };
}

/** The address of the kit while it is free, else the lowest above it that is. */
function addressFor({ device }: FreePort, taken: Set<number>): number {
  let address = device.kit.serial?.address ?? 1;
  while (taken.has(address)) address = address >= LAST_ADDRESS ? 1 : address + 1;
  taken.add(address);
  return address;
}

/**
 * The client and what it reads as a line along the least cable: the client at an end where that is as short, in the
 * middle where it is shorter, or where another device has one plug and nothing goes on behind it.
 */
function shortestLine(site: Site, client: FreePort, read: readonly FreePort[]): readonly FreePort[] {
  const between = (a: FreePort, b: FreePort) => cableBetweenM(site, a.device, b.device) ?? Number.MAX_SAFE_INTEGER;
  const lengthOf = (line: readonly FreePort[]) =>
    line.slice(1).reduce((sum, port, at) => sum + between(line[at]!, port), 0);
  if (read.length < MOST_TRIED) {
    const cost = (line: readonly FreePort[]) =>
      lengthOf(line) + DEAD_END_M * line.slice(1, -1).filter(isDeadEnd).length + (line[0] === client ? 0 : MIDDLE_M);
    const first = [client, ...read];
    // Whoever can ask and answer asks only from the head of a line.
    const all = client.port.role === "client" ? orders(first) : orders(read).map((order) => [client, ...order]);
    return all
      .filter((line) => line.at(-1) !== client || line.length === 1)
      .reduce((best, line) => (cost(line) < cost(best) - SAME_M ? line : best), first);
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

/** A plug with no second one beside it ends a line. */
function isDeadEnd({ device, port }: FreePort): boolean {
  return outgoingPort({ device, port }) === undefined;
}

function orders<T>(items: readonly T[]): readonly (readonly T[])[] {
  if (items.length <= 1) return [items];
  return items.flatMap((item, at) => orders(items.toSpliced(at, 1)).map((rest) => [item, ...rest]));
}
