import { radioSettings } from "@/core/plan/linkSchema";
import { loraAirTimeMs, type RadioLink } from "@/core/links/air/radio";
import { wallsLossDb } from "@/core/plan/walls";
import { isWhole } from "@/core/plan/linkEnds";
import type { PlanLink } from "@/core/plan/resolvedPlan";

/** What a sub-GHz pair sends with where its kit does not say. */
const USUAL_RADIO = {
  frequencyMhz: 868,
  txDbm: 14,
  gainDbi: 0,
  spreadingFactor: 7,
  bandwidthKhz: 125,
  codingRate: 5,
} as const;
/** Distance where the plan has none, m. */
const USUAL_M = 20;
const PREAMBLE_SYMBOLS = 8;
const REQUEST_BYTES = 8;
const REPLY_BYTES = 5;
const BYTES_A_REGISTER = 2;

/** The air between the two halves of a radio pair, and what hangs on its far side. */
export interface AirPath {
  readonly radio: PlanLink;
  /** The line behind the far half; undefined while there is none. */
  readonly farLink: PlanLink | undefined;
  readonly settings: Omit<RadioLink, "payloadBytes">;
  /** Time of both halves to take a frame in and give it out again, ms. */
  readonly handlingMs: number;
}

/** A radio link as `radio` computes with it: kit, straight distance and walls. */
export function radioOfLink(link: PlanLink): Omit<RadioLink, "payloadBytes"> {
  const ends = link.ends.filter(isWhole);
  const own = ends.find(({ device }) => device.kit.radio)?.device.kit.radio ?? USUAL_RADIO;
  const { spreadingFactor, exponent, walls, marginDb } = radioSettings(link);
  return {
    frequencyMhz: own.frequencyMhz,
    txDbm: own.txDbm,
    gainsDbi: 2 * own.gainDbi,
    distanceM: link.members[1]?.distanceM || link.straightM || USUAL_M,
    exponent,
    wallsDb: [wallsLossDb(walls, 0.868)],
    marginDb,
    spreadingFactor: spreadingFactor ?? own.spreadingFactor,
    bandwidthKhz: own.bandwidthKhz,
    codingRate: own.codingRate,
    preamble: PREAMBLE_SYMBOLS,
  };
}

/**
 * The air path of a line whose client is at this end: through the half of a radio pair that is on it. Undefined for a
 * line without one, and for the line at the far side.
 */
export function airPath({ beyond }: PlanLink): AirPath | undefined {
  if (!beyond) return undefined;
  const { radio, line: farLink, nearHalf, farHalf } = beyond;
  const handlingMs = [nearHalf, farHalf].reduce((sum, half) => sum + (half?.kit.serial?.turnaroundMs ?? 0), 0);
  return { radio, farLink, settings: radioOfLink(radio), handlingMs };
}

/**
 * What the air adds to a block of registers, ms: the request and the reply as frames of their own, and twice the
 * handling.
 *
 * For example: At SF 7 and 125 kHz, 20 registers (8 and 45 bytes): 36 ms + 93 ms, and the handling.
 */
export function blockOverAirMs(
  { settings, handlingMs }: Pick<AirPath, "settings" | "handlingMs">,
  registers: number,
): number {
  const frame = (payloadBytes: number) => loraAirTimeMs({ ...settings, payloadBytes });
  return frame(REQUEST_BYTES) + frame(REPLY_BYTES + BYTES_A_REGISTER * registers) + handlingMs;
}
