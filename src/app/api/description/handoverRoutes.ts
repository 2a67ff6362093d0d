import { reportQuerySchema } from "@/app/api/reportQuery";
import type { RouteDescription } from "@/app/api/description/routeDescription";
import { handoverAnswerSchema, handoverAskedSchema, handoversSchema } from "@/core/handover/version/handoverVersion";

/** The routes by which a job is handed over, and read as it was then. */
export const HANDOVER_ROUTES: readonly RouteDescription[] = [
  {
    method: "get",
    path: "/jobs/{jobId}/handovers",
    operationId: "listHandovers",
    summary: "The hand overs of a job, newest first, and what its report says now that the newest did not.",
    answers: [{ status: 200, description: "All of them", type: "application/json", schema: handoversSchema }],
    errors: [404, 429],
  },
  {
    method: "post",
    path: "/jobs/{jobId}/handovers",
    operationId: "handOver",
    summary: "Hand over what was looked at: the report is kept word for word with its signatures. 409 if it changed.",
    body: { type: "application/json", schema: handoverAskedSchema },
    answers: [{ status: 201, description: "All of them", type: "application/json", schema: handoversSchema }],
    errors: [400, 404, 409, 413, 415, 429, 507],
  },
  {
    method: "get",
    path: "/jobs/{jobId}/handovers/{number}",
    operationId: "getHandover",
    summary: "A hand over as it was, by its number or `newest`: its report, and the plan with its readings.",
    answers: [{ status: 200, description: "All of it", type: "application/json", schema: handoverAnswerSchema }],
    errors: [404],
  },
  {
    method: "get",
    path: "/jobs/{jobId}/handovers/{number}/report.pdf",
    operationId: "printHandover",
    summary: "The report of a hand over as it was, with its signatures.",
    query: reportQuerySchema.pick({ paper: true }),
    answers: [{ status: 200, description: "The report", type: "application/pdf" }],
    errors: [400, 404, 429],
  },
];
