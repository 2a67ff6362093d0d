"use client";

import { Download, FileText } from "lucide-react";
import { useMemo } from "react";
import { receiversOf, type Receiver } from "@/core/handover/registration/registrationTable";
import { NEED_WORDS, registrationsOf, type DueRegistration } from "@/core/handover/registration/registrationsDue";
import type { SerialTwice } from "@/core/handover/registration/serialTwice";
import { registrationSchema, type RegistrationState } from "@/core/plan/registrationRecord";
import { capital, joined } from "@/core/words";
import { useSerialsTwice } from "@/ui/handover/useSerialsTwice";
import { CheckField } from "@/ui/parts/form/CheckField";
import { DateField } from "@/ui/parts/form/DateField";
import { TextField } from "@/ui/parts/form/TextField";
import { useWhen } from "@/ui/parts/browser/useWhen";
import { useEditor, useJob, useVisitWork } from "@/ui/workspace/workspaceContext";
import { FromServer } from "@/ui/parts/show/FromServer";
import { HANDOVER_WORDS } from "@/ui/words/handoverWords";

const referenceSchema = registrationSchema.shape.items.unwrap().element.shape.reference.unwrap();
const STATUS = {
  open: { words: HANDOVER_WORDS.open, colour: "text-warning" },
  sent: { words: HANDOVER_WORDS.sentNotConfirmedYet, colour: "text-info" },
  confirmed: { words: HANDOVER_WORDS.confirmed, colour: "text-success" },
} as const;

/** What must be registered, by whom it goes to: what each still needs, until when, and how it stands. */
export function RegistrationPart() {
  const { id, document } = useJob();
  const { log } = useVisitWork();
  const editor = useEditor();
  const due = useMemo(() => registrationsOf(document, log.entries), [document, log.entries]);
  const twice = useSerialsTwice(log.entries.length);
  return (
    <div className="mx-auto max-w-6xl space-y-4">
      <section aria-label={HANDOVER_WORDS.installation} className="panel flex flex-wrap items-end gap-3 p-3">
        <div className="w-48">
          <DateField
            label={HANDOVER_WORDS.installedOn}
            value={document.registration.installedOn}
            onValue={(installedOn) =>
              editor.edit((before) => ({ ...before, registration: { ...before.registration, installedOn } }))
            }
          />
        </div>
        <p className="quiet min-w-0 flex-1 basis-56 text-sm">{HANDOVER_WORDS.fromThisDayTheDays}</p>
        {(["a4", "letter"] as const).map((paper) => (
          <FromServer
            key={paper}
            className="btn press"
            href={`/api/v1/jobs/${id}/notice.pdf?paper=${paper}`}
            target="_blank"
            rel="noreferrer"
          >
            <FileText size={18} aria-hidden />
            {HANDOVER_WORDS.operatorsNotice(paper === "a4" ? "A4" : "Letter")}
          </FromServer>
        ))}
      </section>
      {due.length === 0 && <p>{HANDOVER_WORDS.noKitOfThisPlanSaysThatItMust}</p>}
      {receiversOf(due).map((receiver) => (
        <ReceiverPart key={receiver.id} receiver={receiver} twice={twice} />
      ))}
    </div>
  );
}

function ReceiverPart({ receiver, twice }: { receiver: Receiver; twice: readonly SerialTwice[] }) {
  const { id } = useJob();
  return (
    <section aria-label={receiver.name} className="panel space-y-2 p-3">
      <h3 className="flex flex-wrap items-center gap-2 text-lg font-bold">
        <span className="mr-auto">{receiver.name}</span>
        <FromServer
          className="btn press text-sm"
          href={`/api/v1/jobs/${id}/registrations.csv?receiver=${encodeURIComponent(receiver.id)}`}
          download
        >
          <Download size={18} aria-hidden />
          {HANDOVER_WORDS.asATable}
        </FromServer>
      </h3>
      <ul className="space-y-3">
        {receiver.due.map((due) => (
          <RegistrationLine key={due.id} due={due} twice={twice.filter(({ serial }) => serial === due.serial)} />
        ))}
      </ul>
    </section>
  );
}

function RegistrationLine({ due, twice }: { due: DueRegistration; twice: readonly SerialTwice[] }) {
  const when = useWhen();
  const { kit, device, serial, status, dueOn, missing, problem } = due;
  return (
    <li className="space-y-1 border-t border-base-300 pt-2 text-sm">
      <p className="text-base font-semibold">{HANDOVER_WORDS.byThe(kit.what, device.name, kit.by)}</p>
      <p>
        <span className={`font-semibold ${STATUS[status].colour}`}>{capital(STATUS[status].words)}</span>
        {dueOn !== undefined && <>{HANDOVER_WORDS.until(when(dueOn, "day"))}</>}
        {kit.lost !== undefined && status === "open" && <>{HANDOVER_WORDS.lostWhenItIsLate(kit.lost)}</>}
      </p>
      {serial !== undefined && (
        <p>
          {HANDOVER_WORDS.serialNumber} <span className="reading">{serial}</span>
        </p>
      )}
      {problem && <p className="font-semibold text-error">{problem}</p>}
      {twice.map(({ job, device: other }) => (
        <p key={`${job} ${other}`} className="font-semibold text-error">
          {HANDOVER_WORDS.theSameSerialNumberStandsInToo(job)}
        </p>
      ))}
      {missing.length > 0 && status !== "confirmed" && (
        <p>{HANDOVER_WORDS.stillNeeds(joined(missing.map((need) => NEED_WORDS[need])))}</p>
      )}
      <RegistrationFields due={due} />
    </li>
  );
}

/** What somebody gave, when it was sent and confirmed, and under which reference. */
function RegistrationFields({ due: { id, kit, state } }: { due: DueRegistration }) {
  const set = useStateOf(id);
  const asks = kit.needs.filter((need) => need === "consent" || need === "owner-contact");
  return (
    <div className="flex flex-wrap items-end gap-x-4 gap-y-2">
      {asks.map((need) => (
        <CheckField
          key={need}
          checked={state.has.includes(need)}
          onCheck={(isThere) =>
            set((before) => ({
              ...before,
              has: isThere ? [...before.has, need] : before.has.filter((own) => own !== need),
            }))
          }
        >
          {HANDOVER_WORDS.isThere(capital(NEED_WORDS[need]))}
        </CheckField>
      ))}
      <DateField
        label={HANDOVER_WORDS.sentOn}
        value={state.sentOn}
        onValue={(sentOn) => set((before) => ({ ...before, sentOn }))}
      />
      <DateField
        label={HANDOVER_WORDS.confirmedOn}
        value={state.confirmedOn}
        onValue={(confirmedOn) => set((before) => ({ ...before, confirmedOn }))}
      />
      <TextField
        label={HANDOVER_WORDS.reference}
        value={state.reference}
        schema={referenceSchema}
        onValue={(reference) => set((before) => ({ ...before, reference }))}
      />
    </div>
  );
}

/** Changes how one registration stands, made when it is first said. */
function useStateOf(id: string): (change: (before: RegistrationState) => RegistrationState) => void {
  const editor = useEditor();
  return (change) =>
    editor.edit((before) => {
      const { items } = before.registration;
      const known = items.find((own) => own.id === id);
      const next = change(known ?? { id, has: [], reference: "" });
      const changed = known ? items.map((own) => (own === known ? next : own)) : [...items, next];
      return { ...before, registration: { ...before.registration, items: changed } };
    });
}
