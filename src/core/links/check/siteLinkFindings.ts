import type { Finding } from "@/core/findings";
import type { Kit } from "@/core/kits/kitSchema";
import { addressFaults, addressPlan } from "@/core/links/network/addressPlan";
import { airPath } from "@/core/links/air/airPath";
import { asksOnLine } from "@/core/links/bus/busOfLink";
import { ipv4Number, isInside, parsedSubnet, subnetText } from "@/core/links/network/ipv4";
import { linkFinding } from "@/core/links/check/linkFinding";
import { linkFindings, type LinkContext } from "@/core/links/check/linkFindings";
import { linkItems, memberPort } from "@/core/links/linkItems";
import { networkSchema, type Link, type Network } from "@/core/links/linkSchema";
import { topologyFindings } from "@/core/links/check/topologyRules";
import type { Site } from "@/core/site/planSchema";
import { joined } from "@/core/words";

/**
 * Everything wrong with the links of a plan: each link by itself, and what only shows between them: addresses of both
 * sides
 * of a radio pair, a device asked by two, two ways into the network, nobody who reads, topology rules of the kits, and
 * the
 * addresses of the customer's network.
 */
export function siteLinkFindings(
  site: Site,
  kits: readonly Kit[],
  links: readonly Link[],
  network: Network = networkSchema.parse({}),
): readonly Finding[] {
  const context: LinkContext = { site, kits, items: linkItems(site, kits), network };
  return [
    ...links.flatMap((link) => linkFindings(context, link)),
    ...acrossTheAir(context, links),
    ...askedTwice(context, links),
    ...twoWaysIn(context, links),
    ...notRead(context, links),
    ...topologyFindings(context, links),
    ...networkFindings(context, links),
  ];
}

/** Both sides of a radio pair are one bus: an address stands in it once. */
function acrossTheAir({ site, kits, items }: LinkContext, links: readonly Link[]): readonly Finding[] {
  const make = linkFinding(
    "Modbus serial line: addresses are unique on a bus, and a radio pair joins two lines to one",
  );
  return links.flatMap((link) => {
    const far = airPath(site, kits, links, link)?.farLink;
    if (!far) return [];
    const near = link.members.filter((member) => member.address !== undefined);
    return far.members.flatMap((member): readonly Finding[] => {
      const twin = near.find((other) => other.address === member.address);
      const [a, b] = [member, twin].map((end) => items.find(({ id }) => id === end?.item)?.name);
      return twin
        ? [
            make(
              "address-duplicate-air",
              "stop",
              b,
              "One address on both sides of the radio",
              `${a} and ${b} both have address ${member.address}.`,
              `Give ${a} another address`,
            ),
          ]
        : [];
    });
  });
}

/** A device that two ask over different ports answers both, more slowly; whoever writes last wins. */
function askedTwice({ items }: LinkContext, links: readonly Link[]): readonly Finding[] {
  const make = linkFinding("Links of the plan: who asks whom");
  const askers = new Map<string, Set<string>>();
  for (const link of links.filter(({ kind }) => kind === "rs485" || kind === "usb")) {
    const ends = link.members.map((member) => memberPort(items, member));
    const asker =
      link.kind === "usb"
        ? ends.find((end) => end?.item.kit.kind === "dongle")
        : ends.find((end, at) => end && asksOnLine(end.port, end.item, at) && end.item.kit.kind !== "radio-pair");
    for (const end of ends)
      if (
        asker &&
        end &&
        end.item.id !== asker.item.id &&
        end.item.kit.kind !== "radio-pair" &&
        end.item.kit.kind !== "monitor"
      )
        askers.set(end.item.id, (askers.get(end.item.id) ?? new Set()).add(asker.item.name));
  }
  return [...askers].flatMap(([id, names]): readonly Finding[] => {
    const name = items.find((item) => item.id === id)!.name;
    return names.size > 1
      ? [
          make(
            "asked-by-two",
            "note",
            name,
            "Two read the same device",
            `${joined([...names])} both ask ${name}, each over a port of its own.`,
            "Let one of them set values, and the other only read",
          ),
        ]
      : [];
  });
}

function twoWaysIn({ items }: LinkContext, links: readonly Link[]): readonly Finding[] {
  const make = linkFinding("Links of the plan");
  return items
    .filter(({ kit }) => kit.kind !== "router")
    .flatMap((item): readonly Finding[] => {
      const own = links.filter(
        (link) =>
          (link.kind === "ethernet" || link.kind === "wifi") &&
          link.members.some((member) => member.item === item.id) &&
          link.members.some((member) => items.find(({ id }) => id === member.item)?.kit.kind === "router"),
      );
      const plugged = links.find(
        (link) =>
          link.kind === "usb" &&
          link.members.some((member) => member.item === item.id) &&
          link.members.some(
            (member) => member.item !== item.id && items.find(({ id }) => id === member.item)?.kit.kind === "dongle",
          ),
      );
      if (own.length + (plugged ? 1 : 0) < 2) return [];
      return [
        make(
          "two-ways-in",
          "note",
          item.name,
          "Two ways into the network",
          `${item.name} by ${joined([...own.map(({ name }) => name), ...(plugged ? [plugged.name] : [])])}: left over, the older one confuses whoever reads it.`,
          "Keep the wired one, and take the other out of the device's settings",
        ),
      ];
    });
}

function notRead({ items }: LinkContext, links: readonly Link[]): readonly Finding[] {
  const make = linkFinding("Ports of the kits against the links");
  const linked = new Set(links.flatMap((link) => link.members.map(({ item }) => item)));
  return items
    .filter(
      ({ id, kit }) =>
        kit.kind === "meter" &&
        kit.ports.some(({ kind }) => kind === "rs485" || kind === "ethernet") &&
        !linked.has(id),
    )
    .map(({ name, id }) => ({
      ...make(
        "nobody-reads",
        "note",
        name,
        "Nobody reads this meter",
        `${name} is in no link.`,
        "Add a link to whoever should read it",
      ),
      id: `nobody-reads:${id}`,
    }));
}

function networkFindings({ items, network }: LinkContext, links: readonly Link[]): readonly Finding[] {
  const devices = addressPlan(items, links, network);
  const make = linkFinding("Address plan of the customer's network");
  const subnet = network.subnet === undefined ? undefined : parsedSubnet(network.subnet);
  const gateway = network.gateway === undefined ? undefined : ipv4Number(network.gateway);
  const outside =
    subnet && gateway !== undefined && !isInside(gateway, subnet)
      ? [
          make(
            "gateway-outside",
            "fix",
            undefined,
            "The router is outside its own network",
            `${network.gateway} is not in ${subnetText(subnet)}.`,
            "Read both from the phone again",
          ),
        ]
      : [];
  return [
    ...outside,
    ...devices.flatMap((device) =>
      addressFaults(device, devices, network).map(({ code, severity, title, detail, cure }) => ({
        ...make(code, severity, device.item.name, title, detail, cure),
        id: `${code}:${device.item.id}`,
      })),
    ),
  ];
}
