import { z } from "zod";
import { findingSchema, type WithFindings } from "@/core/findings";
import { refineWith, type Problem } from "@/core/problem";
import { idSchema } from "@/core/names";

const MAX_DEVICES = 64;
const MAX_BLOCKS = 100;

const parityChoice = z.enum(["none", "even", "odd"]);
const baudNumber = z.int().min(300).max(10_000_000);
const dataBitsNumber = z.union([z.literal(7), z.literal(8)]);
const stopBitsNumber = z.union([z.literal(1), z.literal(2)]);

const busDeviceShape = z.object({
  id: idSchema,
  role: z.enum(["client", "server"]),
  /** From the device before it along the line; 0 for the first. */
  distanceM: z.number().min(0).max(100_000),
  stubM: z.number().min(0).max(10_000).default(0),
  unitLoad: z.number().positive().max(32).default(1),
  terminator: z.boolean().default(false),
  bias: z
    .object({ upOhm: z.number().positive().max(1e6), downOhm: z.number().positive().max(1e6) })
    .nullable()
    .default(null),
  /** Of a server; outside 1 to 247 it is found, not refused: it is what somebody set. */
  address: z.int().min(0).max(65_535).optional(),
  poll: z
    .array(z.object({ registers: z.int().min(1).max(125, "one request reads at most 125 registers") }))
    .max(MAX_BLOCKS)
    .default([]),
  turnaroundMs: z.number().min(0).max(60_000).default(0),
  timeoutMs: z.number().min(0).max(600_000).default(1000),
  retries: z.int().min(0).max(20).default(0),
  /** What this device is set to, where that is known to differ. */
  baud: baudNumber.optional(),
  dataBits: dataBitsNumber.optional(),
  parity: parityChoice.optional(),
  stopBits: stopBitsNumber.optional(),
});

const busShape = z.object({
  baud: baudNumber,
  dataBits: dataBitsNumber.default(8),
  parity: parityChoice.default("none"),
  stopBits: stopBitsNumber.default(1),
  vccV: z.number().positive().max(24).default(5),
  /** Whether an idle line of nothing reads as a one by itself. */
  receiver: z.enum(["plain", "fail-safe"]).default("plain"),
  cable: z
    .object({
      /** Of one conductor. */
      ohmPerKm: z.number().min(0).max(10_000).default(84),
      velocityFactor: z.number().min(0.1).max(1).default(0.66),
      z0Ohm: z.number().positive().max(1000).default(120),
    })
    .default({ ohmPerKm: 84, velocityFactor: 0.66, z0Ohm: 120 }),
  riseTimeNs: z.number().positive().max(1e6).default(250),
  devices: z.array(busDeviceShape).min(1, "a bus has at least one device").max(MAX_DEVICES),
});

/** What the route `rs485` takes: a line with its devices; Bd, m, mV, ns. */
export const rs485RequestSchema = busShape.superRefine(refineWith(({ devices }) => repeatedIds(devices)));

/** A bus and a device of it where nobody said otherwise. */
export const USUAL_BUS = busShape.omit({ devices: true }).parse({ baud: 9600 });
/** What is taken of a device on a line where nobody said. */
export const USUAL_BUS_DEVICE = busDeviceShape.omit({ id: true, role: true, distanceM: true }).parse({});

/** The answer of the route `rs485`. */
export const rs485ResponseSchema = z.object({
  lengthM: z.number(),
  maxLengthM: z.number(),
  roundTripNs: z.number(),
  bitNs: z.number(),
  terminationMatters: z.boolean(),
  loadOhm: z.number(),
  /** Of the idle line at the client, and at the end that is farther from it, with the cable between. */
  idleMv: z.number(),
  idleFarMv: z.number(),
  farEndMv: z.number(),
  stubLimitM: z.number(),
  pollCycleMs: z.number(),
  /** With 0, 1 and 2 dead devices. */
  worstCycleMs: z.array(z.number()).length(3),
  /**
   * Between A and B with every supply off, at the client and at the far end: with the upper ends of the bias resistors
   * open, and with a dead rail that is on ground. What is read lies between the two.
   */
  resistanceOffOhm: z.number(),
  resistanceOffBiasOhm: z.number(),
  resistanceOffFarOhm: z.number(),
  resistanceOffFarBiasOhm: z.number(),
  findings: z.array(findingSchema),
});

/** An RS-485 line as it is computed with. */
export type Rs485Bus = z.output<typeof rs485RequestSchema>;
/** A device on a line. */
export type BusDevice = Rs485Bus["devices"][number];
/** Lengths in m, levels in mV, resistances in Ω, the cycle in ms. */
export type Rs485Result = WithFindings<z.output<typeof rs485ResponseSchema>>;
/** A bus in numbers, before anything is found in them. */
export type BusFigures = Omit<Rs485Result, "findings">;

function repeatedIds(devices: readonly { readonly id: string }[]): readonly Problem[] {
  return devices.flatMap(({ id }, at) =>
    devices.findIndex((other) => other.id === id) < at
      ? [{ path: ["devices", at, "id"], message: `the id "${id}" is used twice` }]
      : [],
  );
}
