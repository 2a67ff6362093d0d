import { planProblems } from "@/core/site/planProblems";
import { siteShape } from "@/core/site/planSchema";
import { refineWith } from "@/core/problem";

/**
 * The site plan: a tree of runs from the grid, the meters with what each input is meant to measure
 * (the intention), and the CTs as they are fitted. Units are in the names; current is positive toward
 * the load side. Fails with one issue, with its path, for every id, phase, tap or plug that does not
 * fit the rest of the plan.
 */
export const siteSchema = siteShape.superRefine(refineWith(planProblems));
