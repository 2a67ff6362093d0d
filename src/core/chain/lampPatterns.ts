import type { Kit } from "@/core/kits/kitSchema";
import { lampSays } from "@/core/kits/lampSays";
import type { LampPattern } from "@/core/online/onlineSchema";

type Lamp = Kit["lamps"][number];

/** A lamp's pattern with what it says of the chain, and how it looks. */
export interface ShownPattern extends LampPattern {
  readonly lamp: Lamp;
}

const STATES = { good: "good", wait: "waiting", bad: "bad" } as const;
/** How each rhythm is said. */
export const RHYTHM_WORDS: Readonly<Record<Lamp["pattern"], string>> = {
  off: "off",
  steady: "steady",
  "slow-blink": "blinks slowly",
  "fast-blink": "blinks fast",
  "double-blink": "blinks twice and pauses",
  "counted-blink": "blinks in groups",
  alternating: "by turns",
};

/**
 * The patterns of a kit's lamps that tell of a rung, as the table takes them.
 *
 * For example: `Net orange counted-blink 3` of a kit whose three blinks are a passphrase refused: joined, bad.
 */
export function lampPatterns({ lamps }: Pick<Kit, "lamps">): readonly ShownPattern[] {
  return lamps.flatMap((lamp): readonly ShownPattern[] => {
    const { says } = lampSays(lamp, "online");
    if (lamp.rung === undefined || says === "unknown") return [];
    return [
      {
        id: patternId(lamp),
        rung: lamp.rung,
        state: STATES[says],
        ...(lamp.blinks === undefined ? {} : { blinks: lamp.blinks }),
        means: lamp.means,
        lamp,
      },
    ];
  });
}

/**
 * How a lamp's pattern looks, in words.
 *
 * For example: a lamp that is orange and blinks in groups of three: "orange, blinks in groups, 3 times".
 */
export function patternWords({ colour, pattern, blinks }: Lamp): string {
  return `${colour}, ${RHYTHM_WORDS[pattern]}${blinks === undefined ? "" : `, ${blinks} times`}`;
}

function patternId({ lamp, colour, pattern, blinks }: Lamp): string {
  return [lamp, colour, pattern, blinks ?? ""].join(" ").trim();
}
