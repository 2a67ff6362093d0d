import { z } from "zod";
import { isIpv4, parsedSubnet } from "@/core/ipv4";
import { CAUSE_IDS } from "@/core/online/causes";
import { COMMON_CHECK_IDS, checkOf } from "@/core/online/checks";
import { RUNG_IDS } from "@/core/online/rungs";
import { CHANGED_IDS, WAY_IDS } from "@/core/online/ways";
import { refineWith, type Problem } from "@/core/problem";
import { text } from "@/core/text";

const MOST_OBSERVED = 60;
const idText = text().trim().min(1).max(80);

/** A pattern of one of the kit's lamps, and what it says of a rung. */
export const lampPatternSchema = z.object({
  id: idText.describe("The kit's name of the pattern"),
  rung: z.enum(RUNG_IDS).describe("The rung that it tells of"),
  state: z.enum(["good", "waiting", "bad"]).describe("How that rung stands"),
  blinks: z.int().min(1).max(20).optional().describe("Blinks in a group, where they are counted"),
  means: text().max(300).optional().describe("In the maker's words"),
});

/** One thing that was looked at, and what it showed. */
export const observationSchema = z.object({
  check: z.enum(["lamp", ...COMMON_CHECK_IDS]).describe("What was looked at"),
  outcome: z
    .union([z.number(), text().trim().min(1, "say what it shows").max(200)])
    .describe("What it showed: one of the check's outcomes, an address, a number, or a pattern's id"),
});

/** How long it may take by itself, min. */
const waitsShape = z.object({
  contactMin: z.number().positive().max(1440).default(10).describe("From power or a change to the first contact, min"),
  firmwareMin: z.number().positive().max(1440).default(30).describe("A download of firmware, min"),
});

/** What is asked: by which way a device is seen, what its lamps mean, what changed, and what was looked at. */
export const onlineRequestSchema = z
  .object({
    way: z
      .enum([...WAY_IDS, "ethernet"])
      .transform((way) => (way === "ethernet" ? ("cable" as const) : way))
      .describe("By which way it is seen; ethernet, as links name it, is cable"),
    bandsGhz: z
      .array(z.union([z.literal(2.4), z.literal(5)]))
      .max(2)
      .default([2.4])
      .describe("Wi-Fi bands that it hears, GHz"),
    lamps: z.array(lampPatternSchema).max(60).default([]).describe("What the kit's lamps mean"),
    changed: z.enum(CHANGED_IDS).optional().describe("What changed lately; left out where nobody knows"),
    subnet: text()
      .trim()
      .refine((own) => parsedSubnet(own) !== undefined, "an address and a length: 192.168.7.0/24")
      .optional()
      .describe("The site's network"),
    accessPoint: text()
      .trim()
      .refine(isIpv4, "four numbers from 0 to 255 with dots: 192.168.7.20")
      .optional()
      .describe("Address of the device's own access point"),
    waits: waitsShape.default(() => waitsShape.parse({})).describe("How long it may take, by the kit"),
    observed: z.array(observationSchema).max(MOST_OBSERVED).default([]).describe("What was looked at, in any order"),
  })
  .superRefine(refineWith(observationProblems));

/** The answer: how high the chain is proved, what is wrong, what to look at next. */
export const onlineResponseSchema = z.object({
  verdict: z
    .enum(["cause-found", "several", "not-explained"])
    .describe("One cause stands out; several are left; or no cause explains what was seen"),
  rung: z.enum(RUNG_IDS).nullable().describe("The highest rung that is proved; null where none is"),
  breaksAt: z.enum(RUNG_IDS).nullable().describe("The rung at which the likeliest cause breaks it"),
  causes: z.array(
    z.object({
      id: z.enum(CAUSE_IDS as readonly [(typeof CAUSE_IDS)[number]]),
      title: z.string(),
      probability: z.number().describe("From 0 to 1; of a pair each has half"),
      why: z.string(),
      cure: z.array(z.string()),
    }),
  ),
  pairs: z
    .array(
      z.object({
        ids: z.array(z.enum(CAUSE_IDS as readonly [(typeof CAUSE_IDS)[number]])),
        probability: z.number(),
      }),
    )
    .describe("Two causes at once, where that is likely"),
  nextChecks: z.array(
    z.object({
      check: z.enum(["lamp", ...COMMON_CHECK_IDS]),
      gainBits: z.number().describe("What it tells of the cause, bits"),
      minutes: z.number(),
      why: z.string(),
    }),
  ),
  restart: z.string().nullable().describe("What to start again before anything else, where nothing changed"),
  wait: z
    .object({ minutes: z.number(), why: z.string() })
    .nullable()
    .describe("How much longer to wait, where that is worth more than looking"),
  contradiction: z
    .object({
      observed: z.array(z.object({ check: z.string(), outcome: z.union([z.string(), z.number()]) })),
      why: z.string(),
    })
    .nullable()
    .describe("The two that fit together least, where nothing explains all of it"),
});

/** What is asked, checked. */
export type OnlineRequest = z.output<typeof onlineRequestSchema>;
/** What is asked, as it is sent. */
export type OnlineQuestion = z.input<typeof onlineRequestSchema>;
/** The answer. */
export type OnlineAnswer = z.output<typeof onlineResponseSchema>;
/** One thing that was looked at. */
export type Observed = z.output<typeof observationSchema>;
/** A pattern of a lamp, with what it says of a rung. */
export type LampPattern = z.output<typeof lampPatternSchema>;

function observationProblems({
  lamps,
  observed,
}: Readonly<Pick<OnlineRequest, "lamps" | "observed">>): readonly Problem[] {
  const twice = lamps.findIndex(({ id }, at) => lamps.findIndex((other) => other.id === id) < at);
  return [
    ...(twice >= 0 ? [{ path: ["lamps", twice, "id"], message: `the pattern ${lamps[twice]!.id} stands twice` }] : []),
    ...observed.flatMap((own, at) => {
      const message = outcomeProblem(own, lamps);
      return message === undefined ? [] : [{ path: ["observed", at, "outcome"], message }];
    }),
  ];
}

/**
 * What is wrong with what a check is said to have shown; undefined where nothing is.
 *
 * For example: `{ check: "hub", outcome: "maybe" }`: "hub shows heard or lost".
 */
export function outcomeProblem({ check, outcome }: Observed, lamps: readonly LampPattern[]): string | undefined {
  if (check === "lamp")
    return lamps.some(({ id }) => id === outcome) ? undefined : `the kit has no lamp pattern "${outcome}"`;
  const { typed, outcomes } = checkOf(check);
  if (check === "display") return typeof outcome === "string" ? undefined : "type what the display shows, or dark";
  if (typed === "address")
    return outcome === "duplicate" || (typeof outcome === "string" && isIpv4(outcome))
      ? undefined
      : "an address of four numbers from 0 to 255 with dots, or duplicate";
  if (typed === "number") return numberProblem(check, Number(outcome));
  return Object.hasOwn(outcomes, String(outcome)) ? undefined : `${check} shows ${Object.keys(outcomes).join(" or ")}`;
}

function numberProblem(check: string, value: number): string | undefined {
  if (!Number.isFinite(value)) return "type a number";
  if (check === "signal") return value >= -150 && value <= 0 ? undefined : "a signal is from -150 to 0 dBm";
  if (check === "clock") return Math.abs(value) <= 1e10 ? undefined : "type how many seconds it is off";
  return value >= 0 && value <= 1e7 ? undefined : "minutes are 0 or more";
}
