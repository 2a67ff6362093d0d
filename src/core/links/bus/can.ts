import { z } from "zod";
import { said, together } from "@/core/sentence";
import { findingSchema, type Finding, type WithFindings } from "@/core/findings";
import { given } from "@/core/given";
import { linkFinding } from "@/core/links/check/linkFinding";
import { refineWith, type Problem } from "@/core/problem";
import { threeDigits } from "@/core/units";

const PROPAGATION_NS_PER_M = 5;
const TERMINATOR_OHM = 120;
const LAST_STANDARD_ID = 0x7ff;
const LAST_EXTENDED_ID = 0x1fffffff;
/** Bits of a frame without data, and those of them that can be stuffed, by the length of the identifier. */
const FRAME_BITS = { standard: { fixed: 47, stuffable: 34 }, extended: { fixed: 67, stuffable: 54 } } as const;
/** Above this, frames of low priority wait; above the second, they may not come through. */
const BUSY_PCT = 50;
const CROWDED_PCT = 80;
/** What the trade's table gives for a speed, m. */
const USUAL_LENGTH_M: Readonly<Record<number, number>> = { 1_000_000: 40, 500_000: 100, 250_000: 250, 125_000: 500 };
const SOURCE = "ISO 11898: propagation there and back before the sample point; 120 Ω at both ends";

const frameShape = z.object({
  id: z.int().min(0).max(LAST_EXTENDED_ID),
  bytes: z.int().min(0).max(8),
  perSecond: z.number().min(0).max(100_000),
  extended: z.boolean().default(false),
});

const busShape = z.object({
  bitrate: z.number().min(5000).max(1_000_000),
  /** Part of the bit before it is sampled: 0.875, or 87.5 for percent. */
  samplePoint: z.number().positive().max(100).default(0.875),
  lengthM: z.number().min(0).max(10_000),
  /** Delay of transceiver and controller, once through. */
  loopDelayNs: z.number().min(0).max(100_000).default(250),
  terminators: z.int().min(0).max(20),
  frames: z.array(frameShape).max(2000).default([]),
});

/** What the route `can` takes: bit rate in bit/s, length in m, delays in ns. */
export const canRequestSchema = busShape.superRefine(
  refineWith(({ frames }) =>
    frames.flatMap(({ id, extended }, at): readonly Problem[] =>
      !extended && id > LAST_STANDARD_ID
        ? [
            {
              path: ["frames", at, "id"],
              message: `an 11-bit id is at most ${LAST_STANDARD_ID}; say extended for a longer one`,
            },
          ]
        : [],
    ),
  ),
);

/** A bus where nobody said otherwise. */
export const USUAL_CAN_BUS = busShape.parse({ bitrate: 500_000, lengthM: 0, terminators: 0 });

/** The answer of the route `can`. */
export const canResponseSchema = z.object({
  marginNs: z.number(),
  maxLengthM: z.number(),
  busLoadPct: z.number(),
  /** CANH to CANL with every supply off; null without a terminator. */
  resistanceOffOhm: z.number().nullable(),
  findings: z.array(findingSchema),
});

/** A CAN bus as it is computed with. */
export type CanBus = z.output<typeof canRequestSchema>;
/** Margin in ns, largest length in m, load in %, resistance in Ω. */
export type CanResult = WithFindings<z.output<typeof canResponseSchema>>;

/**
 * A CAN bus in numbers: what is left of the bit before its sample point once a level went to the far end and back,
 * 2 · (L · 5 ns/m + loop delay); the longest line for that; the load of its frames with the most stuffing.
 *
 * @example can({ bitrate: 500000, samplePoint: 0.875, lengthM: 20, loopDelayNs: 250, terminators: 2, frames: [] })
 * // { marginNs: 1050, maxLengthM: 125, resistanceOffOhm: 60 }
 */
export function can(bus: CanBus): CanResult {
  const bitNs = 1e9 / bus.bitrate;
  const untilSampleNs = bitNs * samplePart(bus.samplePoint);
  const marginNs = untilSampleNs - 2 * (PROPAGATION_NS_PER_M * bus.lengthM + bus.loopDelayNs);
  const maxLengthM = Math.max(0, (untilSampleNs / 2 - bus.loopDelayNs) / PROPAGATION_NS_PER_M);
  const bitsPerSecond = bus.frames.reduce(
    (sum, frame) => sum + frameBits(frame.bytes, frame.extended) * frame.perSecond,
    0,
  );
  const figures = {
    marginNs,
    maxLengthM,
    busLoadPct: (100 * bitsPerSecond) / bus.bitrate,
    resistanceOffOhm: bus.terminators === 0 ? null : TERMINATOR_OHM / bus.terminators,
  };
  return { ...figures, findings: [...canFindings(bus, figures)] };
}

/**
 * The longest that a frame can be on the line, bits, space between frames included:
 * 47 + 8n + ⌊(34 + 8n − 1) / 4⌋ with an 11-bit identifier, 67 and 54 with one of 29 bits.
 *
 * @example frameBits(8, false) // 135
 */
export function frameBits(bytes: number, isExtended: boolean): number {
  const { fixed, stuffable } = FRAME_BITS[isExtended ? "extended" : "standard"];
  return fixed + 8 * bytes + Math.floor((stuffable + 8 * bytes - 1) / 4);
}

function samplePart(samplePoint: number): number {
  return samplePoint > 1 ? samplePoint / 100 : samplePoint;
}

function canFindings(
  bus: CanBus,
  { marginNs, maxLengthM, busLoadPct }: Pick<CanResult, "marginNs" | "maxLengthM" | "busLoadPct">,
): readonly Finding[] {
  const make = linkFinding(SOURCE);
  const usualM = USUAL_LENGTH_M[bus.bitrate];
  return given(
    marginNs < 0 &&
      make(
        "too-long",
        "fix",
        undefined,
        "Too long for its speed",
        together(
          said`${threeDigits(bus.lengthM)} m at ${bus.bitrate / 1000} kbit/s: the answer comes `,
          said`${threeDigits(-marginNs)} ns after the sample; ${threeDigits(maxLengthM)} m would do.`,
        ),
        "Take a lower bit rate at both ends, or a shorter line",
      ),
    marginNs >= 0 &&
      usualM !== undefined &&
      bus.lengthM > usualM &&
      make(
        "beyond-usual",
        "note",
        undefined,
        "Longer than the usual table",
        together(
          said`${threeDigits(bus.lengthM)} m; the usual table gives ${usualM} m at ${bus.bitrate / 1000} `,
          said`kbit/s. The margin is ${threeDigits(marginNs)} ns.`,
        ),
        "Keep it if both ends have the delays that were put in",
      ),
    bus.terminators < 2 &&
      make(
        "terminator-missing",
        "fix",
        undefined,
        "A terminator is missing",
        together(
          said`${bus.terminators} of 2 `,
          said`terminators${bus.terminators === 1 ? ": 120 Ω across CANH and CANL instead of 60" : ""}.`,
        ),
        "Fit 120 Ω at each end; one is often inside the device",
      ),
    bus.terminators > 2 &&
      make(
        "terminator-extra",
        "fix",
        undefined,
        "A terminator too many",
        said`${bus.terminators} terminators: ${threeDigits(TERMINATOR_OHM / bus.terminators)} Ω instead of 60.`,
        "Take out those that are not at an end",
      ),
    busLoadPct > CROWDED_PCT
      ? make(
          "bus-load",
          "fix",
          undefined,
          "Too much on the bus",
          said`${threeDigits(busLoadPct)} % of the time is taken at worst.`,
          "Take a higher bit rate, or let fewer frames be sent",
        )
      : busLoadPct > BUSY_PCT &&
          make(
            "bus-load",
            "note",
            undefined,
            "Much on the bus",
            said`${threeDigits(busLoadPct)} % of the time is taken at worst.`,
            "Watch for frames that come late",
          ),
  );
}
