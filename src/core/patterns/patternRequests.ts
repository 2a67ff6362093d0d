import { z } from "zod";
import { askedVisitSchema } from "@/core/plan/askedVisit";
import { patternAnswersSchema } from "@/core/patterns/patternAnswers";

/** The patterns that there are. */
export const patternListSchema = z.object({
  patterns: z.array(
    z.object({
      id: z.string(),
      title: z.string(),
      summary: z.string(),
      systems: z.array(z.enum(["single-phase", "split-phase", "three-phase"])),
      visit: z.object({ kind: z.string(), reason: z.string().optional() }),
    }),
  ),
});

/** What a job of a pattern is asked for: answers in place of the usual ones, and the visit. */
export const patternJobRequestSchema = z.object({
  answers: patternAnswersSchema.omit({ pattern: true }).partial().optional(),
  visit: askedVisitSchema.optional(),
});
