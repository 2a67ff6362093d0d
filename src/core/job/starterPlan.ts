import { z } from "zod";
import { jobDocumentSchema, jobNameSchema, JOB_FORMAT, JOB_VERSION, type JobDocument } from "@/core/job/jobDocument";
import { usualColourScheme } from "@/core/site/conductorColours";
import { phasesOfSupply } from "@/core/site/phasors";
import { directionSchema } from "@/core/site/planSchema";
import type { Phase } from "@/core/phase";
import { text } from "@/core/text";

const STANDARD_GRID_PRIMARY_A = 100;
const STANDARD_DEVICE_PRIMARY_A = 50;
const TEST_LOAD_W = 2000;
const LEAST_RATING_KW = 0.001;
/** Where everything is until somebody says more: gates are of a place. */
const PLACE = { id: "board-place", name: "At the main board" };

/** The few questions of a new job; everything else is derived and can be changed. */
export const starterSchema = z.object({
  name: jobNameSchema,
  place: text().trim().max(120, "at most 120 characters").default(""),
  system: z.enum(["single-phase", "split-phase", "three-phase"]),
  solarKw: z
    .number("give the rating in kW, 0 for none")
    .max(1000, "at most 1000 kW")
    .refine(isRating, "0 for none, or at least 0.001 kW")
    .default(0),
  batteryKw: z
    .number("give the rating in kW, 0 for none")
    .max(1000, "at most 1000 kW")
    .refine(isRating, "0 for none, or at least 0.001 kW")
    .default(0),
  solarMeter: z.boolean().default(false),
  arrow: directionSchema.default("to-load"),
});

/** What somebody says of a site before there is a plan; powers in kW. */
export type StarterAnswers = z.output<typeof starterSchema>;

/**
 * A job from the few answers of the new-job form: a main board with the house, what generates and stores,
 * a test load on each phase, a meter at the grid (and one at the solar, if asked for), no CT placed yet.
 *
 * For example: `starterPlan({ name: "Test", place: "", system: "single-phase", solarKw: 4, batteryKw: 0, solarMeter:
 * false, arrow: "to-load" })` gives supply, board, house, solar, one test load; a grid meter of one input
 */
export function starterPlan(answers: StarterAnswers): JobDocument {
  const split = answers.system === "split-phase";
  const supply = {
    system: answers.system,
    voltageV: split ? 120 : 230,
    frequencyHz: split ? 60 : 50,
    rotation: "L1-L2-L3" as const,
  };
  const phases = phasesOfSupply(supply);
  const device = (id: string, kind: string, name: string, kw: number) => ({
    id,
    kind,
    name,
    fedFrom: "board",
    place: PLACE.id,
    phases: devicePhases(phases, kw),
    ratedW: Number((kw * 1000).toPrecision(6)),
  });
  const hasSolar = answers.solarKw > 0;
  const nodes = [
    { id: "grid", kind: "grid", name: "Supply" },
    { id: "board", kind: "board", name: "Main board", fedFrom: "grid", phases, place: PLACE.id },
    { id: "house", kind: "load", name: "House", fedFrom: "board", phases },
    ...(hasSolar ? [device("solar", "pv-inverter", "Solar inverter", answers.solarKw)] : []),
    ...(answers.batteryKw > 0 ? [device("battery", "battery-inverter", "Battery", answers.batteryKw)] : []),
    ...phases.map((phase) => ({
      id: `test-${phase.toLowerCase()}`,
      kind: "test-load",
      name: `Test load ${phase}`,
      fedFrom: "board",
      phases: [phase],
      ratedW: TEST_LOAD_W,
    })),
  ];
  const meters = [
    meter("grid-meter", "Grid meter", "board", phases, {
      arrow: answers.arrow,
      positive: "to-load",
      primaryA: STANDARD_GRID_PRIMARY_A,
    }),
    ...(answers.solarMeter && hasSolar
      ? [
          meter("solar-meter", "Solar meter", "solar", devicePhases(phases, answers.solarKw), {
            arrow: answers.arrow,
            positive: "to-grid",
            primaryA: STANDARD_DEVICE_PRIMARY_A,
          }),
        ]
      : []),
  ];
  return jobDocumentSchema.parse({
    format: JOB_FORMAT,
    version: JOB_VERSION,
    job: { name: answers.name, place: answers.place, notes: "", colourScheme: usualColourScheme(answers.system) },
    site: { supply, nodes, meters, cts: [], places: [PLACE] },
    tests: {},
  });
}

/** Nothing, or something that a plan can hold. */
function isRating(kw: number): boolean {
  return kw === 0 || kw >= LEAST_RATING_KW;
}

/** Small inverters on a three-phase supply are usually on one phase; the plan can say otherwise. */
function devicePhases(phases: readonly Phase[], kw: number): readonly Phase[] {
  return phases.length === 3 && kw <= 4.6 ? phases.slice(0, 1) : phases;
}

function meter(
  id: string,
  name: string,
  run: string,
  phases: readonly Phase[],
  kit: { arrow: string; positive: string; primaryA: number },
) {
  return {
    id,
    name,
    place: PLACE.id,
    taps: Object.fromEntries(phases.map((phase, at) => [`V${at + 1}`, phase])),
    inputs: phases.map((phase, at) => ({
      n: at + 1,
      measures: [{ run, conductor: phase }],
      tap: `V${at + 1}`,
      ...kit,
      secondary: { value: 0.333, unit: "V" },
      invert: false,
    })),
  };
}
