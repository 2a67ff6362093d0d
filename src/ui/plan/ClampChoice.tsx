"use client";

import { isCurrentOutput, leadBurden } from "@/core/sensing/ctBurden";
import { inputFlows } from "@/core/sensing/inputFlows";
import { said, type Sentence } from "@/core/sentence";
import type { PlanInput } from "@/core/plan/resolvedPlan";
import { ratioEntry, saidRatioForm } from "@/core/sensing/ratioEntry";
import { lengthInM, lengthShown, lengthText, sectionText } from "@/core/numberStyle";
import { ctClassSchema } from "@/core/site/planSchema";
import { withoutEmpty } from "@/core/withoutEmpty";
import { threeDigits } from "@/core/units";
import { NumberField } from "@/ui/parts/form/NumberField";
import { SelectField } from "@/ui/parts/form/SelectField";
import { useNumberStyle, useSaid, useSay } from "@/ui/parts/browser/useNumberStyle";
import { useClampChoice, type ClampDesk } from "@/ui/plan/useClampChoice";
import type { PlanDesk } from "@/ui/plan/usePlan";

/** The CT: kit, primary, class, turns, window and lead; what has to be typed into the meter for it. */
export function ClampChoice({ plan, setup }: { plan: PlanDesk; setup: PlanInput }) {
  const ct = useClampChoice(plan, setup);
  const { input, kit } = setup;
  const say = useSay();
  if (input.builtIn) return <MeasuredInside ct={ct} />;
  const insideA = kit?.metering?.builtInUpToA;
  return (
    <section aria-label="CT" className="space-y-2">
      <h4 className="font-bold">The CT</h4>
      <p className="text-sm">{say(flowsText(inputFlows(plan.site, input), ct.advisedA))}</p>
      <div className="grid grid-cols-2 gap-2 lg:grid-cols-3">
        <CtFields ct={ct} />
        <WindowAndLeadFields ct={ct} />
      </div>
      <WhatToTypeIn setup={setup} />
      {insideA !== undefined && (
        <button
          type="button"
          className="btn btn-sm press"
          onClick={() => ct.change({ builtIn: true, clamp: undefined, primaryA: insideA })}
        >
          Measure inside, up to {insideA} A
        </button>
      )}
      <CtCaution setup={setup} />
    </section>
  );
}

function MeasuredInside({ ct: { setup, fits, chooseKit } }: { ct: ClampDesk }) {
  const { kit, meter, input } = setup;
  return (
    <section aria-label="CT" className="space-y-2">
      <h4 className="font-bold">Measured inside</h4>
      <p className="text-sm">
        {kit?.name ?? meter.name} measures direct up to {kit?.metering?.builtInUpToA ?? input.primaryA} A; the
        conductors pass through it from in to out. Wired backwards, everything reads reversed.
      </p>
      <button type="button" className="btn btn-sm press" onClick={() => chooseKit(fits[0]?.id ?? "")}>
        Measure with an external CT
      </button>
    </section>
  );
}

function CtFields({ ct }: { ct: ClampDesk }) {
  const { setup, clamp, fits, primariesA, advisedA, ctA, change, changeClamp, chooseKit } = ct;
  const { ctKit } = setup;
  const say = useSay();
  return (
    <>
      <div className="col-span-2 lg:col-span-3">
        <SelectField
          label="CT"
          value={clamp.kit ?? ""}
          options={[
            { value: "", label: "not chosen" },
            ...fits.map((candidate) => ({ value: candidate.id, label: candidate.name })),
          ]}
          onValue={chooseKit}
          hint={ctKit?.source}
        />
      </div>
      <SelectField
        label="Primary"
        value={String(ctA)}
        options={primariesA.map((primary) => ({
          value: String(primary),
          label: say(`${primary} A${primary === advisedA ? ", advised" : ""}`),
        }))}
        onValue={(value) => change({ primaryA: Number(value) / (clamp.turns ?? 1) })}
      />
      <SelectField
        label="Class"
        value={clamp.class ?? ""}
        options={[
          { value: "", label: "not known" },
          ...ctClassSchema.options.map((value) => ({ value, label: value })),
        ]}
        onValue={(value) => changeClamp({ class: value === "" ? undefined : ctClassSchema.parse(value) })}
      />
    </>
  );
}

function WindowAndLeadFields({ ct: { clamp, ctA, change, changeClamp } }: { ct: ClampDesk }) {
  const style = useNumberStyle();
  const unit = style.lengths === "us" ? "ft" : "m";
  return (
    <>
      <NumberField
        label="Turns"
        whole
        least={1}
        most={20}
        value={clamp.turns ?? 1}
        onValue={(turns) =>
          turns !== undefined &&
          change(
            { clamp: withoutEmpty({ ...clamp, turns: turns === 1 ? undefined : turns }), primaryA: ctA / turns },
            "turns",
          )
        }
      />
      <NumberField
        label="Window"
        unit="mm"
        optional
        value={clamp.windowMm}
        most={1000}
        onValue={(windowMm) => changeClamp({ windowMm: windowMm || undefined }, "window")}
      />
      <NumberField
        label="Lead"
        unit={unit}
        optional
        value={clamp.leadM === undefined ? undefined : lengthShown(clamp.leadM, style)}
        most={3000}
        onValue={(value) => changeClamp({ leadM: value ? lengthInM(value, style) : undefined }, "lead")}
      />
      <NumberField
        label="Lead section"
        unit="mm²"
        optional
        value={clamp.leadMm2}
        most={50}
        onValue={(leadMm2) => changeClamp({ leadMm2: leadMm2 || undefined }, "section")}
      />
    </>
  );
}

function WhatToTypeIn({ setup }: { setup: PlanInput }) {
  const written = useSaid();
  const { kitInput } = setup;
  const style = useNumberStyle();
  return (
    <dl className="grid grid-cols-[auto_1fr] gap-x-3 gap-y-1 text-sm">
      <dt className="font-semibold">Type in</dt>
      <dd>{written(saidEntry(setup))}</dd>
      {kitInput?.longestLeadM !== undefined && (
        <>
          <dt className="font-semibold">Kit&apos;s limit</dt>
          <dd>lead up to {lengthText(kitInput.longestLeadM, style)}</dd>
        </>
      )}
      <BurdenLine setup={setup} />
    </dl>
  );
}

function CtCaution({ setup }: { setup: PlanInput }) {
  const { input } = setup;
  return (
    <p className="caution">
      {isCurrentOutput(input.secondary)
        ? "Current output: an open secondary under load makes a dangerous voltage. Terminate, then CT; " +
          "short the leads before they are touched on a live conductor."
        : "Voltage output: safe when open. Still terminate first, then CT."}{" "}
      Isolate and prove dead; local rules and the maker’s manual come first.
    </p>
  );
}

function BurdenLine({ setup: { input, kitInput } }: { setup: PlanInput }) {
  const say = useSay();
  const style = useNumberStyle();
  const { leadM, leadMm2, ratedVa } = input.clamp ?? {};
  if (leadMm2 === undefined) return null;
  const burden = leadBurden({
    secondary: input.secondary,
    leadM: leadM ?? 0,
    leadMm2,
    meterVa: kitInput?.inputVa ?? 0,
    ratedVa,
    isWarm: true,
  });
  if (!burden) return null;
  return (
    <>
      <dt className="font-semibold">Burden</dt>
      <dd>
        {say(
          `${threeDigits(burden.burdenVa)} VA warm${ratedVa === undefined ? "" : ` of ${ratedVa} VA`}: I² · ` +
            `2 · ρ · L / A + ${kitInput?.inputVa ?? 0} VA meter + 0.1 VA contacts`,
        )}
        {burden.longestLeadM !== undefined &&
          `; longest lead ${lengthText(Math.floor(burden.longestLeadM * 10) / 10, style)} of ` +
            `${sectionText(leadMm2, style)}`}
      </dd>
    </>
  );
}

function flowsText(
  { fuseA, generationA, loadA, needA, nightA }: ReturnType<typeof inputFlows>,
  advisedA: number | undefined,
): string {
  const amps = (value: number) => `${threeDigits(value)} A`;
  const parts = [
    ...(fuseA === undefined ? [] : [`fuse ${amps(fuseA)}`]),
    ...(generationA > 0 ? [`generation up to ${amps(generationA)}`] : []),
    ...(fuseA === undefined && loadA > 0 ? [`load up to ${amps(loadA)}`] : []),
    ...(nightA === undefined ? [] : [`about ${amps(nightA)} at night`]),
  ];
  if (needA === undefined)
    return "The plan does not say what can flow here: give the breaker of the run or the ratings below it.";
  return (
    `Can flow here: ${parts.join(", ")}. The primary must hold ${amps(needA)}; ` +
    (advisedA === undefined
      ? "no primary of this CT that the meter takes is large enough."
      : `the smallest that does is ${amps(advisedA)}.`)
  );
}

function saidEntry({ input, kitInput }: PlanInput): Sentence {
  const { primaryA, secondary } = input;
  if (!kitInput) return said`${primaryA} A : ${secondary.value} ${secondary.unit}, in the form that the meter asks for`;
  const entry = ratioEntry(kitInput.ratio, primaryA, secondary);
  const takes = said`; the kit takes ${saidRatioForm(kitInput.ratio)}`;
  return entry.kind === "entry" ? said`${entry.text}${takes}` : said`cannot be entered: ${entry.why}${takes}`;
}
