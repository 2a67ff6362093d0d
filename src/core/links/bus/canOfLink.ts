import { USUAL_CAN_BUS, type CanBus } from "@/core/links/bus/can";
import type { ExpectedFrame } from "@/core/links/bus/candump";
import type { PlanLink } from "@/core/plan/resolvedPlan";

/**
 * A planned CAN link as the bus that `can` computes with. Undefined for another kind of link or when a member is gone.
 */
export function canOfLink({ kind, baud, whole: ends }: PlanLink): CanBus | undefined {
  if (kind !== "can" || !ends) return undefined;
  return {
    ...USUAL_CAN_BUS,
    bitrate: baud ?? USUAL_CAN_BUS.bitrate,
    lengthM: ends.reduce((sum, { cableM }) => sum + (cableM ?? 0), 0),
    terminators: ends.filter(({ member }) => member.terminator).length,
    frames: ends
      .flatMap(({ device }) => device.kit.can?.frames ?? [])
      .map(({ id, bytes, perSecond, extended }) => ({ id, bytes, perSecond, extended })),
  };
}

/** The cyclic frames that the kits of a link send. */
export function expectedFrames({ ends }: PlanLink): readonly ExpectedFrame[] {
  return ends.flatMap(({ device, port }) =>
    device && port
      ? (device.kit.can?.frames ?? []).map(({ id, perSecond, name }) => ({ id, perSecond, name, sender: device.name }))
      : [],
  );
}
