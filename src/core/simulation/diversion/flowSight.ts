import type { FlowSight } from "@/core/simulation/diversionSchema";

/** Below this part of itself in its own sum, a controller is not calmed by what it does and goes to its end. */
const LEAST_OWN_FACTOR = 0.02;
/** Less than this moves nobody, W. */
const NOTICED_W = 1;

/** Export in a controller's measured sum, W. */
export function seenSurplusW(
  eye: FlowSight,
  sunW: number,
  houseW: number,
  batteryW: number,
  heaterW: number,
  vehicleW: number,
): number {
  return eye.sun * sunW - eye.house * houseW - eye.battery * batteryW - eye.heater * heaterW - eye.vehicle * vehicleW;
}

/**
 * What an actor does until its sum is balanced, W: less where it counts itself more than once, all it can where it does
 * not see itself or the wrong way.
 *
 * @example balancedW(1000, 2) // 500
 */
export function balancedW(seenW: number, ownFactor: number): number {
  return ownFactor >= LEAST_OWN_FACTOR ? seenW / ownFactor : seenW > NOTICED_W ? Infinity : 0;
}
