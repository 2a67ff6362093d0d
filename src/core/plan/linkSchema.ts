import { z } from "zod";
import { given } from "@/core/given";
import { isIpv4, parsedSubnet } from "@/core/ipv4";
import { wallsSchema } from "@/core/plan/walls";
import type { Site } from "@/core/site/planSchema";
import { idSchema, nameSchema } from "@/core/names";
import type { Problem } from "@/core/problem";
import { text } from "@/core/text";

const MAX_LINKS = 80;
const MAX_MEMBERS = 40;

/** How devices are joined for data. */
export const linkKindSchema = z.enum([
  "rs485",
  "can",
  "ethernet",
  "wifi",
  "radio",
  "power-line",
  "bank",
  "dry-contact",
  "usb",
  "cellular",
]);

const ipv4Schema = text().trim().refine(isIpv4, "four numbers from 0 to 255 with dots: 192.168.7.20");

const memberSchema = z.object({
  item: idSchema.describe("A device, meter or piece of equipment of the plan"),
  port: idSchema.describe("The port"),
  distanceM: z
    .number()
    .min(0)
    .max(10_000)
    .optional()
    .describe("Cable from the member before it along the line, m; worked out from the places when left out"),
  stubM: z.number().min(0).max(1000).optional().describe("Stub, m"),
  terminator: z.boolean().optional().describe("The terminator at this end"),
  address: z.int().min(0).max(65_535).optional().describe("Address"),
  ipv4: ipv4Schema.optional().describe("A fixed address in the network; without one the router gives it"),
});

const wifiSettingsSchema = z.object({
  bandGhz: z
    .union([z.literal(2.4), z.literal(5)])
    .default(2.4)
    .describe("Band, GHz"),
  walls: wallsSchema.default(wallsSchema.parse({ brick: 1 })).describe("Walls on the way"),
  seenDbm: z.number().min(-120).max(0).optional().describe("What the phone showed at the spot"),
});

const radioSettingsSchema = z.object({
  spreadingFactor: z.int().min(6).max(12).optional().describe("Spreading factor"),
  exponent: z.number().min(1.5).max(6).default(2.7).describe("Loss with distance: 2 in the open, 3 through a house"),
  walls: wallsSchema.default(wallsSchema.parse({ brick: 2 })).describe("Walls on the way"),
  marginDb: z.number().min(0).max(60).default(10).describe("What should be to spare, dB"),
});

const cellularSettingsSchema = z.object({
  reportBytes: z.int().min(1).max(1_000_000).default(2000).describe("A report, bytes"),
  intervalS: z.number().min(1).max(86_400).default(300).describe("Between two reports, s"),
  planMb: z.number().positive().max(1e6).default(50).describe("The SIM's plan, MB a month"),
  signalDbm: z.number().min(-150).max(0).optional().describe("The signal as it was read, dBm"),
});

const powerLineSettingsSchema = z.object({
  ownOutlet: z.boolean().default(true).describe("The gateway has an outlet of its own"),
  throughStrip: z.boolean().default(false).describe("Through a socket strip, a filter or an uninterruptible supply"),
  samePhase: z.boolean().default(true).describe("Gateway and units are on one phase"),
  noisyNeighbours: z.boolean().default(false).describe("Chargers, dimmers and power supplies on the same circuit"),
  unitsHeard: z.int().min(0).max(1000).optional().describe("How many units the gateway hears"),
});

/** One link: its members in the order of the line, and its settings. */
export const linkSchema = z.object({
  id: idSchema,
  kind: linkKindSchema.describe("What it is"),
  name: nameSchema,
  members: z
    .array(memberSchema)
    .min(1, "a link joins at least two ports")
    .max(MAX_MEMBERS)
    .describe("In the order of the line"),
  existing: z.boolean().optional().describe("Lay there before this visit"),
  baud: z.int().min(300).max(10_000_000).optional().describe("Speed, Bd or bit/s"),
  colours: z.enum(["T568A", "T568B"]).optional().describe("Order of the colours in the plugs of a network cable"),
  wifi: wifiSettingsSchema.optional().describe("Settings of a Wi-Fi link"),
  radio: radioSettingsSchema.optional().describe("Its sub-GHz radio, or the settings of a radio link"),
  cellular: cellularSettingsSchema.optional().describe("It has a cellular radio, or the settings of a cellular link"),
  powerLine: powerLineSettingsSchema.optional().describe("Settings of a power-line link"),
});

/** The links of a job. */
export const linksSchema = z.array(linkSchema).max(MAX_LINKS);

/** The customer's network as it is found: what its router gives and hears. */
export const networkSchema = z.object({
  subnet: text()
    .trim()
    .refine((text) => parsedSubnet(text) !== undefined, "an address and a length: 192.168.7.0/24")
    .optional()
    .describe("Address and length: 192.168.7.0/24"),
  gateway: ipv4Schema.optional().describe("Address of the router"),
  poolFrom: ipv4Schema.optional().describe("What the router gives by itself"),
  poolTo: ipv4Schema.optional().describe("Last address that the router gives"),
  bandsGhz: z
    .array(z.union([z.literal(2.4), z.literal(5)]))
    .max(2)
    .default([2.4, 5])
    .describe("Wi-Fi bands, GHz"),
  security: z.enum(["open", "wpa2", "wpa2-wpa3", "wpa3"]).default("wpa2").describe("Wi-Fi security"),
  hiddenName: z.boolean().default(false).describe("The name of the network is hidden"),
  oneName: z.boolean().default(false).describe("One name for both bands"),
  portal: z.boolean().default(false).describe("A page to sign in at before anything gets out"),
});

/** What a multimeter showed at a bus, by link. */
export const busReadingsSchema = z
  .array(
    z.object({
      link: idSchema.describe("Which link, or the link that it is of"),
      what: z
        .enum(["ohm", "idle-mv", "plus-ground-mv", "minus-ground-mv", "high-ground-mv", "low-ground-mv"])
        .describe("What was measured, or what happens"),
      where: z.enum(["first", "last"]).describe("At which end"),
      value: z.number().min(-1e6).max(1e9).describe("The value"),
    }),
  )
  .max(400);

/** One link as the document has it. */
export type Link = z.output<typeof linkSchema>;
/** How devices are joined. */
export type LinkKind = Link["kind"];
/** One member of a link: the item and port that it names. */
export type LinkMember = z.output<typeof memberSchema>;
/** The customer's network as it is found. */
export type Network = z.output<typeof networkSchema>;
/** Band, walls and what a phone showed, dBm. */
export type WifiSettings = z.output<typeof wifiSettingsSchema>;
/** Spreading factor, walls and margin in dB. */
export type RadioSettings = z.output<typeof radioSettingsSchema>;
/** Reports in bytes and s, the plan in MB a month, the signal in dBm. */
export type CellularSettings = z.output<typeof cellularSettingsSchema>;
/** What of the outlet and its circuit bears on the signal. */
export type PowerLineSettings = z.output<typeof powerLineSettingsSchema>;

/** The kinds of links, in words. */
export const LINK_WORDS: Readonly<Record<LinkKind, string>> = {
  rs485: "RS-485",
  can: "CAN",
  ethernet: "Network cable",
  wifi: "Wi-Fi",
  radio: "Radio",
  "power-line": "Power line",
  bank: "Battery bank",
  "dry-contact": "Contacts",
  usb: "Plugged in",
  cellular: "Cellular",
};

/** Links that share the air or the mains: one port may serve several. */
const SHARED: readonly LinkKind[] = ["wifi"];

/** The settings of a Wi-Fi link, usual ones where none were typed. */
export const wifiSettings = (link: Pick<Link, "wifi">): WifiSettings => link.wifi ?? wifiSettingsSchema.parse({});
/** The settings of a radio link, usual ones where none were typed. */
export const radioSettings = (link: Pick<Link, "radio">): RadioSettings => link.radio ?? radioSettingsSchema.parse({});
/** The settings of a cellular link, usual ones where none were typed. */
export const cellularSettings = (link: Pick<Link, "cellular">): CellularSettings =>
  link.cellular ?? cellularSettingsSchema.parse({});
/** The settings of a power-line link, usual ones where none were typed. */
export const powerLineSettings = (link: Pick<Link, "powerLine">): PowerLineSettings =>
  link.powerLine ?? powerLineSettingsSchema.parse({});

/**
 * Ids used twice, members that the plan does not have, one port in two links, an end alone. Paths are relative to the
 * list.
 */
export function linkProblems(links: readonly Link[], site: Site): readonly Problem[] {
  const items = new Set([...site.nodes, ...site.meters, ...site.equipment].map(({ id }) => id));
  const taken = new Map<string, string>();
  return links.flatMap((link, at): readonly Problem[] =>
    given(
      links.findIndex((other) => other.id === link.id) < at && {
        path: [at, "id"],
        message: `the id "${link.id}" is used twice`,
      },
      link.members.length < 2 &&
        link.kind !== "cellular" && { path: [at, "members"], message: "a link joins at least two ports" },
      link.members.flatMap((member, which): readonly Problem[] => {
        const path = [at, "members", which];
        if (!items.has(member.item)) return [{ path: [...path, "item"], message: `the plan has no "${member.item}"` }];
        const key = JSON.stringify([member.item, member.port]);
        const other = taken.get(key);
        taken.set(key, link.id);
        return other === undefined || SHARED.includes(link.kind)
          ? []
          : [{ path: [...path, "port"], message: `this port is in the link "${other}" already` }];
      }),
    ),
  );
}
