import { z } from "zod";

/** What every route answers when it cannot: what is wrong, and where. */
export const errorAnswerSchema = z.object({
  error: z.object({
    code: z.string(),
    message: z.string(),
    issues: z.array(z.object({ path: z.string(), message: z.string() })),
  }),
});

/** An answer that says what was wrong. */
export type ErrorAnswer = z.output<typeof errorAnswerSchema>;
