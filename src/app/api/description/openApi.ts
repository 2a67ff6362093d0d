import { z } from "zod";
import { HANDOVER_ROUTES } from "@/app/api/description/handoverRoutes";
import { LOG_ROUTES } from "@/app/api/description/logRoutes";
import { ONLINE_ROUTES } from "@/app/api/description/onlineRoutes";
import { BENCH_ROUTES } from "@/app/api/description/benchRoutes";
import { COMPUTE_ROUTES } from "@/app/api/description/computeRoutes";
import { JOB_ROUTES } from "@/app/api/description/jobRoutes";
import { LIVE_ROUTES } from "@/app/api/description/liveRoutes";
import { KIT_ROUTES } from "@/app/api/description/kitRoutes";
import { PATTERN_ROUTES } from "@/app/api/description/patternRoutes";
import type { RouteDescription } from "@/app/api/description/routeDescription";
import { computeErrorSchema } from "@/core/flows/computeResponses";
import { jobDocumentSchema } from "@/core/job/jobDocument";

const BASE = "/api/v1";
const ERROR_WORDS: Readonly<Record<number, string>> = {
  400: "Wrong: every problem with its path",
  403: "From another origin, or to a host that is not served",
  404: "There is none, or it was deleted",
  408: "The body came too slowly",
  409: "Changed or taken in between; nothing was overwritten",
  413: "Too large",
  415: "The body does not say what it is, or is something else",
  422: "Well formed, but it cannot be computed",
  429: "You are having too much done already; retry-after says when to try again",
  500: "A defect; nothing was changed",
  503: "Too much going on, or the database is away; retry-after says when to try again",
  507: "There is no room to write",
};
/** What any route can give. */
const ALWAYS = [403, 500, 503] as const;

/** Every route of the app, the compute routes as one form of them. */
export const ROUTES: readonly RouteDescription[] = [
  ...COMPUTE_ROUTES.map(({ name, summary, request, response, example }): RouteDescription => ({
    method: "post",
    path: `/compute/${name}`,
    operationId: name,
    summary,
    body: { type: "application/json", schema: request, example },
    answers: [{ status: 200, description: "The answer", type: "application/json", schema: response }],
    errors: [400, 408, 413, 415, 422, 429],
  })),
  ...JOB_ROUTES,
  ...BENCH_ROUTES,
  ...ONLINE_ROUTES,
  ...LOG_ROUTES,
  ...HANDOVER_ROUTES,
  ...LIVE_ROUTES,
  ...PATTERN_ROUTES,
  ...KIT_ROUTES,
];

/** All routes as an OpenAPI 3.1 document, generated from the schemas that they parse with. */
export function openApi(): object {
  const paths = new Map<string, Record<string, object>>();
  for (const route of ROUTES) {
    const path = `${BASE}${route.path}`;
    paths.set(path, { ...paths.get(path), [route.method]: operation(route) });
  }
  return {
    openapi: "3.1.0",
    info: {
      title: "Gormit",
      version: "1",
      description:
        "Compute routes are stateless: the same functions as the interface uses. Powers in W, load convention.",
    },
    paths: Object.fromEntries(paths),
    components: {
      schemas: {
        Error: schemaOf(computeErrorSchema),
        JobDocument: schemaOf(jobDocumentSchema),
        Job: {
          type: "object",
          properties: {
            id: { type: "string", format: "uuid" },
            revision: { type: "integer", minimum: 1 },
            savedAt: { type: "string", format: "date-time" },
            document: componentOf("JobDocument"),
          },
          required: ["id", "revision", "savedAt", "document"],
        },
      },
    },
  };
}

function operation({ operationId, summary, path, query, headers = {}, body, answers, errors }: RouteDescription) {
  const inPath = [...path.matchAll(/\{(\w+)\}/g)].map(([, name]) => ({
    name,
    in: "path",
    required: true,
    schema: { type: "string" },
  }));
  const inQuery = Object.entries(query?.shape ?? {}).map(([name, schema]) => ({
    name,
    in: "query",
    required: false,
    schema: schemaOf(schema as z.ZodType),
  }));
  const inHeaders = Object.entries(headers).map(([name, description]) => ({
    name,
    in: "header",
    required: false,
    description,
    schema: { type: "string" },
  }));
  const good = answers.map(({ status, description, type, schema }) => [
    status,
    { description, ...(type ? { content: { [type]: schema ? { schema: referenced(schema) } : {} } } : {}) },
  ]);
  const bad = [...errors, ...ALWAYS].map((status) => [
    status,
    { description: ERROR_WORDS[status], content: { "application/json": { schema: componentOf("Error") } } },
  ]);
  return {
    operationId,
    summary,
    parameters: [...inPath, ...inQuery, ...inHeaders],
    ...(body
      ? {
          requestBody: {
            required: true,
            content: {
              [body.type]: {
                ...(body.schema ? { schema: referenced(body.schema) } : {}),
                ...(body.example === undefined ? {} : { example: body.example }),
              },
            },
          },
        }
      : {}),
    responses: Object.fromEntries([...good, ...bad]) as object,
  };
}

function referenced(schema: string | z.ZodType): object {
  return typeof schema === "string" ? componentOf(schema) : schemaOf(schema);
}

function componentOf(name: string): object {
  return { $ref: `#/components/schemas/${name}` };
}

/** What a client may send or gets. What JSON Schema has no word for is left open. */
function schemaOf(schema: z.ZodType): object {
  return z.toJSONSchema(schema, { io: "input", unrepresentable: "any" });
}
