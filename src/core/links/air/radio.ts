import { said, together } from "@/core/sentence";
import { z } from "zod";
import { findingSchema, type Finding, type WithFindings } from "@/core/findings";
import { linkFinding } from "@/core/links/check/linkFinding";
import { threeDigits } from "@/core/units";

/** Thermal noise in 1 Hz, dBm, and what a usual receiver adds, dB. */
const THERMAL_DBM_PER_HZ = -174;
const NOISE_FIGURE_DB = 6;
/** Least signal against noise that each spreading factor is received at, dB (published for LoRa receivers). */
const REQUIRED_SNR_DB: Readonly<Record<number, number>> = {
  6: -5,
  7: -7.5,
  8: -10,
  9: -12.5,
  10: -15,
  11: -17.5,
  12: -20,
};
/** Symbols longer than this are sent with low data rate optimisation, ms. */
const LOW_RATE_ABOVE_MS = 16;
const SYNC_SYMBOLS = 4.25;
const HEADER_SYMBOLS = 8;
const CHECKSUM_BITS = 16;
/** Free space at 1 m: 20 · log10(4π · 1 m / λ) = 20 · log10(f in MHz) − 27.55 dB. */
const FREE_SPACE_EXPONENT = 2;
const FREE_SPACE_OFFSET_DB = -27.55;
const SOURCE =
  "Log-distance path loss; published LoRa air time; receiver noise −174 dBm/Hz + 10·log10(BW) + 6 dB + required SNR";

/** What the route `radio` takes: a pair and its path; dB, dBm, m. */
export const radioRequestSchema = z.object({
  frequencyMhz: z.number().min(1).max(100_000),
  txDbm: z.number().min(-50).max(60),
  /** Both aerials together, or each. */
  gainsDbi: z.union([z.number().min(-60).max(60), z.array(z.number().min(-60).max(60)).max(4)]).default(0),
  distanceM: z.number().positive().max(1e6),
  /** 2 in free space, about 3 through a house. */
  exponent: z.number().min(1).max(8).default(2),
  wallsDb: z.array(z.number().min(0).max(100)).max(50).default([]),
  /** What the link should have to spare. */
  marginDb: z.number().min(0).max(100).default(10),
  spreadingFactor: z.int().min(6).max(12),
  bandwidthKhz: z.number().positive().max(2000),
  codingRate: z.int("5 to 8, for 4/5 to 4/8").min(5).max(8).default(5),
  preamble: z.int().min(0).max(65_535).default(8),
  payloadBytes: z.int().min(0).max(255),
});

/** The answer of the route `radio`. */
export const radioResponseSchema = z.object({
  pathLossDb: z.number(),
  rxDbm: z.number(),
  sensitivityDbm: z.number(),
  /** Received level above the sensitivity; compare with the margin that was asked for. */
  linkMarginDb: z.number(),
  airTimeMs: z.number(),
  findings: z.array(findingSchema),
});

/** A radio pair with its path. */
export type RadioLink = z.output<typeof radioRequestSchema>;
/** What arrives, dBm, what is to spare, dB, and the air time, ms. */
export type RadioResult = WithFindings<z.output<typeof radioResponseSchema>>;

/**
 * A sub-GHz radio pair in numbers: what arrives, L0 + 10 · n · log10(d) + walls, against what is needed, and how long a
 * frame is in the air, which every reading waits for.
 *
 * For example: At 868 MHz, SF 7, 125 kHz, 4/5, preamble 8, 20 bytes: airTimeMs 56.576.
 */
export function radio(link: RadioLink): RadioResult {
  const gains = typeof link.gainsDbi === "number" ? link.gainsDbi : link.gainsDbi.reduce((sum, gain) => sum + gain, 0);
  const walls = link.wallsDb.reduce((sum, wall) => sum + wall, 0);
  const pathLossDb = 20 * Math.log10(link.frequencyMhz) + FREE_SPACE_OFFSET_DB + lossDb(link) + walls;
  const rxDbm = link.txDbm + gains - pathLossDb;
  const sensitivityDbm =
    THERMAL_DBM_PER_HZ +
    10 * Math.log10(link.bandwidthKhz * 1000) +
    NOISE_FIGURE_DB +
    REQUIRED_SNR_DB[link.spreadingFactor]!;
  const linkMarginDb = rxDbm - sensitivityDbm;
  const airTimeMs = loraAirTimeMs(link);
  return {
    pathLossDb,
    rxDbm,
    sensitivityDbm,
    linkMarginDb,
    airTimeMs,
    findings: [...radioFindings(link, linkMarginDb)],
  };
}

/** Beyond the first metre, dB; nearer than that the field is near, and no path is better than free space. */
function lossDb({ distanceM, exponent }: Pick<RadioLink, "distanceM" | "exponent">): number {
  const decades = Math.log10(distanceM);
  return decades >= 0 ? 10 * exponent * decades : 10 * Math.min(exponent, FREE_SPACE_EXPONENT) * decades;
}

/**
 * How long a LoRa frame is in the air, ms, with an explicit header and a checksum:
 * (preamble + 4.25) symbols + 8 + ⌈(8·PL − 4·SF + 28 + 16) / (4·(SF − 2·DE))⌉ · CR symbols of 2^SF / BW each.
 */
export function loraAirTimeMs({
  spreadingFactor,
  bandwidthKhz,
  codingRate,
  preamble,
  payloadBytes,
}: Pick<RadioLink, "spreadingFactor" | "bandwidthKhz" | "codingRate" | "preamble" | "payloadBytes">): number {
  const symbolMs = 2 ** spreadingFactor / bandwidthKhz;
  const lowRate = symbolMs > LOW_RATE_ABOVE_MS ? 1 : 0;
  const bits = 8 * payloadBytes - 4 * spreadingFactor + 28 + CHECKSUM_BITS;
  const payloadSymbols =
    HEADER_SYMBOLS + Math.max(0, Math.ceil(bits / (4 * (spreadingFactor - 2 * lowRate))) * codingRate);
  return (preamble + SYNC_SYMBOLS + payloadSymbols) * symbolMs;
}

function radioFindings(link: RadioLink, linkMarginDb: number): readonly Finding[] {
  const make = linkFinding(SOURCE);
  if (linkMarginDb < 0) {
    return [
      make(
        "no-link",
        "stop",
        undefined,
        "Nothing arrives",
        together(
          said`What arrives is ${threeDigits(-linkMarginDb)} dB below what the receiver hears over `,
          said`${threeDigits(link.distanceM)} m.`,
        ),
        "Move the aerials, take a wire, or a larger spreading factor",
      ),
    ];
  }
  if (linkMarginDb >= link.marginDb) return [];
  return [
    make(
      "margin-low",
      "fix",
      undefined,
      "Little to spare",
      together(
        said`${threeDigits(linkMarginDb)} dB above what the receiver needs; ${threeDigits(link.marginDb)} dB `,
        "are wanted for weather, doors and vehicles.",
      ),
      "Put the aerials higher and outside metal, or take a larger spreading factor",
    ),
  ];
}
