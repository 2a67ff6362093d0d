import { log } from "@/app/log";
import type { z } from "zod";
import { pathText, problemsOf, type Problem } from "@/core/problem";
import { DatabaseBusy, DatabaseUnavailable, StorageFull, UnstorableValue } from "@/db/client";
import type { ThreadOutcome } from "@/workers/serverThreads";

/**
 * The largest body that a route reads, if it does not say otherwise; the largest real site is a few tens of kilobytes.
 */
export const MAX_BODY_BYTES = 1_000_000;

/** Read and thrown away behind the limit: whoever still sends would else see a broken connection and not the answer. */
const DRAINED_BYTES = 32 * 1024 * 1024;
/** Who sends nothing for so long, or in the long run less than this, is cut: a slow client holds a connection. */
const SILENT_MS = 15_000;
const SLOW_AFTER_MS = 20_000;
const LEAST_BYTES_A_S = 2_000;

const STATUS = {
  "bad-json": 400,
  invalid: 400,
  forbidden: 403,
  "not-found": 404,
  "too-slow": 408,
  conflict: 409,
  "too-large": 413,
  "wrong-type": 415,
  "cannot-compute": 422,
  "too-much": 429,
  failed: 500,
  busy: 503,
  "database-unavailable": 503,
  "disk-full": 507,
} as const;

type ErrorCode = keyof typeof STATUS;

/** The one form of an error answer. Paths are given as text ("site.nodes[2].phases[0]"). */
export function errorResponse(
  code: ErrorCode,
  message: string,
  problems: readonly Problem[] = [],
  more: object = {},
  headers: Readonly<Record<string, string>> = {},
): Response {
  const issues = problems.map((problem) => ({ path: pathText(problem.path), message: problem.message }));
  return Response.json(
    { error: { code, message, issues }, ...more },
    { status: STATUS[code], headers: { ...PRIVATE, ...headers } },
  );
}

/** Nothing of a job or a person is kept by a proxy or a browser's disk. */
export const PRIVATE = { "cache-control": "private, no-store" } as const;

/** An answer by its schema, which whoever asks parses it with too: a defect shows here first. */
export function answerBy<S extends z.ZodType>(schema: S, value: z.input<S>, init: ResponseInit = {}): Response {
  return jsonResponse(schema.parse(value), init);
}

/** An answer of this app: of one person, and of now. */
export function jsonResponse(value: unknown, init: ResponseInit = {}): Response {
  return Response.json(value, { ...init, headers: { ...PRIVATE, ...init.headers } });
}

export type Parsed<T> =
  { readonly kind: "ok"; readonly value: T } | { readonly kind: "refused"; readonly response: Response };

/**
 * Read a body of JSON of at most `limitBytes`, and parse it by the schema. For what is small: the rest is read in a
 * thread.
 */
export async function parseBody<S extends z.ZodType>(
  request: Request,
  schema: S,
  limitBytes = MAX_BODY_BYTES,
): Promise<Parsed<z.output<S>>> {
  const body = await readJsonBytes(request, limitBytes);
  if (body.kind === "refused") return body;
  let raw: unknown;
  try {
    raw = JSON.parse(body.value.toString("utf8"));
  } catch (error) {
    const detail = error instanceof Error ? error.message : "unreadable";
    return refused(errorResponse("bad-json", `The body is not JSON: ${detail}`, [{ path: [], message: detail }]));
  }
  const parsed = schema.safeParse(raw);
  if (parsed.success) return { kind: "ok", value: parsed.data };
  const { message, problems } = problemsOf(parsed.error);
  return refused(errorResponse("invalid", message, problems));
}

/**
 * Read a body that says that it is JSON. What a form or a foreign page can send without being asked says something
 * else.
 */
export async function readJsonBytes(request: Request, limitBytes: number): Promise<Parsed<Buffer>> {
  return readBytesOf(request, ["application/json"], limitBytes);
}

/** Read a body of one of these types. */
export async function readBytesOf(
  request: Request,
  types: readonly string[],
  limitBytes: number,
): Promise<Parsed<Buffer>> {
  const type = request.headers.get("content-type")?.split(";")[0]?.trim().toLowerCase() ?? "";
  if (!types.includes(type))
    return refused(
      errorResponse(
        "wrong-type",
        `The body must be ${types.join(" or ")}; this one says ${type === "" ? "nothing" : `"${type}"`}.`,
        [{ path: ["content-type"], message: `must be ${types.join(" or ")}` }],
      ),
    );
  return readBytes(request, limitBytes);
}

/** Read a body as bytes; what is longer than allowed is not kept, and who sends too slowly is cut. */
export async function readBytes(request: Request, limitBytes: number): Promise<Parsed<Buffer>> {
  const chunks: Uint8Array[] = [];
  const startedMs = performance.now();
  let size = 0;
  const reader = request.body?.getReader();
  for (;;) {
    const next = await withinSilence(reader?.read());
    if (next === "silent" || isSlow(size, performance.now() - startedMs)) {
      void reader?.cancel().catch(() => undefined);
      return refused(
        errorResponse("too-slow", "The body came too slowly; nothing was changed.", [], {}, { connection: "close" }),
      );
    }
    if (!next || next.done) break;
    size += next.value.byteLength;
    if (size > DRAINED_BYTES + limitBytes) {
      await reader?.cancel();
      break;
    }
    if (size <= limitBytes) chunks.push(next.value);
  }
  if (size > limitBytes)
    return refused(
      errorResponse("too-large", `The body is larger than ${limitBytes} bytes.`, [{ path: [], message: "too large" }]),
    );
  return { kind: "ok", value: Buffer.concat(chunks) };
}

/** What a thread answered, or the response that says why it did not: too much going on, too long, too large. */
export function fromThread<T>(outcome: ThreadOutcome<T>): Parsed<T> {
  switch (outcome.kind) {
    case "done":
      return { kind: "ok", value: outcome.value };
    case "busy":
    case "aborted":
      return refused(refusal(outcome));
    case "too-long":
      return refused(
        errorResponse(
          "cannot-compute",
          `This takes longer than the ${outcome.limitMs / 1000} s that are spent on one answer.`,
          [{ path: [], message: "ask for less" }],
          { cost: { limitMs: outcome.limitMs } },
        ),
      );
    case "too-large":
      return refused(
        errorResponse("cannot-compute", "This takes more memory than is spent on one answer.", [
          { path: [], message: "ask for less" },
        ]),
      );
  }
}

/** The answer to whom there is no room for now, or who has left. */
export function refusal(turn: Extract<ThreadOutcome<unknown>, { kind: "busy" | "aborted" }>): Response {
  // Nobody reads it.
  return turn.kind === "busy" ? busyResponse(turn) : new Response(null, { status: 499 });
}

function busyResponse({
  whose,
  retryAfterS,
}: {
  readonly whose: "person" | "everybody";
  readonly retryAfterS: number;
}): Response {
  const after = { "retry-after": String(retryAfterS) };
  return whose === "person"
    ? errorResponse(
        "too-much",
        `You are having several things computed already. Try again in ${retryAfterS} s.`,
        [],
        {},
        after,
      )
    : errorResponse("busy", `Too much is being computed at the moment. Try again in ${retryAfterS} s.`, [], {}, after);
}

/**
 * Run a route and turn what is thrown into an answer: a database that is away, busy or full, a value that none can
 * hold, or a defect that is logged.
 */
export async function answered(work: () => Promise<Response>): Promise<Response> {
  try {
    return await work();
  } catch (error) {
    if (error instanceof DatabaseUnavailable)
      return errorResponse("database-unavailable", error.message, [], {}, { "retry-after": "2" });
    if (error instanceof DatabaseBusy) return errorResponse("busy", error.message, [], {}, { "retry-after": "1" });
    if (error instanceof UnstorableValue)
      return errorResponse("invalid", error.message, [{ path: [], message: "cannot be kept" }]);
    if (error instanceof StorageFull) return errorResponse("disk-full", error.message);
    log.error({ err: error }, "route failed");
    return errorResponse("failed", "Something went wrong here; nothing was changed. Try again.");
  }
}

function refused(response: Response): { readonly kind: "refused"; readonly response: Response } {
  return { kind: "refused", response };
}

function isSlow(bytes: number, elapsedMs: number): boolean {
  return elapsedMs > SLOW_AFTER_MS && bytes < (elapsedMs / 1000) * LEAST_BYTES_A_S;
}

async function withinSilence<T>(read: Promise<T> | undefined): Promise<T | undefined | "silent"> {
  if (!read) return undefined;
  let timer: NodeJS.Timeout | undefined;
  const silence = new Promise<"silent">((resolve) => {
    timer = setTimeout(() => resolve("silent"), SILENT_MS);
  });
  try {
    return await Promise.race([read, silence]);
  } finally {
    clearTimeout(timer);
  }
}
