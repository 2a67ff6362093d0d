import { z } from "zod";
import { isIpv4, parsedSubnet } from "@/core/ipv4";
import { wallsSchema } from "@/core/plan/walls";
import { type Site } from "@/core/site/planSchema";
import { idSchema, nameSchema } from "@/core/names";
import type { Problem } from "@/core/problem";
import { text } from "@/core/text";

const MAX_LINKS = 80;
const MAX_MEMBERS = 40;

export const linkKindSchema = z.enum([
  "rs485",
  "can",
  "ethernet",
  "wifi",
  "radio",
  "power-line",
  "dry-contact",
  "usb",
  "cellular",
]);

const ipv4Schema = text().trim().refine(isIpv4, "four numbers from 0 to 255 with dots: 192.168.7.20");

const memberSchema = z.object({
  /** A device, meter or piece of equipment of the plan. */
  item: idSchema,
  port: idSchema,
  /** Cable from the member before it along the line, m; worked out from the places when left out. */
  distanceM: z.number().min(0).max(10_000).optional(),
  stubM: z.number().min(0).max(1000).optional(),
  terminator: z.boolean().optional(),
  address: z.int().min(0).max(65_535).optional(),
  /** A fixed address in the network; without one the router gives it. */
  ipv4: ipv4Schema.optional(),
});

const wifiSettingsSchema = z.object({
  bandGhz: z.union([z.literal(2.4), z.literal(5)]).default(2.4),
  walls: wallsSchema.default(wallsSchema.parse({ brick: 1 })),
  /** What the phone showed at the spot. */
  seenDbm: z.number().min(-120).max(0).optional(),
});

const radioSettingsSchema = z.object({
  spreadingFactor: z.int().min(6).max(12).optional(),
  /** Loss with distance: 2 in the open, 3 through a house. */
  exponent: z.number().min(1.5).max(6).default(2.7),
  walls: wallsSchema.default(wallsSchema.parse({ brick: 2 })),
  marginDb: z.number().min(0).max(60).default(10),
});

const cellularSettingsSchema = z.object({
  reportBytes: z.int().min(1).max(1_000_000).default(2000),
  intervalS: z.number().min(1).max(86_400).default(300),
  planMb: z.number().positive().max(1e6).default(50),
  signalDbm: z.number().min(-150).max(0).optional(),
});

const powerLineSettingsSchema = z.object({
  ownOutlet: z.boolean().default(true),
  /** Through a socket strip, a filter or an uninterruptible supply. */
  throughStrip: z.boolean().default(false),
  samePhase: z.boolean().default(true),
  /** Chargers, dimmers and power supplies on the same circuit. */
  noisyNeighbours: z.boolean().default(false),
  unitsHeard: z.int().min(0).max(1000).optional(),
});

export const linkSchema = z.object({
  id: idSchema,
  kind: linkKindSchema,
  name: nameSchema,
  /** In the order of the line. */
  members: z.array(memberSchema).min(1, "a link joins at least two ports").max(MAX_MEMBERS),
  baud: z.int().min(300).max(10_000_000).optional(),
  /** Order of the colours in the plugs of a network cable. */
  colours: z.enum(["T568A", "T568B"]).optional(),
  wifi: wifiSettingsSchema.optional(),
  radio: radioSettingsSchema.optional(),
  cellular: cellularSettingsSchema.optional(),
  powerLine: powerLineSettingsSchema.optional(),
});

export const linksSchema = z.array(linkSchema).max(MAX_LINKS);

/** The customer's network as it is found: what its router gives and hears. */
export const networkSchema = z.object({
  subnet: text()
    .trim()
    .refine((text) => parsedSubnet(text) !== undefined, "an address and a length: 192.168.7.0/24")
    .optional(),
  gateway: ipv4Schema.optional(),
  /** What the router gives by itself. */
  poolFrom: ipv4Schema.optional(),
  poolTo: ipv4Schema.optional(),
  bandsGhz: z
    .array(z.union([z.literal(2.4), z.literal(5)]))
    .max(2)
    .default([2.4, 5]),
  security: z.enum(["open", "wpa2", "wpa2-wpa3", "wpa3"]).default("wpa2"),
  hiddenName: z.boolean().default(false),
  /** One name for both bands. */
  oneName: z.boolean().default(false),
  /** A page to sign in at before anything gets out. */
  portal: z.boolean().default(false),
});

/** What a multimeter showed at a bus, by link. */
export const busReadingsSchema = z
  .array(
    z.object({
      link: idSchema,
      what: z.enum(["ohm", "idle-mv", "plus-ground-mv", "minus-ground-mv", "high-ground-mv", "low-ground-mv"]),
      where: z.enum(["first", "last"]),
      value: z.number().min(-1e6).max(1e9),
    }),
  )
  .max(400);

export type Link = z.output<typeof linkSchema>;
export type LinkKind = Link["kind"];
export type LinkMember = z.output<typeof memberSchema>;
export type Network = z.output<typeof networkSchema>;
export type WifiSettings = z.output<typeof wifiSettingsSchema>;
export type RadioSettings = z.output<typeof radioSettingsSchema>;
export type CellularSettings = z.output<typeof cellularSettingsSchema>;
export type PowerLineSettings = z.output<typeof powerLineSettingsSchema>;

export const LINK_WORDS: Readonly<Record<LinkKind, string>> = {
  rs485: "RS-485",
  can: "CAN",
  ethernet: "Network cable",
  wifi: "Wi-Fi",
  radio: "Radio",
  "power-line": "Power line",
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
  return links.flatMap((link, at): readonly Problem[] => [
    ...(links.findIndex((other) => other.id === link.id) < at
      ? [{ path: [at, "id"], message: `the id "${link.id}" is used twice` }]
      : []),
    ...(link.members.length < 2 && link.kind !== "cellular"
      ? [{ path: [at, "members"], message: "a link joins at least two ports" }]
      : []),
    ...link.members.flatMap((member, which): readonly Problem[] => {
      const path = [at, "members", which];
      if (!items.has(member.item)) return [{ path: [...path, "item"], message: `the plan has no "${member.item}"` }];
      const key = JSON.stringify([member.item, member.port]);
      const other = taken.get(key);
      taken.set(key, link.id);
      return other === undefined || SHARED.includes(link.kind)
        ? []
        : [{ path: [...path, "port"], message: `this port is in the link "${other}" already` }];
    }),
  ]);
}
