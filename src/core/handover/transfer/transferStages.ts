import type { TransferRecord } from "@/core/plan/transferRecord";
import { dayAfter } from "@/core/job/deadline";
import type { JobDocument } from "@/core/job/jobDocument";
import { readBack } from "@/core/live/readBack";
import { resolve } from "@/core/plan/resolve";
import { counted, joined } from "@/core/words";

/** One stage on the way to the owner. */
export interface TransferStage {
  readonly id: "site" | "devices" | "settings" | "invited" | "accepted" | "access";
  readonly name: string;
  readonly isDone: boolean;
  /** What it says: when it was done, or what it needs. */
  readonly says: string;
  /** What is wrong, and what is done about it. */
  readonly problem: string | undefined;
}

/**
 * The stages of a transfer in order: site made, devices in it, settings read back and right, owner invited, owner
 * accepted, the installer's access ended. What was read back from the devices is compared, not asked.
 *
 * For example: invited on the 1st for 14 days and not accepted on the 20th: "The invitation lapsed on the 15th".
 *
 * @param today As a date, 2026-11-20.
 */
export function transferStages(document: JobDocument, today: string): readonly TransferStage[] {
  const { transfer } = document;
  return [
    dated("site", "Site made", transfer.siteMadeOn, "Make the site in the service, with the supply's country and zone"),
    dated("devices", "Devices in it", transfer.devicesInOn, devicesNeed(document)),
    settingsStage(document),
    {
      ...dated("invited", "Owner invited", transfer.invitedOn, invitedNeed(transfer)),
      problem: accountProblem(transfer),
    },
    { ...dated("accepted", "Owner accepted", transfer.acceptedOn, ACCEPT), problem: lapseProblem(transfer, today) },
    accessStage(transfer, today),
  ];
}

/**
 * When an invitation that was not accepted lapses; undefined where none is out.
 *
 * For example: invited on 2026-11-01 for 14 days: 2026-11-15.
 */
export function invitationEnds({ invitedOn, acceptedOn, invitationDays }: TransferRecord): string | undefined {
  return invitedOn === undefined || acceptedOn !== undefined ? undefined : dayAfter(invitedOn, invitationDays);
}

const ACCEPT = "The owner opens the invitation on their own phone, with you beside them";
const MOST_NAMED = 3;

function dated(id: TransferStage["id"], name: string, on: string | undefined, need: string): TransferStage {
  return { id, name, isDone: on !== undefined, says: on ?? need, problem: undefined };
}

function devicesNeed({ site, links }: JobDocument): string {
  const joinedIn = new Set(links.flatMap(({ members }) => members.map(({ item }) => item)));
  const names = site.nodes.filter(({ id }) => joinedIn.has(id)).map(({ name }) => name);
  const some = names.slice(0, MOST_NAMED);
  const more = names.length - some.length;
  if (some.length === 0) return "Put every device into the site";
  return `Put in ${joined(more > 0 ? [...some, `${more} more`] : some)}, by serial number`;
}

/** What the devices say of themselves, beside what was planned and typed. */
function settingsStage(document: JobDocument): TransferStage {
  const base = { id: "settings", name: "Settings read back and right" } as const;
  const read = document.readBacks.flatMap(({ id, values }) => readBack(document, id, values, undefined));
  const wrong = read.filter(({ isDifferent }) => isDifferent);
  const devices = resolve(document).joinable.filter(({ kit, isNew }) => isNew && kit.registers.length > 0);
  const open = devices.filter(({ id }) => !document.readBacks.some((own) => own.id === id));
  return {
    ...base,
    isDone: read.length > 0 && wrong.length === 0 && open.length === 0,
    says:
      open.length > 0
        ? `Read back under Wire, Connect: ${joined(open.slice(0, MOST_NAMED).map(({ name }) => name))}`
        : read.length === 0
          ? "No kit of this plan says how it is read back: compare by eye on each display"
          : `${counted(read.length, "setting", "settings")} read back`,
    problem:
      wrong.length > 0
        ? `${counted(wrong.length, "setting differs", "settings differ")} from what was planned or typed: ${joined(
            wrong.slice(0, MOST_NAMED).map(({ what, planned, read: own }) => `${what} ${own}, planned ${planned}`),
          )}`
        : undefined,
  };
}

function invitedNeed({ ownerContact }: TransferRecord): string {
  return ownerContact === "" ? "Needs the owner's own contact, never yours" : `Invite ${ownerContact}`;
}

/** Accounts of two countries or regions do not see each other's sites. */
function accountProblem(transfer: TransferRecord): string | undefined {
  const differs = (a: string, b: string) => a !== "" && b !== "" && a.toLowerCase() !== b.toLowerCase();
  const { countryHere, countryOwner, dataRegion, dataRegionOwner } = transfer;
  if (differs(countryHere, countryOwner))
    return `The accounts are of two countries, ${countryHere} and ${countryOwner}: the owner makes theirs anew`;
  if (differs(dataRegion, dataRegionOwner))
    return `The data are in two regions, ${dataRegion} and ${dataRegionOwner}: the site is made anew in the owner's`;
  return undefined;
}

function lapseProblem(transfer: TransferRecord, today: string): string | undefined {
  const ends = invitationEnds(transfer);
  return ends !== undefined && ends < today
    ? `The invitation lapsed on ${ends}: take it back, then invite again; nothing else is lost`
    : undefined;
}

function accessStage({ accessUntil, accessEndedOn }: TransferRecord, today: string): TransferStage {
  const base = { id: "access", name: "Your own access ended" } as const;
  if (accessEndedOn) return { ...base, isDone: true, says: accessEndedOn, problem: undefined };
  if (accessUntil === undefined)
    return { ...base, isDone: false, says: "Agree with the owner until when you may look in", problem: undefined };
  return {
    ...base,
    isDone: false,
    says: `Until ${accessUntil}; the owner gives it again by an invitation of theirs`,
    problem: accessUntil < today ? `It should have ended on ${accessUntil}: end it, and say so here` : undefined,
  };
}
