import type { Link } from "@/core/plan/linkSchema";
import { segmentCable, type SegmentCable } from "@/core/links/wiring/segmentCable";
import { isWhole, outgoingPort } from "@/core/plan/linkEnds";
import type { KitPort, ResolvedPlan, WholeEnd } from "@/core/plan/resolvedPlan";

type Terminal = KitPort["terminals"][number];
type SignalRole = Terminal["role"];

/** One end of a core. */
export interface CoreEnd {
  readonly item: string;
  readonly port: string;
  readonly terminal: string;
  readonly pin: number | undefined;
  /** What goes over the strands; undefined on a plug. */
  readonly ferrule: string | undefined;
}

/** One core of a cable, from terminal to terminal; or what else is done at an end: shield, terminator, plug. */
export interface CoreRow {
  readonly id: string;
  readonly link: string;
  readonly cable: string;
  readonly role: SignalRole | "terminator" | "spare" | "plug" | "network-lead";
  readonly colour: string;
  readonly pair: string;
  readonly from: CoreEnd;
  readonly to: CoreEnd | undefined;
  readonly notes: readonly string[];
}

const SIGNALS: Readonly<Partial<Record<Link["kind"], readonly SignalRole[]>>> = {
  rs485: ["non-inverting", "inverting", "signal-ground"],
  can: ["can-high", "can-low", "signal-ground"],
  bank: ["non-inverting", "inverting", "can-high", "can-low", "signal-ground", "enable", "enable-return"],
};
const OPPOSITES: Readonly<Partial<Record<SignalRole, SignalRole>>> = {
  "non-inverting": "inverting",
  inverting: "non-inverting",
  "can-high": "can-low",
  "can-low": "can-high",
};
const DATA_MM2 = 0.25;
const CONTACT_MM2 = 0.5;
const TERMINATOR_WORDS = {
  switch: "switch its terminator on",
  jumper: "set its terminator jumper",
  fixed: "its terminator is inside and always on",
  none: "fit 120 Ω across the two cores",
} as const;

/** What a core carries, in words. */
export const SIGNAL_WORDS: Readonly<Partial<Record<CoreRow["role"], string>>> = {
  "non-inverting": "non-inverting (+)",
  inverting: "inverting (−)",
  "signal-ground": "signal ground",
  "can-high": "CAN high",
  "can-low": "CAN low",
  shield: "shield",
  enable: "enable",
  "enable-return": "return of the enable line",
  "dry-contact": "contact",
  "dry-contact-common": "common of the contacts",
  terminator: "terminator",
  spare: "unused core",
  plug: "plug",
  "network-lead": "network lead",
  "ct-k": "CT lead, k (+)",
  "ct-l": "CT lead, l (−)",
  line: "line, voltage tap",
  neutral: "neutral, voltage tap",
};

/**
 * Every core of the links, one row each, by signal role and not by letter: equal roles are joined, so that two kits
 * with opposite letters come out right, and the row says that their letters differ. Then the shield, bonded at one end,
 * unused cores, and terminators. A network lead is one row with its eight colours; a module is one row.
 *
 * For example: A kit whose A inverts, joined to one whose A does not: A to B and B to A, each with a note.
 */
export function wiringSchedule({ links }: Pick<ResolvedPlan, "links">): readonly CoreRow[] {
  return links.flatMap((link) => [
    ...link.ends.slice(1).flatMap((to, at) => {
      const from = link.ends[at]!;
      return isWhole(from) && isWhole(to) ? segmentRows(link, at, from, to) : [];
    }),
    ...link.ends
      .filter(isWhole)
      .filter(({ member }) => member.terminator && (link.kind === "rs485" || link.kind === "can"))
      .map((end) => terminatorRow(link, end)),
  ]);
}

type End = Pick<WholeEnd, "device" | "port">;

function segmentRows(link: Link, at: number, from: End, to: End): readonly CoreRow[] {
  switch (link.kind) {
    case "rs485":
    case "can":
    case "bank":
      return busRows(link, at, from, to);
    case "dry-contact":
      return contactRows(link, from, to);
    case "ethernet":
      return [leadRow(link, from, to)];
    case "usb":
      return [
        {
          ...rowOf(link, segmentCable(link, from.port, to.port), from, to),
          id: `${coreId(from, to)}:plug`,
          role: "plug",
          colour: "—",
          pair: "—",
          from: portEnd(to),
          to: portEnd(from),
          notes: ["put in with both devices off, unless the maker's manual says otherwise"],
        },
      ];
    case "wifi":
    case "radio":
    case "power-line":
    case "cellular":
      return [];
  }
}

function busRows(link: Link, at: number, from: End, to: End): readonly CoreRow[] {
  const last = link.members.length - 2;
  // An inner member holds two wires in a terminal: the one that comes and the one that goes.
  const onward = at > 0 ? outgoingPort(from) : from.port;
  const start: End = { device: from.device, port: onward ?? from.port };
  const isShared = {
    from: at > 0 && start.port.id === from.port.id,
    to: at < last && outgoingPort(to)?.id === to.port.id,
  };
  const cable = segmentCable(link, start.port, to.port);
  const used = new Set<string>();
  const cores = (SIGNALS[link.kind] ?? []).flatMap((role, signal): readonly CoreRow[] => {
    const [a, b] = [terminalOf(start.port, role), terminalOf(to.port, role)];
    if (!a || !b) return [];
    const core = coreFor(cable, signal, start, to, a, b);
    used.add(core.colour);
    return [
      {
        ...rowOf(link, cable, start, to),
        id: `${coreId(start, to)}:${role}`,
        role,
        ...core,
        from: coreEnd(start, a, isShared.from, DATA_MM2),
        to: coreEnd(to, b, isShared.to, DATA_MM2),
        notes: [
          ...letterNotes(role, a, b, oppositeAt(to.port, role)),
          ...pinNotes(start, to, a, b),
          ...sharedNotes(start, isShared.from),
          ...sharedNotes(to, isShared.to),
          ...(onward ? [] : [`${from.device.name} has one socket: take a splitter for the lead that goes on`]),
        ],
      },
    ];
  });
  const isStraight =
    cores.length > 0 &&
    start.port.connector === "rj45" &&
    to.port.connector === "rj45" &&
    cores.every((row) => row.from.pin !== undefined && row.from.pin === row.to?.pin);
  return [
    ...cores.map((row, which) =>
      isStraight && which === 0
        ? { ...row, notes: [...row.notes, "every pin goes to its like: a straight patch lead will do"] }
        : row,
    ),
    ...spareRow(link, cable, start, to, used),
    ...shieldRow(link, cable, start, to),
  ];
}

function rowOf(link: Link, cable: SegmentCable, from: End, to: End): Pick<CoreRow, "link" | "cable" | "from" | "to"> {
  return { link: link.id, cable: cable.name, from: portEnd(from), to: portEnd(to) };
}

/** A core is what it joins: its tick stays while the two ends do, whatever happens to the rest of the line. */
function coreId(from: End, to: End): string {
  return `${from.device.id}.${from.port.id}>${to.device.id}.${to.port.id}`;
}

function portEnd({ device, port }: End): CoreEnd {
  return { item: device.name, port: port.label, terminal: port.label, pin: undefined, ferrule: undefined };
}

/** By pin where there is a plug, else the next of the cable: both data cores in one pair. */
function coreFor(
  cable: SegmentCable,
  signal: number,
  from: End,
  to: End,
  a: Terminal,
  b: Terminal,
): { readonly colour: string; readonly pair: string } {
  const pin = from.port.connector === "rj45" ? a.pin : to.port.connector === "rj45" ? b.pin : undefined;
  const core = cable.cores[pin === undefined ? signal : pin - 1];
  return { colour: core?.colour ?? "—", pair: core?.pair ?? "—" };
}

function spareRow(link: Link, cable: SegmentCable, from: End, to: End, used: ReadonlySet<string>): readonly CoreRow[] {
  const spare = cable.cores.filter(({ colour }) => !used.has(colour));
  if (spare.length === 0 || used.size === 0) return [];
  return [
    {
      ...rowOf(link, cable, from, to),
      id: `${coreId(from, to)}:spare`,
      role: "spare",
      colour: spare.map(({ colour }) => colour).join(", "),
      pair: [...new Set(spare.map(({ pair }) => pair))].join(", "),
      notes: ["folded back and sleeved at both ends, or cut flush: one way for the whole site"],
    },
  ];
}

/** The shield on the terminal that a kit has for it, at that end only. */
function shieldRow(link: Link, cable: SegmentCable, from: End, to: End): readonly CoreRow[] {
  if (link.kind !== "rs485") return [];
  const ends = [from, to];
  const bonded =
    ends.find(({ port }) => port.shieldHere && terminalOf(port, "shield")) ??
    ends.find(({ port }) => terminalOf(port, "shield"));
  const here = bonded ?? from;
  const other = here === from ? to : from;
  const terminal = bonded && terminalOf(bonded.port, "shield");
  const end: CoreEnd = terminal
    ? coreEnd(here, terminal, false, DATA_MM2)
    : { item: here.device.name, port: here.port.label, terminal: "earth", pin: undefined, ferrule: undefined };
  return [
    {
      ...rowOf(link, cable, from, to),
      id: `${coreId(from, to)}:shield`,
      role: "shield",
      colour: "screen",
      pair: "shield",
      from: end,
      to: undefined,
      notes: [`bonded here only; cut back and insulated at ${other.device.name}`],
    },
  ];
}

function terminatorRow(link: Link, end: End): CoreRow {
  const how = end.port.terminator ?? "none";
  return {
    id: `${end.device.id}.${end.port.id}:terminator`,
    link: link.id,
    cable: "—",
    role: "terminator",
    colour: "—",
    pair: "—",
    from: portEnd(end),
    to: undefined,
    notes: [`end of the line: ${TERMINATOR_WORDS[how]}`],
  };
}

function contactRows(link: Link, from: End, to: End): readonly CoreRow[] {
  const cable = segmentCable(link, from.port, to.port);
  const of = ({ port }: End, role: SignalRole) => port.terminals.filter((terminal) => terminal.role === role);
  const pairs = (["dry-contact", "dry-contact-common"] as const).flatMap((role) =>
    of(from, role).flatMap((a, at) => {
      const b = of(to, role)[at];
      return b ? [{ role, a, b }] : [];
    }),
  );
  return pairs.map(({ role, a, b }, at) => ({
    ...rowOf(link, cable, from, to),
    id: `${coreId(from, to)}:${role}:${a.label}`,
    role,
    colour: cable.cores[at]?.colour ?? "—",
    pair: "—",
    from: coreEnd(from, a, false, CONTACT_MM2),
    to: coreEnd(to, b, false, CONTACT_MM2),
    notes: at === 0 ? ["free of any voltage: measure before it is connected"] : [],
  }));
}

function leadRow(link: Link, from: End, to: End): CoreRow {
  const cable = segmentCable(link, from.port, to.port);
  return {
    ...rowOf(link, cable, from, to),
    id: `${coreId(from, to)}:lead`,
    role: "network-lead",
    colour: cable.cores.map(({ colour }) => colour).join(", "),
    pair: `pins 1 to 8, ${link.colours ?? "T568B"} at both ends`,
    notes: ["a straight patch lead will do; keep 200 mm from inverter cables or cross them square"],
  };
}

function terminalOf(port: KitPort, role: SignalRole): Terminal | undefined {
  return port.terminals.find((terminal) => terminal.role === role);
}

function coreEnd({ device, port }: End, terminal: Terminal, isShared: boolean, mm2: number): CoreEnd {
  const ferrule =
    port.connector === "terminal" ? `${isShared ? "twin " : ""}${isShared ? `2 × ${mm2}` : mm2} mm²` : undefined;
  return { item: device.name, port: port.label, terminal: terminal.label, pin: terminal.pin, ferrule };
}

/** Letters that mean opposite things are the usual reason for a bus that is silent. */
function letterNotes(role: SignalRole, a: Terminal, b: Terminal, opposite: Terminal | undefined): readonly string[] {
  if (opposite && plain(a.label) === plain(opposite.label))
    return [`the letters mean the opposite here: ${a.label} goes to ${b.label}`];
  const isPolar = role === "non-inverting" || role === "inverting";
  return isPolar && plain(a.label) !== plain(b.label) ? [`${a.label} goes to ${b.label}`] : [];
}

function oppositeAt(port: KitPort, role: SignalRole): Terminal | undefined {
  const other = OPPOSITES[role];
  return other && terminalOf(port, other);
}

function plain(label: string): string {
  return label.replace(/[^a-z0-9]/gi, "").toUpperCase();
}

function pinNotes(from: End, to: End, a: Terminal, b: Terminal): readonly string[] {
  if (from.port.connector !== "rj45" || to.port.connector !== "rj45" || a.pin === undefined || b.pin === undefined)
    return [];
  return a.pin === b.pin ? [] : [`pin ${a.pin} to pin ${b.pin}: a straight patch lead would be wrong`];
}

function sharedNotes({ device, port }: End, isShared: boolean): readonly string[] {
  if (!isShared || port.connector !== "terminal") return [];
  return (port.conductors?.wiresMax ?? 1) < 2
    ? [`${device.name} ${port.label} takes one wire: join both in one twin ferrule, or use a splice`]
    : [];
}
