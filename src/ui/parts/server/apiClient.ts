/** What a route said was wrong. */
export interface ApiProblem {
  readonly message: string;
  readonly issues: readonly { readonly path: string; readonly message: string }[];
}

export type ApiAnswer<T> =
  | { readonly kind: "ok"; readonly value: T }
  | { readonly kind: "failed"; readonly status: number; readonly problem: ApiProblem; readonly body: unknown };

const TIMEOUT_MS = 60_000;

/** Call a route of this app with JSON. Throws only when the server cannot be reached, or does not answer. */
export function callApi<T>(
  method: "GET" | "POST" | "PUT" | "DELETE",
  path: string,
  body?: string,
): Promise<ApiAnswer<T>> {
  return sendApi(method, path, body, body === undefined ? undefined : "application/json");
}

/** Call a route of this app with a body of any type. */
export async function sendApi<T>(
  method: string,
  path: string,
  body: BodyInit | undefined,
  type: string | undefined,
  timeoutMs = TIMEOUT_MS,
): Promise<ApiAnswer<T>> {
  const headers = type === undefined ? undefined : { "content-type": type };
  const response = await fetch(path, { method, body, headers, signal: AbortSignal.timeout(timeoutMs) });
  const answer: unknown = response.status === 204 ? undefined : await response.json().catch(() => undefined);
  // The routes are our own and typed by what they return; a cast here, once, stands for the shared knowledge of both
  // sides.
  if (response.ok) return { kind: "ok", value: answer as T };
  return { kind: "failed", status: response.status, problem: problemOf(answer), body: answer };
}

/** Whether an answer of this status may be another one when asked again: busy, away, or a defect. */
export function isPassing(status: number): boolean {
  return status >= 500 || status === 429 || status === 408;
}

/** What to say when the server did not answer at all. */
export const UNREACHABLE: ApiProblem = {
  message: "Gormit's server cannot be reached. Nothing was changed; try again.",
  issues: [],
};

function problemOf(answer: unknown): ApiProblem {
  const error = isRecord(answer) && isRecord(answer.error) ? answer.error : {};
  const issues = Array.isArray(error.issues) ? error.issues.filter(isRecord) : [];
  return {
    message:
      typeof error.message === "string"
        ? error.message
        : "The server gave an answer that makes no sense. Nothing was changed; try again.",
    issues: issues.map((issue) => ({ path: String(issue.path), message: String(issue.message) })),
  };
}

function isRecord(value: unknown): value is Record<string, unknown> {
  return typeof value === "object" && value !== null && !Array.isArray(value);
}
