import { z } from "zod";
import { jobNameSchema } from "@/core/job/jobDocument";
import { askedPatternIdSchema } from "@/core/job/patternId";
import type { Pattern } from "@/core/patterns/patternSchema";
import { waySchema } from "@/core/site/planSchema";
import { idSchema } from "@/core/names";
import { phaseSchema } from "@/core/phase";
import { text } from "@/core/text";

const deviceAnswerSchema = z.object({
  id: idSchema,
  present: z.boolean(),
  existing: z.boolean(),
  ratedW: z.number("give the rating in kW").positive("above 0").max(1e7, "at most 10 000 kW").optional(),
  phase: phaseSchema.optional(),
});

/** The few things about a site that its pattern cannot know. */
export const patternAnswersSchema = z.object({
  pattern: askedPatternIdSchema,
  name: jobNameSchema,
  place: text().trim().max(120, "at most 120 characters").default(""),
  system: z.enum(["single-phase", "split-phase", "three-phase"]),
  mainFuseA: z.number("give the main fuse in A").positive("above 0").max(5000, "at most 5000 A"),
  devices: z.array(deviceAnswerSchema).max(60),
  ways: z.array(waySchema).max(60),
});

/** What somebody answers to a pattern's questions. */
export type PatternAnswers = z.output<typeof patternAnswersSchema>;

/** The answers that a pattern starts with: everything present, as usual. */
export function usualAnswers(pattern: Pattern): PatternAnswers {
  return {
    pattern: pattern.id,
    name: pattern.title,
    place: "",
    system: pattern.supply.systems[0]!,
    mainFuseA: pattern.supply.mainFuseA,
    devices: pattern.nodes.filter(isAskedAbout).map((node) => ({
      id: node.id,
      present: true,
      existing: node.existing,
      ...(node.ratedW === undefined ? {} : { ratedW: node.ratedW }),
      ...(node.phases === "one" ? { phase: "L1" as const } : {}),
    })),
    ways: pattern.ways,
  };
}

/** Boards, the house and test loads are there without asking. */
export function isAskedAbout({ kind }: Pattern["nodes"][number]): boolean {
  return kind !== "board" && kind !== "load" && kind !== "test-load";
}
