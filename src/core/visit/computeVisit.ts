import { z } from "zod";
import { findingSchema, plainFinding } from "@/core/findings";
import { jobDocumentSchema } from "@/core/job/jobDocument";
import { askedVisitSchema, visitOf } from "@/core/plan/askedVisit";
import { schoolChoices } from "@/core/plan/visitSettings";
import { withoutEmpty } from "@/core/withoutEmpty";
import { materials } from "@/core/visit/materials";
import { visitSheet } from "@/core/visit/visitSheet";
import { VISIT_PHASES, type VisitStep } from "@/core/visit/visitStep";

/** What the sheet of a visit is asked for. */
export const visitRequestSchema = z.object({
  document: jobDocumentSchema.describe("The job"),
  visit: askedVisitSchema.optional().describe("As the job says, where it is left out"),
  schools: z
    .strictObject(schoolChoices)
    .partial()
    .optional()
    .describe("Methods that are followed in place of the job's"),
});

/** The sheet of a visit: its steps in their order, what is wrong with it, and what to bring. */
export const visitResponseSchema = z.object({
  steps: z.array(
    z.object({
      id: z.string(),
      stage: z.enum(VISIT_PHASES),
      title: z.string(),
      place: z.string().nullable().describe("Id of the place; null where nobody said"),
      needs: z.array(z.string()).describe("Steps that come first"),
      says: z.array(z.object({ label: z.string(), text: z.string() })),
      values: z
        .array(z.object({ device: z.string(), field: z.string(), value: z.string() }))
        .describe("What is typed into a device"),
      evidence: z.object({ kind: z.string() }).loose(),
      isGate: z.boolean(),
      source: z.string(),
    }),
  ),
  findings: z.array(findingSchema),
  materials: z.array(
    z.object({
      id: z.string(),
      group: z.string(),
      text: z.string(),
      quantity: z.number(),
      unit: z.enum(["pcs", "m", "sheet"]),
      why: z.string(),
      uses: z
        .array(z.object({ place: z.string().nullable(), stage: z.enum(VISIT_PHASES), quantity: z.number() }))
        .describe("How much of it is used where, and in which part of the visit"),
    }),
  ),
});

/** The sheet of a visit as the route gives it: the same as on the screen. */
export function computeVisit({
  document,
  visit,
  schools,
}: z.output<typeof visitRequestSchema>): z.output<typeof visitResponseSchema> {
  const settings = { ...document.visit, ...schools, ...(visit === undefined ? {} : visitOf(visit)) };
  const job = { ...document, visit: withoutEmpty(settings) };
  const sheet = visitSheet(job);
  const nameOf = new Map(
    [...job.site.nodes, ...job.site.meters, ...job.site.equipment].map(({ id, name }) => [id, name]),
  );
  return {
    steps: sheet.steps.map((step) => ({
      id: step.id,
      stage: step.stage,
      title: step.title,
      place: step.place ?? null,
      needs: step.needs.map((need) => need.step),
      ...toldBy(step, nameOf),
      evidence: step.evidence,
      isGate: step.isGate,
      source: step.source,
    })),
    findings: sheet.findings.map(plainFinding),
    materials: materials(job).map((line) => ({
      ...line,
      uses: line.uses.map(({ place, phase, quantity }) => ({ place: place ?? null, stage: phase, quantity })),
    })),
  };
}

/** What a step says, and apart from it the values that are typed into a device. */
function toldBy({ tag, about, why, content, caution, school }: VisitStep, nameOf: ReadonlyMap<string, string>) {
  const isTyped = tag === "configure" || tag === "tell";
  const device = nameOf.get(about ?? "") ?? about ?? "";
  return {
    says: [
      { label: "Why", text: why },
      ...(isTyped ? [] : content.map(({ label, value }) => ({ label, text: value }))),
      ...(caution === undefined ? [] : [{ label: "Caution", text: caution }]),
      ...(school ? [{ label: school.question, text: `${school.active} (${school.why}); or ${school.other}` }] : []),
    ],
    values: isTyped ? content.map(({ label, value }) => ({ device, field: label, value })) : [],
  };
}
