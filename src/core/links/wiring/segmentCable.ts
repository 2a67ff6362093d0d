import type { KitPort } from "@/core/plan/resolvedPlan";
import type { Link } from "@/core/plan/linkSchema";
import { T568A, T568B } from "@/core/links/network/ethernet";

/** A core of a cable as it is seen when the sheath is off. */
interface CableCore {
  readonly colour: string;
  readonly pair: string;
}

/** The cable of one stretch: type, and the colours and pairs of its cores. */
export interface SegmentCable {
  readonly name: string;
  /** Every core, in the order in which signals take them. */
  readonly cores: readonly CableCore[];
}

/** Colour code for data cables with free ends (DIN 47100), first pair first. */
const FREE_ENDED: readonly CableCore[] = [
  { colour: "white", pair: "pair 1" },
  { colour: "brown", pair: "pair 1" },
  { colour: "green", pair: "pair 2" },
  { colour: "yellow", pair: "pair 2" },
];
const CONTROL_COLOURS = ["white", "brown", "green", "yellow", "grey", "pink", "blue", "red"] as const;
const PAIR_OF_PIN = [2, 2, 3, 1, 1, 3, 4, 4] as const;

/**
 * The cable of one stretch of a link and the colours of its cores: a network cable where a plug is at either end, its
 * colours by the pins; else shielded twisted pairs, or control cores for contacts.
 *
 * For example: From terminals to terminals over RS-485: 2 × 2 × 0.25 mm² with white and brown as pair 1.
 */
export function segmentCable(link: Link, from: KitPort, to: KitPort): SegmentCable {
  switch (link.kind) {
    case "ethernet":
      return { name: "Network cable Cat 6, shielded beside inverter cables", cores: plugCores(link) };
    case "usb":
      return { name: "none: plugs in", cores: [] };
    case "dry-contact": {
      const count = Math.max(
        ...[from, to].map(
          (port) => port.terminals.filter(({ role }) => role === "dry-contact" || role === "dry-contact-common").length,
        ),
      );
      return {
        name: `Control cable ${count} × 0.5 mm²`,
        cores: CONTROL_COLOURS.slice(0, count).map((colour) => ({ colour, pair: "—" })),
      };
    }
    case "rs485":
    case "can":
    case "bank":
      return from.connector === "rj45" || to.connector === "rj45"
        ? { name: "Network cable Cat 6, shielded", cores: plugCores(link) }
        : { name: "Shielded twisted pair 2 × 2 × 0.25 mm², 120 Ω", cores: FREE_ENDED };
    case "wifi":
    case "radio":
    case "power-line":
    case "cellular":
      return { name: "none: no cable of its own", cores: [] };
  }
}

/** The cores of a plug by pin, 1 to 8. */
function plugCores({ colours }: Link): readonly CableCore[] {
  return (colours === "T568A" ? T568A : T568B).map((colour, at) => ({ colour, pair: `pair ${PAIR_OF_PIN[at]}` }));
}
