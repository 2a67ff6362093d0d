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
import { useWhen } from "@/ui/parts/browser/useNumberStyle";
import { useEditor, useJob, useVisitWork } from "@/ui/workspace/workspaceContext";
import { FromServer } from "@/ui/parts/show/FromServer";

const referenceSchema = registrationSchema.shape.items.unwrap().element.shape.reference.unwrap();
const STATUS = {
  open: { words: "open", colour: "text-warning" },
  sent: { words: "sent, not confirmed yet", colour: "text-info" },
  confirmed: { words: "confirmed", colour: "text-success" },
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
      <section aria-label="Installation" className="panel flex flex-wrap items-end gap-3 p-3">
        <div className="w-48">
          <DateField
            label="Installed on"
            value={document.registration.installedOn}
            onValue={(installedOn) =>
              editor.edit((before) => ({ ...before, registration: { ...before.registration, installedOn } }))
            }
          />
        </div>
        <p className="quiet min-w-0 flex-1 basis-56 text-sm">
          From this day the days of every registration count. Serial numbers and photographs come from the steps of the
          visit.
        </p>
        {(["a4", "letter"] as const).map((paper) => (
          <FromServer
            key={paper}
            className="btn press"
            href={`/api/v1/jobs/${id}/notice.pdf?paper=${paper}`}
            target="_blank"
            rel="noreferrer"
          >
            <FileText size={18} aria-hidden />
            Operator’s notice, {paper === "a4" ? "A4" : "Letter"}
          </FromServer>
        ))}
      </section>
      {due.length === 0 && <p>No kit of this plan says that it must be registered; look into the manuals.</p>}
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
          As a table
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
      <p className="text-base font-semibold">
        {kit.what}: {device.name}, by the {kit.by}
      </p>
      <p>
        <span className={`font-semibold ${STATUS[status].colour}`}>{capital(STATUS[status].words)}</span>
        {dueOn !== undefined && <>, until {when(dueOn, "day")}</>}
        {kit.lost !== undefined && status === "open" && <>; lost when it is late: {kit.lost}</>}
      </p>
      {serial !== undefined && (
        <p>
          Serial number <span className="reading">{serial}</span>
        </p>
      )}
      {problem && <p className="font-semibold text-error">{problem}</p>}
      {twice.map(({ job, device: other }) => (
        <p key={`${job} ${other}`} className="font-semibold text-error">
          The same serial number stands in “{job}” too
        </p>
      ))}
      {missing.length > 0 && status !== "confirmed" && (
        <p>Still needs {joined(missing.map((need) => NEED_WORDS[need]))}.</p>
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
          {capital(NEED_WORDS[need])} is there
        </CheckField>
      ))}
      <DateField label="Sent on" value={state.sentOn} onValue={(sentOn) => set((before) => ({ ...before, sentOn }))} />
      <DateField
        label="Confirmed on"
        value={state.confirmedOn}
        onValue={(confirmedOn) => set((before) => ({ ...before, confirmedOn }))}
      />
      <TextField
        label="Reference"
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
