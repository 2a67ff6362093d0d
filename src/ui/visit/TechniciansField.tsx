"use client";

import { SelectField } from "@/ui/parts/form/SelectField";
import type { VisitDesk } from "@/ui/visit/useVisitStage";

/** How many work at once: the schedule is made for them. */
export function TechniciansField({ desk: { settings, setSettings } }: { desk: VisitDesk }) {
  return (
    <SelectField
      label="Technicians"
      value={String(settings.technicians)}
      options={[
        { value: "1", label: "one" },
        { value: "2", label: "two" },
      ]}
      onValue={(value) => setSettings({ technicians: value === "2" ? 2 : 1 })}
    />
  );
}
