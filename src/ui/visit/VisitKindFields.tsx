"use client";

import { useWhen } from "@/ui/parts/browser/useNumberStyle";
import { CalendarPlus } from "lucide-react";
import { serviceReasonSchema, visitKindSchema, type VisitSettings } from "@/core/plan/visitSettings";
import { nextVisit } from "@/core/visit/nextVisit";
import { SERVICE_REASON_WORDS, visitTitle, VISIT_KIND_WORDS } from "@/core/visit/visitKinds";
import { SelectField } from "@/ui/parts/form/SelectField";
import type { VisitDesk } from "@/ui/visit/useVisitStage";

/** What the technician comes for: the sheet holds what that needs and nothing else. Another visit begins here too. */
export function VisitKindFields({ desk }: { desk: VisitDesk }) {
  const { settings, setSettings } = desk;
  return (
    <section aria-label="This visit" className="mt-2 space-y-2">
      <div className="flex flex-wrap items-start gap-3">
        <div className="w-60">
          <SelectField
            label="Kind of visit"
            value={settings.kind}
            options={visitKindSchema.options.map((value) => ({ value, label: VISIT_KIND_WORDS[value] }))}
            onValue={(value) => setSettings({ kind: visitKindSchema.parse(value), reason: undefined })}
            hint="the sheet holds what this needs; what is already there is left alone"
          />
        </div>
        {settings.kind === "service" && (
          <div className="w-64">
            <SelectField
              label="What is wrong"
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
        Begin another visit
      </button>
    </section>
  );
}

function Earlier({ settings: { earlier } }: { settings: VisitSettings }) {
  const when = useWhen();
  if (earlier.length === 0) return null;
  return (
    <div className="text-sm">
      <h4 className="font-bold">Before this one</h4>
      <ol className="list-decimal pl-5">
        {earlier.map((visit) => (
          <li key={visit.id}>
            {visitTitle(visit)}, until {when(visit.endedAt, "full")}; its lines stay in the log
          </li>
        ))}
      </ol>
    </div>
  );
}
