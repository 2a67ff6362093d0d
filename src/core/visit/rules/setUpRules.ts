import { unitsOf } from "@/core/links/check/linkFindings";
import { accessPointName, accessPointWords } from "@/core/online/accessPointName";
import type { KitDevice, PlanLink } from "@/core/plan/resolvedPlan";
import { isSetUp, settingsOf, type SettingLine } from "@/core/visit/rules/settings";
import { lampChoice } from "@/core/visit/rules/lampChoice";
import { activeSchool, schoolLine } from "@/core/visit/schools";
import { isInverter, type VisitContext } from "@/core/visit/visitContext";
import type { VisitRule } from "@/core/visit/visitRule";
import type { AskedEvidence, StepDraft, ValueField } from "@/core/visit/visitStep";
import { joined } from "@/core/words";

const PRACTICE = "Order of work: reach, configure, go online";
const FIRST_DATA_MIN = 10;
/** Stands for the characters of a serial number that is not read yet. */
const UNREAD = "·".repeat(20);

/** From pairing to the first data: what is done at a device that runs. */
export const SET_UP_RULES: readonly VisitRule[] = [
  {
    id: "pair",
    yields: ({ plan, visit }) =>
      plan.links
        .filter(({ kind }) => kind === "radio")
        .flatMap((link) => {
          const [hub, ...followers] = link.ends.flatMap(({ device }) => device ?? []);
          return hub ? followers.flatMap((follower) => pairing(link, hub, follower, visit)) : [];
        }),
  },
  {
    id: "serial",
    yields: ({ worked }) =>
      worked.filter(hasSerial).map((item) => ({
        tag: "serial",
        stage: "configure" as const,
        title: `Serial number of ${item.name}`,
        place: item.place?.id,
        about: item.id,
        why: "To find this device and no other, and to register it",
        activeMin: 2,
        source: `Kit ${item.kit.id}${item.kit.serialPattern ? ", serialPattern" : ""}`,
        evidence: { kind: "serial" as const, pattern: item.kit.serialPattern },
        wantsPhoto: true,
      })),
  },
  {
    id: "reach",
    yields: ({ worked, visit }) =>
      worked
        .filter(({ kit }) => kit.network?.accessPoint !== undefined || kit.network?.bluetooth === true)
        .map((item) => ({
          tag: "reach",
          stage: "configure" as const,
          title: `Reach ${item.name}`,
          place: item.place?.id,
          about: item.id,
          why: "The right one, by its serial number",
          activeMin: 4,
          source: `Kit ${item.kit.id}, network`,
          content: reachLines(item),
          school: schoolLine(visit, item.kit, "setUpBy"),
        })),
  },
  { id: "inverters-off", yields: (context) => invertersOff(context) },
  {
    id: "configure",
    yields: (context) =>
      context.worked
        .filter(({ kit, isNew }) => isNew && (isSetUp({ kit }) || kit.kind === "battery"))
        .flatMap((item): readonly StepDraft[] => {
          const content = settingsOf(context, item);
          return content.length === 0
            ? []
            : [
                {
                  tag: "configure",
                  stage: "configure",
                  title: `Set ${item.name}`,
                  place: item.place?.id,
                  about: item.id,
                  why: "The numbers to type, as the kit wants them, each read back",
                  activeMin: 4 + content.length,
                  source: `Kit ${item.kit.id}, plan and links`,
                  content,
                  evidence: readBack(content),
                  wantsPhoto: true,
                  ...(isInverter(item) ? { school: schoolLine(context.visit, item.kit, "configureWhen") } : {}),
                },
              ];
        }),
  },
  { id: "inverters-on", yields: (context) => invertersOn(context) },
  {
    id: "watch",
    yields: ({ worked }) =>
      worked
        .filter((item) => isInverter(item) && item.kit.timers.commsLossShutdownS !== undefined)
        .flatMap((item) => item.links.filter(hasBattery).map((link) => watchStep(item, link))),
  },
  { id: "count", yields: ({ plan }) => plan.links.flatMap((link) => countStep(link)) },
  {
    id: "status",
    yields: ({ worked }) => worked.filter((item) => item.isNew && isInverter(item)).map(statusStep),
  },
  {
    id: "online",
    yields: ({ plan }) =>
      plan.links
        .filter(({ kind }) => kind === "ethernet" || kind === "wifi" || kind === "cellular")
        .flatMap((link): readonly StepDraft[] => {
          const device = link.ends.flatMap((end) => end.device ?? []).find(({ kit }) => kit.kind !== "router");
          if (!device) return [];
          const ports = device.kit.network?.outbound ?? [];
          return [
            {
              tag: "online",
              stage: "online",
              title: `${device.name} online`,
              place: device.place?.id,
              about: device.id,
              why: "First data can take its time: look again later",
              activeMin: 3,
              waitMin: device.kit.online?.firstDataMin ?? FIRST_DATA_MIN,
              waiting: { what: "first-data", label: `First data of ${device.name}` },
              source: PRACTICE,
              content: ports.map(({ port, protocol, why }) => ({
                label: `${port}/${protocol}`,
                value: `must get out: ${why}`,
              })),
              ...lampChoice(device, "online"),
            },
          ];
        }),
  },
  {
    id: "firmware",
    yields: ({ worked, visit }) =>
      worked
        .filter(({ isNew, kit }) => isNew && kit.timers.firmwareS !== undefined && kit.network !== undefined)
        .map((item) => ({
          tag: "firmware",
          stage: "online" as const,
          title: `Firmware of ${item.name}`,
          place: item.place?.id,
          about: item.id,
          why: "Started in time it runs while other work goes on; nothing is proved or switched meanwhile",
          activeMin: 2,
          waitMin: item.kit.timers.firmwareS! / 60,
          waiting: { what: "firmware" as const, label: `Firmware of ${item.name}` },
          source: `Kit ${item.kit.id}, timers.firmwareS`,
          caution: "Do not switch it off while it loads.",
          content: [{ label: "Before the visit", value: "what the app needs is loaded into the phone at home" }],
          school: schoolLine(visit, item.kit, "firmwareWhen"),
        })),
  },
];

function hasSerial({ isNew, kit }: KitDevice): boolean {
  const isRegistered = isSetUp({ kit }) || kit.kind === "battery" || kit.kind === "dongle";
  return isNew && kit.kind !== "ct" && (kit.serialPattern !== undefined || isRegistered);
}

/** Opened at one end, confirmed at the other; which end that is, is for the hub's kit to say. */
function pairing(
  link: PlanLink,
  hub: KitDevice,
  follower: KitDevice,
  visit: VisitContext["visit"],
): readonly StepDraft[] {
  const kit = hub.kit.practice.pairingAt ? hub.kit : follower.kit;
  const isAtHub = activeSchool(visit, kit, "pairingAt").option === "hub";
  const [opens, answers] = isAtHub ? [hub, follower] : [follower, hub];
  const windowS = Math.min(hub.kit.timers.pairingWindowS ?? Infinity, follower.kit.timers.pairingWindowS ?? Infinity);
  const about = `${link.id}:${follower.id}`;
  return [
    {
      tag: "pair-open",
      stage: "links",
      title: `Open pairing at ${opens.name} for ${answers.name}`,
      place: opens.place?.id,
      about,
      why: "The window counts from here",
      activeMin: 1,
      source: "Kits, timers.pairingWindowS",
      school: schoolLine(visit, kit, "pairingAt"),
      ...(Number.isFinite(windowS) ? { content: [{ label: "Window", value: `${windowS} s` }] } : {}),
    },
    {
      tag: "pair",
      stage: "links",
      title: `Pair ${answers.name}`,
      place: answers.place?.id,
      about,
      why: "Both ends must hear each other in the window",
      activeMin: 2,
      source: "Kits, timers.pairingWindowS",
      ...lampChoice(answers, "paired"),
      ...(Number.isFinite(windowS) ? { window: { after: "pair-open", withinMin: windowS / 60 } } : {}),
    },
  ];
}

function reachLines({ kit }: KitDevice): readonly SettingLine[] {
  const point = kit.network?.accessPoint;
  if (!point)
    return [
      { label: "By", value: "Bluetooth, within a few metres and in sight" },
      { label: "Phone", value: "Bluetooth and location on, any other phone disconnected: it takes one at a time" },
    ];
  const digits = /\{serial:(\d+)\}/.exec(point.name)?.[1];
  return [
    { label: "Network name", value: accessPointName(point.name, UNREAD) ?? accessPointWords(point.name) },
    ...(digits ? [{ label: "Which", value: `the last ${digits} characters of its serial number` }] : []),
    { label: "Address", value: point.address },
    { label: "Passphrase", value: "on its plate or in the maker's manual; changed at the first visit where it can be" },
    { label: "Phone", value: "flight mode on, then Wi-Fi on: it keeps a network without internet" },
  ];
}

function readBack(content: readonly SettingLine[]): AskedEvidence {
  return {
    kind: "read-back",
    fields: content.map(({ label, value }, at) => ({ id: `line-${at}`, label, value })),
    outside: "Type it again, save, and read it back once more; some values need a restart first",
  };
}

/** The inverters that are set on this visit, where there are several: they would work on each other's settings. */
function setTogether({ worked }: VisitContext): readonly KitDevice[] {
  const inverters = worked.filter((item) => isInverter(item) && item.isNew && !isRoofUnit(item));
  return inverters.length > 1 ? inverters : [];
}

/** Units under the modules are set by their gateway, all at once. */
function isRoofUnit({ kit }: KitDevice): boolean {
  return kit.ports.some(({ kind }) => kind === "power-line");
}

function invertersOff(context: VisitContext): readonly StepDraft[] {
  const all = setTogether(context);
  if (all.length === 0) return [];
  return [
    {
      tag: "inverters-off",
      stage: "configure",
      title: `Command ${all.length} inverters off`,
      place: all[0]!.place?.id,
      why: "One that feeds in while another is being set makes it look wrong",
      activeMin: 3,
      source: "Several inverters: off, set, no alarm, on",
      content: [{ label: "Off", value: joined(all.map(({ name }) => name)) }],
      evidence: {
        kind: "values",
        fields: [countField("off", "They say that they are off", "inverters", all.length)],
      },
    },
  ];
}

function invertersOn(context: VisitContext): readonly StepDraft[] {
  const all = setTogether(context);
  if (all.length === 0) return [];
  return [
    {
      tag: "inverters-on",
      stage: "configure",
      title: `No alarm, then all ${all.length} inverters on`,
      place: all[0]!.place?.id,
      why: "None is left off at the end",
      activeMin: 4,
      source: "Several inverters: off, set, no alarm, on",
      content: [{ label: "On", value: joined(all.map(({ name }) => name)) }],
      evidence: {
        kind: "values",
        fields: [
          {
            id: "alarms",
            label: "Shown before they are switched on",
            unit: "alarms",
            least: 0,
            most: 0,
            outside: "Read the alarm, put it right, and leave all of them off meanwhile",
          },
          countField("running", "They run", "inverters", all.length),
        ],
      },
    },
  ];
}

function countField(id: string, label: string, unit: string, count: number): ValueField {
  return {
    id,
    label,
    unit,
    least: count,
    most: count,
    outside: `Should be ${count}: find the one that is missing`,
  };
}

function hasBattery({ kind, ends }: PlanLink): boolean {
  return (kind === "can" || kind === "rs485") && ends.some(({ device }) => device?.kit.kind === "battery");
}

/** A battery that is heard wrongly runs for some minutes and then stops itself: it is watched for longer than that. */
function watchStep(item: KitDevice, link: PlanLink): StepDraft {
  const watchedS = Math.max(...link.ends.map(({ device }) => device?.kit.timers.commsLossShutdownS ?? 0));
  return {
    tag: "watch",
    stage: "configure",
    title: `Watch the battery link of ${item.name}`,
    place: item.place?.id,
    about: link.id,
    why: `Wrongly joined it runs, and stops itself after ${Math.round(watchedS)} s`,
    activeMin: 1,
    waitMin: (2 * watchedS) / 60,
    waiting: { what: "watch", label: `Battery link of ${item.name}` },
    source: "Kits, timers.commsLossShutdownS, twice",
    evidence: {
      kind: "choice",
      question: "After that time, what does it show?",
      outside: "Model and order of the wires first: Wire, CAN, reads what the battery sends",
      options: [
        { id: "both", label: "Both run, and the battery's charge is shown", isGood: true },
        { id: "no-charge", label: "Runs, but no charge is shown", isGood: false },
        { id: "stopped", label: "The battery stopped itself", isGood: false },
      ],
    },
  };
}

/** What one end must hear at the others: units over the power line, addresses on a bus. */
function countStep(link: PlanLink): readonly StepDraft[] {
  if (link.kind !== "power-line" && link.kind !== "rs485" && link.kind !== "bank") return [];
  const devices = link.ends.flatMap(({ device }) => device ?? []);
  const asks = devices.find((device) => isAsker(link, device));
  const others = devices.filter((device) => device.id !== asks?.id);
  if (!asks || others.length === 0) return [];
  const count = link.kind === "power-line" ? others.reduce((sum, device) => sum + unitsOf(device), 0) : others.length;
  return [
    {
      tag: "count",
      stage: "configure",
      title: `What ${asks.name} finds on ${link.name}`,
      place: asks.place?.id,
      about: link.id,
      why: "One that is missing now is missing in every sum",
      activeMin: 3,
      source: "Devices of the plan on this link",
      content: [{ label: "Planned", value: joined(others.map((device) => named(link, device))) }],
      evidence: {
        kind: "values",
        fields: [
          link.kind === "power-line"
            ? countField("found", "Heard", "units", count)
            : link.kind === "bank"
              ? countField("found", "Modules that the first one counts, itself too", "modules", count + 1)
              : countField("found", "They answer", "addresses", count),
        ],
      },
    },
  ];
}

function isAsker(link: PlanLink, device: KitDevice): boolean {
  if (link.kind === "power-line") return device.kit.kind === "gateway";
  if (link.kind === "bank") return link.members[0]?.item === device.id;
  const port = link.ends.find((end) => end.device?.id === device.id)?.port;
  return port !== undefined && "role" in port && port.role === "client";
}

function named(link: PlanLink, device: KitDevice): string {
  const address = link.members.find(({ item }) => item === device.id)?.address;
  return address === undefined ? device.name : `${device.name} at ${address}`;
}

function statusStep(item: KitDevice): StepDraft {
  const { kit, links } = item;
  const has = (kind: PlanLink["kind"]) => links.some((link) => link.kind === kind);
  return {
    tag: "status",
    stage: "configure",
    title: `Read the status page of ${item.name}`,
    place: item.place?.id,
    about: item.id,
    why: "After the restart it shows what it really took",
    activeMin: 3,
    source: "What was set, read where the device shows it",
    wantsPhoto: true,
    content: [
      { label: "Grid", value: "joined, no alarm" },
      { label: "Grid code", value: "the one that was typed, with its version" },
      { label: "Model", value: kit.name },
      ...(kit.kind === "pv-inverter" ? [] : [{ label: "Mode", value: "the one that was set" }]),
      ...(kit.timers.builtInTestS === undefined
        ? []
        : [{ label: "CT test", value: "its result, or that none was run" }]),
      ...(has("can") ? [{ label: "Battery", value: "answers, with its charge" }] : []),
      ...(has("rs485") ? [{ label: "Meter", value: "answers, with a value that changes" }] : []),
    ],
    evidence: {
      kind: "choice",
      question: "Does it show all of that?",
      outside: "Go back to the value that differs, type it again, restart, and read once more",
      options: [
        { id: "all", label: "All of it", isGood: true },
        { id: "differs", label: "Something differs", isGood: false },
      ],
    },
  };
}
