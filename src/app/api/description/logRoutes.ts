import type { RouteDescription } from "@/app/api/description/routeDescription";
import { chainCheckSchema } from "@/core/handover/logChain";

/** The routes by which a log is checked. */
export const LOG_ROUTES: readonly RouteDescription[] = [
  {
    method: "get",
    path: "/jobs/{jobId}/log/check",
    operationId: "checkLog",
    summary: "Whether the log of a job is as it was written: each line is chained to the one before.",
    answers: [{ status: 200, description: "How it came out", type: "application/json", schema: chainCheckSchema }],
    errors: [404],
  },
  {
    method: "get",
    path: "/jobs/{jobId}/log.chain",
    operationId: "getLogChain",
    summary: "The log as it was hashed: a line each, its hash, a space, its text.",
    answers: [{ status: 200, description: "The lines", type: "text/plain" }],
    errors: [404],
  },
];
