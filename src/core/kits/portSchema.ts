import { z } from "zod";
import { idSchema } from "@/core/names";
import { text } from "@/core/text";

const textSchema = text().trim().min(1).max(200);

/** Signal roles are electrical; the letters printed beside them differ from maker to maker. */
const terminalSchema = z.strictObject({
  label: text().trim().min(1).max(20),
  pin: z.int().min(1).max(64).optional(),
  role: z.enum([
    "non-inverting",
    "inverting",
    "signal-ground",
    "shield",
    "can-high",
    "can-low",
    "dry-contact",
    "dry-contact-common",
    "line",
    "neutral",
    "earth",
    "ct-k",
    "ct-l",
    "pair-1",
    "pair-2",
    "pair-3",
    "pair-4",
    "supply-plus",
    "supply-minus",
    "unused",
  ]),
});

export const portSchema = z.strictObject({
  id: idSchema,
  kind: z.enum([
    "rs485",
    "can",
    "ethernet",
    "wifi",
    "radio",
    "power-line",
    "dry-contact",
    "usb",
    "ct",
    "mains",
    "bluetooth",
    "cellular",
  ]),
  label: text().trim().min(1).max(40),
  connector: z.enum(["terminal", "rj45", "usb-a", "usb-c", "aerial", "none"]).default("terminal"),
  role: z.enum(["client", "server", "either"]).optional(),
  terminals: z.array(terminalSchema).max(64).default([]),
  /** What a terminal takes, and how many wires at once. */
  conductors: z
    .strictObject({
      minMm2: z.number().positive().max(300),
      maxMm2: z.number().positive().max(300),
      ferrule: z.boolean().default(true),
      wiresMax: z.int().min(1).max(4).default(1),
      torqueNm: z.number().positive().max(100).optional(),
    })
    .refine(({ minMm2, maxMm2 }) => minMm2 <= maxMm2, { path: ["maxMm2"], message: "maxMm2 is below minMm2" })
    .optional(),
  terminator: z.enum(["none", "switch", "fixed", "jumper"]).optional(),
  bias: z.strictObject({ upOhm: z.number().positive(), downOhm: z.number().positive() }).optional(),
  unitLoad: z.number().positive().max(4).optional(),
  receiver: z.enum(["plain", "fail-safe"]).optional(),
  shieldHere: z.boolean().optional(),
});

export const kitSerialSchema = z.strictObject({
  baud: z.int().min(300).max(1_000_000),
  dataBits: z.union([z.literal(7), z.literal(8)]).default(8),
  parity: z.enum(["none", "even", "odd"]),
  stopBits: z.union([z.literal(1), z.literal(2)]),
  address: z.int().min(1, "an address is from 1 to 247").max(247, "an address is from 1 to 247").optional(),
  turnaroundMs: z.number().min(0).max(10_000).optional(),
  registers: z
    .array(
      z.strictObject({
        name: textSchema,
        address: z.int().min(0).max(65_535),
        table: z.enum(["input", "holding"]).default("input"),
        type: z.enum(["u16", "s16", "u32", "s32", "f32"]),
        unit: text().trim().min(1).max(12),
        scale: z.number().default(1),
      }),
    )
    .max(200)
    .default([]),
});

export const canSchema = z.strictObject({
  bitrate: z.int().min(10_000).max(1_000_000),
  terminator: z.enum(["inside", "outside", "switch"]),
  /** How long without a frame until the battery opens its contactor. */
  lossS: z.number().positive().max(3600).optional(),
  frames: z
    .array(
      z.strictObject({
        id: z.int().min(0).max(0x1fffffff),
        extended: z.boolean().default(false),
        bytes: z.int().min(0).max(8),
        perSecond: z.number().positive().max(1000),
        name: textSchema,
      }),
    )
    .max(100)
    .default([]),
});

export const kitNetworkSchema = z.strictObject({
  wired: z.boolean().default(false),
  bandsGhz: z
    .array(z.union([z.literal(2.4), z.literal(5)]))
    .max(2)
    .default([]),
  security: z
    .array(z.enum(["open", "wpa2", "wpa3"]))
    .max(3)
    .default([]),
  cellular: z.boolean().default(false),
  bluetooth: z.boolean().default(false),
  /** How the name of its own access point follows from the serial number: {serial} or its last digits {serial:4}. */
  accessPoint: z.strictObject({ name: textSchema, address: textSchema, passphrase: textSchema.optional() }).optional(),
  outbound: z
    .array(z.strictObject({ port: z.int().min(1).max(65_535), protocol: z.enum(["tcp", "udp"]), why: textSchema }))
    .max(20)
    .default([]),
});

/** What a radio below 1 GHz sends with, as it comes. */
export const radioSchema = z.strictObject({
  frequencyMhz: z.number().min(100).max(6000),
  txDbm: z.number().min(-30).max(36),
  gainDbi: z.number().min(-20).max(20).default(0),
  spreadingFactor: z.int().min(6).max(12),
  bandwidthKhz: z.number().min(5).max(2000),
  codingRate: z.int().min(5).max(8).default(5),
});
