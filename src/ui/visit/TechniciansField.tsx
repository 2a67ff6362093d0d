"use client";

import { SelectField } from "@/ui/parts/form/SelectField";
import type { VisitDesk } from "@/ui/visit/useVisitStage";
import { VISIT_WORDS } from "@/ui/words/visitWords";

/** How many work at once: the schedule is made for them. */
export function TechniciansField({ desk: { settings, setSettings } }: { desk: VisitDesk }) {
  return (
    <SelectField
      label={VISIT_WORDS.technicians}
      value={String(settings.technicians)}
      options={[
        { value: "1", label: VISIT_WORDS.one },
        { value: "2", label: VISIT_WORDS.two },
      ]}
      onValue={(value) => setSettings({ technicians: value === "2" ? 2 : 1 })}
    />
  );
}
