import { z } from "zod";
import { boundedRecord } from "@/core/boundedRecord";
import { findingSchema, type WithFindings } from "@/core/findings";
import { given } from "@/core/given";
import { refineWith, type Problem } from "@/core/problem";
import { text } from "@/core/text";

/** What a schedule has at most, in steps. */
export const MAX_STEPS = 300;
const MAX_PLACES = 60;

const stepIdSchema = text().trim().min(1, "give an id").max(200, "an id has at most 200 characters");
const minutes = z.number().min(0).max(10_000);

const stepShape = z.object({
  id: stepIdSchema,
  place: stepIdSchema,
  /** Somebody is busy with it. */
  activeMin: minutes,
  /** It goes on by itself after that. */
  waitMin: minutes.default(0),
  /** Complete, waiting included, before this one begins. */
  needs: z.array(stepIdSchema).max(MAX_STEPS).default([]),
  /** Begins at most so long after the other is complete: a pairing window. */
  window: z.object({ after: stepIdSchema, withinMin: minutes }).optional(),
  /** Not before this moment: something that is already under way. */
  earliestMin: minutes.default(0),
  /** So many take part, all at that place from its beginning to its end. */
  people: z.int().min(1).max(4).default(1),
  /**
   * What the site is in meanwhile, waiting included: two steps that want one state as different things never overlap.
   */
  state: z.object({ of: stepIdSchema, as: stepIdSchema }).optional(),
});

/** What the route `schedule` takes: steps, needs, windows, technicians; min. */
export const scheduleRequestSchema = z
  .object({
    technicians: z.int().min(1).max(4),
    places: z
      .array(z.object({ id: stepIdSchema }))
      .min(1)
      .max(MAX_PLACES),
    /** Minutes between two places, "a|b", the same both ways; without one it takes no time. */
    walkMin: boundedRecord(text().max(401), minutes, MAX_PLACES * MAX_PLACES).default({}),
    steps: z.array(stepShape).max(MAX_STEPS),
    /**
     * Where each technician is at the beginning, and when free; at the place of their first step, at once, where left
     * out.
     */
    starts: z
      .array(z.object({ place: stepIdSchema.optional(), freeMin: minutes.default(0) }))
      .max(4)
      .default([]),
    seed: z
      .int()
      .min(0)
      .max(2 ** 31)
      .default(1),
  })
  .superRefine(refineWith(scheduleProblems));

/** The answer of the route `schedule`. */
export const scheduleResponseSchema = z.object({
  makespanMin: z.number(),
  lowerBoundMin: z.number(),
  /** Whether no shorter one exists. */
  proven: z.boolean(),
  assignments: z.array(
    z.object({
      step: text(),
      technician: z.int(),
      /** Who else takes part. */
      others: z.array(z.int()).optional(),
      startMin: z.number(),
    }),
  ),
  /** Steps by their start. */
  order: z.array(text()),
  findings: z.array(findingSchema),
});

/** Steps with their needs and windows, and who does them; min. */
export type ScheduleRequest = z.output<typeof scheduleRequestSchema>;
/** Who does what when, min, with a bound below which no plan can be. */
export type Schedule = WithFindings<z.output<typeof scheduleResponseSchema>>;

function scheduleProblems({
  places,
  steps,
  walkMin,
  technicians,
}: {
  readonly technicians: number;
  readonly places: readonly { readonly id: string }[];
  readonly steps: readonly z.output<typeof stepShape>[];
  readonly walkMin: Readonly<Record<string, number>>;
}): readonly Problem[] {
  const known = new Set(places.map(({ id }) => id));
  const ids = new Set(steps.map(({ id }) => id));
  return [
    ...places.flatMap(({ id }, at) =>
      places.findIndex((other) => other.id === id) < at
        ? [{ path: ["places", at, "id"], message: `the place "${id}" stands twice` }]
        : [],
    ),
    ...Object.keys(walkMin).flatMap((pair): readonly Problem[] => {
      const ends = pair.split("|");
      return ends.length === 2 && ends.every((end) => known.has(end))
        ? []
        : [{ path: ["walkMin", pair], message: "two places with | between them" }];
    }),
    ...steps.flatMap((step, at): readonly Problem[] =>
      given(
        steps.findIndex((other) => other.id === step.id) < at && {
          path: ["steps", at, "id"],
          message: `the id "${step.id}" is used twice`,
        },
        step.people > technicians && {
          path: ["steps", at, "people"],
          message: `there are only ${technicians} technicians`,
        },
        !known.has(step.place) && { path: ["steps", at, "place"], message: `there is no place "${step.place}"` },
        step.needs.flatMap((need, which) =>
          ids.has(need) && need !== step.id
            ? []
            : [
                {
                  path: ["steps", at, "needs", which],
                  message: need === step.id ? "a step cannot need itself" : `there is no step "${need}"`,
                },
              ],
        ),
        step.window &&
          (!ids.has(step.window.after) || step.window.after === step.id) && {
            path: ["steps", at, "window", "after"],
            message: `there is no other step "${step.window.after}"`,
          },
      ),
    ),
  ];
}
