import type { Link, LinkMember } from "@/core/plan/linkSchema";
import type { KitDevice, KitPort } from "@/core/plan/resolvedPlan";

/** A port of something in the plan. */
export interface FreePort {
  readonly device: KitDevice;
  readonly port: KitPort;
}

/** For example: `memberOf(port)` gives { item: "hybrid", port: "meter" } */
export function memberOf({ device, port }: FreePort): LinkMember {
  return { item: device.id, port: port.id };
}

/** Every port of one kind. */
export function portsOf(devices: readonly KitDevice[], kind: KitPort["kind"]): readonly FreePort[] {
  return devices.flatMap((device) =>
    device.kit.ports.filter((port) => port.kind === kind).map((port) => ({ device, port })),
  );
}

/** The ports that no link has. */
export function freeOf(ports: readonly FreePort[], links: readonly Link[]): readonly FreePort[] {
  const taken = new Set(links.flatMap((link) => link.members.map((member) => `${member.item} ${member.port}`)));
  return ports.filter(({ device, port }) => !taken.has(`${device.id} ${port.id}`));
}
