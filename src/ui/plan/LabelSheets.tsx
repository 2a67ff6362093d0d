"use client";

import { Download, Printer } from "lucide-react";
import { FromServer } from "@/ui/parts/show/FromServer";
import { useState } from "react";
import { labels, type LabelKind } from "@/core/visit/labels";
import { SelectField } from "@/ui/parts/form/SelectField";
import { useSay } from "@/ui/parts/browser/useNumberStyle";
import type { PlanDesk } from "@/ui/plan/usePlan";
import { useJob } from "@/ui/workspace/workspaceContext";
import { PLAN_WORDS } from "@/ui/words/planWords";

const FORMS = [
  { value: "a4-24", label: PLAN_WORDS.a424Labels7037Mm },
  { value: "a4-10", label: PLAN_WORDS.a410Labels10054Mm },
  { value: "single", label: PLAN_WORDS.oneAPage7037Mm },
] as const;
const KINDS: Readonly<Record<LabelKind, string>> = {
  clamp: "CT",
  leads: PLAN_WORDS.leadsAtTheMeter,
  breaker: PLAN_WORDS.breaker,
  invert: PLAN_WORDS.invertSetting,
};

/** Every label of the site as it will be printed, by sheet or one by one, each with a QR code of its text. */
export function LabelSheets({ plan: { document } }: { plan: PlanDesk }) {
  const job = useJob();
  const say = useSay();
  const [form, setForm] = useState<string>(FORMS[0].value);
  const list = labels(document, PLAN_WORDS.dateOfPrinting);
  if (list.length === 0) return <p className="mx-auto max-w-5xl">{PLAN_WORDS.nothingToLabelYetAddAMeter}</p>;
  return (
    <section aria-label={PLAN_WORDS.labels} className="mx-auto max-w-5xl">
      <div className="mb-3 flex flex-wrap items-end gap-3">
        <h3 className="mr-auto text-lg font-bold">{PLAN_WORDS.labelsOf(list.length)}</h3>
        <div className="w-64 max-w-full">
          <SelectField label={PLAN_WORDS.sheet} value={form} options={FORMS} onValue={setForm} />
        </div>
        <FromServer
          className="btn btn-primary press"
          href={`/api/v1/jobs/${job.id}/labels.pdf?form=${form}`}
          target="_blank"
          rel="noreferrer"
        >
          <Printer size={18} aria-hidden />
          {PLAN_WORDS.pdf}
        </FromServer>
        <FromServer href={`/api/v1/jobs/${job.id}/labels.csv`} download>
          <Download size={18} aria-hidden />
          {PLAN_WORDS.csv}
        </FromServer>
      </div>
      {job.status.kind !== "saved" && (
        <p role="status" className="mb-2 text-sm">
          {PLAN_WORDS.theLastChangeIsStillBeingSaved}
        </p>
      )}
      <ul className="grid gap-2 sm:grid-cols-2 lg:grid-cols-3">
        {list.map((label) => (
          <li key={label.id} className="panel flex flex-col bg-base-100 p-2 text-sm leading-snug">
            <span className="quiet text-xs">{KINDS[label.kind]}</span>
            <b className="text-lg leading-tight">{label.title}</b>
            {label.lines.map((line, at) => (
              <span key={at}>{say(line)}</span>
            ))}
            <FromServer
              className="link press mt-auto inline-flex items-center"
              href={`/api/v1/jobs/${job.id}/labels.pdf?form=single&only=${encodeURIComponent(label.id)}`}
              target="_blank"
              rel="noreferrer"
            >
              {PLAN_WORDS.printThisOne}
              <span className="sr-only"> {label.title}</span>
            </FromServer>
          </li>
        ))}
      </ul>
    </section>
  );
}
