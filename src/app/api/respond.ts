import pino from "pino";
import type { z } from "zod";
import type { Problem } from "@/core/problem";
import { pathText } from "@/core/problem";
import { DatabaseUnavailable } from "@/db/client";

/** The largest body that a compute route reads; the largest real site is a few tens of kilobytes. */
export const MAX_BODY_BYTES = 1_000_000;

/** Read and thrown away behind the limit: whoever still sends would else see a broken connection and not the answer. */
const DRAINED_BYTES = 32 * 1024 * 1024;

const log = pino({ name: "gormit" }, pino.destination(2));

type ErrorCode = "bad-json" | "invalid" | "too-large" | "cannot-compute" | "not-found" | "conflict" | "database-unavailable" | "failed";

const STATUS: Readonly<Record<ErrorCode, number>> = {
  "bad-json": 400, "invalid": 400, "too-large": 413, "cannot-compute": 422, "not-found": 404, "conflict": 409,
  "database-unavailable": 503, "failed": 500,
};

/** The one form of an error answer. Paths are given as text ("site.nodes[2].phases[0]"). */
export function errorResponse(code: ErrorCode, message: string, problems: readonly Problem[] = [], more: object = {}): Response {
  const issues = problems.map((problem) => ({ path: pathText(problem.path), message: problem.message }));
  return Response.json({ error: { code, message, issues }, ...more }, { status: STATUS[code] });
}

export type Parsed<T> = { readonly kind: "ok"; readonly value: T } | { readonly kind: "refused"; readonly response: Response };

/** Read a body of at most `limitBytes`, parse it as JSON and by the schema. */
export async function parseBody<S extends z.ZodType>(request: Request, schema: S, limitBytes = MAX_BODY_BYTES): Promise<Parsed<z.output<S>>> {
  const body = await readText(request, limitBytes);
  if (body.kind === "refused") return body;
  let raw: unknown;
  try {
    raw = JSON.parse(body.value);
  } catch (error) {
    const detail = error instanceof Error ? error.message : "unreadable";
    return refused(errorResponse("bad-json", `The body is not JSON: ${detail}`, [{ path: [], message: detail }]));
  }
  const parsed = schema.safeParse(raw);
  if (parsed.success) return { kind: "ok", value: parsed.data };
  const problems = parsed.error.issues.map((issue) => ({ path: issue.path.filter((key) => typeof key !== "symbol"), message: issue.message }));
  const count = problems.length === 1 ? "One thing is" : `${problems.length} things are`;
  return refused(errorResponse("invalid", `${count} wrong with the request; see issues.`, problems));
}

/** Read a body as text; what is longer than allowed is not kept. */
export async function readText(request: Request, limitBytes: number): Promise<Parsed<string>> {
  const body = await readBytes(request, limitBytes);
  return body.kind === "ok" ? { kind: "ok", value: body.value.toString("utf8") } : body;
}

/** Read a body as bytes; what is longer than allowed is not kept. */
export async function readBytes(request: Request, limitBytes: number): Promise<Parsed<Buffer>> {
  const chunks: Uint8Array[] = [];
  let size = 0;
  const reader = request.body?.getReader();
  for (;;) {
    const next = await reader?.read();
    if (!next || next.done) break;
    size += next.value.byteLength;
    if (size > DRAINED_BYTES + limitBytes) {
      await reader?.cancel();
      break;
    }
    if (size <= limitBytes) chunks.push(next.value);
  }
  if (size > limitBytes) return refused(errorResponse("too-large", `The body is larger than ${limitBytes} bytes.`, [{ path: [], message: "too large" }]));
  return { kind: "ok", value: Buffer.concat(chunks) };
}

/** Run a route and turn what is thrown into an answer: an unreachable database, or a defect that is logged. */
export async function answered(work: () => Promise<Response>): Promise<Response> {
  try {
    return await work();
  } catch (error) {
    if (error instanceof DatabaseUnavailable) return errorResponse("database-unavailable", error.message);
    log.error({ err: error }, "route failed");
    return errorResponse("failed", "Something went wrong here; nothing was changed. Try again.");
  }
}

function refused(response: Response): { readonly kind: "refused"; readonly response: Response } {
  return { kind: "refused", response };
}
