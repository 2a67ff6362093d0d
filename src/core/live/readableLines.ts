import type { ReadableUnit } from "@/core/live/readableUnit";
import { asksOnLine } from "@/core/plan/linkEnds";
import type { KitDevice, PlanLink, PlanMeter, ResolvedPlan } from "@/core/plan/resolvedPlan";
import { busOfLink } from "@/core/links/bus/busOfLink";
import type { Rs485Bus } from "@/core/links/bus/rs485Schema";

/** The line of devices that hang on no link of the plan: they are reached at themselves. */
export const DIRECT_LINK = "direct";

/** A line whose devices answer. */
export interface ReadableLine {
  readonly link: string;
  readonly name: string;
  /** Speed and frame of a serial line; undefined for a network. */
  readonly serial: Pick<Rs485Bus, "baud" | "dataBits" | "parity" | "stopBits"> | undefined;
  readonly units: readonly ReadableUnit[];
}

const LAST_UNIT = 247;
/** Where a device is read, of those links that it is in. */
const READ_AT: readonly PlanLink["kind"][] = ["rs485", "ethernet", "wifi"];

/**
 * The lines of a plan with the devices whose registers can be read on each: every device with a register list stands on
 * one: on the serial line where it answers, else in its network, else at itself.
 *
 * For example: an inverter that asks a meter on a line, and stands in the house's network: the meter on the line, the
 * inverter in the network.
 */
export function readableLines(plan: ResolvedPlan): readonly ReadableLine[] {
  const onLine = new Map<string, KitDevice[]>();
  for (const device of readable(plan)) {
    const link = lineOf(device)?.id ?? DIRECT_LINK;
    onLine.set(link, [...(onLine.get(link) ?? []), device]);
  }
  return [...onLine].map(([id, devices]) => {
    const link = plan.linkById.get(id);
    const bus = link && busOfLink(link);
    return {
      link: id,
      name: link?.name ?? "At the devices themselves",
      serial: bus && { baud: bus.baud, dataBits: bus.dataBits, parity: bus.parity, stopBits: bus.stopBits },
      units: units(plan, link, devices),
    };
  });
}

/** What has a register list: on runs, equipment, and meters that are units by themselves. */
function readable(plan: ResolvedPlan): readonly KitDevice[] {
  const own = plan.meters
    .filter(({ host }) => !host)
    .map(({ self }) => self)
    .filter((device): device is KitDevice => device.kit !== undefined);
  const seen = new Set<string>();
  return [...plan.joinable, ...own].filter(({ id, kit }) => {
    if (kit.registers.length === 0 || seen.has(id)) return false;
    seen.add(id);
    return true;
  });
}

function lineOf(device: KitDevice): PlanLink | undefined {
  const usable = device.links.filter(({ kind }) => READ_AT.includes(kind));
  const answering = usable.filter((link) => link.kind !== "rs485" || !asks(link, device));
  return (answering.length > 0 ? answering : usable).toSorted(
    (a, b) => READ_AT.indexOf(a.kind) - READ_AT.indexOf(b.kind),
  )[0];
}

function asks({ whole }: PlanLink, device: KitDevice): boolean {
  return whole?.some((end, at) => end.device.id === device.id && asksOnLine(end, at)) ?? false;
}

/** Each with the address that the plan gives it on this line, or the next that is free. */
function units(plan: ResolvedPlan, link: PlanLink | undefined, devices: readonly KitDevice[]): readonly ReadableUnit[] {
  const planned = (id: string) => link?.members.find(({ item }) => item === id)?.address;
  const taken = new Set(devices.map(({ id }) => planned(id)));
  return devices.map((device): ReadableUnit => {
    const own = planned(device.id);
    let unit = own !== undefined && own >= 1 && own <= LAST_UNIT ? own : 1;
    if (own === undefined) while (taken.has(unit)) unit++;
    taken.add(unit);
    const meter = meterOf(plan, device);
    return {
      unit,
      device: device.id,
      name: device.name,
      ...(meter ? { meter: meter.id } : {}),
      kit: device.kit.id,
      turnaroundMs: device.kit.serial?.turnaroundMs ?? 0,
      registers: device.kit.registers,
    };
  });
}

/** The meter whose inputs a device's registers show. */
function meterOf(plan: ResolvedPlan, device: KitDevice): PlanMeter | undefined {
  return plan.meters.find(({ host, self }) => (host ?? self).id === device.id);
}
