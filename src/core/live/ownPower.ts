import type { KitKind } from "@/core/kits/kitSchema";

const GENERATING: readonly KitKind[] = ["pv-inverter", "battery-inverter", "hybrid-inverter", "generator"];

/**
 * The power of a device by the load convention, of what it says of itself, and the other way round: inverters and
 * generators count generating as positive, everything else what it draws.
 *
 * @example loadPowerW("pv-inverter", 3200) // -3200
 */
export function loadPowerW(kind: KitKind, shownW: number): number {
  return GENERATING.includes(kind) ? -shownW : shownW;
}
