import type { KitKind } from "@/core/kits/kitSchema";
import type { OnlineWay } from "@/core/online/ways";
import type { Device, KitDevice, PlanLink, ResolvedPlan } from "@/core/plan/resolvedPlan";

/** A device that its owner must see, by which way, and what it is seen through. */
export interface SeenDevice {
  readonly device: KitDevice;
  /** Undefined where the plan has no way for it. */
  readonly way: OnlineWay | undefined;
  readonly link: PlanLink | undefined;
  /** The hub, gateway, logger or module that it is seen through. */
  readonly through: KitDevice | undefined;
}

/** Over these a carrier hears values, not only whether a contact is closed. */
const CARRYING: readonly PlanLink["kind"][] = ["rs485", "radio", "bank", "ethernet", "wifi", "usb", "can"];
/** What an owner looks at; what only carries or measures for these is seen with them. */
const SEEN: readonly KitKind[] = [
  "pv-inverter",
  "battery-inverter",
  "hybrid-inverter",
  "diverter",
  "ev-charger",
  "heat-pump",
  "energy-manager",
  "gateway",
  "dongle",
  "logger",
  "monitor",
  "export-controller",
];
/** Its own way out, in this order. */
const OWN_WAYS: readonly (readonly [PlanLink["kind"], OnlineWay])[] = [
  ["ethernet", "cable"],
  ["wifi", "wifi"],
  ["cellular", "cellular"],
];
/** Kinds that others are seen through, over which links and as which way. */
const CARRIERS: Readonly<Partial<Record<KitKind, OnlineWay>>> = {
  gateway: "hub",
  "energy-manager": "hub",
  "ev-charger": "hub",
  "hybrid-inverter": "hub",
  logger: "logger",
  "export-controller": "logger",
  monitor: "logger",
};

/**
 * The devices of a plan that must be seen, each with its way: its own link into a network, else the module in its slot,
 * the gateway on the power line, the hub on the radio, the logger on the bus.
 *
 * For example: an inverter with a module on Wi-Fi: the module by Wi-Fi, and the inverter through the module.
 */
export function seenDevices(plan: ResolvedPlan): readonly SeenDevice[] {
  return plan.joinable
    .filter(({ kit }) => SEEN.includes(kit.kind))
    .flatMap((device): readonly SeenDevice[] => {
      const own = ownWay(device);
      if (own) return [{ device, ...own, through: undefined }];
      const carried = carriedWay(device);
      if (carried) return [{ device, ...carried }];
      return canBeOnline(device) ? [{ device, way: undefined, link: undefined, through: undefined }] : [];
    });
}

/**
 * The devices that an owner would look at, but of which nobody said which kit they are: how they come online is not
 * known.
 *
 * For example: of a plan with a hybrid inverter without a kit: that inverter.
 */
export function devicesWithoutKit({ nodes }: ResolvedPlan): readonly Device[] {
  return nodes.filter(({ kit, node }) => !kit && SEEN.some((kind) => kind === node?.kind));
}

function ownWay(device: KitDevice): { readonly way: OnlineWay; readonly link: PlanLink } | undefined {
  for (const [kind, way] of OWN_WAYS) {
    const link = device.links.find((own) => own.kind === kind && isToRouter(own, device));
    if (link) return { way, link };
  }
  return undefined;
}

/** A cable between two devices is no way out, unless one of them is the router, or it ends at the provider's mast. */
function isToRouter(link: PlanLink, device: KitDevice): boolean {
  if (link.kind === "cellular") return true;
  return link.ends.some(({ device: other }) => other && other.id !== device.id && other.kit.kind === "router");
}

function carriedWay(device: KitDevice): Omit<SeenDevice, "device"> | undefined {
  const others = device.links.flatMap((link) =>
    link.ends.flatMap(({ device: other }) => (other && other.id !== device.id ? [{ link, other }] : [])),
  );
  const slotted = others.find(({ link, other }) => link.kind === "usb" && other.kit.kind === "dongle");
  const moduleWay = slotted && ownWay(slotted.other);
  if (slotted && moduleWay) return { way: moduleWay.way, link: moduleWay.link, through: slotted.other };
  const line = others.find(({ link, other }) => link.kind === "power-line" && other.kit.kind === "gateway");
  if (line) return { way: "power-line", link: line.link, through: line.other };
  const carrier = others.find(
    ({ link, other }) => CARRYING.includes(link.kind) && CARRIERS[other.kit.kind] !== undefined && hasWayOut(other),
  );
  return carrier && { way: CARRIERS[carrier.other.kit.kind]!, link: carrier.link, through: carrier.other };
}

/** By itself, or by the module in its slot. */
function hasWayOut(device: KitDevice): boolean {
  return (
    ownWay(device) !== undefined ||
    device.links.some(
      (link) =>
        link.kind === "usb" &&
        link.ends.some(({ device: other }) => other?.kit.kind === "dongle" && ownWay(other) !== undefined),
    )
  );
}

function canBeOnline({ kit }: KitDevice): boolean {
  return kit.online !== undefined || kit.network !== undefined;
}
