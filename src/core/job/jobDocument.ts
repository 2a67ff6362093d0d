import { z } from "zod";
import { refineWith, type Problem } from "@/core/problem";
import { shownValueSchema } from "@/core/flows/balance";
import { testSheetProblems, testSheetShape } from "@/core/flows/testSheetSchema";
import { kitSchema } from "@/core/kits/kitSchema";
import { copiedSchema } from "@/core/job/copiedSchema";
import { deadlinesSchema } from "@/core/job/deadline";
import { registrationSchema } from "@/core/plan/registrationRecord";
import { transferSchema } from "@/core/plan/transferRecord";
import { onlineRecordsSchema } from "@/core/online/onlineRecords";
import { busReadingsSchema, linkProblems, linksSchema, networkSchema } from "@/core/plan/linkSchema";
import { divertSettingsSchema } from "@/core/plan/divertSettings";
import { limitSettingsSchema } from "@/core/plan/limitSettings";
import { visitSettingsSchema } from "@/core/plan/visitSettings";
import { colourSchemeSchema } from "@/core/site/conductorColours";
import { readBackSchema } from "@/core/job/readBackSchema";
import { siteSchema } from "@/core/site/siteSchema";
import { text } from "@/core/text";

/** What a job's file calls itself. */
export const JOB_FORMAT = "gormit-job";
/** The version of the format that this program writes. */
export const JOB_VERSION = 3;

/** What a job's name has at most, in characters. */
export const MOST_JOB_NAME_CHARACTERS = 80;

/** The name of a job: trimmed, 1 to 80 characters. */
export const jobNameSchema = text()
  .trim()
  .min(1, "give the job a name")
  .max(MOST_JOB_NAME_CHARACTERS, `a job's name has at most ${MOST_JOB_NAME_CHARACTERS} characters`);

/** Where a job is, as it was typed: trimmed, at most 120 characters. */
export const jobPlaceSchema = text().trim().max(120, "at most 120 characters").default("");

/** Free notes of a job: at most 20 000 characters. */
export const jobNotesSchema = text().max(20_000, "at most 20 000 characters").default("");

const jobDetailsShape = z.object({
  name: jobNameSchema.describe("Its name"),
  place: jobPlaceSchema.describe("Where it is"),
  notes: jobNotesSchema.describe("Free notes"),
  colourScheme: colourSchemeSchema.default("iec").describe("Colours of conductors where the site is"),
  pattern: text().max(64).optional().describe("The site pattern that the plan was made from"),
});

/** Why a finding may stand: trimmed, 1 to 300 characters. */
export const acceptanceReasonSchema = text()
  .trim()
  .min(1, "say why it may stand")
  .max(300, "at most 300 characters")
  .describe("The reason");

/** A finding that somebody looked at and lets stand, with the reason. It stays open to be taken back. */
const acceptedSchema = z.object({
  finding: text().min(1).max(300).describe("The finding"),
  title: text()
    .max(300)
    .default("")
    .describe("What it said when it was accepted; it is told in the log after it is gone"),
  person: text().trim().max(60).default("").describe("Who"),
  reason: acceptanceReasonSchema,
  at: z.iso.datetime().describe("When"),
});

/**
 * A whole job in the open `gormit-job` format: details, site plan with the CTs as fitted, and the test
 * sheet with what was seen. Import and export carry exactly this. See docs/formats.md.
 */
export const jobDocumentSchema = z
  .object({
    format: z
      .literal(JOB_FORMAT, `this is no ${JOB_FORMAT} file: "format" must be "${JOB_FORMAT}"`)
      .describe("What the file is"),
    version: z
      .literal(JOB_VERSION, `this program reads version ${JOB_VERSION} of the format`)
      .describe("Version of the format"),
    job: jobDetailsShape.describe("What is said of the job as a whole"),
    site: siteSchema.describe("The plan of the site, with the CTs as they are fitted"),
    tests: testSheetShape.default(() => testSheetShape.parse({})).describe("The test sheet, with what was seen"),
    displays: z.array(shownValueSchema).max(12).default([]).describe("What the displays showed, for the balance check"),
    kits: z
      .array(kitSchema)
      .max(80)
      .default([])
      .describe(
        "The kits that the plan uses, whole: a change in the library does not change a job behind anyone's back",
      ),
    links: linksSchema.default([]).describe("How the devices are joined for data"),
    network: networkSchema.default(() => networkSchema.parse({})).describe("The customer's network as it is found"),
    busReadings: busReadingsSchema.default([]).describe("What a multimeter showed at the buses"),
    terminated: z
      .array(text().min(1).max(300))
      .max(2000)
      .default([])
      .describe("Ids of the cores that are terminated at both ends"),
    visit: visitSettingsSchema
      .default(() => visitSettingsSchema.parse({}))
      .describe("How the visit is done: technicians, strings, methods"),
    limit: limitSettingsSchema.default(() => limitSettingsSchema.parse({})).describe("The export limit"),
    divert: divertSettingsSchema.default(() => divertSettingsSchema.parse({})).describe("The surplus"),
    online: onlineRecordsSchema.default([]).describe("What was seen of each device's way to its owner"),
    deadlines: deadlinesSchema.default([]).describe("What is due by which day"),
    registration: registrationSchema
      .default(() => registrationSchema.parse({}))
      .describe("What is registered of the site"),
    transfer: transferSchema.default(() => transferSchema.parse({})).describe("How the site goes over to its owner"),
    accepted: z.array(acceptedSchema).max(500).default([]).describe("Findings that stand with a reason"),
    readBacks: z.array(readBackSchema).max(300).default([]).describe("What devices said of themselves, read back"),
    copied: copiedSchema.optional().describe("That it is a copy, and what it lacks"),
    packed: z.array(text().min(1).max(200)).max(500).default([]).describe("Materials and tools that are packed"),
  })
  .superRefine(
    refineWith((document) => [
      ...testSheetProblems(document.tests, document.site).map((problem) => ({
        ...problem,
        path: ["tests", ...problem.path],
      })),
      ...kitProblems(document),
      ...linkProblems(document.links, document.site).map((problem) => ({
        ...problem,
        path: ["links", ...problem.path],
      })),
    ]),
  );

/** Every kit that the plan names is in the file, once. */
function kitProblems({
  site,
  kits,
}: {
  readonly site: z.output<typeof siteSchema>;
  readonly kits: readonly z.output<typeof kitSchema>[];
}): readonly Problem[] {
  const known = new Set<string>();
  const repeated = kits.flatMap((kit, at): readonly Problem[] => {
    const again = known.has(kit.id);
    known.add(kit.id);
    return again ? [{ path: ["kits", at, "id"], message: `the kit "${kit.id}" stands twice` }] : [];
  });
  const unknown = (id: string | undefined, path: Problem["path"]): readonly Problem[] =>
    id === undefined || known.has(id) ? [] : [{ path, message: `the file has no kit "${id}"` }];
  return [
    ...repeated,
    ...site.nodes.flatMap((node, at) => unknown(node.kit, ["site", "nodes", at, "kit"])),
    ...site.equipment.flatMap((item, at) => unknown(item.kit, ["site", "equipment", at, "kit"])),
    ...site.meters.flatMap((meter, at) => [
      ...unknown(meter.kit, ["site", "meters", at, "kit"]),
      ...meter.inputs.flatMap((input, which) =>
        unknown(input.clamp?.kit, ["site", "meters", at, "inputs", which, "clamp", "kit"]),
      ),
    ]),
  ];
}

/** A whole job, checked. */
export type JobDocument = z.output<typeof jobDocumentSchema>;
