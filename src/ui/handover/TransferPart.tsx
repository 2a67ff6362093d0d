"use client";

import { CircleAlert, CircleCheck, CircleDashed } from "lucide-react";
import { transferStages, type TransferStage } from "@/core/handover/transfer/transferStages";
import { transferSchema, type TransferRecord } from "@/core/plan/transferRecord";
import { OwnerLinkPart } from "@/ui/handover/OwnerLinkPart";
import { useToday } from "@/ui/handover/useToday";
import { DateField } from "@/ui/parts/form/DateField";
import { NumberField } from "@/ui/parts/form/NumberField";
import { TextField } from "@/ui/parts/form/TextField";
import { useSayDays } from "@/ui/parts/browser/useWhen";
import { useEditor, useJob } from "@/ui/workspace/workspaceContext";
import { HANDOVER_WORDS } from "@/ui/words/handoverWords";

const MOST_DAYS = 90;
const { ownerContact, countryHere, countryOwner, dataRegion, dataRegionOwner } = transferSchema.shape;
const ACCOUNTS = [
  { field: "countryHere", label: HANDOVER_WORDS.countryOfYourAccount, schema: countryHere.unwrap() },
  { field: "countryOwner", label: HANDOVER_WORDS.countryOfTheOwnersAccount, schema: countryOwner.unwrap() },
  { field: "dataRegion", label: HANDOVER_WORDS.regionOfTheData, schema: dataRegion.unwrap() },
  { field: "dataRegionOwner", label: HANDOVER_WORDS.regionOfTheOwnersAccount, schema: dataRegionOwner.unwrap() },
] as const;
const DATES = [
  { field: "siteMadeOn", label: HANDOVER_WORDS.siteMadeOn },
  { field: "devicesInOn", label: HANDOVER_WORDS.devicesInItOn },
  { field: "invitedOn", label: HANDOVER_WORDS.ownerInvitedOn },
  { field: "acceptedOn", label: HANDOVER_WORDS.ownerAcceptedOn },
  { field: "accessUntil", label: HANDOVER_WORDS.yourAccessUntil },
  { field: "accessEndedOn", label: HANDOVER_WORDS.yourAccessEndedOn },
] as const;

/** How the site goes over to its owner, stage by stage, and the page that they get. */
export function TransferPart() {
  return (
    <div className="mx-auto grid max-w-6xl items-start gap-4 lg:grid-cols-2">
      <Stages />
      <div className="space-y-4">
        <TransferForm />
        <OwnerLinkPart />
      </div>
    </div>
  );
}

function Stages() {
  const { document } = useJob();
  const stages = transferStages(document, useToday());
  const next = stages.find(({ isDone }) => !isDone);
  return (
    <section aria-label={HANDOVER_WORDS.stagesOfTheTransfer} className="panel p-3">
      <h3 className="mb-1 text-lg font-bold">
        {next ? HANDOVER_WORDS.next(next.name.toLowerCase()) : HANDOVER_WORDS.theSiteIsTheOwners}
      </h3>
      <ol className="space-y-2">
        {stages.map((stage) => (
          <StageLine key={stage.id} stage={stage} isNext={stage === next} />
        ))}
      </ol>
    </section>
  );
}

function StageLine({ stage: { name, isDone, says, problem }, isNext }: { stage: TransferStage; isNext: boolean }) {
  const say = useSayDays();
  const [Icon, colour, word] = problem
    ? [CircleAlert, "text-error", HANDOVER_WORDS.wrong]
    : isDone
      ? [CircleCheck, "text-success", HANDOVER_WORDS.doneLower]
      : [CircleDashed, "text-info", isNext ? HANDOVER_WORDS.nextLower : HANDOVER_WORDS.later];
  return (
    <li className={`flex items-start gap-2 rounded p-2 ${isNext ? "border-2 border-primary" : ""}`}>
      <Icon size={18} className={`mt-0.5 shrink-0 ${colour}`} aria-hidden />
      <div className="min-w-0">
        <p className="font-semibold">
          {name} <span className={`text-sm ${colour}`}>{word}</span>
        </p>
        <p className="quiet text-sm">{say(says)}</p>
        {problem && <p className="text-sm font-semibold text-error">{say(problem)}</p>}
      </div>
    </li>
  );
}

function TransferForm() {
  const { document } = useJob();
  const editor = useEditor();
  const { transfer } = document;
  const set = (change: Partial<TransferRecord>) =>
    editor.edit((before) => ({ ...before, transfer: { ...before.transfer, ...change } }));
  return (
    <section aria-label={HANDOVER_WORDS.whatIsKnownOfTheTransfer} className="panel space-y-3 p-3">
      <h3 className="text-lg font-bold">{HANDOVER_WORDS.whatIsKnownOfIt}</h3>
      <TextField
        label={HANDOVER_WORDS.whereTheOwnerIsInvited}
        value={transfer.ownerContact}
        schema={ownerContact.unwrap()}
        onValue={(contact) => set({ ownerContact: contact })}
      />
      <div className="grid gap-2 sm:grid-cols-2">
        {ACCOUNTS.map(({ field, label, schema }) => (
          <TextField
            key={field}
            label={label}
            value={transfer[field]}
            schema={schema}
            onValue={(value) => set({ [field]: value })}
          />
        ))}
        {DATES.map(({ field, label }) => (
          <DateField key={field} label={label} value={transfer[field]} onValue={(value) => set({ [field]: value })} />
        ))}
        <NumberField
          label={HANDOVER_WORDS.theInvitationLapsesAfter}
          unit="days"
          whole
          least={1}
          most={MOST_DAYS}
          value={transfer.invitationDays}
          onValue={(days) => days !== undefined && set({ invitationDays: days })}
        />
      </div>
    </section>
  );
}
