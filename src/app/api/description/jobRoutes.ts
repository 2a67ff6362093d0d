import { reportQuerySchema } from "@/app/api/reportQuery";
import { reportSchema } from "@/core/handover/report/reportSchema";
import { z } from "zod";
import type { AnswerDescription, RouteDescription } from "@/app/api/description/routeDescription";
import { jobPageSchema, keptEntriesSchema, keptPhotoSchema, visitLogSchema } from "@/core/answers/jobAnswers";
import { doubtedSiteSchema } from "@/core/job/doubtedSite";
import { starterSchema } from "@/core/job/starterPlan";
import { patternAnswersSchema } from "@/core/patterns/patternAnswers";
import { visitEntriesSchema } from "@/core/visit/visitEntry";
import { jobSearchSchema } from "@/db/job";

const JOB: AnswerDescription = { status: 200, description: "The job", type: "application/json", schema: "Job" };
const CREATED: AnswerDescription = { ...JOB, status: 201, description: "The new job" };
const THERE: AnswerDescription = { ...JOB, description: "The job that the same request made before" };
const DONE: AnswerDescription = { status: 204, description: "Done" };
const NO_NEWS: AnswerDescription = { status: 304, description: "Nothing new since the mark that was sent" };
const ID_QUERY = z.object({
  id: z.uuid().optional().describe("An id that the client chose: the same request sent again finds its job"),
});
const CHOSEN_ID_ERRORS = [400, 409, 413, 415, 429] as const;
const NEW_JOB = { name: "Harbour cottage", system: "single-phase", solarKw: 3.6 };

const csv = (what: string): AnswerDescription => ({ status: 200, description: what, type: "text/csv" });
const pdf = (what: string): AnswerDescription => ({ status: 200, description: what, type: "application/pdf" });

/** The routes of jobs, their logs and photographs. */
export const JOB_ROUTES: readonly RouteDescription[] = [
  {
    method: "get",
    path: "/jobs",
    operationId: "listJobs",
    summary: "One page of the jobs, searched and sorted.",
    query: jobSearchSchema,
    answers: [{ status: 200, description: "The page", type: "application/json", schema: jobPageSchema }],
    errors: [400],
  },
  {
    method: "post",
    path: "/jobs",
    operationId: "createJob",
    summary:
      "A job from the few answers of the short form; with ?from=pattern, from a site pattern's answers; with " +
      "?from=reads-wrong, of a site that is there already and reads wrong.",
    query: ID_QUERY.extend({ from: z.enum(["pattern", "reads-wrong"]).optional() }),
    body: {
      type: "application/json",
      schema: z.union([starterSchema, patternAnswersSchema, doubtedSiteSchema]),
      example: NEW_JOB,
    },
    answers: [CREATED, THERE],
    errors: CHOSEN_ID_ERRORS,
  },
  {
    method: "post",
    path: "/jobs/import",
    operationId: "importJob",
    summary: "Bring in a job file, all of it or nothing.",
    query: ID_QUERY,
    body: { type: "application/json", schema: "JobDocument" },
    answers: [CREATED, THERE],
    errors: CHOSEN_ID_ERRORS,
  },
  {
    method: "get",
    path: "/jobs/{jobId}",
    operationId: "getJob",
    summary: "A job, marked by its revision.",
    headers: { "If-None-Match": "The mark that the client has already" },
    answers: [JOB, NO_NEWS],
    errors: [404],
  },
  {
    method: "put",
    path: "/jobs/{jobId}",
    operationId: "saveJob",
    summary: "Save on top of a revision; 409 with `current` when it was changed since.",
    headers: { "If-Match": "The revision that it was made from, as in the body" },
    body: {
      type: "application/json",
      schema: z.object({ revision: z.int().min(1), document: z.unknown(), person: z.string().optional() }),
    },
    answers: [JOB],
    errors: [400, 404, 409, 413, 415, 429, 507],
  },
  {
    method: "delete",
    path: "/jobs/{jobId}",
    operationId: "deleteJob",
    summary: "Delete a job; it can be brought back.",
    answers: [DONE],
    errors: [404],
  },
  {
    method: "post",
    path: "/jobs/{jobId}/restore",
    operationId: "restoreJob",
    summary: "Bring a deleted job back.",
    answers: [DONE],
    errors: [404],
  },
  {
    method: "put",
    path: "/jobs/{jobId}/archive",
    operationId: "archiveJob",
    summary: "Put a job into the archive: it leaves the list, and nothing else changes.",
    answers: [DONE],
    errors: [404],
  },
  {
    method: "delete",
    path: "/jobs/{jobId}/archive",
    operationId: "unarchiveJob",
    summary: "Take a job out of the archive.",
    answers: [DONE],
    errors: [404],
  },
  {
    method: "post",
    path: "/jobs/{jobId}/duplicate",
    operationId: "duplicateJob",
    summary: "A copy of a job under another name, without its readings and log.",
    query: ID_QUERY,
    answers: [CREATED, THERE],
    errors: [404, 409, 429],
  },
  {
    method: "get",
    path: "/jobs/{jobId}/export",
    operationId: "exportJob",
    summary: "The job as a file, just what an import takes.",
    answers: [{ status: 200, description: "The file", type: "application/json", schema: "JobDocument" }],
    errors: [404],
  },
  {
    method: "get",
    path: "/jobs/{jobId}/visit",
    operationId: "getLog",
    summary: "The log of the visit: what was recorded, and which revisions changed what.",
    headers: { "If-None-Match": "The mark that the client has already" },
    answers: [{ status: 200, description: "The log", type: "application/json", schema: visitLogSchema }, NO_NEWS],
    errors: [404],
  },
  {
    method: "post",
    path: "/jobs/{jobId}/visit",
    operationId: "addToLog",
    summary: "Keep entries of the log; the same entries sent again change nothing.",
    body: { type: "application/json", schema: visitEntriesSchema },
    answers: [
      {
        status: 200,
        description: "The ids that are kept",
        type: "application/json",
        schema: keptEntriesSchema,
      },
    ],
    errors: [400, 404, 409, 413, 415, 507],
  },
  {
    method: "get",
    path: "/jobs/{jobId}/log.csv",
    operationId: "logCsv",
    summary: "The log as a table.",
    answers: [csv("A line an entry")],
    errors: [404],
  },
  {
    method: "get",
    path: "/jobs/{jobId}/log.json",
    operationId: "logJson",
    summary: "The log as its lines are shown.",
    answers: [
      {
        status: 200,
        description: "The lines",
        type: "application/json",
        schema: z.object({ lines: z.array(z.object({ at: z.string(), person: z.string() }).loose()) }),
      },
    ],
    errors: [404],
  },
  {
    method: "get",
    path: "/jobs/{jobId}/readings.csv",
    operationId: "readingsCsv",
    summary: "Every reading of the test sheet as a table.",
    answers: [csv("A line a reading")],
    errors: [404],
  },
  {
    method: "get",
    path: "/jobs/{jobId}/labels.csv",
    operationId: "labelsCsv",
    summary: "The labels as a table.",
    answers: [csv("A line a label")],
    errors: [404],
  },
  {
    method: "get",
    path: "/jobs/{jobId}/report.pdf",
    operationId: "reportPdf",
    summary: "The report of a job: what is proved, by what, and what is missing; each page with its fingerprint.",
    query: reportQuerySchema,
    answers: [pdf("The report")],
    errors: [400, 404, 422, 429],
  },
  {
    method: "get",
    path: "/jobs/{jobId}/report.json",
    operationId: "reportData",
    summary: "The same as data, with the SHA-256 of the report as it stands in it.",
    query: reportQuerySchema,
    answers: [
      {
        status: 200,
        description: "The report",
        type: "application/json",
        schema: z.strictObject({ sha256: z.string(), report: reportSchema }),
      },
    ],
    errors: [400, 404, 422, 429],
  },
  {
    method: "get",
    path: "/jobs/{jobId}/labels.pdf",
    operationId: "labelsPdf",
    summary: "The labels to print.",
    query: z.object({
      form: z.enum(["a4-24", "a4-10", "single"]).default("a4-24"),
      date: z.iso.date().optional(),
      only: z.string().max(200).optional(),
    }),
    answers: [pdf("The sheets")],
    errors: [400, 404, 422, 429],
  },
  {
    method: "get",
    path: "/jobs/{jobId}/materials.csv",
    operationId: "materialsCsv",
    summary: "What to bring, as a table.",
    answers: [csv("A line an item")],
    errors: [404],
  },
  {
    method: "get",
    path: "/jobs/{jobId}/wiring.csv",
    operationId: "wiringCsv",
    summary: "The wiring schedule, a row a core.",
    answers: [csv("A line a core")],
    errors: [404],
  },
  {
    method: "get",
    path: "/jobs/{jobId}/wiring.pdf",
    operationId: "wiringPdf",
    summary: "The wiring schedule to print.",
    answers: [pdf("The schedule")],
    errors: [404, 422, 429],
  },
  {
    method: "get",
    path: "/jobs/{jobId}/photos/{photoId}",
    operationId: "getPhoto",
    summary: "A photograph of the visit.",
    headers: { "If-None-Match": "The mark that the client has already" },
    answers: [{ status: 200, description: "The picture", type: "image/*" }, NO_NEWS],
    errors: [404],
  },
  {
    method: "put",
    path: "/jobs/{jobId}/photos/{photoId}",
    operationId: "addPhoto",
    summary: "Keep a photograph, made anew without its position, under an id that the client chose.",
    body: { type: "image/*" },
    answers: [{ status: 200, description: "It is kept", type: "application/json", schema: keptPhotoSchema }],
    errors: [400, 404, 408, 409, 413, 507],
  },
];
