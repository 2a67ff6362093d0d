import type { KitKind } from "@/core/kits/kitSchema";
import { readingAges } from "@/core/links/bus/readingAges";
import { askerOf } from "@/core/plan/linkEnds";
import type { KitDevice, PlanLink, ResolvedPlan } from "@/core/plan/resolvedPlan";
import type { Meter } from "@/core/site/planSchema";

const CONTROLLER_KINDS: readonly KitKind[] = [
  "energy-manager",
  "export-controller",
  "hybrid-inverter",
  "battery-inverter",
  "diverter",
  "ev-charger",
  "pv-inverter",
  "logger",
];
/** Kinds that act on the grid sum of whoever leads them where they have none of their own. */
const FOLLOWER_KINDS: readonly KitKind[] = ["hybrid-inverter", "battery-inverter", "diverter", "ev-charger"];
/** Kinds that lead what is in the same network with them. */
const MANAGER_KINDS: readonly KitKind[] = ["energy-manager", "gateway"];

/** Who acts on a measured sum. */
export interface Controller {
  readonly id: string;
  readonly name: string;
  readonly kind: KitKind;
  /** Whose sum it acts on. */
  readonly meter: Meter;
  /** Everything whose readings it has. */
  readonly meters: readonly Meter[];
  /** Whoever has the reading and tells it what to do, where it has none itself. */
  readonly through: Pick<KitDevice, "id" | "name"> | undefined;
}

/**
 * Whoever acts on a measured sum, with the meter that it goes by: inputs of its own, a meter that it asks over a line
 * or hears by radio, through a radio pair too; a follower goes by its hub's, or by that of whoever asks or manages it.
 *
 * For example: A heater without a CT that is paired to a charger goes by the charger's grid CT.
 */
export function controllers(plan: ResolvedPlan): readonly Controller[] {
  const ages = readingAges(plan);
  const metersOf = ({ id }: KitDevice): readonly Meter[] => [
    ...new Set([
      ...plan.meters.filter(({ meter }) => meter.partOf === id || meter.id === id).map(({ meter }) => meter),
      ...ages.filter(({ reader }) => reader.id === id).map(({ meter }) => meter),
    ]),
  ];
  return plan.joinable
    .filter(({ kit }) => CONTROLLER_KINDS.includes(kit.kind))
    .flatMap((device): readonly Controller[] => {
      const { id, name, kit } = device;
      const own = metersOf(device);
      const common = { id, name, kind: kit.kind };
      const grid = own.find(isGrid);
      if (grid) return [{ ...common, meter: grid, meters: own, through: undefined }];
      const leader = FOLLOWER_KINDS.includes(kit.kind)
        ? leadersOf(plan, device).find((candidate) => metersOf(candidate).some(isGrid))
        : undefined;
      const led = leader ? metersOf(leader) : [];
      const meter = led.find(isGrid) ?? own[0];
      return meter ? [{ ...common, meter, meters: [...own, ...led], through: leader }] : [];
    });
}

function isGrid({ inputs }: Meter): boolean {
  return inputs.some(({ role }) => role === "grid");
}

/** Its hub on the radio, whoever asks it on a line, on this side of a radio pair or the other, the site's manager. */
function leadersOf(plan: ResolvedPlan, device: KitDevice): readonly KitDevice[] {
  const lines = device.links.filter(({ kind }) => kind === "rs485");
  const asking = lines.map((line) => plan.links.find(({ beyond }) => beyond?.line === line) ?? line);
  return [
    ...device.links.filter(({ kind }) => kind === "radio").flatMap(({ ends: [hub] }) => hub?.device ?? []),
    ...asking.flatMap((line) => askerOf(line)?.device ?? []),
    ...plan.joinable.filter(
      (other) =>
        MANAGER_KINDS.includes(other.kit.kind) &&
        networksOf(other).some((network) => networksOf(device).includes(network)),
    ),
  ].filter(({ id, kit }) => id !== device.id && kit.kind !== "radio-pair");
}

/** What joins a device to others by their network: the router, or the device at the other end of the cable. */
function networksOf({ links }: KitDevice): readonly string[] {
  const isNetwork = ({ kind }: PlanLink) => kind === "ethernet" || kind === "wifi";
  const own = links.filter(isNetwork).flatMap(({ ends }) => ends.flatMap(({ device }) => device ?? []));
  const routers = own.filter(({ kit }) => kit.kind === "router");
  return (routers.length > 0 ? routers : own).map(({ id }) => id);
}
