"use client";

import { useWhen } from "@/ui/parts/browser/useWhen";
import { CalendarPlus } from "lucide-react";
import { serviceReasonSchema, visitKindSchema, type VisitSettings } from "@/core/plan/visitSettings";
import { nextVisit } from "@/core/visit/nextVisit";
import { SERVICE_REASON_WORDS, visitTitle, VISIT_KIND_WORDS } from "@/core/visit/visitKinds";
import { SelectField } from "@/ui/parts/form/SelectField";
import type { VisitDesk } from "@/ui/visit/useVisitStage";
import { VISIT_WORDS } from "@/ui/words/visitWords";

/** What the technician comes for: the sheet holds what that needs and nothing else. Another visit begins here too. */
export function VisitKindFields({ desk }: { desk: VisitDesk }) {
  const { settings, setSettings } = desk;
  return (
    <section aria-label={VISIT_WORDS.thisVisit} className="mt-2 space-y-2">
      <div className="flex flex-wrap items-start gap-3">
        <div className="w-60 max-w-full">
          <SelectField
            label={VISIT_WORDS.kindOfVisit}
            value={settings.kind}
            options={visitKindSchema.options.map((value) => ({ value, label: VISIT_KIND_WORDS[value] }))}
            onValue={(value) => setSettings({ kind: visitKindSchema.parse(value), reason: undefined })}
            hint={VISIT_WORDS.theSheetHoldsWhatThisNeeds}
          />
        </div>
        {settings.kind === "service" && (
          <div className="w-64 max-w-full">
            <SelectField
              label={VISIT_WORDS.whatIsWrongTitle}
              value={settings.reason ?? "not-online"}
              options={serviceReasonSchema.options.map((value) => ({ value, label: SERVICE_REASON_WORDS[value] }))}
              onValue={(value) => setSettings({ reason: serviceReasonSchema.parse(value) })}
            />
          </div>
        )}
      </div>
      <Earlier settings={settings} />
      <button
        type="button"
        className="btn press"
        onClick={() =>
          setSettings({
            reason: undefined,
            ...nextVisit(settings, crypto.randomUUID(), "service", new Date().toISOString(), "not-online"),
          })
        }
      >
        <CalendarPlus size={18} aria-hidden />
        {VISIT_WORDS.beginAnotherVisit}
      </button>
    </section>
  );
}

function Earlier({ settings: { earlier } }: { settings: VisitSettings }) {
  const when = useWhen();
  if (earlier.length === 0) return null;
  return (
    <div className="text-sm">
      <h4 className="font-bold">{VISIT_WORDS.beforeThisOne}</h4>
      <ol className="list-decimal pl-5">
        {earlier.map((visit) => (
          <li key={visit.id}>
            {VISIT_WORDS.untilItsLinesStayInTheLog(visitTitle(visit), when(visit.endedAt, "full"))}
          </li>
        ))}
      </ol>
    </div>
  );
}
