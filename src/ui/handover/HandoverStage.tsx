"use client";

import {
  ArrowRight,
  CalendarClock,
  CircleAlert,
  CircleCheck,
  ClipboardPen,
  FileText,
  Handshake,
  type LucideIcon,
} from "lucide-react";
import { useMemo } from "react";
import { handoverItems, type HandoverItem } from "@/core/handover/handoverItems";
import { copyWords } from "@/core/job/copyMark";
import { STAGES } from "@/core/stages";
import { capital } from "@/core/words";
import { HandoverVersions } from "@/ui/handover/HandoverVersions";
import { ReportPart } from "@/ui/handover/ReportPart";
import { RegistrationPart } from "@/ui/handover/RegistrationPart";
import { TransferPart } from "@/ui/handover/TransferPart";
import { useToday } from "@/ui/handover/useToday";
import { DeadlinesPart } from "@/ui/handover/DeadlinesPart";
import { LogCheck } from "@/ui/handover/LogCheck";
import { ServicePart } from "@/ui/handover/ServicePart";
import { useHandovers } from "@/ui/handover/useHandovers";
import { PartTabs, type PartList } from "@/ui/parts/show/PartTabs";
import { usePart } from "@/ui/parts/show/usePart";
import { useSayDays } from "@/ui/parts/browser/useWhen";
import { StageLink } from "@/ui/workspace/frame/stageMoves";
import { useFindings, useJob, useVerdict, useVisitWork } from "@/ui/workspace/workspaceContext";
import { HANDOVER_WORDS } from "@/ui/words/handoverWords";

const LOOKS: Readonly<
  Record<HandoverItem["state"], { title: string; Icon: LucideIcon; colour: string; word: string }>
> = {
  missing: {
    title: HANDOVER_WORDS.missingTheWorstFirst,
    Icon: CircleAlert,
    colour: "text-warning",
    word: HANDOVER_WORDS.missing,
  },
  accepted: {
    title: HANDOVER_WORDS.acceptedWithItsReason,
    Icon: Handshake,
    colour: "text-info",
    word: HANDOVER_WORDS.accepted,
  },
  proved: { title: HANDOVER_WORDS.proved, Icon: CircleCheck, colour: "text-success", word: HANDOVER_WORDS.provedLower },
};

type Part = "proof" | "report" | "register" | "transfer" | "deadlines";

const PARTS: PartList<Part> = [
  { id: "proof", name: HANDOVER_WORDS.proof, Icon: CircleCheck },
  { id: "report", name: HANDOVER_WORDS.report, Icon: FileText },
  { id: "register", name: HANDOVER_WORDS.registration, Icon: ClipboardPen },
  { id: "transfer", name: HANDOVER_WORDS.transfer, Icon: Handshake },
  { id: "deadlines", name: HANDOVER_WORDS.deadlines, Icon: CalendarClock },
];

/** Hand over: what a finished site has and lacks, the papers, what is registered, and how it becomes the owner's. */
export function HandoverStage() {
  const [part, setPart] = usePart(PARTS);
  return (
    <div className="flex h-full flex-col max-md:h-auto">
      <h2 className="sr-only">{HANDOVER_WORDS.handOver}</h2>
      <PartTabs
        prefix="handover"
        label={HANDOVER_WORDS.partsOfTheHandOver}
        parts={PARTS}
        shown={part}
        onShow={setPart}
        className="flex min-h-0 flex-1 flex-col"
        panelClassName="p-4 max-md:p-2"
      >
        {part === "proof" && <ProofPart />}
        {part === "report" && <ReportPart />}
        {part === "register" && <RegistrationPart />}
        {part === "transfer" && <TransferPart />}
        {part === "deadlines" && <DeadlinesPart />}
      </PartTabs>
    </div>
  );
}

/** What is proved, what is missing, and the hand overs. Done is earned. */
function ProofPart() {
  const { document } = useJob();
  const { sheet, state: visit, log } = useVisitWork();
  const { diagnosis } = useVerdict();
  const findings = useFindings();
  const today = useToday();
  const { entries } = log;
  const items = useMemo(
    () => handoverItems({ document, sheet, visit, diagnosis, findings, entries, today }),
    [document, sheet, visit, diagnosis, findings, entries, today],
  );
  const desk = useHandovers();
  const say = useSayDays();
  const copy = copyWords(document);
  const missing = items.filter(({ state }) => state === "missing").length;
  return (
    <div className="mx-auto max-w-6xl space-y-4">
      <p role="status" className={`text-2xl font-bold ${missing === 0 ? "text-success" : ""}`}>
        {missing === 0
          ? HANDOVER_WORDS.doneEverythingIsProvedOrAccepted
          : missing === 1
            ? HANDOVER_WORDS.oneThingIsMissing
            : HANDOVER_WORDS.thingsAreMissing(missing)}
      </p>
      {copy && <p className="caution">{say(copy)}</p>}
      <div className="grid items-start gap-4 lg:grid-cols-2">
        <Items state="missing" items={items} />
        <div className="space-y-4">
          <HandoverVersions desk={desk} />
          <Items state="accepted" items={items} />
          <Items state="proved" items={items} />
          <LogCheck />
          <ServicePart isKept={(desk.handovers?.versions.length ?? 0) > 0} />
        </div>
      </div>
    </div>
  );
}

function Items({ state, items }: { state: HandoverItem["state"]; items: readonly HandoverItem[] }) {
  const { title } = LOOKS[state];
  const own = items.filter((item) => item.state === state);
  if (own.length === 0) return null;
  return (
    <section aria-label={title} className="min-w-0">
      <h3 className="mb-1 text-lg font-bold">
        {title} ({own.length})
      </h3>
      <ul className="space-y-2">
        {own.map((item) => (
          <li key={item.id}>
            <ItemLine item={item} />
          </li>
        ))}
      </ul>
    </section>
  );
}

function ItemLine({ item: { state, what, why, stage, step, part } }: { item: HandoverItem }) {
  const { id } = useJob();
  const say = useSayDays();
  const { Icon, colour, word } = LOOKS[state];
  const name = STAGES.find((own) => own.id === stage)?.name ?? stage;
  const query = step === undefined ? (part === undefined ? "" : `?part=${part}`) : `?step=${encodeURIComponent(step)}`;
  const place = PARTS.find((own) => own.id === part)?.name ?? name;
  return (
    <div className="panel flex flex-wrap items-start gap-2 p-2">
      <Icon size={18} className={`mt-1 shrink-0 ${colour}`} aria-hidden />
      <div className="min-w-0 flex-1 basis-56">
        <p className="font-semibold">
          <span className="sr-only">{word}: </span>
          {say(what)}
        </p>
        <p className="quiet text-sm">{capital(say(why))}</p>
      </div>
      {state !== "proved" && (
        <StageLink className="btn press" href={`/jobs/${id}/${stage}${query}`}>
          {place}
          <ArrowRight size={16} aria-hidden />
        </StageLink>
      )}
    </div>
  );
}
