import type { Line } from "@/core/links/bus/lineNetwork";
import type { Rs485Bus } from "@/core/links/bus/rs485Schema";

/** A terminator, Ω (TIA-485: matched to the cable). */
export const TERMINATOR_OHM = 120;
/** An input of one unit load, Ω (TIA-485). */
export const UNIT_LOAD_OHM = 12_000;

/** An RS-485 line as its resistors, as planned. */
export function lineOfBus({ devices, cable }: Rs485Bus): Line {
  return {
    points: devices.map(({ unitLoad, terminator, bias }) => ({
      acrossOhm: 1 / (unitLoad / UNIT_LOAD_OHM + (terminator ? 1 / TERMINATOR_OHM : 0)),
      bias: bias ?? undefined,
    })),
    segments: devices.slice(1).map(({ distanceM }) => ({ ohm: (cable.ohmPerKm * distanceM) / 1000 })),
  };
}
