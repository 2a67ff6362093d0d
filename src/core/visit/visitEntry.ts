import { z } from "zod";
import { boundedRecord } from "@/core/boundedRecord";
import { idSchema } from "@/core/names";
import { text } from "@/core/text";

/** What the title of a step has at most in an entry. */
export const MOST_TITLE_CHARACTERS = 300;
/** What was recorded has at most, in characters. */
export const MOST_SAID_CHARACTERS = 2000;

/** Who does it: trimmed, 1 to 60 characters. */
export const personSchema = text().trim().min(1, "say who works").max(60, "at most 60 characters");
/** A serial number as it was read: trimmed, at least one character. */
export const serialNumberSchema = text().trim().min(1, "type the serial number").max(60, "at most 60 characters");
/** What a device shows of one setting, or somebody's name: trimmed, 1 to 200 characters. */
export const recordedTextSchema = text().trim().min(1, "type what it shows").max(200, "at most 200 characters");
const stepSchema = text().min(1).max(300);
/** Why a step is skipped or opened again: trimmed, 1 to 500 characters. */
export const reasonSchema = text().trim().min(1, "say why").max(500, "at most 500 characters");
/** What is written into a log: trimmed, 1 to 4000 characters. */
export const logTextSchema = text().trim().min(1, "write something").max(4000, "at most 4000 characters");

const common = {
  id: z.uuid(),
  at: z.iso.datetime(),
  person: personSchema,
  /** Which visit of the job; entries from before a job had several are of the first. */
  visit: idSchema.optional(),
};
/** What a step said when it was recorded: its title, and a mark of its content by which a change shows. */
const ofStep = { step: stepSchema, title: text().min(1).max(MOST_TITLE_CHARACTERS), content: text().max(40) };

/**
 * One line of a visit's log. Entries are never changed: what was wrong is followed by a correction.
 */
export const visitEntrySchema = z.discriminatedUnion("kind", [
  z.object({ ...common, ...ofStep, kind: z.literal("start") }),
  z.object({
    ...common,
    ...ofStep,
    kind: z.literal("result"),
    values: boundedRecord(text().max(60), z.number().min(-1e9).max(1e9), 80).optional(),
    choice: text().max(60).optional(),
    serial: serialNumberSchema.optional(),
    /** What was read back of each line that was typed, or who said something. */
    texts: boundedRecord(text().max(60), recordedTextSchema, 80).optional(),
    /** The same with its labels and units, as it was shown; a log is read long after its sheet is gone. */
    said: text().max(MOST_SAID_CHARACTERS).default(""),
    /** What was outside its limits, in words; empty when all was good. */
    outside: z.array(text().max(400)).max(40).default([]),
  }),
  z.object({ ...common, ...ofStep, kind: z.literal("skip"), reason: reasonSchema }),
  z.object({ ...common, ...ofStep, kind: z.literal("reopen"), reason: reasonSchema }),
  z.object({ ...common, kind: z.literal("note"), step: stepSchema.optional(), text: logTextSchema }),
  z.object({
    ...common,
    kind: z.literal("photo"),
    step: stepSchema.optional(),
    photo: z.uuid(),
    text: text().trim().max(300, "at most 300 characters").default(""),
  }),
  z.object({ ...common, kind: z.literal("correction"), corrects: z.uuid(), text: logTextSchema }),
]);

/** What a browser sends at once. */
export const visitEntriesSchema = z.object({
  entries: z.array(visitEntrySchema).min(1, "send at least one entry").max(500, "at most 500 at once"),
});

/** One line of a visit's log. */
export type VisitEntry = z.output<typeof visitEntrySchema>;
/** What a line of the log says. */
export type VisitEntryKind = VisitEntry["kind"];
