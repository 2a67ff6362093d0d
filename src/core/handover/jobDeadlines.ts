import { z } from "zod";
import { registrationsDue } from "@/core/handover/registration/registrationsDue";
import { invitationEnds } from "@/core/handover/transfer/transferStages";
import { deadlineSchema } from "@/core/job/deadline";
import type { JobDocument } from "@/core/job/jobDocument";
import { resolve } from "@/core/plan/resolve";

/** A deadline of a job, and where it is filled. */
export const jobDeadlineSchema = deadlineSchema.extend({
  id: z.string(),
  what: z.string(),
  lost: z.string(),
  from: z.enum(["typed", "registration", "transfer"]).describe("Typed, of a registration, or of the transfer"),
});

/** A deadline of a job, and where it is filled. */
export type JobDeadline = z.output<typeof jobDeadlineSchema>;

const REMIND_DAYS = 7;

/**
 * All deadlines of a job: those that were typed, its registrations, an invitation that lapses, and the day when the
 * installer's own access ends.
 *
 * For example: an inverter to be registered within 30 days of 2026-11-02: on 2026-12-02.
 */
export function jobDeadlines(document: JobDocument): readonly JobDeadline[] {
  const { transfer } = document;
  const ends = invitationEnds(transfer);
  return [
    ...document.deadlines.map((own): JobDeadline => ({ ...own, from: "typed" })),
    ...registrationDeadlines(document),
    ...(ends === undefined
      ? []
      : [own("invitation", "The owner accepts the invitation", ends, "the owner must be invited again")]),
    ...(transfer.accessUntil === undefined
      ? []
      : [
          {
            ...own("access", "The installer's own access ends", transfer.accessUntil, ""),
            ...(transfer.accessEndedOn === undefined ? {} : { doneOn: transfer.accessEndedOn }),
          },
        ]),
  ];
}

function registrationDeadlines(document: JobDocument): readonly JobDeadline[] {
  const ground = { plan: resolve(document), record: document.registration, entries: [], isLimitProved: true };
  return registrationsDue(ground).flatMap(({ id, device, kit, dueOn, state }): JobDeadline[] =>
    dueOn === undefined
      ? []
      : [
          {
            id: `registration ${id}`,
            what: `${kit.what}: ${device.name}`,
            on: dueOn,
            remindDays: REMIND_DAYS,
            lost: kit.lost ?? "",
            // Sent in time is in time: the confirmation is theirs to give.
            ...((state.sentOn ?? state.confirmedOn) ? { doneOn: state.sentOn ?? state.confirmedOn } : {}),
            from: "registration",
          },
        ],
  );
}

function own(id: string, what: string, on: string, lost: string): JobDeadline {
  return { id, what, on, remindDays: REMIND_DAYS, lost, from: "transfer" };
}
