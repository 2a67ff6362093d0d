import type { ExportLimiter } from "@/core/control/exportLimiter";
import { limitEntries } from "@/core/control/limitEntries";
import { given } from "@/core/given";
import type { SettingId } from "@/core/kits/menuSchema";
import { busOfLink } from "@/core/links/bus/busOfLink";
import type { KitDevice, PlanInput, PlanLink, PlanMeter } from "@/core/plan/resolvedPlan";
import { plainText } from "@/core/sentence";
import { ratioEntry } from "@/core/sensing/ratioEntry";
import { inputTag } from "@/core/site/inputTag";
import type { SensingRole } from "@/core/site/planSchema";
import { maybeIsland } from "@/core/visit/rules/boardFeeds";
import { isInverter, type VisitContext } from "@/core/visit/visitContext";
import { joined } from "@/core/words";

/** One line of what is typed into a device. */
export interface SettingLine {
  readonly label: string;
  readonly value: string;
}

/** The same, with what it sets: a kit's menu gives it the device's own word. */
interface Setting extends SettingLine {
  readonly sets: SettingId;
  readonly input?: number;
}

const ROLE_WORDS: Readonly<Record<SensingRole, string>> = {
  grid: "grid",
  generation: "solar generation",
  battery: "battery",
  consumption: "consumption",
  heater: "heater",
  vehicle: "vehicle",
};
/** Between these the usual grid codes let an inverter stay on; the operator's own come first. */
const VOLTAGE_SHARE = 0.1;
/** A device that is set up by a phone, a page or a menu of its own. */
const SET_UP_KINDS = [
  "pv-inverter",
  "battery-inverter",
  "hybrid-inverter",
  "diverter",
  "ev-charger",
  "energy-manager",
  "export-controller",
  "logger",
  "gateway",
  "monitor",
  "meter",
];
/** An older kit's menu has bus entries with the values that it comes with; the plan's are typed instead. */
const BUS_FIELD = /^(?:bus (?:address|speed)|baud|parity|stop bits)/i;
/** Whoever has a clock of its own that tariffs and records go by. */
const CLOCK_KINDS = ["logger", "gateway", "monitor", "energy-manager", "export-controller", "ev-charger"];

/** Whether a device is set up by a phone or a page of its own. */
export function isSetUp({ kit }: Pick<KitDevice, "kit">): boolean {
  return SET_UP_KINDS.includes(kit.kind);
}

/**
 * What is typed into a device, all of it, in the words and the order of its own menu where its kit has one: grid code,
 * mode, what each input is for and its ratio, bus, battery, backup, limit, hub, clock.
 *
 * For example: of a meter with a 100 A CT on input 1: "Channel 1 is for: grid", "Channel 1 amperes: 100".
 */
export function settingsOf(context: VisitContext, item: KitDevice): readonly SettingLine[] {
  const settings = [
    ...inverterSettings(context, item),
    ...inputSettings(context, item),
    ...busSettings(item),
    ...batterySettings(context, item),
    ...limitSettings(context, item),
    ...siteSettings(context, item),
  ];
  return inItsWords(item, settings);
}

/** Each under the name that the kit's menu has for it, in the menu's order; what it has no name for comes after. */
function inItsWords({ kit }: KitDevice, settings: readonly Setting[]): readonly SettingLine[] {
  const older = (kit.metering?.menu ?? []).filter(
    ({ field }) => !settings.some(({ sets }) => sets === "address") || !BUS_FIELD.test(field),
  );
  const entryOf = ({ sets, input }: Setting) =>
    kit.menu.findIndex((entry) => entry.sets === sets && (entry.input === undefined || entry.input === input));
  const named = kit.menu.flatMap((entry, at): readonly SettingLine[] => {
    if (entry.value !== undefined) return [{ label: entry.field, value: entry.value }];
    const own = settings.filter((setting) => entryOf(setting) === at);
    return own.map(({ label, value }) => ({
      // One entry for all inputs, or for both buses: which of them it is stays in the name.
      label: entry.input === undefined && own.length > 1 ? `${entry.field}, ${label}` : entry.field,
      value,
    }));
  });
  const others = settings.filter((setting) => entryOf(setting) < 0).map(({ label, value }) => ({ label, value }));
  return [...named, ...others, ...older.map(({ field, value }) => ({ label: field, value }))];
}

function inverterSettings(context: VisitContext, item: KitDevice): readonly Setting[] {
  if (!isInverter(item)) return [];
  const { voltageV } = context.site.supply;
  const { reconnectDelayS } = item.kit.timers;
  const limits = [1 - VOLTAGE_SHARE, 1 + VOLTAGE_SHARE].map((share) => Math.round(voltageV * share));
  return given<Setting>(
    { sets: "grid-code", label: "Grid code", value: "the country's, as the network operator wrote" },
    item.kit.kind !== "pv-inverter" && { sets: "mode", label: "Work mode", value: modeOf(context, item) },
    reconnectDelayS !== undefined && {
      sets: "reconnect",
      label: "Reconnect time",
      value: `${reconnectDelayS} s, or as the grid code wants`,
    },
    {
      sets: "voltage-limits",
      label: "Voltage limits",
      value: `as the grid code sets them; about ${limits.join(" to ")} V`,
    },
  );
}

/** Who leads: an energy manager or a controller beside it, else the inverter itself. */
function modeOf({ worked }: VisitContext, item: KitDevice): string {
  const leader = worked.find(
    ({ id, kit }) => id !== item.id && (kit.kind === "energy-manager" || kit.kind === "export-controller"),
  );
  return leader ? `led from outside, by ${leader.name}` : "own consumption";
}

/** What each input is for, and its ratio: at the device that computes with it, also where the CTs are another's. */
function inputSettings({ site, plan }: VisitContext, item: KitDevice): readonly Setting[] {
  const meters = plan.meters.filter((meter) => computerOf(meter, plan.links) === item.id);
  const isOne = meters.length === 1;
  return meters
    .flatMap((meter) => meter.inputs.map((own) => ({ meter, own })))
    .filter(({ own }) => !own.input.builtIn && own.kitInput !== undefined)
    .flatMap(({ meter, own }): readonly Setting[] => {
      const tag = inputTag(site, meter.id, own.input.n);
      const of = isOne ? { input: own.input.n } : {};
      const role = roleOf(own);
      return given<Setting>(role !== undefined && { sets: "role", ...of, label: `${tag} is for`, value: role }, {
        sets: "ratio",
        ...of,
        label: `${tag} CT`,
        value: ratioOf(own),
      });
    });
}

/** The device that computes with what a meter's CTs give: its hub's, where it is a transmitter. */
function computerOf(meter: PlanMeter, links: readonly PlanLink[]): string {
  if (meter.kit?.kind !== "transmitter") return meter.host?.id ?? meter.id;
  const radio = links.find(({ kind, members }) => kind === "radio" && members.some(({ item }) => item === meter.id));
  return radio?.members[0]?.item ?? meter.id;
}

function roleOf({ input }: PlanInput): string | undefined {
  return input.role === undefined ? undefined : ROLE_WORDS[input.role];
}

function ratioOf({ input, kitInput }: PlanInput): string {
  const entry = ratioEntry(kitInput!.ratio, input.primaryA, input.secondary);
  return entry.kind === "entry"
    ? plainText(entry.text)
    : `${input.primaryA} A cannot be entered: ${plainText(entry.why)}`;
}

/** Speed, parity, stop bits and address on each bus, from the one place that Wire computes with. */
function busSettings(item: KitDevice): readonly Setting[] {
  const buses = item.links.filter(({ kind }) => kind === "rs485");
  return buses.flatMap((link): readonly Setting[] => {
    const bus = busOfLink(link);
    const of = buses.length > 1 ? ` of ${link.name}` : "";
    const addresses = link.members.flatMap(({ item: id, address }) => (id === item.id ? (address ?? []) : []));
    return [
      ...addresses.map((address): Setting => ({
        sets: "address",
        label: `Bus address${of}`,
        value: String(address),
      })),
      ...(bus
        ? [
            { sets: "baud" as const, label: `Bus speed${of}`, value: `${bus.baud} baud` },
            { sets: "parity" as const, label: `Parity${of}`, value: bus.parity },
            { sets: "stop-bits" as const, label: `Stop bits${of}`, value: String(bus.stopBits) },
          ]
        : []),
    ];
  });
}

/** Battery and inverter name each other; modules and towers are counted; backup has two switches. */
function batterySettings(context: VisitContext, item: KitDevice): readonly Setting[] {
  const partners = partnersOf(item);
  if (item.kit.kind === "battery") {
    const inverter = partners.find(isInverter);
    const bank = bankOf(context, item);
    return given<Setting>(inverter && { sets: "inverter-model", label: "Inverter", value: inverter.kit.name }, {
      sets: "modules",
      label: "Modules of the bank",
      value: String(bank.length),
    });
  }
  if (!isInverter(item)) return [];
  const battery = partners.find(({ kit }) => kit.kind === "battery");
  const bank = battery ? bankOf(context, battery) : [];
  const units = context.worked.filter(({ kit }) => kit.id === item.kit.id);
  const island = maybeIsland(context)?.island;
  const hasOutput = item.kit.ports.some(({ label }) => /back-?up|^load$/i.test(label));
  return given<Setting>(
    battery && { sets: "battery-model", label: "Battery model", value: battery.kit.name },
    battery && { sets: "modules", label: "Battery modules", value: String(bank.length) },
    units.length > 1 &&
      item.kit.kind !== "pv-inverter" && { sets: "parallel", label: "Units side by side", value: String(units.length) },
    (hasOutput || island?.id === item.id) && {
      sets: "backup",
      label: "Backup output",
      value: island?.id === item.id ? "on" : "off: nothing is behind it",
    },
    island?.id === item.id && { sets: "carry-on", label: "Carry on when the grid goes", value: "on" },
  );
}

/**
 * The modules that are stacked or chained to one battery: those on its line; without one all of its kind but those that
 * another inverter has.
 */
function bankOf({ worked }: VisitContext, battery: KitDevice): readonly KitDevice[] {
  const line = battery.links.find(({ kind }) => kind === "bank");
  if (line) return worked.filter(({ id }) => line.members.some(({ item }) => item === id));
  const own = partnersOf(battery).find(isInverter);
  return worked.filter((other) => {
    if (other.kit.id !== battery.kit.id) return false;
    const inverter = partnersOf(other).find(isInverter);
    return own === undefined || inverter === undefined || inverter.id === own.id;
  });
}

/** What a battery or an inverter speaks with. */
function partnersOf({ id, links }: KitDevice): readonly KitDevice[] {
  return links
    .filter(({ kind }) => kind === "can" || kind === "rs485")
    .flatMap(({ ends }) => ends.flatMap(({ device }) => (device && device.id !== id ? device : [])));
}

function limitSettings({ plan, limiter }: VisitContext, item: KitDevice): readonly Setting[] {
  const isLimited = limiter !== undefined && plan.limit.powerW !== undefined;
  if (isLimited && limiter.controller.id === item.id) return controllerLines(limiter, plan);
  const isFollower = limiter?.inverters.some(({ id }) => id === item.id) ?? false;
  const failSafe = item.kit.exportLimit?.failSafe;
  if (isLimited && isFollower)
    return given<Setting>(
      { sets: "limit-mode", label: "Export limit", value: `outside controller: ${limiter.controller.name}` },
      failSafe && {
        sets: "fail-safe",
        label: "Fail-safe",
        value: `on, ${failSafe.timeS} s, to ${failSafe.fallbackPct} %`,
      },
    );
  return item.kit.exportLimit
    ? [{ sets: "limit", label: "Export limit", value: "off; on where the network operator asks, as under Limit" }]
    : [];
}

function controllerLines(limiter: ExportLimiter, plan: VisitContext["plan"]): readonly Setting[] {
  const own = limitEntries(plan, limiter)[0];
  const SETS: Readonly<Record<string, SettingId>> = {
    "Export limit": "limit",
    On: "limit-mode",
    "Fail-safe": "fail-safe",
    Inverters: "inverters",
  };
  return (own?.entries ?? [])
    .filter(({ field }) => !field.startsWith("CT ratio"))
    .map(({ field, value }) => ({
      sets: SETS[field] ?? "limit",
      label: field === "On" ? "Export limit on" : field,
      value,
    }));
}

/** First of the site or an additional one, whose hub; clock and zone. */
function siteSettings({ plan, visit, worked }: VisitContext, item: KitDevice): readonly Setting[] {
  const radio = plan.links.find(
    ({ kind, members }) => kind === "radio" && members.some(({ item: id }) => id === item.id),
  );
  const [first, ...followers] = radio?.ends.flatMap(({ device }) => device ?? []) ?? [];
  const hasHub = worked.some(({ kit }) => kit.topology.some(({ check }) => check === "one-hub"));
  const hasClock = item.kit.network !== undefined || CLOCK_KINDS.includes(item.kit.kind);
  return given<Setting>(
    hasHub &&
      first?.id === item.id && {
        sets: "hub",
        label: "Place on the site",
        value: `first device, the hub of ${joined(followers.map(({ name }) => name))}`,
      },
    hasHub &&
      first !== undefined &&
      followers.some(({ id }) => id === item.id) && {
        sets: "hub",
        label: "Place on the site",
        value: `additional device; its hub is ${first.name}`,
      },
    hasClock && visit.kind !== "inspection" && { sets: "clock", label: "Clock", value: "the time now, to the minute" },
    hasClock && { sets: "zone", label: "Time zone", value: "the site's, with its summer time" },
  );
}
