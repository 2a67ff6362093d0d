import type { RouteDescription } from "@/app/api/description/routeDescription";
import {
  benchChangeSchema,
  benchRequestSchema,
  benchSchema,
  benchStatusSchema,
  jobBenchSchema,
} from "@/core/bench/benchSchema";

/** The routes of a job's bench. */
export const BENCH_ROUTES: readonly RouteDescription[] = [
  {
    method: "post",
    path: "/jobs/{jobId}/bench",
    operationId: "startBench",
    summary: "Start the simulated site of a job, in place of the one that it had: one a job, at most four.",
    body: { type: "application/json", schema: benchRequestSchema, example: { fitting: "planned", noise: false } },
    answers: [{ status: 201, description: "How it is reached", type: "application/json", schema: benchSchema }],
    errors: [400, 404, 413, 415, 422, 429],
  },
  {
    method: "get",
    path: "/jobs/{jobId}/bench",
    operationId: "getBench",
    summary: "Where the bench of a job stands, device by device; null where none runs.",
    answers: [{ status: 200, description: "Its state", type: "application/json", schema: jobBenchSchema }],
    errors: [404],
  },
  {
    method: "patch",
    path: "/jobs/{jobId}/bench/{benchId}",
    operationId: "changeBench",
    summary: "Change what is on, what is wrong, or how fast time goes; a list replaces the one before it.",
    body: { type: "application/json", schema: benchChangeSchema, example: { timeFactor: 60 } },
    answers: [{ status: 200, description: "Its state", type: "application/json", schema: benchStatusSchema }],
    errors: [400, 404, 413, 415, 422],
  },
  {
    method: "delete",
    path: "/jobs/{jobId}/bench/{benchId}",
    operationId: "endBench",
    summary: "End the bench of a job.",
    answers: [{ status: 204, description: "Done" }],
    errors: [404],
  },
];
