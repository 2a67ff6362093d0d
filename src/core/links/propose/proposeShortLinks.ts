import { freeOf, memberOf, portsOf, type FreePort } from "@/core/links/propose/freePort";
import { cableBetweenM } from "@/core/plan/linkEnds";
import type { KitDevice, ResolvedPlan } from "@/core/plan/resolvedPlan";
import type { Link } from "@/core/plan/linkSchema";
import type { DraftLink } from "@/core/links/propose/proposeBuses";
import type { Site } from "@/core/site/planSchema";

/** What a module is plugged into first, where several have a slot. */
const STOP_LABEL = /stop/i;
const SLOT_RANK = ["monitor", "hybrid-inverter", "pv-inverter"];

/**
 * Everything but buses and the customer's network: a battery on the CAN of its inverter, modules in their slots, what
 * shares a radio or the power line, dry contacts, cellular modules.
 */
export function proposeShortLinks(
  { site, joinable }: Pick<ResolvedPlan, "site" | "joinable">,
  buses: readonly DraftLink[],
): readonly DraftLink[] {
  const banks = banksOf(site, joinable);
  return [
    ...canLinks(site, joinable, banks),
    ...bankLinks(banks),
    ...pluggedIn(site, joinable),
    ...sharedLinks(
      freeOf(portsOf(joinable, "radio"), asLinks(buses)).filter(({ device }) => device.kit.kind !== "radio-pair"),
      "radio",
      ["ev-charger", "energy-manager"],
    ),
    ...sharedLinks(portsOf(joinable, "power-line"), "power-line", ["gateway"]),
    ...contactLinks(site, joinable),
    ...cellularLinks(joinable),
  ];
}

/** Links without their ids yet, for what only looks at members. */
export function asLinks(drafts: readonly DraftLink[]): readonly Link[] {
  return drafts.map((draft, at) => ({ ...draft, id: `draft-${at}` }));
}

/** Each inverter with a battery of its own: a battery speaks to one, and inverters beyond those go without. */
function canLinks(site: Site, devices: readonly KitDevice[], banks: readonly Bank[]): readonly DraftLink[] {
  const inBank = new Set(banks.flat());
  const taken = new Set<KitDevice>();
  // Only the first module of a bank speaks to the inverter.
  const heads = [
    ...banks.map(([first]) => first),
    ...devices.filter((device) => isBattery(device) && !inBank.has(device)),
  ]
    .filter((device) => canPort(device) !== undefined)
    .toSorted((a, b) => devices.indexOf(a) - devices.indexOf(b));
  return onCan(devices).flatMap((inverter): readonly DraftLink[] => {
    const free = heads.filter((head) => !taken.has(head) && cableBetweenM(site, inverter, head) !== undefined);
    const battery = free.find(({ kit }) => inverter.kit.storage?.kits?.includes(kit.id)) ?? free[0];
    if (!battery) return [];
    taken.add(battery);
    return [
      {
        kind: "can",
        name: `${inverter.name} to ${battery.name}`,
        ...(inverter.kit.can ? { baud: inverter.kit.can.bitrate } : {}),
        members: [
          { item: inverter.id, port: canPort(inverter)!.id, terminator: true },
          { item: battery.id, port: canPort(battery)!.id, terminator: true },
        ],
      },
    ];
  });
}

const canPort = ({ kit }: KitDevice) => kit.ports.find((port) => port.kind === "can");
const isBattery = ({ kit }: KitDevice) => kit.kind === "battery";
/** Everything but batteries that speaks CAN. */
const onCan = (devices: readonly KitDevice[]) =>
  devices.filter((device) => !isBattery(device) && canPort(device) !== undefined);

/** Modules that make one battery, the one that speaks to the inverter first. */
type Bank = readonly [KitDevice, ...KitDevice[]];

/**
 * The modules of each kit that make a battery together: all of them, or where several inverters could have one, an
 * equal share for each, of those that are nearest to it.
 */
function banksOf(site: Site, devices: readonly KitDevice[]): readonly Bank[] {
  const ofKit = new Map<string, KitDevice[]>();
  for (const device of devices)
    if (isBattery(device) && device.kit.ports.some(({ kind }) => kind === "bank"))
      ofKit.set(device.kit.id, [...(ofKit.get(device.kit.id) ?? []), device]);
  return [...ofKit.values()].flatMap((modules) => {
    const inverters = onCan(devices).filter((inverter) =>
      modules.some((module) => cableBetweenM(site, inverter, module) !== undefined),
    );
    const share = Math.ceil(modules.length / Math.max(1, inverters.length));
    const shares = inverters.length < 2 ? [modules] : sharedOut(site, modules, inverters, share);
    return shares.flatMap(([first, ...others]): readonly Bank[] => {
      if (!first) return [];
      return [[first, ...others.filter((module) => cableBetweenM(site, first, module) !== undefined)]];
    });
  });
}

function sharedOut(
  site: Site,
  modules: readonly KitDevice[],
  inverters: readonly KitDevice[],
  most: number,
): readonly (readonly KitDevice[])[] {
  const shares = inverters.map((inverter) => ({ inverter, modules: [] as KitDevice[] }));
  for (const own of modules) {
    const [nearest] = shares
      .filter((share) => share.modules.length < most)
      .toSorted((a, b) => wayM(site, a.inverter, own) - wayM(site, b.inverter, own));
    nearest?.modules.push(own);
  }
  return shares.map((share) => share.modules);
}

const wayM = (site: Site, a: KitDevice, b: KitDevice) => cableBetweenM(site, a, b) ?? Infinity;

/** The modules of a bank one after the other, the one that speaks to the inverter first, with their addresses. */
function bankLinks(banks: readonly Bank[]): readonly DraftLink[] {
  return banks
    .filter(({ length }) => length > 1)
    .map((bank) => ({
      kind: "bank",
      name: `Bank of ${bank[0].name}`,
      members: bank.map((module, at) => ({
        item: module.id,
        port: module.kit.ports.filter(({ kind }) => kind === "bank").at(at === 0 ? -1 : 0)!.id,
        address: at + 1,
      })),
    }));
}

/** Each module and adapter in a free slot of the same place, else of where a cable goes. */
function pluggedIn(site: Site, devices: readonly KitDevice[]): readonly DraftLink[] {
  const usb = portsOf(devices, "usb");
  const slots = usb.filter(({ device }) => SLOT_RANK.includes(device.kit.kind));
  const taken = new Set<FreePort>();
  return usb
    .filter(({ device }) => device.kit.kind === "dongle" || device.kit.kind === "adapter")
    .flatMap((plug): readonly DraftLink[] => {
      const wanted = slots.filter(
        (slot) => !taken.has(slot) && (plug.device.kit.kind === "adapter") === (slot.device.kit.kind === "monitor"),
      );
      const near = wanted.filter(({ device }) => device.place === plug.device.place);
      const slot = (
        near.length > 0 ? near : wanted.filter(({ device }) => cableBetweenM(site, device, plug.device) !== undefined)
      ).toSorted((a, b) => SLOT_RANK.indexOf(a.device.kit.kind) - SLOT_RANK.indexOf(b.device.kit.kind))[0];
      if (!slot) return [];
      taken.add(slot);
      return [
        { kind: "usb", name: `${plug.device.name} in ${slot.device.name}`, members: [memberOf(slot), memberOf(plug)] },
      ];
    });
}

/** All that share the air or the mains, the one that gathers them first; without it there is no link. */
function sharedLinks(
  ports: readonly FreePort[],
  kind: "radio" | "power-line",
  gatherers: readonly string[],
): readonly DraftLink[] {
  const hub = ports.find(({ device }) => gatherers.includes(device.kit.kind));
  const followers = ports.filter((port) => port !== hub && !gatherers.includes(port.device.kit.kind));
  if (!hub || followers.length === 0) return [];
  return [{ kind, name: `${hub.device.name}, ${hub.port.label}`, members: [hub, ...followers].map(memberOf) }];
}

/**
 * Each contact that is given with the nearest input of that many signals; inverters behind a logger get their command
 * from it.
 */
function contactLinks(site: Site, devices: readonly KitDevice[]): readonly DraftLink[] {
  const contacts = portsOf(devices, "dry-contact");
  const inputs = contacts.filter(({ port }) => port.role === "client");
  const taken = new Set<FreePort>();
  return contacts
    .filter(({ port }) => port.role === "server")
    .flatMap((giver): readonly DraftLink[] => {
      const able = inputs
        .filter(
          (input) =>
            !taken.has(input) &&
            cableBetweenM(site, input.device, giver.device) !== undefined &&
            isMeantFor(giver, input),
        )
        .toSorted(
          (a, b) =>
            Number(b.device.kit.kind === "logger") - Number(a.device.kit.kind === "logger") ||
            cableBetweenM(site, a.device, giver.device)! - cableBetweenM(site, b.device, giver.device)!,
        );
      const input = able[0];
      if (!input) return [];
      taken.add(input);
      return [
        {
          kind: "dry-contact",
          name: `${giver.device.name} to ${input.device.name}`,
          members: [memberOf(giver), memberOf(input)],
        },
      ];
    });
}

/**
 * The operator's commands go to who limits, a start contact to the generator, a stop contact to an inverter's stop, a
 * relay to what uses surplus.
 */
function isMeantFor(giver: FreePort, input: FreePort): boolean {
  const takes = input.device.kit.kind;
  if (giver.device.kit.kind === "receiver")
    return (
      !STOP_LABEL.test(input.port.label) &&
      (takes === "logger" || takes === "pv-inverter" || takes === "export-controller")
    );
  const isStop = STOP_LABEL.test(giver.port.label);
  if (isStop || STOP_LABEL.test(input.port.label)) return isStop && STOP_LABEL.test(input.port.label);
  return /start/i.test(giver.port.label) ? takes === "generator" : takes === "heat-pump" || takes === "switch";
}

/** A module's own radio to the provider; one built in is left alone where a module is there. */
function cellularLinks(devices: readonly KitDevice[]): readonly DraftLink[] {
  const ports = portsOf(devices, "cellular");
  const modules = ports.filter(({ device }) => device.kit.kind === "dongle");
  return (modules.length > 0 ? modules : ports).map((end) => ({
    kind: "cellular",
    name: `${end.device.name}, to the provider`,
    members: [memberOf(end)],
  }));
}
