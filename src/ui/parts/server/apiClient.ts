import type { z } from "zod";
import { fetchFromServer } from "@/ui/parts/browser/useConnected";
import { errorAnswerSchema, type ErrorAnswer } from "@/core/answers/errorAnswer";
import { PARTS_WORDS } from "@/ui/words/partsWords";

/** What a route said was wrong. */
export type ApiProblem = Pick<ErrorAnswer["error"], "message" | "issues">;

export type ApiAnswer<T> =
  | { readonly kind: "ok"; readonly value: T }
  | { readonly kind: "failed"; readonly status: number; readonly problem: ApiProblem; readonly body: unknown };

type Method = "GET" | "POST" | "PUT" | "PATCH" | "DELETE";

const TIMEOUT_MS = 60_000;
const NOTHING = 204;
const DEFECT = 500;

/** Call a route of this app with JSON. Throws only when the server cannot be reached, or does not answer. */
export function callApi<S extends z.ZodType>(
  method: Method,
  path: string,
  schema: S,
  body?: string,
): Promise<ApiAnswer<z.output<S>>> {
  return sendApi(method, path, schema, body, body === undefined ? undefined : "application/json");
}

/** Call a route of this app with a body of any type; its answer is parsed by the schema that the route has too. */
export async function sendApi<S extends z.ZodType>(
  method: Method,
  path: string,
  schema: S,
  body: BodyInit | undefined,
  type: string | undefined,
  timeoutMs = TIMEOUT_MS,
): Promise<ApiAnswer<z.output<S>>> {
  const headers = type === undefined ? undefined : { "content-type": type };
  const response = await fetchFromServer(path, { method, body, headers, signal: AbortSignal.timeout(timeoutMs) });
  const answer: unknown = response.status === NOTHING ? undefined : await response.json().catch(() => undefined);
  if (!response.ok) return { kind: "failed", status: response.status, problem: problemOf(answer), body: answer };
  const parsed = schema.safeParse(answer);
  if (parsed.success) return { kind: "ok", value: parsed.data };
  return { kind: "failed", status: DEFECT, problem: NO_SENSE, body: answer };
}

/** Whether an answer of this status may be another one when asked again: busy, away, or a defect. */
export function isPassing(status: number): boolean {
  return status >= DEFECT || status === 429 || status === 408;
}

/** What to say when the server did not answer at all. */
export const UNREACHABLE: ApiProblem = {
  message: PARTS_WORDS.gormitsServerCannotBeReached,
  issues: [],
};

const NO_SENSE: ApiProblem = {
  message: PARTS_WORDS.theServerGaveAnAnswerThatMakes,
  issues: [],
};

function problemOf(answer: unknown): ApiProblem {
  const parsed = errorAnswerSchema.safeParse(answer);
  return parsed.success ? parsed.data.error : NO_SENSE;
}
