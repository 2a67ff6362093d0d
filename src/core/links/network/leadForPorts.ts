import type { EthernetLead } from "@/core/links/network/ethernet";
import type { KitPort } from "@/core/plan/resolvedPlan";

/** What a lead does for a bus on plugs. */
export interface LeadForPorts {
  readonly kind: "right" | "wrong";
  /** Each signal of the bus: where it comes out, and where it should. */
  readonly signals: readonly {
    readonly role: string;
    readonly fromPin: number;
    readonly toPin: number | undefined;
    readonly wantedPin: number;
  }[];
}

const ROLES = ["non-inverting", "inverting", "can-high", "can-low", "signal-ground"] as const;

/**
 * Whether a lead of these colours joins the signals of two ports with plugs, whatever it would be as a network lead.
 *
 * For example: CANH on pin 1 at one end and pin 4 at the other: a straight lead is wrong for it.
 */
export function leadForPorts({ endA, endB }: EthernetLead, a: KitPort, b: KitPort): LeadForPorts {
  const signals = ROLES.flatMap((role) => {
    const [fromPin, wantedPin] = [a, b].map((port) => port.terminals.find((terminal) => terminal.role === role)?.pin);
    if (fromPin === undefined || wantedPin === undefined) return [];
    const colour = endA[fromPin - 1];
    const at = colour === undefined || colour === "open" ? -1 : endB.indexOf(colour);
    return [{ role, fromPin, toPin: at < 0 ? undefined : at + 1, wantedPin }];
  });
  return { kind: signals.every(({ toPin, wantedPin }) => toPin === wantedPin) ? "right" : "wrong", signals };
}
