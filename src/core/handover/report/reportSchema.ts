import { z } from "zod";
import { drawingSchema } from "@/core/drawing";
import { REPORT_LANGUAGE_IDS } from "@/core/handover/report/words/reportLanguages";

/** A table of a report: heads, and rows of as many cells. */
const tableSchema = z.strictObject({
  title: z.string(),
  heads: z.array(z.string()),
  rows: z.array(z.array(z.string())),
});

/** A recorded course of a value, drawn as a line. */
const courseSchema = z.strictObject({
  title: z.string(),
  unit: z.string(),
  tS: z.array(z.number()),
  values: z.array(z.number()),
  mark: z.strictObject({ value: z.number(), words: z.string() }),
});

/** A photograph by its id, and what is said of it. */
const pictureSchema = z.strictObject({ id: z.string(), caption: z.string() });

/** One part of a report. */
export const reportSectionSchema = z.strictObject({
  id: z.string(),
  title: z.string(),
  lines: z.array(z.string()),
  tables: z.array(tableSchema),
  courses: z.array(courseSchema),
  drawings: z.array(drawingSchema).default([]),
  pictures: z.array(pictureSchema).default([]),
});

/** A whole report, as the PDF, the page and a program have it. */
export const reportSchema = z.strictObject({
  language: z.enum(REPORT_LANGUAGE_IDS).default("en").describe("Of its own words; what people wrote stays as it is"),
  job: z.string(),
  place: z.string(),
  printed: z.string().describe("When, as a date"),
  state: z.string().describe("Done, or how much is missing"),
  logHead: z.string().describe("The last hash of the log: it stands for all of it"),
  sections: z.array(reportSectionSchema),
});

/** A report with the fingerprint of its data. */
export const reportAnswerSchema = z.strictObject({
  sha256: z.string().describe("SHA-256 of the report as it stands here, without spaces between its parts"),
  report: reportSchema,
});

/** A report with its fingerprint. */
export type ReportAnswer = z.output<typeof reportAnswerSchema>;
/** A whole report. */
export type Report = z.output<typeof reportSchema>;
/** One part of a report. */
export type ReportSection = z.output<typeof reportSectionSchema>;
/** A table of a report. */
export type ReportTable = ReportSection["tables"][number];
/** A recorded course, drawn as a line. */
export type ReportCourse = ReportSection["courses"][number];
