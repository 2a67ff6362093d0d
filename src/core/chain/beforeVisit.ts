import { seenDevices, type SeenDevice } from "@/core/chain/seenDevices";
import type { KitDevice, ResolvedPlan } from "@/core/plan/resolvedPlan";
import { joined } from "@/core/words";

/** Something to have or to ask before the visit, with why. */
export interface BeforeItem {
  readonly id: string;
  readonly text: string;
  readonly why: string;
}

/** One way out that the customer's firewall must let through. */
export interface OutboundRow {
  readonly device: string;
  readonly to: string;
  readonly port: number;
  readonly protocol: "tcp" | "udp";
  readonly why: string;
}

const SIM_SIZES = { mini: "mini (2FF)", micro: "micro (3FF)", nano: "nano (4FF)" } as const;

/**
 * What the way online of a plan needs before anybody drives there: firmware in the phone, SIM and its provider's data,
 * who must be there, what is asked of the customer.
 *
 * For example: a device by Wi-Fi: the owner with the passphrase, at home.
 */
export function beforeVisit(plan: ResolvedPlan): readonly BeforeItem[] {
  const seen = seenDevices(plan);
  return [
    ...seen.flatMap((own) => deviceItems(own)),
    ...peopleItems(seen),
    ...warnings(seen.map(({ device }) => device)),
  ];
}

/**
 * What must get out for the devices of a plan, as a sheet for whoever runs the firewall: each name, port and protocol
 * once for each device.
 *
 * For example: a logger with a service on 443: its name, 443, tcp.
 */
export function outboundSheet(plan: ResolvedPlan): readonly OutboundRow[] {
  return seenDevices(plan)
    .filter(({ way }) => way === "cable" || way === "wifi")
    .flatMap(({ device, through }) => {
      const carrier = through ?? device;
      return (carrier.kit.network?.outbound ?? []).map(({ port, protocol, why }) => ({
        device: carrier.name,
        to: carrier.kit.online?.service ?? "as its maker names it",
        port,
        protocol,
        why,
      }));
    })
    .filter((row, at, all) => all.findIndex((other) => sameRow(row, other)) === at);
}

function sameRow(a: OutboundRow, b: OutboundRow): boolean {
  return a.device === b.device && a.to === b.to && a.port === b.port && a.protocol === b.protocol;
}

function deviceItems({ device, way, through }: SeenDevice): readonly BeforeItem[] {
  const { id, name, kit } = device;
  const { online } = kit;
  const item = (what: string, text: string, why: string): BeforeItem => ({ id: `${id} ${what}`, text, why });
  return [
    ...(online?.firmwareByPhone
      ? [item("firmware", `Load the firmware of ${name} into the phone`, "At the site there may be no connection")]
      : []),
    ...(online?.sim && way === "cellular" && !through
      ? [
          item(
            "sim",
            `A ${SIM_SIZES[online.sim.size]} SIM for ${name}, switched on by its provider`,
            "Switching it on takes hours",
          ),
          item(
            "apn",
            `The provider's access-point name, user and password${online.sim.takesPin ? ", and the PIN" : ""}`,
            online.sim.takesPin ? "They are typed on site" : "The PIN is taken off in a phone: the device takes none",
          ),
        ]
      : []),
    ...(way === "wifi" && !through
      ? [
          item(
            "reach",
            `Whether the network reaches ${name}: else an extender half-way, or a cable`,
            "A device hears less than a phone",
          ),
        ]
      : []),
  ];
}

function peopleItems(seen: readonly SeenDevice[]): readonly BeforeItem[] {
  const byWifi = seen.filter(({ way, through }) => way === "wifi" && !through).map(({ device }) => device.name);
  const byRouter = seen.some(({ way }) => way === "cable" || way === "wifi");
  return [
    ...(byWifi.length > 0
      ? [
          {
            id: "owner",
            text: "The owner at home, with the network's name and passphrase",
            why: `${joined(byWifi)} ${byWifi.length === 1 ? "joins" : "join"} it`,
          },
        ]
      : []),
    ...(seen.some(({ way }) => way !== undefined)
      ? [
          {
            id: "owner-phone",
            text: "The owner's phone, with the mail address for the account",
            why: "The account is the owner's, and the last rung is what their phone shows",
          },
        ]
      : []),
    ...(byRouter
      ? [
          {
            id: "firewall",
            text: "In a firm or a flat block: the sheet of outbound ports to whoever runs the network",
            why: "What is blocked is found on the roof otherwise",
          },
        ]
      : []),
  ];
}

function warnings(devices: readonly KitDevice[]): readonly BeforeItem[] {
  return devices.flatMap(({ id, name, kit }) =>
    (kit.online?.warnings ?? []).map((text, at) => ({
      id: `${id} warning ${at}`,
      text: `${name}: ${text}`,
      why: "Ask first",
    })),
  );
}
