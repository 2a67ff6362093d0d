import { z } from "zod";
import { WAY_IDS } from "@/core/online/ways";
import { text } from "@/core/text";

const wordsSchema = text().trim().min(1).max(300);
const minutesSchema = z.number().positive().max(1440);

/** How a device is reached to be set up, each with its name. */
export const SET_UP_BY = [
  { id: "access-point", name: "Its own access point" },
  { id: "bluetooth", name: "Bluetooth" },
  { id: "display-keys", name: "Display and keys" },
  { id: "router-button", name: "The router's pairing button" },
  { id: "hub", name: "Through its hub" },
  { id: "module-swap", name: "Exchange of its module" },
] as const;

const setUpSchema = z.strictObject({
  by: z.enum(SET_UP_BY.map(({ id }) => id)).describe("How it is reached"),
  sets: z.array(z.enum(WAY_IDS)).min(1).max(6).describe("The ways online that can be set there"),
  start: wordsSchema.optional().describe("What starts it; left out where it runs by itself"),
  startsForMin: minutesSchema.optional().describe("It stays open for so long, min"),
  stop: wordsSchema.optional().describe("What ends it; left out where it ends by itself"),
  flightMode: z.boolean().default(false).describe("The phone's mobile data off, else the phone leaves it"),
  address: z
    .enum(["fixed", "display"])
    .default("fixed")
    .describe("Its page is at the access point's fixed address, or at one read off the display"),
  logIn: wordsSchema.optional().describe("Which log-in is wanted; left out where none is"),
  hides: z
    .array(z.enum(["hidden-names", "5-ghz", "wpa3", "weak"]))
    .max(4)
    .default([])
    .describe("What its list of networks leaves out"),
  menu: z.array(wordsSchema).max(12).default([]).describe("The entries of its network part, in order"),
  confirmed: wordsSchema.optional().describe("What it shows when it has taken the settings"),
});

/** How a device comes online: the ways in, entry of a passphrase, waits, and what it shares. */
export const kitOnlineSchema = z.strictObject({
  setUp: z.array(setUpSchema).min(1, "name at least one way to reach it").max(8).describe("How it is reached"),
  removeOldFirst: z.boolean().default(false).describe("The old connection is removed before a new one is made"),
  sharesInternet: z.boolean().optional().describe("Of a hub: whether it lets its followers out by its own internet"),
  joinMin: minutesSchema.optional().describe("To join, min"),
  contactMin: minutesSchema.optional().describe("To the first contact with the service, min"),
  firmwareMin: minutesSchema.optional().describe("A download of firmware, min"),
  firstDataMin: minutesSchema.optional().describe("From registration to the first data in the service, min"),
  firmwareByPhone: z.boolean().default(false).describe("Firmware is put into the phone before the visit"),
  service: text()
    .trim()
    .max(120)
    .regex(/^[a-z0-9]([a-z0-9.-]*[a-z0-9])?$/i, "a name as it is resolved: data.kits.example")
    .optional()
    .describe("Name of the service that it reports to, as it is resolved"),
  keys: z
    .strictObject({
      order: text().min(10).max(120).describe("The characters of its up key, in their order"),
      startsAt: z.enum(["first", "previous"]).default("first").describe("Where each new place begins"),
    })
    .optional()
    .describe("How a passphrase is entered by up and down keys"),
  passphrase: z
    .strictObject({
      min: z.int().min(1).max(63).default(8).describe("Characters, at least"),
      max: z.int().min(8).max(63).default(63).describe("Characters, at most"),
      excludes: text().max(60).optional().describe("Characters that it does not take"),
    })
    .optional()
    .describe("What passphrases it takes"),
  sim: z
    .strictObject({
      size: z.enum(["mini", "micro", "nano"]).describe("Size of the SIM"),
      takesPin: z.boolean().describe("Its PIN can be typed into the device"),
    })
    .optional()
    .describe("The SIM that it takes"),
  warnings: z.array(wordsSchema).max(8).default([]).describe("What to ask before: firmware that shuts out a reader …"),
});

/** How a device comes online, as its kit says. */
export type KitOnline = z.output<typeof kitOnlineSchema>;
/** One way to reach a device for setting it up. */
export type SetUp = KitOnline["setUp"][number];
