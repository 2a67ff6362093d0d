"use client";

import { changeInput } from "@/core/edits/editPlan";
import type { PlanInput } from "@/core/plan/resolvedPlan";
import { arrowSchool, positiveSchool } from "@/core/sensing/schools";
import type { Direction } from "@/core/site/planSchema";
import { CheckField } from "@/ui/parts/form/CheckField";
import { SelectField } from "@/ui/parts/form/SelectField";
import type { PlanDesk } from "@/ui/plan/usePlan";

const ARROWS = { "to-load": "toward the loads", "to-grid": "toward the grid" } as const;
const POSITIVES = {
  "to-load": "flow toward the loads (importing, consuming)",
  "to-grid": "flow toward the grid (exporting, generating)",
} as const;

/** Where makers and technicians disagree: the kit's way is taken, and can be overridden for this input. */
export function SchoolChoice({ plan: { edit }, setup }: { plan: PlanDesk; setup: PlanInput }) {
  const { meter, input, kit, kitInput } = setup;
  const arrow = arrowSchool(setup);
  const positive = positiveSchool(setup);
  const change = (part: Parameters<typeof changeInput>[2]) => edit(changeInput(meter.id, input.n, part));
  const options = (words: Readonly<Record<Direction, string>>, kits: Direction | undefined) =>
    (["to-load", "to-grid"] as const).map((value) => ({
      value,
      label: `${words[value]}${value === kits ? " (the kit’s)" : ""}`,
    }));
  return (
    <section aria-label="Methods" className="space-y-2">
      <h4 className="font-bold">Arrow and sign</h4>
      <div className="grid gap-2 sm:grid-cols-2">
        <SelectField
          label="Printed arrow"
          value={input.arrow}
          options={options(ARROWS, arrow.kits)}
          onValue={(value) => change({ arrow: value as Direction })}
          hint={arrow.isOverridden ? "overridden for this input" : kit ? `as ${kit.name} wants it` : "no kit says"}
        />
        <SelectField
          label="Positive means"
          value={input.positive}
          options={options(POSITIVES, positive.kits)}
          onValue={(value) => change({ positive: value as Direction })}
          hint={positive.isOverridden ? "overridden for this input" : kit ? `as ${kit.name} shows it` : "no kit says"}
        />
      </div>
      <CheckField checked={input.invert} onCheck={(isChecked) => change({ invert: isChecked })}>
        Sign inverted by a setting{kitInput && !kitInput.invertSetting ? " (this kit has none)" : ""}
      </CheckField>
      <p className="quiet text-sm">
        A wrong sign is better cured at the CT: that survives a new meter. A setting is recorded on the label and in the
        report.
      </p>
    </section>
  );
}
