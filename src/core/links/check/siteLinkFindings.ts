import { said, together } from "@/core/sentence";
import type { Finding } from "@/core/findings";
import { batteryFindings } from "@/core/links/check/batteryFindings";
import { linkFinding } from "@/core/links/check/linkFinding";
import { linkFindings } from "@/core/links/check/linkFindings";
import { topologyFindings } from "@/core/links/check/topologyRules";
import { addressFaults, addressPlan } from "@/core/links/network/addressPlan";
import { ipv4Number, isInside, parsedSubnet, subnetText } from "@/core/ipv4";
import { asksOnLine, isWhole } from "@/core/plan/linkEnds";
import type { LinkEnd, ResolvedPlan } from "@/core/plan/resolvedPlan";
import { joined } from "@/core/words";

/**
 * Everything wrong with the links of a plan: each link by itself, and what only shows between them: addresses of both
 * sides of a radio pair, a device asked by two, two ways into the network, nobody who reads, topology rules of the
 * kits, and the addresses of the customer's network.
 */
export function siteLinkFindings(plan: ResolvedPlan): readonly Finding[] {
  return underOwnIds([
    ...plan.links.flatMap((link) => linkFindings(plan, link)),
    ...acrossTheAir(plan),
    ...askedTwice(plan),
    ...twoWaysIn(plan),
    ...notRead(plan),
    ...batteryFindings(plan),
    ...topologyFindings(plan),
    ...networkFindings(plan),
  ]);
}

/** Of two devices with one name the second finding gets a number: accepting one does not accept the other. */
function underOwnIds(findings: readonly Finding[]): readonly Finding[] {
  const seen = new Map<string, number>();
  return findings.map((finding) => {
    const count = (seen.get(finding.id) ?? 0) + 1;
    seen.set(finding.id, count);
    return count === 1 ? finding : { ...finding, id: `${finding.id}:${count}` };
  });
}

/** Both sides of a radio pair are one bus: an address stands in it once. */
function acrossTheAir({ links }: ResolvedPlan): readonly Finding[] {
  const make = linkFinding(
    "Modbus serial line: addresses are unique on a bus, and a radio pair joins two lines to one",
  );
  return links.flatMap((link) => {
    const far = link.beyond?.line;
    if (!far) return [];
    const near = link.ends.filter(({ member }) => member.address !== undefined);
    return far.ends.flatMap(({ member, device }): readonly Finding[] => {
      const twin = near.find((other) => other.member.address === member.address);
      const [a, b] = [device?.name, twin?.device?.name];
      return twin
        ? [
            make(
              "address-duplicate-air",
              "stop",
              b,
              "One address on both sides of the radio",
              said`${a} and ${b} both have address ${member.address}.`,
              said`Give ${a} another address`,
            ),
          ]
        : [];
    });
  });
}

/** A device that two ask over different ports answers both, more slowly; whoever writes last wins. */
function askedTwice({ links, joinableById }: ResolvedPlan): readonly Finding[] {
  const make = linkFinding("Links of the plan: who asks whom");
  const askers = new Map<string, Set<string>>();
  for (const link of links.filter(({ kind }) => kind === "rs485" || kind === "usb")) {
    const isAsker = (end: LinkEnd, at: number) =>
      isWhole(end) &&
      (link.kind === "usb"
        ? end.device.kit.kind === "dongle"
        : asksOnLine(end, at) && end.device.kit.kind !== "radio-pair");
    const asker = link.ends.find(isAsker)?.device;
    for (const { device } of link.ends.filter(isWhole))
      if (asker && device !== asker && device.kit.kind !== "radio-pair" && device.kit.kind !== "monitor")
        askers.set(device.id, (askers.get(device.id) ?? new Set()).add(asker.name));
  }
  return [...askers].flatMap(([id, names]): readonly Finding[] => {
    const { name } = joinableById.get(id)!;
    return names.size > 1
      ? [
          make(
            "asked-by-two",
            "note",
            name,
            "Two read the same device",
            said`${joined([...names])} both ask ${name}, each over a port of its own.`,
            "Let one of them set values, and the other only read",
          ),
        ]
      : [];
  });
}

function twoWaysIn({ joinable }: ResolvedPlan): readonly Finding[] {
  const make = linkFinding("Links of the plan");
  return joinable
    .filter(({ kit }) => kit.kind !== "router")
    .flatMap((item): readonly Finding[] => {
      const own = item.links.filter(
        ({ kind, ends }) =>
          (kind === "ethernet" || kind === "wifi") && ends.some(({ device }) => device?.kit.kind === "router"),
      );
      const plugged = item.links.find(
        ({ kind, ends }) =>
          kind === "usb" && ends.some(({ device }) => device !== item && device?.kit.kind === "dongle"),
      );
      if (own.length + (plugged ? 1 : 0) < 2) return [];
      return [
        make(
          "two-ways-in",
          "note",
          item.name,
          "Two ways into the network",
          together(
            said`${item.name} by ${joined([...own.map(({ name }) => name), ...(plugged ? [plugged.name] : [])])}: `,
            "left over, the older one confuses whoever reads it.",
          ),
          "Keep the wired one, and take the other out of the device's settings",
        ),
      ];
    });
}

function notRead({ joinable }: ResolvedPlan): readonly Finding[] {
  const make = linkFinding("Ports of the kits against the links");
  return joinable
    .filter(
      ({ links, kit }) =>
        kit.kind === "meter" &&
        kit.ports.some(({ kind }) => kind === "rs485" || kind === "ethernet") &&
        links.length === 0,
    )
    .map(({ name, id }) => ({
      ...make(
        "nobody-reads",
        "note",
        name,
        "Nobody reads this meter",
        said`${name} is in no link.`,
        "Add a link to whoever should read it",
      ),
      id: `nobody-reads:${id}`,
    }));
}

function networkFindings(plan: ResolvedPlan): readonly Finding[] {
  const { network } = plan;
  const devices = addressPlan(plan);
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
            said`${network.gateway} is not in ${subnetText(subnet)}.`,
            "Read both from the phone again",
          ),
        ]
      : [];
  return [
    ...outside,
    ...devices.flatMap((own) =>
      addressFaults(own, devices, network).map(({ code, severity, title, detail, cure }) => ({
        ...make(code, severity, own.device.name, title, detail, cure),
        id: `${code}:${own.device.id}`,
      })),
    ),
  ];
}
