import { NEED_WORDS, type DueRegistration } from "@/core/handover/registration/registrationsDue";

/** Somebody to whom registrations go: one maker each, the operator, the owner's own account. */
export interface Receiver {
  readonly id: string;
  readonly name: string;
  readonly due: readonly DueRegistration[];
}

/** What a table of registrations has in its columns. */
export const REGISTRATION_COLUMNS = [
  "device",
  "kit",
  "what",
  "by",
  "serial number",
  "installed on",
  "due on",
  "missing",
  "sent on",
  "confirmed on",
  "reference",
] as const;

/**
 * The registrations of a site by whom they go to: two makers are two.
 *
 * For example: an inverter and a battery of two kits: "Maker of Hybrid inverter 5 kW" and "Maker of Battery stack".
 */
export function receiversOf(due: readonly DueRegistration[]): readonly Receiver[] {
  const ids = new Set(due.map(receiverId));
  return [...ids].map((id) => {
    const own = due.filter((one) => receiverId(one) === id);
    return { id, name: receiverName(own[0]!), due: own };
  });
}

/**
 * A row for each registration, to be sent to its receiver.
 *
 * For example: the serial number stands under "serial number".
 */
export function registrationRows(
  due: readonly DueRegistration[],
  installedOn: string | undefined,
): readonly Readonly<Record<(typeof REGISTRATION_COLUMNS)[number], string>>[] {
  return due.map(({ device, kit, serial, state, dueOn, missing }) => ({
    device: device.name,
    kit: device.kit.name,
    what: kit.what,
    by: kit.by,
    "serial number": serial ?? "",
    "installed on": installedOn ?? "",
    "due on": dueOn ?? "",
    missing: missing.map((need) => NEED_WORDS[need]).join("; "),
    "sent on": state.sentOn ?? "",
    "confirmed on": state.confirmedOn ?? "",
    reference: state.reference,
  }));
}

function receiverId({ kit, device }: DueRegistration): string {
  return kit.receiver === "maker" ? device.kit.id : kit.receiver;
}

function receiverName({ kit, device }: DueRegistration): string {
  const names = {
    maker: `Maker of ${device.kit.name}`,
    operator: "Grid operator",
    "owner-account": "The owner's own account",
  };
  return names[kit.receiver];
}
