import type { KitDevice, KitPort, LinkEnd, PlanLink, WholeEnd } from "@/core/plan/resolvedPlan";
import { distanceBetween } from "@/core/site/distances";
import type { Site } from "@/core/site/planSchema";

/** Cable between two devices of one place: up, along and down again. */
const SAME_PLACE_M = 2;

/** Whether the device and the port of an end are there. */
export function isWhole(end: LinkEnd): end is WholeEnd {
  return end.device !== undefined && end.port !== undefined;
}

/**
 * The port by which a line goes on from a device: a plug takes one lead, so a device with a second socket of the same
 * kind and role passes the line through that. On terminals the line goes on from where it came. An inverter with
 * sockets IN and OUT, reached at IN, is left at OUT.
 */
export function outgoingPort({ device, port }: Pick<WholeEnd, "device" | "port">): KitPort | undefined {
  if (port.connector !== "rj45") return port;
  return device.kit.ports.find(
    (other) =>
      other.id !== port.id &&
      other.kind === port.kind &&
      other.role === port.role &&
      other.connector === port.connector,
  );
}

/**
 * Whether a port asks on its line. One that can do either does so at the head of a line that has no other client; half
 * of a radio pair stands there for whoever asks at the other end.
 *
 * @param at Where on the line it is, from 0.
 */
export function asksOnLine({ device, port }: Pick<WholeEnd, "device" | "port">, at: number): boolean {
  if (port.role !== "either") return port.role === "client";
  return (
    at === 0 &&
    (device.kit.kind === "radio-pair" || device.kit.kind === "pv-inverter" || device.kit.kind === "hybrid-inverter")
  );
}

/**
 * Whoever asks on a line, at an end of it or in its middle; undefined while nobody on it can.
 *
 * For example: On battery, inverter, meter it is the inverter.
 */
export function askerOf({ ends }: Pick<PlanLink, "ends">): WholeEnd | undefined {
  return ends.find((end, at): end is WholeEnd => isWhole(end) && asksOnLine(end, at));
}

/**
 * Cable between two devices, m, along the ways of the plan; undefined where no cable can be laid. In one cupboard: 2.
 */
export function cableBetweenM(site: Site, a: KitDevice, b: KitDevice): number | undefined {
  if (a.place === undefined || b.place === undefined || a.place === b.place) return SAME_PLACE_M;
  const { cableM } = distanceBetween(site, a.place.id, b.place.id);
  return cableM === undefined ? undefined : cableM + SAME_PLACE_M;
}
