"use client";

import { changeInput } from "@/core/edits/editPlan";
import { advisedPrimaryA, usablePrimariesA } from "@/core/sensing/advisedPrimary";
import { isCurrentOutput, leadBurden } from "@/core/sensing/ctBurden";
import { inputFlows } from "@/core/sensing/inputFlows";
import { said, type Sentence } from "@/core/sentence";
import type { PlanInput } from "@/core/plan/resolvedPlan";
import { ratioEntry, saidRatioForm } from "@/core/sensing/ratioEntry";
import { lengthInM, lengthShown, lengthText, sectionText } from "@/core/numberStyle";
import { ctClassSchema, type PlannedClamp as Clamp } from "@/core/site/planSchema";
import { withoutEmpty } from "@/core/withoutEmpty";
import { threeDigits } from "@/core/units";
import { NumberField } from "@/ui/parts/form/NumberField";
import { SelectField } from "@/ui/parts/form/SelectField";
import { useNumberStyle, useSaid, useSay } from "@/ui/parts/browser/useNumberStyle";
import type { PlanDesk } from "@/ui/plan/usePlan";

/** The CT: kit, primary, class, turns, window and lead; what has to be typed into the meter for it. */
export function ClampChoice({ plan, setup }: { plan: PlanDesk; setup: PlanInput }) {
  const { meter, input, kit, kitInput, ctKit } = setup;
  const { site, kits, edit, kitOf } = plan;
  const say = useSay();
  const written = useSaid();
  const style = useNumberStyle();
  const clamp = input.clamp ?? {};
  const flows = inputFlows(site, input);
  const advisedA = advisedPrimaryA(site, input, kit, ctKit);
  const change = (part: Parameters<typeof changeInput>[2], field?: string) =>
    edit(changeInput(meter.id, input.n, part), field && `${meter.id} ${input.n} ${field}`);
  const changeClamp = (part: Partial<Clamp>, field?: string) =>
    change({ clamp: withoutEmpty({ ...clamp, ...part }) }, field);
  const unit = style.lengths === "us" ? "ft" : "m";
  const fits = kits.filter(
    (candidate) =>
      candidate.clamp &&
      isCurrentOutput(candidate.clamp.secondary) === isCurrentOutput(input.secondary) &&
      candidate.clamp.secondary.value === input.secondary.value,
  );
  const primaries = [
    ...new Set([
      ...(ctKit?.clamp?.primariesA ?? usablePrimariesA(input, kit, undefined)),
      input.primaryA * (clamp.turns ?? 1),
    ]),
  ].toSorted((a, b) => a - b);

  const chooseKit = (id: string) => {
    const chosen = kitOf(id);
    const data = chosen?.clamp;
    const next = withoutEmpty({
      ...clamp,
      kit: chosen?.id,
      class: data?.class,
      windowMm: data?.windowMm,
      ratedVa: data?.ratedVa,
      leadM: clamp.leadM ?? data?.leadM,
    });
    const planned = { ...input, builtIn: undefined, clamp: next };
    edit(
      changeInput(
        meter.id,
        input.n,
        { clamp: next, builtIn: undefined, primaryA: advisedPrimaryA(site, planned, kit, chosen) ?? input.primaryA },
        chosen,
      ),
    );
  };

  if (input.builtIn) {
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
  const ctA = input.primaryA * (clamp.turns ?? 1);
  return (
    <section aria-label="CT" className="space-y-2">
      <h4 className="font-bold">The CT</h4>
      <p className="text-sm">{say(flowsText(flows, advisedA))}</p>
      <div className="grid grid-cols-2 gap-2 lg:grid-cols-3">
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
          options={primaries.map((primary) => ({
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
      </div>
      <dl className="grid grid-cols-[auto_1fr] gap-x-3 gap-y-1 text-sm">
        <dt className="font-semibold">Type in</dt>
        <dd data-entry>{written(saidEntry(setup))}</dd>
        {kitInput?.longestLeadM !== undefined && (
          <>
            <dt className="font-semibold">Kit&apos;s limit</dt>
            <dd>lead up to {lengthText(kitInput.longestLeadM, style)}</dd>
          </>
        )}
        <BurdenLine setup={setup} />
      </dl>
      {kit?.metering?.builtInUpToA !== undefined && (
        <button
          type="button"
          className="btn btn-sm press"
          onClick={() => change({ builtIn: true, clamp: undefined, primaryA: kit.metering!.builtInUpToA! })}
        >
          Measure inside, up to {kit.metering.builtInUpToA} A
        </button>
      )}
      <p className="caution">
        {isCurrentOutput(input.secondary)
          ? "Current output: an open secondary under load makes a dangerous voltage. Terminate, then clamp; " +
            "short the leads before they are touched on a live conductor."
          : "Voltage output: safe when open. Still terminate first, then clamp."}{" "}
        Isolate and prove dead; local rules and the maker’s manual come first.
      </p>
    </section>
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
