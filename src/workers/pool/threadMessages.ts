import { z } from "zod";

/** What a thread is asked: a task by its name, with its input. */
export interface ThreadTask {
  readonly name: string;
  readonly input: unknown;
}

export const threadAskSchema = z.object({ name: z.string(), input: z.unknown(), stop: z.instanceof(Int32Array) });

export const threadAnswerSchema = z.discriminatedUnion("kind", [
  z.object({ kind: z.literal("done"), value: z.unknown() }),
  z.object({ kind: z.literal("aborted") }),
  z.object({ kind: z.literal("failed"), message: z.string(), stack: z.string().optional() }),
]);
