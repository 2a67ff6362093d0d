import { z } from "zod";
import type { Conductor, Supply } from "@/core/site/planSchema";

/** The colours of conductors where the site is. */
export const colourSchemeSchema = z.enum(["iec", "older-uk", "north-america", "australia-nz"]);

/** A scheme of conductor colours. */
export type ColourScheme = z.output<typeof colourSchemeSchema>;

interface ConductorColour {
  /** The colour's name, so that it is never told by colour alone. */
  readonly name: string;
  readonly hex: string;
}

interface SchemeData {
  readonly name: string;
  readonly source: string;
  readonly colours: Readonly<Record<Conductor, ConductorColour>>;
}

/**
 * Wiring colours of the trade by region. What is really on the wall wins: these are for the picture, never for proof.
 */
export const COLOUR_SCHEMES: Readonly<Record<ColourScheme, SchemeData>> = {
  iec: {
    name: "IEC",
    source: "IEC 60445",
    colours: {
      L1: { name: "brown", hex: "#7b4a1e" },
      L2: { name: "black", hex: "#22201e" },
      L3: { name: "grey", hex: "#8d9094" },
      N: { name: "blue", hex: "#2b6fc9" },
    },
  },
  "older-uk": {
    name: "Older UK",
    source: "BS 7671 before 2004",
    colours: {
      L1: { name: "red", hex: "#c0302b" },
      L2: { name: "yellow", hex: "#d9a514" },
      L3: { name: "blue", hex: "#2b6fc9" },
      N: { name: "black", hex: "#22201e" },
    },
  },
  "north-america": {
    name: "North America",
    source: "common practice with NFPA 70 (neutral white or grey)",
    colours: {
      L1: { name: "black", hex: "#22201e" },
      L2: { name: "red", hex: "#c0302b" },
      L3: { name: "blue", hex: "#2b6fc9" },
      N: { name: "white", hex: "#f4f1ea" },
    },
  },
  "australia-nz": {
    name: "Australia and New Zealand",
    source: "AS/NZS 3000",
    colours: {
      L1: { name: "red", hex: "#c0302b" },
      L2: { name: "white", hex: "#f4f1ea" },
      L3: { name: "dark blue", hex: "#27408b" },
      N: { name: "black", hex: "#22201e" },
    },
  },
};

/** The scheme to start with where nobody has chosen. */
export function usualColourScheme(system: Supply["system"]): ColourScheme {
  return system === "split-phase" ? "north-america" : "iec";
}
