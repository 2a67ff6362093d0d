import type { Kit } from "@/core/kits/kitSchema";
import type { LAMP_MOMENTS } from "@/core/kits/behaviourSchema";

/** One lamp of a kit. */
export type Lamp = Kit["lamps"][number];
/** When a lamp is looked at. */
export type LampMoment = (typeof LAMP_MOMENTS)[number];

/** What a lamp says at a moment of the work. */
export interface LampWord {
  readonly says: "good" | "wait" | "bad" | "unknown";
  /** How long at most, where it has to be waited for, min. */
  readonly waitMin: number;
  /** What to do next. */
  readonly next: string | undefined;
}

/** Until a kit says how long. */
const USUAL_WAIT_MIN = 5;
/** Of kits from before lamps had a meaning each: nothing but these colours can be told. */
const BY_COLOUR: Readonly<Record<string, "good" | "bad">> = { green: "good", red: "bad" };

/**
 * What a lamp says at a moment: what its kit names for that moment, else for any. What is named nowhere is unknown,
 * never good.
 *
 * For example: "Looking for the router" is good when the module is just powered, and to be waited for when it should
 * be online.
 */
export function lampSays(lamp: Lamp, moment: LampMoment): LampWord {
  const at = lamp.at?.[moment];
  return {
    says: at ?? lamp.says ?? BY_COLOUR[lamp.colour] ?? "unknown",
    waitMin: lamp.waitMin ?? USUAL_WAIT_MIN,
    next: lamp.next,
  };
}
