import { freeOf, memberOf, portsOf, type FreePort } from "@/core/links/propose/freePort";
import { cableBetweenM, type LinkItem } from "@/core/links/linkItems";
import type { Link } from "@/core/links/linkSchema";
import type { DraftLink } from "@/core/links/propose/proposeBuses";
import type { Site } from "@/core/site/planSchema";

/** What a module is plugged into first, where several have a slot. */
const SLOT_RANK = ["monitor", "hybrid-inverter", "pv-inverter"];

/**
 * Everything but buses and the customer's network: a battery on the CAN of its inverter, modules in their slots, what
 * shares a radio or the power line, dry contacts, cellular modules.
 */
export function proposeShortLinks(
  site: Site,
  items: readonly LinkItem[],
  buses: readonly DraftLink[],
): readonly DraftLink[] {
  return [
    ...canLinks(site, items),
    ...pluggedIn(site, items),
    ...sharedLinks(
      freeOf(portsOf(items, "radio"), asLinks(buses)).filter(({ item }) => item.kit.kind !== "radio-pair"),
      "radio",
      ["ev-charger", "energy-manager"],
    ),
    ...sharedLinks(portsOf(items, "power-line"), "power-line", ["gateway"]),
    ...contactLinks(site, items),
    ...cellularLinks(items),
  ];
}

/** Links without their ids yet, for what only looks at members. */
export function asLinks(drafts: readonly DraftLink[]): readonly Link[] {
  return drafts.map((draft, at) => ({ ...draft, id: `draft-${at}` }));
}

function canLinks(site: Site, items: readonly LinkItem[]): readonly DraftLink[] {
  const portOf = (item: LinkItem) => item.kit.ports.find((port) => port.kind === "can");
  const batteries = items.filter((item) => item.kit.kind === "battery" && portOf(item));
  return items
    .filter((item) => item.kit.kind !== "battery" && portOf(item))
    .flatMap((inverter): readonly DraftLink[] => {
      // Only the first module of a bank speaks to the inverter.
      const battery = batteries.find((candidate) => cableBetweenM(site, inverter, candidate) !== undefined);
      if (!battery) return [];
      return [
        {
          kind: "can",
          name: `${inverter.name} to ${battery.name}`,
          ...(inverter.kit.can ? { baud: inverter.kit.can.bitrate } : {}),
          members: [
            { item: inverter.id, port: portOf(inverter)!.id, terminator: true },
            { item: battery.id, port: portOf(battery)!.id, terminator: true },
          ],
        },
      ];
    });
}

/** Each module and adapter in a free slot of the same place, else of where a cable goes. */
function pluggedIn(site: Site, items: readonly LinkItem[]): readonly DraftLink[] {
  const usb = portsOf(items, "usb");
  const slots = usb.filter(({ item }) => SLOT_RANK.includes(item.kit.kind));
  const taken = new Set<FreePort>();
  return usb
    .filter(({ item }) => item.kit.kind === "dongle" || item.kit.kind === "adapter")
    .flatMap((plug): readonly DraftLink[] => {
      const wanted = slots.filter(
        (slot) => !taken.has(slot) && (plug.item.kit.kind === "adapter") === (slot.item.kit.kind === "monitor"),
      );
      const near = wanted.filter(({ item }) => item.place === plug.item.place);
      const slot = (
        near.length > 0 ? near : wanted.filter(({ item }) => cableBetweenM(site, item, plug.item) !== undefined)
      ).toSorted((a, b) => SLOT_RANK.indexOf(a.item.kit.kind) - SLOT_RANK.indexOf(b.item.kit.kind))[0];
      if (!slot) return [];
      taken.add(slot);
      return [
        { kind: "usb", name: `${plug.item.name} in ${slot.item.name}`, members: [memberOf(slot), memberOf(plug)] },
      ];
    });
}

/** All that share the air or the mains, the one that gathers them first; without it there is no link. */
function sharedLinks(
  ports: readonly FreePort[],
  kind: "radio" | "power-line",
  gatherers: readonly string[],
): readonly DraftLink[] {
  const hub = ports.find(({ item }) => gatherers.includes(item.kit.kind));
  const followers = ports.filter((port) => port !== hub && !gatherers.includes(port.item.kit.kind));
  if (!hub || followers.length === 0) return [];
  return [{ kind, name: `${hub.item.name}, ${hub.port.label}`, members: [hub, ...followers].map(memberOf) }];
}

/**
 * Each contact that is given with the nearest input of that many signals; inverters behind a logger get their command
 * from it.
 */
function contactLinks(site: Site, items: readonly LinkItem[]): readonly DraftLink[] {
  const contacts = portsOf(items, "dry-contact");
  const inputs = contacts.filter(({ port }) => port.role === "client");
  const taken = new Set<FreePort>();
  return contacts
    .filter(({ port }) => port.role === "server")
    .flatMap((giver): readonly DraftLink[] => {
      const able = inputs
        .filter(
          (input) =>
            !taken.has(input) && cableBetweenM(site, input.item, giver.item) !== undefined && isMeantFor(giver, input),
        )
        .toSorted(
          (a, b) =>
            Number(b.item.kit.kind === "logger") - Number(a.item.kit.kind === "logger") ||
            cableBetweenM(site, a.item, giver.item)! - cableBetweenM(site, b.item, giver.item)!,
        );
      const input = able[0];
      if (!input) return [];
      taken.add(input);
      return [
        {
          kind: "dry-contact",
          name: `${giver.item.name} to ${input.item.name}`,
          members: [memberOf(giver), memberOf(input)],
        },
      ];
    });
}

/** The operator's commands go to who limits, a start contact to the generator, a relay to what uses surplus. */
function isMeantFor(giver: FreePort, input: FreePort): boolean {
  const takes = input.item.kit.kind;
  if (giver.item.kit.kind === "receiver")
    return takes === "logger" || takes === "pv-inverter" || takes === "export-controller";
  return /start/i.test(giver.port.label) ? takes === "generator" : takes === "heat-pump";
}

/** A module's own radio to the provider; one built in is left alone where a module is there. */
function cellularLinks(items: readonly LinkItem[]): readonly DraftLink[] {
  const ports = portsOf(items, "cellular");
  const modules = ports.filter(({ item }) => item.kit.kind === "dongle");
  return (modules.length > 0 ? modules : ports).map((end) => ({
    kind: "cellular",
    name: `${end.item.name}, to the provider`,
    members: [memberOf(end)],
  }));
}
