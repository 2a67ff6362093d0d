import { z } from "zod";
import { idSchema } from "@/core/names";
import { text } from "@/core/text";

const textSchema = text().trim().min(1).max(200);

/** Signal roles are electrical; the letters printed beside them differ from maker to maker. */
const terminalSchema = z.strictObject({
  label: text().trim().min(1).max(20).describe("What it is called"),
  pin: z.int().min(1).max(64).optional().describe("Number of the pin"),
  role: z
    .enum([
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
      "enable",
      "enable-return",
      "unused",
    ])
    .describe("What it is for"),
});

/** A port: kind, role, terminals, and what it does to a bus. */
export const portSchema = z.strictObject({
  id: idSchema,
  kind: z
    .enum([
      "rs485",
      "can",
      "ethernet",
      "wifi",
      "radio",
      "power-line",
      "bank",
      "dry-contact",
      "usb",
      "ct",
      "mains",
      "bluetooth",
      "cellular",
    ])
    .describe("What it is"),
  label: text().trim().min(1).max(40).describe("What it is called"),
  connector: z
    .enum(["terminal", "rj45", "usb-a", "usb-c", "aerial", "none"])
    .default("terminal")
    .describe("What is plugged or screwed there"),
  role: z.enum(["client", "server", "either"]).optional().describe("What it is for"),
  terminals: z.array(terminalSchema).max(64).default([]).describe("Its terminals or pins"),
  conductors: z
    .strictObject({
      minMm2: z.number().positive().max(300).describe("Smallest section, mm²"),
      maxMm2: z.number().positive().max(300).describe("Largest section, mm²"),
      ferrule: z.boolean().default(true).describe("Whether a ferrule goes on"),
      wiresMax: z.int().min(1).max(4).default(1).describe("How many wires a terminal takes"),
      stripMm: z.number().positive().max(100).optional().describe("How far the core is stripped, mm"),
      torqueNm: z.number().positive().max(100).optional().describe("Torque, N·m"),
    })
    .refine(({ minMm2, maxMm2 }) => minMm2 <= maxMm2, { path: ["maxMm2"], message: "maxMm2 is below minMm2" })
    .optional()
    .describe("What a terminal takes, and how many wires at once"),
  terminator: z.enum(["none", "switch", "fixed", "jumper"]).optional().describe("The terminator at this end"),
  bias: z
    .strictObject({
      upOhm: z.number().positive().describe("To plus, Ω"),
      downOhm: z.number().positive().describe("To minus, Ω"),
    })
    .optional()
    .describe("The bias resistors"),
  unitLoad: z.number().positive().max(4).optional().describe("Load on the bus, in unit loads (TIA-485)"),
  receiver: z.enum(["plain", "fail-safe"]).optional().describe("Whether its receiver knows an idle line"),
  shieldHere: z.boolean().optional().describe("The shield is bonded here"),
});

/** A serial line's settings and turnaround, ms; and the registers of kits of before. */
export const kitSerialSchema = z.strictObject({
  baud: z.int().min(300).max(1_000_000).describe("Speed, Bd or bit/s"),
  dataBits: z
    .union([z.literal(7), z.literal(8)])
    .default(8)
    .describe("Data bits"),
  parity: z.enum(["none", "even", "odd"]).describe("Parity"),
  stopBits: z.union([z.literal(1), z.literal(2)]).describe("Stop bits"),
  address: z
    .int()
    .min(1, "an address is from 1 to 247")
    .max(247, "an address is from 1 to 247")
    .optional()
    .describe("Address"),
  turnaroundMs: z.number().min(0).max(10_000).optional().describe("Until it answers, ms"),
  registers: z
    .array(
      z.strictObject({
        name: textSchema.describe("Its name"),
        address: z.int().min(0).max(65_535).describe("Address"),
        table: z.enum(["input", "holding"]).default("input").describe("Holding or input registers"),
        type: z.enum(["u16", "s16", "u32", "s32", "f32"]).describe("How the value is coded"),
        unit: text().trim().min(1).max(12).describe("Unit of the value"),
        scale: z.number().default(1).describe("The value of one step"),
      }),
    )
    .max(200)
    .optional()
    .describe("Registers as kits listed them before they said what each holds; read for the time of a poll alone"),
});

/** The frames that a device sends on CAN, each so many times a second. */
export const canSchema = z.strictObject({
  bitrate: z.int().min(10_000).max(1_000_000).describe("Bit rate, bit/s"),
  terminator: z.enum(["inside", "outside", "switch"]).describe("The terminator at this end"),
  lossS: z
    .number()
    .positive()
    .max(3600)
    .optional()
    .describe("How long without a frame until the battery opens its contactor"),
  frames: z
    .array(
      z.strictObject({
        id: z.int().min(0).max(0x1fffffff).describe("Identifier"),
        extended: z.boolean().default(false).describe("29 bits instead of 11"),
        bytes: z.int().min(0).max(8).describe("Data bytes"),
        perSecond: z.number().positive().max(1000).describe("How often a second"),
        name: textSchema.describe("Its name"),
      }),
    )
    .max(100)
    .default([])
    .describe("The frames that it sends"),
});

/** What a device can do in a network, and its own access point. */
export const kitNetworkSchema = z.strictObject({
  wired: z.boolean().default(false).describe("It has a socket"),
  bandsGhz: z
    .array(z.union([z.literal(2.4), z.literal(5)]))
    .max(2)
    .default([])
    .describe("Wi-Fi bands, GHz"),
  security: z
    .array(z.enum(["open", "wpa2", "wpa3"]))
    .max(3)
    .default([])
    .describe("Wi-Fi security"),
  cellular: z.boolean().default(false).describe("It has a cellular radio, or the settings of a cellular link"),
  bluetooth: z.boolean().default(false).describe("It has Bluetooth"),
  accessPoint: z
    .strictObject({
      name: textSchema.describe("Its name"),
      address: textSchema.describe("Address"),
      passphrase: textSchema.optional().describe("Where the passphrase is"),
    })
    .optional()
    .describe(
      "How the name of its own access point follows from the serial number: {serial} or its last digits {serial:4}",
    ),
  outbound: z
    .array(
      z.strictObject({
        port: z.int().min(1).max(65_535).describe("The port"),
        protocol: z.enum(["tcp", "udp"]).describe("The protocol"),
        why: textSchema.describe("Why"),
      }),
    )
    .max(20)
    .default([])
    .describe("What must get out to the internet"),
});

/** What a radio below 1 GHz sends with, as it comes. */
export const radioSchema = z.strictObject({
  frequencyMhz: z.number().min(100).max(6000).describe("Frequency, MHz"),
  txDbm: z.number().min(-30).max(36).describe("Transmit power, dBm"),
  gainDbi: z.number().min(-20).max(20).default(0).describe("Gain of the aerial, dBi"),
  spreadingFactor: z.int().min(6).max(12).describe("Spreading factor"),
  bandwidthKhz: z.number().min(5).max(2000).describe("Bandwidth, kHz"),
  codingRate: z.int().min(5).max(8).default(5).describe("Coding rate, 4 of so many"),
});
