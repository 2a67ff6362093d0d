"use client";

import { changeInput } from "@/core/edits/editPlan";
import type { PlanInput } from "@/core/plan/resolvedPlan";
import { arrowSchool, positiveSchool } from "@/core/sensing/schools";
import type { Direction } from "@/core/site/planSchema";
import { CheckField } from "@/ui/parts/form/CheckField";
import { SelectField } from "@/ui/parts/form/SelectField";
import type { PlanDesk } from "@/ui/plan/usePlan";
import { PLAN_WORDS } from "@/ui/words/planWords";

const ARROWS = { "to-load": PLAN_WORDS.towardTheLoads, "to-grid": PLAN_WORDS.towardTheGrid } as const;
const POSITIVES = {
  "to-load": PLAN_WORDS.flowTowardTheLoadsImporting,
  "to-grid": PLAN_WORDS.flowTowardTheGridExporting,
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
      label: `${words[value]}${value === kits ? ` ${PLAN_WORDS.theKits}` : ""}`,
    }));
  return (
    <section aria-label={PLAN_WORDS.methods} className="space-y-2">
      <h4 className="font-bold">{PLAN_WORDS.arrowAndSign}</h4>
      <div className="grid gap-2 sm:grid-cols-2">
        <SelectField
          label={PLAN_WORDS.printedArrow}
          value={input.arrow}
          options={options(ARROWS, arrow.kits)}
          onValue={(value) => change({ arrow: value as Direction })}
          hint={
            arrow.isOverridden
              ? PLAN_WORDS.overriddenForThisInput
              : kit
                ? PLAN_WORDS.asWantsIt(kit.name)
                : PLAN_WORDS.noKitSays
          }
        />
        <SelectField
          label={PLAN_WORDS.positiveMeans}
          value={input.positive}
          options={options(POSITIVES, positive.kits)}
          onValue={(value) => change({ positive: value as Direction })}
          hint={
            positive.isOverridden
              ? PLAN_WORDS.overriddenForThisInput
              : kit
                ? PLAN_WORDS.asShowsIt(kit.name)
                : PLAN_WORDS.noKitSays
          }
        />
      </div>
      <CheckField checked={input.invert} onCheck={(isChecked) => change({ invert: isChecked })}>
        {PLAN_WORDS.signInvertedByASetting(kitInput && !kitInput.invertSetting ? ` ${PLAN_WORDS.thisKitHasNone}` : "")}
      </CheckField>
      <p className="quiet text-sm">{PLAN_WORDS.aWrongSignIsBetterCuredAtTheCt}</p>
    </section>
  );
}
