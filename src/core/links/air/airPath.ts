import { linkItems, memberPort } from "@/core/links/linkItems";
import { asksOnLine } from "@/core/links/bus/busOfLink";
import { radioSettings, type Link } from "@/core/links/linkSchema";
import { directWay } from "@/core/site/distances";
import type { Site } from "@/core/site/planSchema";
import type { Kit } from "@/core/kits/kitSchema";
import { loraAirTimeMs, type RadioLink } from "@/core/links/air/radio";
import { wallsLossDb } from "@/core/links/air/walls";

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
  readonly radio: Link;
  /** The line behind the far half; undefined while there is none. */
  readonly farLink: Link | undefined;
  readonly settings: Omit<RadioLink, "payloadBytes">;
  /** Time of both halves to take a frame in and give it out again, ms. */
  readonly handlingMs: number;
}

/** A radio link as `radio` computes with it: kit, straight distance and walls. */
export function radioOfLink(site: Site, kits: readonly Kit[], link: Link): Omit<RadioLink, "payloadBytes"> {
  const items = linkItems(site, kits);
  const ends = link.members.flatMap((member) => memberPort(items, member) ?? []);
  const own = ends.find(({ item }) => item.kit.radio)?.item.kit.radio ?? USUAL_RADIO;
  const { spreadingFactor, exponent, walls, marginDb } = radioSettings(link);
  const [a, b] = [ends[0]?.item.place, ends[1]?.item.place];
  const straightM = a !== undefined && b !== undefined && a !== b ? directWay(site, a, b)?.straightM : undefined;
  return {
    frequencyMhz: own.frequencyMhz,
    txDbm: own.txDbm,
    gainsDbi: 2 * own.gainDbi,
    distanceM: link.members[1]?.distanceM || straightM || USUAL_M,
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
 * line
 * without one, and for the line at the far side.
 */
export function airPath(site: Site, kits: readonly Kit[], links: readonly Link[], link: Link): AirPath | undefined {
  const items = linkItems(site, kits);
  const near = link.members.findIndex(
    (member, at) => at > 0 && memberPort(items, member)?.item.kit.kind === "radio-pair",
  );
  const half = link.members[near];
  if (link.kind !== "rs485" || !half) return undefined;
  const radio = links.find(
    (other) => other.kind === "radio" && other.members.some((member) => member.item === half.item),
  );
  const other = radio?.members.find((member) => member.item !== half.item);
  if (!radio || !other) return undefined;
  const farLink = links.find(
    (candidate) =>
      candidate.kind === "rs485" &&
      candidate.members.some((member, at) => {
        const end = memberPort(items, member);
        return member.item === other.item && end !== undefined && asksOnLine(end.port, end.item, at);
      }),
  );
  const handling = [half, other].reduce(
    (sum, member) => sum + (items.find(({ id }) => id === member.item)?.kit.serial?.turnaroundMs ?? 0),
    0,
  );
  return { radio, farLink, settings: radioOfLink(site, kits, radio), handlingMs: handling };
}

/**
 * What the air adds to a block of registers, ms: the request and the reply as frames of their own, and twice the
 * handling.
 *
 * @example At SF 7 and 125 kHz, 20 registers (8 and 45 bytes): 36 ms + 93 ms, and the handling.
 */
export function blockOverAirMs(
  { settings, handlingMs }: Pick<AirPath, "settings" | "handlingMs">,
  registers: number,
): number {
  const frame = (payloadBytes: number) => loraAirTimeMs({ ...settings, payloadBytes });
  return frame(REQUEST_BYTES) + frame(REPLY_BYTES + BYTES_A_REGISTER * registers) + handlingMs;
}
