import type { RouteDescription } from "@/app/api/description/routeDescription";
import { chainCheckSchema } from "@/core/handover/logChain";
import { privateLinkSchema } from "@/core/handover/privateLink";

/** The routes by which a log is checked, an owner gets their page, and deadlines a calendar. */
export const LOG_ROUTES: readonly RouteDescription[] = [
  {
    method: "get",
    path: "/jobs/{jobId}/owner-link",
    operationId: "hasOwnerLink",
    summary: "Whether the owner has a private link to their page, and since when.",
    answers: [{ status: 200, description: "Since when", type: "application/json", schema: privateLinkSchema }],
    errors: [404],
  },
  {
    method: "post",
    path: "/jobs/{jobId}/owner-link",
    operationId: "makeOwnerLink",
    summary: "A new private link, told once, in place of the one before, which ends.",
    answers: [{ status: 201, description: "The link", type: "application/json", schema: privateLinkSchema }],
    errors: [404],
  },
  {
    method: "delete",
    path: "/jobs/{jobId}/owner-link",
    operationId: "endOwnerLink",
    summary: "End the owner's link.",
    answers: [{ status: 204, description: "Done" }],
    errors: [404],
  },
  {
    method: "get",
    path: "/jobs/{jobId}/deadlines.ics",
    operationId: "deadlinesCalendar",
    summary: "The open deadlines of a job as a calendar file, each with its reminder.",
    answers: [{ status: 200, description: "The calendar", type: "text/calendar" }],
    errors: [404],
  },
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
