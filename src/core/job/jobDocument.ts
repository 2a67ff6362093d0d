import { z } from "zod";
import { refineWith, type Problem } from "@/core/problem";
import { shownValueSchema } from "@/core/flows/balance";
import { testSheetProblems, testSheetShape } from "@/core/flows/testSheetSchema";
import { kitSchema } from "@/core/kits/kitSchema";
import { busReadingsSchema, linkProblems, linksSchema, networkSchema } from "@/core/plan/linkSchema";
import { divertSettingsSchema } from "@/core/plan/divertSettings";
import { limitSettingsSchema } from "@/core/plan/limitSettings";
import { visitSettingsSchema } from "@/core/plan/visitSettings";
import { colourSchemeSchema } from "@/core/site/conductorColours";
import { siteSchema } from "@/core/site/siteSchema";
import { text } from "@/core/text";

export const JOB_FORMAT = "gormit-job";
export const JOB_VERSION = 3;

export const MOST_JOB_NAME_CHARACTERS = 80;

export const jobNameSchema = text()
  .trim()
  .min(1, "give the job a name")
  .max(MOST_JOB_NAME_CHARACTERS, `a job's name has at most ${MOST_JOB_NAME_CHARACTERS} characters`);

const jobDetailsShape = z.object({
  name: jobNameSchema,
  place: text().trim().max(120, "at most 120 characters").default(""),
  notes: text().max(20_000, "at most 20 000 characters").default(""),
  colourScheme: colourSchemeSchema.default("iec"),
  /** The site pattern that the plan was made from. */
  pattern: text().max(64).optional(),
});

/** A finding that somebody looked at and lets stand, with the reason. It stays open to be taken back. */
const acceptedSchema = z.object({
  finding: text().min(1).max(300),
  /** What it said when it was accepted; it is told in the log after it is gone. */
  title: text().max(300).default(""),
  person: text().trim().max(60).default(""),
  reason: text().trim().min(1, "say why it may stand").max(300, "at most 300 characters"),
  at: z.iso.datetime(),
});

/**
 * A whole job in the open `gormit-job` format: details, site plan with the clamps as fitted, and the test
 * sheet with what was seen. Import and export carry exactly this. See docs/formats.md.
 */
export const jobDocumentSchema = z
  .object({
    format: z.literal(JOB_FORMAT, `this is no ${JOB_FORMAT} file: "format" must be "${JOB_FORMAT}"`),
    version: z.literal(JOB_VERSION, `this program reads version ${JOB_VERSION} of the format`),
    job: jobDetailsShape,
    site: siteSchema,
    tests: testSheetShape.default(() => testSheetShape.parse({})),
    /** What the displays showed, for the balance check. */
    displays: z.array(shownValueSchema).max(12).default([]),
    /** The kits that the plan uses, whole: a change in the library does not change a job behind anyone's back. */
    kits: z.array(kitSchema).max(80).default([]),
    /** How the devices are joined for data. */
    links: linksSchema.default([]),
    /** The customer's network as it is found. */
    network: networkSchema.default(() => networkSchema.parse({})),
    busReadings: busReadingsSchema.default([]),
    /** Ids of the cores that are terminated at both ends. */
    terminated: z.array(text().min(1).max(300)).max(2000).default([]),
    /** How the visit is done: technicians, strings, schools. */
    visit: visitSettingsSchema.default(() => visitSettingsSchema.parse({})),
    limit: limitSettingsSchema.default(() => limitSettingsSchema.parse({})),
    divert: divertSettingsSchema.default(() => divertSettingsSchema.parse({})),
    accepted: z.array(acceptedSchema).max(500).default([]),
    /** Materials and tools that are packed. */
    packed: z.array(text().min(1).max(200)).max(500).default([]),
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

export type JobDocument = z.output<typeof jobDocumentSchema>;
