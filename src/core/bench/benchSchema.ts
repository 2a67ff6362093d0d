import { z } from "zod";
import { faultSchema } from "@/core/flows/computeResponses";
import { deviceProblems, siteStateShape } from "@/core/flows/stateSchema";
import { kitSerialSchema } from "@/core/kits/portSchema";
import { isNetworkFault, networkFaultSchema } from "@/core/bench/networkFault";
import { actKey } from "@/core/bench/deviceActs";
import { RUNG_IDS } from "@/core/online/rungs";
import { liveValueSchema } from "@/core/live/liveSchema";
import { readableUnitSchema } from "@/core/live/readableUnit";
import { idSchema } from "@/core/names";
import type { Problem } from "@/core/problem";
import { siteTree } from "@/core/site/tree";
import type { Site } from "@/core/site/planSchema";

const MOST_FAULTS = 40;
const LARGEST_TIME_FACTOR = 600;
const DAY_MINUTES = 1440;

/** What is wrong with a line or with a device on it, beside its CTs. */
const lineFaultSchema = z.discriminatedUnion("kind", [
  z.strictObject({ kind: z.literal("device-dead"), device: idSchema.describe("The device that says nothing") }),
  z.strictObject({
    kind: z.literal("wrong-address"),
    device: idSchema.describe("The device"),
    address: z.int().min(1).max(247).describe("The address that it is set to"),
  }),
  z.strictObject({
    kind: z.literal("wrong-speed"),
    device: idSchema.describe("The device"),
    baud: z.int().min(300).max(1_000_000).describe("The speed that it is set to, Bd"),
  }),
  z.strictObject({ kind: z.literal("exchanged-pair"), device: idSchema.describe("The device whose A and B are") }),
  z.strictObject({
    kind: z.literal("bit-errors"),
    link: idSchema.describe("The line, as with a missing terminator"),
    share: z.number().min(0).max(1).default(0.2).describe("Share of the frames that come broken"),
  }),
  z.strictObject({ kind: z.literal("second-client"), link: idSchema.describe("The line that another client asks") }),
  z.strictObject({ kind: z.literal("blocked-port"), link: idSchema.describe("The link whose port nobody reaches") }),
  z.strictObject({
    kind: z.literal("lag"),
    device: idSchema.describe("The device"),
    seconds: z.number().min(0).max(600).describe("How old what it says is, s"),
  }),
]);

const actSchema = z.strictObject({
  device: idSchema.describe("The device"),
  kind: z.enum(["pairing", "built-in-test"]).describe("Opened for pairing, or its own test of its CTs"),
});

const anyFaultSchema = z.union([faultSchema, lineFaultSchema, networkFaultSchema]);

const timeFactorSchema = z.number().min(1).max(LARGEST_TIME_FACTOR).describe("How many times faster time goes");

/** What is asked for when a bench is started. */
export const benchRequestSchema = z.strictObject({
  fitting: z
    .union([z.enum(["fitted", "planned"]), z.strictObject({ faults: z.array(anyFaultSchema).max(MOST_FAULTS) })])
    .default("fitted")
    .describe("The CTs as they are fitted, as planned, or as planned but for some faults"),
  seed: z.int().min(0).max(0xffff_ffff).default(1).describe("Seed of what is drawn"),
  noise: z.boolean().default(true).describe("Readings are as uncertain as the test sheet assumes"),
  timeFactor: timeFactorSchema.default(1),
});

/** What is changed of a running bench; a list replaces the one before it. */
export const benchChangeSchema = z.strictObject({
  state: siteStateShape
    .extend({
      runs: z.enum(["held", "day"]).default("held").describe("As given, or as a day goes on by itself"),
      minuteOfDay: z.number().min(0).max(DAY_MINUTES).optional().describe("Time of the day on the bench, min"),
    })
    .optional()
    .describe("What is on"),
  faults: z.array(anyFaultSchema).max(MOST_FAULTS).optional().describe("What is wrong"),
  timeFactor: timeFactorSchema.optional(),
  acts: z.array(actSchema).max(MOST_FAULTS).optional().describe("What is begun at devices now"),
});

/** A line of a running bench as it is reached. */
export const benchAddressSchema = z.strictObject({
  link: z.string(),
  name: z.string(),
  protocol: z.enum(["modbus-tcp", "rtu-over-tcp"]),
  host: z.string(),
  port: z.int(),
  serial: kitSerialSchema
    .pick({ baud: true, dataBits: true, parity: true, stopBits: true })
    .optional()
    .describe("Speed and frame of the serial line behind it"),
  units: z.array(readableUnitSchema),
});

const placeSchema = z.strictObject({ host: z.string(), port: z.int() });

/** A running bench. */
export const benchSchema = z.strictObject({
  id: z.string(),
  jobRevision: z.int().describe("The revision of the job that it was made from"),
  lines: z.array(benchAddressSchema),
  mqtt: z.strictObject({ host: z.string(), port: z.int(), topics: z.array(z.string()) }),
  portal: z.strictObject({ url: z.string() }),
  network: z
    .strictObject({
      gateway: placeSchema.describe("The router"),
      outside: z.strictObject({ url: z.string() }).describe("A page outside: what comes instead is a log-in page"),
      names: placeSchema.describe("Its name server"),
      service: placeSchema.describe("The port of the service, under whatever name"),
      devices: z.array(
        z.strictObject({
          device: z.string(),
          url: z.string().describe("Its page in the site's network"),
          setUpUrl: z.string().describe("The set-up page of its own access point"),
        }),
      ),
    })
    .describe("The site's network"),
  can: z.array(z.strictObject({ link: z.string(), host: z.string(), port: z.int() })),
});

/** Where a running bench stands. */
export const benchStatusSchema = z.strictObject({
  bench: benchSchema,
  minuteOfDay: z.number(),
  timeFactor: z.number(),
  runs: z.enum(["held", "day"]),
  devices: z.array(z.strictObject({ node: z.string(), powerW: z.number() })),
  faults: z.array(anyFaultSchema),
  online: z.array(
    z.strictObject({
      device: z.string(),
      name: z.string(),
      rung: z.enum(RUNG_IDS).nullable().describe("How far its chain to the owner has come"),
      lamps: z.array(z.string()).describe("What its lamps show, in words"),
      address: z.string().nullable(),
    }),
  ),
  acts: z.array(
    actSchema.extend({
      name: z.string(),
      lastsS: z.number(),
      state: z.enum(["idle", "running", "good", "bad"]),
      leftS: z.number().describe("In the bench's time"),
      says: z.array(z.string()).describe("What its display says"),
    }),
  ),
  cards: z.array(
    z.strictObject({
      device: z.string(),
      name: z.string(),
      link: z.string(),
      unit: z.int(),
      meter: z.string().optional(),
      lamp: z.enum(["answers", "silent", "at another address", "disturbed"]),
      shows: z.array(liveValueSchema.omit({ atMs: true })),
      asked: z.int().describe("How often it was asked since the bench began"),
    }),
  ),
});

/** The bench of a job, where one runs. */
export const jobBenchSchema = z.strictObject({ running: benchStatusSchema.nullable() });

/** How a bench is started. */
export type BenchRequest = z.output<typeof benchRequestSchema>;
/** What is changed of a running bench. */
export type BenchChange = z.output<typeof benchChangeSchema>;
/** Something that is wrong on a bench: of its CTs, of a line, or of a device. */
export type BenchFault = z.output<typeof anyFaultSchema>;
/** Something that is wrong with a line or with a device on it. */
export type LineFault = z.output<typeof lineFaultSchema>;
/** Something that is wrong with the CTs. */
export type FittingFault = z.output<typeof faultSchema>;

/** Whether a fault is of the CTs. */
export function isFittingFault(fault: BenchFault): fault is FittingFault {
  return !isLineFault(fault) && !isNetworkFault(fault);
}

/** A line of a bench as it is reached: host, port, devices. */
export type BenchAddress = z.output<typeof benchAddressSchema>;
/** A running bench with all its addresses. */
export type Bench = z.output<typeof benchSchema>;
/** Where a bench stands: time, powers in W, faults, a card for each device. */
export type BenchStatus = z.output<typeof benchStatusSchema>;

const LINE_KINDS = lineFaultSchema.options.map((option) => option.shape.kind.value);

/** Whether a fault is of a line or device, and not of the CTs. */
export function isLineFault(fault: BenchFault): fault is LineFault {
  return LINE_KINDS.some((kind) => kind === fault.kind);
}

/** What a bench has that a fault may be of. */
export interface BenchParts {
  readonly site: Site;
  readonly links: readonly { readonly id: string }[];
  /** Of devices that are read. */
  readonly deviceIds: readonly string[];
  /** Of devices that their owner sees. */
  readonly onlineIds: readonly string[];
  /** What devices can be asked to do, as `actKey` names it. */
  readonly actKeys: readonly string[];
}

/** What is asked of a bench, as far as it must fit the job. */
interface AskedOfBench {
  readonly faults?: readonly BenchFault[];
  readonly devices?: Parameters<typeof deviceProblems>[0];
  readonly acts?: readonly z.output<typeof actSchema>[];
}

/**
 * What in a bench's faults or state does not fit the job: an unknown device, link, meter, input, tap or run, a phase
 * that a run lacks. Paths are relative to the request.
 */
export function benchProblems(
  { faults = [], devices = [], acts = [] }: AskedOfBench,
  { site, links, deviceIds, onlineIds, actKeys }: BenchParts,
): readonly Problem[] {
  const linkIds = links.map(({ id }) => id);
  return [
    ...deviceProblems(devices, site).map(({ path, message }) => ({ path: ["state", "devices", ...path], message })),
    ...acts.flatMap((act, at) =>
      actKeys.includes(actKey(act))
        ? []
        : [
            {
              path: ["acts", at],
              message: `"${act.device}" has no ${act.kind === "pairing" ? "pairing" : "test of its own"}`,
            },
          ],
    ),
    ...faults.flatMap((fault, at) =>
      faultProblems(fault, site, linkIds, deviceIds, onlineIds).map(({ path, message }) => ({
        path: ["faults", at, ...path],
        message,
      })),
    ),
  ];
}

function faultProblems(
  fault: BenchFault,
  site: Site,
  linkIds: readonly string[],
  deviceIds: readonly string[],
  onlineIds: readonly string[],
): readonly Problem[] {
  if (isNetworkFault(fault)) return "device" in fault ? unknown(onlineIds, fault.device, "device") : [];
  if (isLineFault(fault)) {
    if ("link" in fault) return unknown(linkIds, fault.link, "link");
    return unknown(deviceIds, fault.device, "device");
  }
  const meter = site.meters.find(({ id }) => id === fault.meter);
  if (!meter) return [{ path: ["meter"], message: `there is no meter "${fault.meter}"` }];
  const numbers = meter.inputs.map(({ n }) => n);
  switch (fault.kind) {
    case "meter-reversed":
      return [];
    case "taps-exchanged":
      return fault.taps.flatMap((tap, at) =>
        Object.hasOwn(meter.taps, tap) ? [] : [{ path: ["taps", at], message: `the meter has no tap "${tap}"` }],
      );
    case "exchanged":
    case "places-exchanged":
    case "rotated":
      return [
        ...fault.inputs.flatMap((input, at) => unknownInput(numbers, input, ["inputs", at])),
        ...(new Set<number>(fault.inputs).size < fault.inputs.length
          ? [{ path: ["inputs"], message: "the same input stands twice" }]
          : []),
      ];
    case "wrong-run":
      return [
        ...unknownInput(numbers, fault.input, ["input"]),
        ...unknown(
          siteTree(site).runs.map(({ id }) => id),
          fault.run,
          "run",
        ),
      ];
    case "wrong-phase":
    case "ratio":
    case "reversed":
    case "dead":
      return unknownInput(numbers, fault.input, ["input"]);
  }
}

function unknown(ids: readonly string[], id: string, what: string): readonly Problem[] {
  return ids.includes(id) ? [] : [{ path: [what], message: `there is no ${what} "${id}"` }];
}

function unknownInput(numbers: readonly number[], input: number, path: Problem["path"]): readonly Problem[] {
  return numbers.includes(input) ? [] : [{ path, message: `the meter has no input ${input}` }];
}
