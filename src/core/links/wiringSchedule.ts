import type { Kit } from "@/core/kits/kitSchema";
import { linkItems, memberPort, outgoingPort, type KitPort, type LinkItem } from "@/core/links/linkItems";
import type { Link } from "@/core/links/linkSchema";
import type { Site } from "@/core/site/planSchema";

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

/** One core of a cable, from terminal to terminal. */
export interface CoreRow {
  readonly id: string;
  readonly link: string;
  readonly role: SignalRole;
  readonly pair: string;
  readonly from: CoreEnd;
  readonly to: CoreEnd | undefined;
  readonly notes: readonly string[];
}

/** Which signals a link carries, in the order in which they are terminated, and the pair that each is in. */
const SIGNALS: Readonly<Record<Link["kind"], readonly (readonly [SignalRole, string])[]>> = {
  rs485: [["non-inverting", "pair 1"], ["inverting", "pair 1"], ["signal-ground", "pair 2"]],
  can: [["can-high", "pair 1"], ["can-low", "pair 1"], ["signal-ground", "pair 2"]],
};
const OPPOSITES: Readonly<Partial<Record<SignalRole, SignalRole>>> = {
  "non-inverting": "inverting", "inverting": "non-inverting", "can-high": "can-low", "can-low": "can-high",
};
const DATA_MM2 = 0.25;

export const ROLE_WORDS: Readonly<Partial<Record<SignalRole, string>>> = {
  "non-inverting": "non-inverting (+)", "inverting": "inverting (−)", "signal-ground": "signal ground", "can-high": "CAN high", "can-low": "CAN low", "shield": "shield",
};

/**
 * Every core of the links, one row each, by signal role and not by letter: equal roles are joined, so that two kits with
 * opposite letters come out right, and the row says that their letters differ. The shield is bonded at one end.
 *
 * @example A kit whose A inverts, joined to one whose A does not: A to B and B to A, each with a note.
 */
export function wiringSchedule(site: Site, kits: readonly Kit[], links: readonly Link[]): readonly CoreRow[] {
  const items = linkItems(site, kits);
  return links.flatMap((link) => link.members.slice(1).flatMap((member, at) => {
    const from = memberPort(items, link.members[at]!);
    const to = memberPort(items, member);
    return from && to ? segmentRows(link, at, from, to) : [];
  }));
}

interface End {
  readonly item: LinkItem;
  readonly port: KitPort;
}

function segmentRows(link: Link, at: number, from: End, to: End): readonly CoreRow[] {
  const last = link.members.length - 2;
  // An inner member holds two wires in a terminal: the one that comes and the one that goes.
  const onward = at > 0 ? outgoingPort(from) : from.port;
  const start: End = { item: from.item, port: onward ?? from.port };
  const isShared = { from: at > 0 && start.port.id === from.port.id, to: at < last && outgoingPort(to)?.id === to.port.id };
  const cores = SIGNALS[link.kind].flatMap(([role, pair]): readonly CoreRow[] => {
    const [a, b] = [terminalOf(start.port, role), terminalOf(to.port, role)];
    if (!a || !b) return [];
    return [{
      id: `${coreId(start, to)}:${role}`, link: link.id, role, pair, from: coreEnd(start, a, isShared.from), to: coreEnd(to, b, isShared.to),
      notes: [...letterNotes(role, a, b, oppositeAt(to.port, role)), ...pinNotes(start, to, a, b), ...sharedNotes(start, isShared.from), ...sharedNotes(to, isShared.to),
        ...(onward ? [] : [`${from.item.name} has one socket: take a splitter for the lead that goes on`])],
    }];
  });
  return [...cores, ...shieldRow(link, start, to)];
}

/** A core is what it joins: its tick stays while the two ends do, whatever happens to the rest of the line. */
function coreId(from: End, to: End): string {
  return `${from.item.id}.${from.port.id}>${to.item.id}.${to.port.id}`;
}

function terminalOf(port: KitPort, role: SignalRole): Terminal | undefined {
  return port.terminals.find((terminal) => terminal.role === role);
}

function coreEnd({ item, port }: End, terminal: Terminal, isShared: boolean): CoreEnd {
  const ferrule = port.connector === "terminal" ? `${isShared ? "twin " : ""}${isShared ? `2 × ${DATA_MM2}` : DATA_MM2} mm²` : undefined;
  return { item: item.name, port: port.label, terminal: terminal.label, pin: terminal.pin, ferrule };
}

/** Letters that mean opposite things are the usual reason for a bus that is silent. */
function letterNotes(role: SignalRole, a: Terminal, b: Terminal, opposite: Terminal | undefined): readonly string[] {
  if (opposite && plain(a.label) === plain(opposite.label)) return [`the letters mean the opposite here: ${a.label} goes to ${b.label}`];
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
  if (from.port.connector !== "rj45" || to.port.connector !== "rj45" || a.pin === undefined || b.pin === undefined) return [];
  return a.pin === b.pin ? [] : [`pin ${a.pin} to pin ${b.pin}: a straight patch lead would be wrong`];
}

function sharedNotes({ item, port }: End, isShared: boolean): readonly string[] {
  if (!isShared || port.connector !== "terminal") return [];
  return (port.conductors?.wiresMax ?? 1) < 2 ? [`${item.name} ${port.label} takes one wire: join both in one twin ferrule, or use a splice`] : [];
}

/** The shield on the terminal that a kit has for it, at that end only. */
function shieldRow(link: Link, from: End, to: End): readonly CoreRow[] {
  if (link.kind !== "rs485") return [];
  const ends = [from, to];
  const bonded = ends.find(({ port }) => port.shieldHere && terminalOf(port, "shield")) ?? ends.find(({ port }) => terminalOf(port, "shield"));
  const here = bonded ?? from;
  const other = here === from ? to : from;
  const terminal = bonded && terminalOf(bonded.port, "shield");
  const end: CoreEnd = terminal ? coreEnd(here, terminal, false) : { item: here.item.name, port: here.port.label, terminal: "earth", pin: undefined, ferrule: undefined };
  return [{
    id: `${coreId(from, to)}:shield`, link: link.id, role: "shield", pair: "shield", from: end, to: undefined,
    notes: [`bonded here only; cut back and insulated at ${other.item.name}`],
  }];
}
