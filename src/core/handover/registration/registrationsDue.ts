import type { RegistrationRecord, RegistrationState } from "@/core/plan/registrationRecord";
import { serialDoubt, type SerialDoubt } from "@/core/kits/serialDoubt";
import type { KitRegistration, NEED_IDS } from "@/core/kits/registrationKitSchema";
import { standingProof } from "@/core/control/stepTest";
import { isBeforeCopy } from "@/core/job/copyMark";
import { dayAfter } from "@/core/job/deadline";
import type { JobDocument } from "@/core/job/jobDocument";
import { resolve } from "@/core/plan/resolve";
import type { KitDevice, ResolvedPlan } from "@/core/plan/resolvedPlan";
import type { VisitEntry } from "@/core/visit/visitEntry";

type Need = (typeof NEED_IDS)[number];

/** What each need is, in words. */
export const NEED_WORDS: Readonly<Record<Need, string>> = {
  serial: "serial number",
  "installed-on": "day of the installation",
  photo: "photograph",
  consent: "the owner's consent",
  "owner-contact": "the owner's contact",
  "limit-proof": "proof of the export limit",
};

/** What a registration is told from. */
export interface RegistrationGround {
  readonly plan: ResolvedPlan;
  readonly record: RegistrationRecord;
  readonly entries: readonly VisitEntry[];
  /** Whether a step test on site held the limit, or there is none. */
  readonly isLimitProved: boolean;
}

/** One registration of one device, and how it stands. */
export interface DueRegistration {
  readonly id: string;
  readonly device: KitDevice;
  readonly kit: KitRegistration;
  readonly serial: string | undefined;
  readonly state: RegistrationState;
  readonly status: "open" | "sent" | "confirmed";
  readonly dueOn: string | undefined;
  /** What it still needs. */
  readonly missing: readonly Need[];
  /** What is wrong with what it has. */
  readonly problem: string | undefined;
}

/**
 * What must be registered of a site, device by device: the serial number and photograph from the log, the rest from
 * what was ticked; due so many days after the installation.
 *
 * For example: an inverter that was installed on 2026-11-02 and asks for 30 days: due on 2026-12-02.
 */
export function registrationsDue(ground: RegistrationGround): readonly DueRegistration[] {
  return ground.plan.joinable
    .filter(({ isNew }) => isNew)
    .flatMap((device) => device.kit.registrations.map((kit) => dueRegistration(device, kit, ground)));
}

/**
 * The same of a job with its log.
 *
 * For example: of a job without a limit, the proof of the limit is missing nowhere.
 */
export function registrationsOf(document: JobDocument, entries: readonly VisitEntry[]): readonly DueRegistration[] {
  const { limit } = document;
  const proofs = limit.proofs.filter(({ at }) => !isBeforeCopy(document, at));
  return registrationsDue({
    plan: resolve(document),
    record: document.registration,
    entries,
    isLimitProved: limit.powerW === undefined || standingProof({ ...limit, proofs })?.verdict === "holds",
  });
}

/**
 * The serial number of a device as it was recorded last.
 *
 * For example: undefined before anybody recorded it.
 */
export function serialOf(entries: readonly VisitEntry[], device: string): string | undefined {
  const read = entries.findLast((entry) => entry.kind === "result" && entry.step === serialStep(device));
  return read?.kind === "result" ? read.serial : undefined;
}

function dueRegistration(device: KitDevice, kit: KitRegistration, ground: RegistrationGround): DueRegistration {
  const { record, entries } = ground;
  const id = `${device.id} ${kit.id}`;
  const state = record.items.find((own) => own.id === id) ?? { id, has: [], reference: "" };
  const serial = serialOf(entries, device.id);
  const doubt = serial === undefined ? undefined : serialDoubt(device.kit.serialPattern, serial);
  return {
    id,
    device,
    kit,
    serial,
    state,
    status: state.confirmedOn ? "confirmed" : state.sentOn ? "sent" : "open",
    dueOn:
      record.installedOn !== undefined && kit.withinDays !== undefined
        ? dayAfter(record.installedOn, kit.withinDays)
        : undefined,
    missing: kit.needs.filter((need) => !isThere(need, { state, serial, device, ...ground })),
    problem: doubt && doubtText(serial!, device, doubt),
  };
}

function doubtText(serial: string, { kit }: KitDevice, { words, instead }: SerialDoubt): string {
  const maybe = instead === undefined ? "" : `; it may be ${instead}`;
  return `The serial number ${serial} does not look like one of a ${kit.name}, which is ${words}${maybe}`;
}

function isThere(need: Need, of: RegistrationGround & Pick<DueRegistration, "state" | "serial" | "device">): boolean {
  switch (need) {
    case "serial":
      return of.serial !== undefined;
    case "installed-on":
      return of.record.installedOn !== undefined;
    case "photo":
      return of.entries.some((entry) => entry.kind === "photo" && entry.step === serialStep(of.device.id));
    case "consent":
    case "owner-contact":
      return of.state.has.includes(need);
    case "limit-proof":
      return of.isLimitProved;
  }
}

function serialStep(device: string): string {
  return `serial:${device}`;
}
