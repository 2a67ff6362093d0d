import { z } from "zod";
import { addPlanned } from "@/core/flows/editSheet";
import { proofPlan } from "@/core/flows/proof/proofPlan";
import { jobDocumentSchema, jobNameSchema, type JobDocument } from "@/core/job/jobDocument";
import { starterPlan } from "@/core/job/starterPlan";
import { refineWith } from "@/core/problem";
import { placeAsPlanned } from "@/core/site/fitClamp";

/** The id of the first step on the sheet of such a site. */
export const FIRST_STEP = "step-1";

/** What a usual house has, kW; the readings say what this one has. */
const USUAL_SOLAR_KW = { "single-phase": 3.6, "split-phase": 6, "three-phase": 10 } as const;
const USUAL_BATTERY_KW = { "single-phase": 3, "split-phase": 5, "three-phase": 5 } as const;

/** The three questions about a site that is there already and reads wrong. */
export const doubtedSiteSchema = z
  .object({
    name: jobNameSchema.describe("What the job is called"),
    system: z.enum(["single-phase", "split-phase", "three-phase"]).describe("The supply"),
    sources: z
      .enum(["solar", "solar-and-battery", "battery", "none"])
      .describe("What generates or stores on its own inverter"),
    meters: z.enum(["grid", "grid-and-solar"]).describe("What is measured: the supply alone, or the solar as well"),
  })
  .superRefine(
    refineWith(({ sources, meters }) =>
      meters === "grid-and-solar" && (sources === "battery" || sources === "none")
        ? [{ path: ["meters"], message: "there is no solar to be measured" }]
        : [],
    ),
  );

/** What somebody says of a site that reads wrong. */
export type DoubtedSite = z.output<typeof doubtedSiteSchema>;

/**
 * A job for a site that is there already and reads wrong: its CTs taken as fitted by the usual plan, a service visit,
 * and the shortest proof on its sheet, so that the first thing to do is to read.
 *
 * For example: `doubtedSite({ name: "Reads wrong", system: "single-phase", sources: "solar", meters: "grid" })` has a
 * grid meter with A1 and a sheet of two steps: the inverter generating, then a test load with it off.
 */
export function doubtedSite({ name, system, sources, meters }: DoubtedSite): JobDocument {
  const plan = starterPlan({
    name,
    place: "",
    system,
    solarKw: sources.startsWith("solar") ? USUAL_SOLAR_KW[system] : 0,
    batteryKw: sources.endsWith("battery") ? USUAL_BATTERY_KW[system] : 0,
    solarMeter: meters === "grid-and-solar",
    arrow: "to-load",
  });
  const site = placeAsPlanned(plan.site);
  const { steps } = proofPlan(site, { background: undefined, noise: plan.tests.noise });
  let made = 0;
  return jobDocumentSchema.parse({
    ...plan,
    site,
    tests: addPlanned(plan.tests, steps, () => `step-${++made}`),
    visit: { ...plan.visit, kind: "service", reason: "reading-wrong" },
  });
}
