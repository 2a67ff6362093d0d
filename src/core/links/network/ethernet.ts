import { z } from "zod";
import { refineWith, type Problem } from "@/core/problem";

const COLOURS = [
  "white-orange",
  "orange",
  "white-green",
  "green",
  "white-blue",
  "blue",
  "white-brown",
  "brown",
] as const;
/** Pins that form a pair on the plug, whatever colours they hold. */
const PIN_PAIRS = [
  [1, 2],
  [3, 6],
  [4, 5],
  [7, 8],
] as const;

/** The colours of a plug by T568A, pin 1 first (ANSI/TIA-568). */
export const T568A = [
  "white-green",
  "green",
  "white-orange",
  "blue",
  "white-blue",
  "orange",
  "white-brown",
  "brown",
] as const;
/** The colours of a plug by T568B, pin 1 first (ANSI/TIA-568). */
export const T568B = [
  "white-orange",
  "orange",
  "white-green",
  "blue",
  "white-blue",
  "green",
  "white-brown",
  "brown",
] as const;
/** Where each pin of one end comes out when the sending and receiving pairs are crossed: two pairs, or all four. */
const CROSSED = [
  [3, 6, 1, 4, 5, 2, 7, 8],
  [3, 6, 1, 7, 8, 2, 4, 5],
] as const;

const colourSchema = z.enum([...COLOURS, "open"]);
const endSchema = z.array(colourSchema).length(8, 'give the colours of pins 1 to 8; "open" for an empty pin');

/** What the route `ethernet` takes: the colours in both plugs. */
export const ethernetRequestSchema = z
  .object({ endA: endSchema, endB: endSchema })
  .superRefine(refineWith(({ endA, endB }) => [...twice("endA", endA), ...twice("endB", endB)]));

const faultSchema = z.object({
  kind: z.enum(["open", "miswire", "split-pair"]),
  /** At end A; the pin at end B where it comes out. */
  pinA: z.int().nullable(),
  pinB: z.int().nullable(),
  text: z.string(),
});

/** The answer of the route `ethernet`. */
export const ethernetResponseSchema = z.object({
  verdict: z.enum(["straight", "crossed", "split-pair", "miswire", "open"]),
  standardA: z.enum(["T568A", "T568B"]).nullable(),
  standardB: z.enum(["T568A", "T568B"]).nullable(),
  faults: z.array(faultSchema),
});

/** A lead by the colours in its plugs. */
export type EthernetLead = z.output<typeof ethernetRequestSchema>;
/** What a lead is. */
export type EthernetVerdict = z.output<typeof ethernetResponseSchema>;
type Colour = z.output<typeof colourSchema>;
type Fault = z.output<typeof faultSchema>;

/**
 * What a lead is, from the colours seen in both plugs, pin 1 to 8: straight, crossed, a split pair (every pin comes out
 * right, but two pins of a pair are not twisted together), a miswire, or open. Names the pins.
 *
 * For example: T568A at one end and T568B at the other: crossed.
 */
export function ethernet({ endA, endB }: EthernetLead): EthernetVerdict {
  const standardA = standardOf(endA);
  const standardB = standardOf(endB);
  const answer = (verdict: EthernetVerdict["verdict"], faults: readonly Fault[]): EthernetVerdict => ({
    verdict,
    standardA,
    standardB,
    faults: [...faults],
  });
  const open = openFaults(endA, endB);
  const mapping = endA.map((colour) => (colour === "open" ? 0 : endB.indexOf(colour) + 1));
  const isCrossed = CROSSED.some((crossing) => mapping.every((pin, at) => pin === 0 || pin === crossing[at]));
  const moved = mapping.flatMap((pinB, at): readonly Fault[] =>
    pinB === 0 || pinB === at + 1
      ? []
      : [{ kind: "miswire", pinA: at + 1, pinB, text: `${endA[at]} is on pin ${at + 1} at A and on pin ${pinB} at B` }],
  );
  if (open.length > 0) return answer("open", isCrossed ? open : [...open, ...moved]);
  if (moved.length > 0 && !isCrossed) return answer("miswire", moved);
  const split = splitFaults(endA);
  if (split.length > 0) return answer("split-pair", split);
  return answer(isCrossed ? "crossed" : "straight", []);
}

function openFaults(endA: readonly Colour[], endB: readonly Colour[]): readonly Fault[] {
  const atA = endA.flatMap((colour, at): readonly Fault[] => {
    if (colour === "open")
      return endB[at] === "open"
        ? [{ kind: "open", pinA: at + 1, pinB: at + 1, text: `pin ${at + 1} is empty at both ends` }]
        : [];
    return endB.includes(colour)
      ? []
      : [{ kind: "open", pinA: at + 1, pinB: null, text: `${colour} on pin ${at + 1} at A comes out nowhere at B` }];
  });
  const atB = endB.flatMap((colour, at): readonly Fault[] =>
    colour === "open" || endA.includes(colour)
      ? []
      : [{ kind: "open", pinA: null, pinB: at + 1, text: `${colour} on pin ${at + 1} at B comes from nowhere at A` }],
  );
  return [...atA, ...atB];
}

/** Pins of one pair that hold cores of two. */
function splitFaults(end: readonly Colour[]): readonly Fault[] {
  return PIN_PAIRS.flatMap(([first, second]): readonly Fault[] => {
    const [a, b] = [end[first - 1]!, end[second - 1]!];
    return hue(a) === hue(b)
      ? []
      : [
          {
            kind: "split-pair",
            pinA: first,
            pinB: second,
            text: `pins ${first} and ${second} hold ${a} and ${b}, which are not twisted together`,
          },
        ];
  });
}

function hue(colour: Colour): string {
  return colour.replace("white-", "");
}

function standardOf(end: readonly Colour[]): "T568A" | "T568B" | null {
  if (end.every((colour, at) => colour === T568A[at])) return "T568A";
  return end.every((colour, at) => colour === T568B[at]) ? "T568B" : null;
}

function twice(end: string, colours: readonly Colour[]): readonly Problem[] {
  return colours.flatMap((colour, at) =>
    colour !== "open" && colours.indexOf(colour) < at ? [{ path: [end, at], message: `${colour} stands twice` }] : [],
  );
}
