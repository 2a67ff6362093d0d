import type { RouteDescription } from "@/app/api/description/routeDescription";
import { patternJobRequestSchema, patternListSchema } from "@/core/patterns/patternRequests";

/** The routes of the site patterns. */
export const PATTERN_ROUTES: readonly RouteDescription[] = [
  {
    method: "get",
    path: "/patterns",
    operationId: "listPatterns",
    summary: "The site patterns that a job can begin with.",
    answers: [{ status: 200, description: "The patterns", type: "application/json", schema: patternListSchema }],
    errors: [],
  },
  {
    method: "post",
    path: "/patterns/{patternId}/job",
    operationId: "jobOfPattern",
    summary: "A pattern's job, with other answers and for another visit where they are given. Nothing is stored.",
    body: { type: "application/json", schema: patternJobRequestSchema, example: { visit: "service" } },
    answers: [{ status: 200, description: "A job", type: "application/json", schema: "JobDocument" }],
    errors: [400, 404, 408, 413, 415],
  },
];
