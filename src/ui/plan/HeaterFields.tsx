"use client";

import type { Kit } from "@/core/kits/kitSchema";
import { heaterOutputs } from "@/core/kits/heaterOutputs";
import { nameSchema } from "@/core/names";
import type { SiteNode } from "@/core/site/planSchema";
import { CheckField } from "@/ui/parts/form/CheckField";
import { NumberField } from "@/ui/parts/form/NumberField";
import { TextField } from "@/ui/parts/form/TextField";
import { PLAN_WORDS } from "@/ui/words/planWords";

type Heater = NonNullable<SiteNode["heater"]>;

/** Which element hangs on which output of a diverter, and whether its circuit was there before. */
export function HeaterFields({
  node,
  kit,
  onHeater,
}: {
  node: SiteNode;
  kit: Kit | undefined;
  onHeater: (heater: Heater | undefined, field: string) => void;
}) {
  const outputs = kit ? heaterOutputs(kit) : [];
  const heater: Heater = node.heater ?? { elements: [] };
  if (outputs.length === 0) return null;
  return (
    <fieldset className="space-y-2">
      <legend className="mb-0.5 text-sm font-semibold">{PLAN_WORDS.heaterOnItsOutputs}</legend>
      <CheckField
        checked={heater.isTakenOver === true}
        onCheck={(isChecked) => onHeater({ ...heater, isTakenOver: isChecked || undefined }, "heater there")}
      >
        {PLAN_WORDS.theHeaterCircuitIsThereAlready}
      </CheckField>
      {outputs.map(({ id, label }) => (
        <OutputFields key={id} output={id} label={label} heater={heater} onHeater={onHeater} />
      ))}
    </fieldset>
  );
}

function OutputFields({
  output,
  label,
  heater,
  onHeater,
}: {
  output: string;
  label: string;
  heater: Heater;
  onHeater: (heater: Heater, field: string) => void;
}) {
  const element = heater.elements.find((own) => own.output === output);
  const others = heater.elements.filter((own) => own.output !== output);
  const change = (ratedW: number | undefined, name = element?.name ?? PLAN_WORDS.elementOn(label)) =>
    onHeater(
      { ...heater, elements: ratedW ? [...others, { output, name, ratedW }].toSorted(byOutput) : others },
      `heater ${output}`,
    );
  return (
    <div className="grid grid-cols-2 items-end gap-2">
      <NumberField
        label={PLAN_WORDS.elementOn(label)}
        unit="kW"
        optional
        value={element === undefined ? undefined : element.ratedW / 1000}
        most={1000}
        onValue={(kw) => change(kw ? Math.round(kw * 1e6) / 1e3 : undefined)}
      />
      {element && (
        <TextField
          label={PLAN_WORDS.whichOne}
          value={element.name}
          schema={nameSchema}
          onValue={(name) => change(element.ratedW, name)}
        />
      )}
    </div>
  );
}

function byOutput(a: Heater["elements"][number], b: Heater["elements"][number]): number {
  return a.output.localeCompare(b.output);
}
