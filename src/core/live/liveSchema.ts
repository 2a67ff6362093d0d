import { z } from "zod";
import { REGISTER_QUANTITIES } from "@/core/kits/registerSchema";
import { idSchema } from "@/core/names";
import { text } from "@/core/text";

const hostSchema = text()
  .trim()
  .min(1, "say where: 127.0.0.1, or its address in the site's network")
  .max(253, "at most 253 characters")
  .describe("Address or name");
const portSchema = z
  .int()
  .min(1, "a port is from 1 to 65535")
  .max(65_535, "a port is from 1 to 65535")
  .describe("Port");

const rtuWaySchema = z.strictObject({ kind: z.literal("rtu-over-tcp"), host: hostSchema, port: portSchema });
const serialWaySchema = z.strictObject({
  kind: z.literal("serial"),
  path: text().trim().min(1, "choose an adapter").max(200).describe("The adapter, of those that the system names"),
  baud: z.int().min(300).max(1_000_000).optional().describe("Speed, Bd; the plan's where left out"),
  parity: z.enum(["none", "even", "odd"]).optional().describe("Parity; the plan's where left out"),
  stopBits: z
    .union([z.literal(1), z.literal(2)])
    .optional()
    .describe("Stop bits; the plan's where left out"),
});

/** The way that a link's devices are reached. */
export const liveWaySchema = z.discriminatedUnion("kind", [
  z.strictObject({ kind: z.literal("modbus-tcp"), host: hostSchema, port: portSchema }),
  rtuWaySchema,
  serialWaySchema,
  z.strictObject({
    kind: z.literal("mqtt"),
    host: hostSchema,
    port: portSchema,
    topic: text()
      .trim()
      .max(200)
      .default("site/{device}/{of}/{input}")
      .refine((topic) => topic.includes("{of}"), "needs {of}, where the quantity stands")
      .describe("Form of the topics"),
  }),
]);

/** What is asked for when a line is listened to. */
export const listenSchema = z.strictObject({
  way: z.discriminatedUnion("kind", [rtuWaySchema, serialWaySchema]),
  seconds: z.number().min(1).max(30).default(10).describe("How long"),
});

/** One setting to be written, which somebody armed by its name. */
export const writeSettingSchema = z
  .strictObject({
    device: idSchema.describe("The device"),
    of: z.enum(REGISTER_QUANTITIES).describe("Which setting"),
    input: z.int().min(1).max(64).optional().describe("Of which input"),
    value: z.number().describe("The value, in its unit"),
    armed: text().max(80).describe("The same setting again, as of or of/input: whoever writes says so twice"),
  })
  .refine(({ of, input, armed }) => armed === (input === undefined ? of : `${of}/${input}`), {
    path: ["armed"],
    message: "is another setting than the one that would be written",
  });

/** What was heard: the bytes as a line log has them. */
export const listenedSchema = z.strictObject({ text: z.string() });

/** What is asked for when a link is connected. */
export const liveConnectSchema = z.strictObject({
  link: idSchema.describe("The link of the plan"),
  way: liveWaySchema,
});

/** One value as it was read. */
export const liveValueSchema = z.strictObject({
  of: z.enum(REGISTER_QUANTITIES),
  input: z.int().optional(),
  what: z.string().describe("In words"),
  value: z.number(),
  unit: z.string(),
  atMs: z.number().describe("When it was read, ms since 1970"),
});

/** A device of a link as it is read. */
export const liveDeviceSchema = z.strictObject({
  device: z.string(),
  name: z.string(),
  unit: z.int(),
  meter: z.string().optional(),
  state: z.enum(["waiting", "answers", "silent", "refuses", "broken"]),
  problem: z.string().optional().describe("What is wrong, in words"),
  answerMs: z.number().optional().describe("From the question to its answer"),
  asked: z.int(),
  missed: z.int(),
  values: z.array(liveValueSchema),
});

/** What the search for the settings of a line found so far. */
export const liveSearchSchema = z.strictObject({
  tried: z.int(),
  total: z.int(),
  isOver: z.boolean(),
  found: z.array(z.strictObject({ unit: z.int(), how: z.string().describe("Speed and frame, or over the network") })),
});

/** A link that is read. */
export const liveLinkSchema = z.strictObject({
  link: z.string(),
  way: liveWaySchema,
  state: z.enum(["connecting", "connected", "lost"]),
  problem: z.string().optional(),
  cycleMs: z.number().optional().describe("What the last round of questions took"),
  devices: z.array(liveDeviceSchema),
  search: liveSearchSchema.optional(),
});

/** All links of a job that are read. */
export const liveSchema = z.strictObject({ links: z.array(liveLinkSchema) });

/** The serial adapters that the system names. */
export const adaptersSchema = z.strictObject({
  adapters: z.array(z.strictObject({ path: z.string(), name: z.string() })),
});

/** What is set in a device, read when somebody wants to know. */
export const settingsReadSchema = z.strictObject({ device: z.string(), values: z.array(liveValueSchema) });

/** The powers of a link's devices as they were read since a moment, oldest first. */
export const liveSamplesSchema = z.strictObject({
  samples: z.array(
    z.strictObject({
      device: z.string(),
      input: z.int().optional().describe("Left out: the device's own power"),
      powerW: z.number(),
      atMs: z.number().describe("ms since 1970"),
    }),
  ),
});

/** One power, W, and when it was read. */
export type LiveSample = z.output<typeof liveSamplesSchema>["samples"][number];
/** The way that a link is reached. */
export type LiveWay = z.output<typeof liveWaySchema>;
/** One value as it was read, in its unit. */
export type LiveValue = z.output<typeof liveValueSchema>;
/** A device as it is read: whether it answers, how fast, and its values. */
export type LiveDevice = z.output<typeof liveDeviceSchema>;
/** A link that is read, with its devices. */
export type LiveLink = z.output<typeof liveLinkSchema>;
/** What a search for settings found so far. */
export type LiveSearch = z.output<typeof liveSearchSchema>;
