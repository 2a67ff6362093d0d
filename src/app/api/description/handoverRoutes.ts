import { z } from "zod";
import { ownerLanguageSchema } from "@/app/api/ownerLanguageSchema";
import { reportQuerySchema } from "@/app/api/reportQuery";
import type { RouteDescription } from "@/app/api/description/routeDescription";
import { broughtJobSchema } from "@/core/answers/jobAnswers";
import { allDeadlinesSchema } from "@/core/handover/allDeadlines";
import { privateLinkSchema } from "@/core/handover/privateLink";
import { serialsTwiceSchema } from "@/core/handover/registration/serialTwice";
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
    answers: [
      {
        status: 200,
        description: "All of it",
        type: "application/json",
        schema: handoverAnswerSchema.extend({ document: z.unknown().describe("As JobDocument") }),
      },
    ],
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
  {
    method: "get",
    path: "/jobs/{jobId}/handover.zip",
    operationId: "getBundle",
    summary: "Everything of a job as one zip: report, job, log, photographs, hand overs, tables, with fingerprints.",
    answers: [{ status: 200, description: "The bundle", type: "application/zip" }],
    errors: [404, 429],
  },
  {
    method: "post",
    path: "/jobs/import-bundle",
    operationId: "importBundle",
    summary: "Bring in a bundle whole, or nothing: what is not as it was made is named by its path.",
    query: z.object({ id: z.uuid().optional().describe("An id for the new job, chosen by whoever asks") }),
    body: { type: "application/zip" },
    answers: [
      {
        status: 201,
        description: "The job, and what came with it",
        type: "application/json",
        // The job is described once, as the component that it is.
        schema: broughtJobSchema.extend({ document: z.unknown().describe("As JobDocument") }),
      },
    ],
    errors: [400, 409, 413, 415, 429, 507],
  },
  {
    method: "get",
    path: "/jobs/{jobId}/notice.pdf",
    operationId: "printNotice",
    summary: "The notice to the grid operator, filled with the values of the job.",
    query: reportQuerySchema.pick({ paper: true }),
    answers: [{ status: 200, description: "The notice", type: "application/pdf" }],
    errors: [400, 404, 429],
  },
  {
    method: "get",
    path: "/jobs/{jobId}/owner.pdf",
    operationId: "printOwnerSheet",
    summary: "What the owner reads, as a sheet to leave there, in one of the languages that it is written in.",
    query: reportQuerySchema.pick({ paper: true }).extend({ language: ownerLanguageSchema.optional() }),
    answers: [{ status: 200, description: "The sheet", type: "application/pdf" }],
    errors: [400, 404, 429],
  },
  {
    method: "get",
    path: "/jobs/{jobId}/registrations.csv",
    operationId: "registrationsCsv",
    summary: "The registrations of a job as a table, all or those that go to one receiver.",
    query: z.object({ receiver: z.string().optional().describe("A kit for its maker, `operator`, `owner-account`") }),
    answers: [{ status: 200, description: "A line a registration", type: "text/csv" }],
    errors: [400, 404],
  },
  {
    method: "get",
    path: "/jobs/{jobId}/serials-twice",
    operationId: "serialsTwice",
    summary: "Serial numbers of a job that were recorded for another device too, of this job or another one.",
    answers: [{ status: 200, description: "Those", type: "application/json", schema: serialsTwiceSchema }],
    errors: [404],
  },
  {
    method: "get",
    path: "/deadlines",
    operationId: "listDeadlines",
    summary: "The open deadlines of all jobs, the nearest first.",
    answers: [{ status: 200, description: "All of them", type: "application/json", schema: allDeadlinesSchema }],
    errors: [],
  },
  {
    method: "get",
    path: "/calendar-link",
    operationId: "hasCalendarLink",
    summary: "Whether the calendar of all deadlines has a private link, and since when.",
    answers: [{ status: 200, description: "Since when", type: "application/json", schema: privateLinkSchema }],
    errors: [],
  },
  {
    method: "post",
    path: "/calendar-link",
    operationId: "makeCalendarLink",
    summary: "A new private link of the calendar, told once, in place of the one before, which ends.",
    answers: [{ status: 201, description: "The link", type: "application/json", schema: privateLinkSchema }],
    errors: [],
  },
  {
    method: "delete",
    path: "/calendar-link",
    operationId: "endCalendarLink",
    summary: "End the calendar's link.",
    answers: [{ status: 204, description: "Done" }],
    errors: [],
  },
];
