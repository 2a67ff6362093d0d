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
import { WireSizeField } from "@/ui/parts/form/WireSizeField";
import { SelectField } from "@/ui/parts/form/SelectField";
import { useNumberStyle, useSaid, useSay } from "@/ui/parts/browser/useNumberStyle";
import { useClampChoice, type ClampDesk } from "@/ui/plan/useClampChoice";
import type { PlanDesk } from "@/ui/plan/usePlan";
import { PLAN_WORDS } from "@/ui/words/planWords";

/** The CT: kit, primary, class, turns, window and lead; what has to be typed into the meter for it. */
export function ClampChoice({ plan, setup }: { plan: PlanDesk; setup: PlanInput }) {
  const ct = useClampChoice(plan, setup);
  const { input, kit } = setup;
  const say = useSay();
  if (input.builtIn) return <MeasuredInside ct={ct} />;
  const insideA = kit?.metering?.builtInUpToA;
  return (
    <section aria-label={PLAN_WORDS.ct} className="space-y-2">
      <h4 className="font-bold">{PLAN_WORDS.theCt}</h4>
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
          {PLAN_WORDS.measureInsideUpToA(insideA)}
        </button>
      )}
      <CtCaution setup={setup} />
    </section>
  );
}

function MeasuredInside({ ct: { setup, fits, chooseKit } }: { ct: ClampDesk }) {
  const { kit, meter, input } = setup;
  return (
    <section aria-label={PLAN_WORDS.ct} className="space-y-2">
      <h4 className="font-bold">{PLAN_WORDS.measuredInside}</h4>
      <p className="text-sm">
        {PLAN_WORDS.measuresDirectUpToATheConductors(
          kit?.name ?? meter.name,
          kit?.metering?.builtInUpToA ?? input.primaryA,
        )}
      </p>
      <button type="button" className="btn btn-sm press" onClick={() => chooseKit(fits[0]?.id ?? "")}>
        {PLAN_WORDS.measureWithAnExternalCt}
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
          label={PLAN_WORDS.ct}
          value={clamp.kit ?? ""}
          options={[
            { value: "", label: PLAN_WORDS.notChosen },
            ...fits.map((candidate) => ({ value: candidate.id, label: candidate.name })),
          ]}
          onValue={chooseKit}
          hint={ctKit?.source}
        />
      </div>
      <SelectField
        label={PLAN_WORDS.primary}
        value={String(ctA)}
        options={primariesA.map((primary) => ({
          value: String(primary),
          label: say(`${primary} A${primary === advisedA ? ", advised" : ""}`),
        }))}
        onValue={(value) => change({ primaryA: Number(value) / (clamp.turns ?? 1) })}
      />
      <SelectField
        label={PLAN_WORDS.class}
        value={clamp.class ?? ""}
        options={[
          { value: "", label: PLAN_WORDS.notKnown },
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
        label={PLAN_WORDS.turns}
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
        label={PLAN_WORDS.window}
        unit="mm"
        optional
        value={clamp.windowMm}
        most={1000}
        onValue={(windowMm) => changeClamp({ windowMm: windowMm || undefined }, "window")}
      />
      <NumberField
        label={PLAN_WORDS.lead}
        unit={unit}
        optional
        value={clamp.leadM === undefined ? undefined : lengthShown(clamp.leadM, style)}
        most={3000}
        onValue={(value) => changeClamp({ leadM: value ? lengthInM(value, style) : undefined }, "lead")}
      />
      <WireSizeField
        label={PLAN_WORDS.leadSection}
        value={clamp.leadMm2}
        mostMm2={50}
        onValue={(leadMm2) => changeClamp({ leadMm2 }, "section")}
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
      <dt className="font-semibold">{PLAN_WORDS.typeIn}</dt>
      <dd>{written(saidEntry(setup))}</dd>
      {kitInput?.longestLeadM !== undefined && (
        <>
          <dt className="font-semibold">{PLAN_WORDS.kitsLimit}</dt>
          <dd>{PLAN_WORDS.leadUpTo(lengthText(kitInput.longestLeadM, style))}</dd>
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
      {PLAN_WORDS.isolateAndProveDeadLocalRules(
        isCurrentOutput(input.secondary)
          ? PLAN_WORDS.currentOutputAnOpenSecondaryUnder
          : PLAN_WORDS.voltageOutputSafeWhenOpenStill,
      )}
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
      <dt className="font-semibold">{PLAN_WORDS.burden}</dt>
      <dd>
        {say(
          PLAN_WORDS.vaWarmI2LAVaMeter01VaContacts(
            threeDigits(burden.burdenVa),
            ratedVa === undefined ? "" : PLAN_WORDS.ofVa(ratedVa),
            kitInput?.inputVa ?? 0,
          ),
        )}
        {burden.longestLeadM !== undefined &&
          PLAN_WORDS.longestLeadOf(
            lengthText(Math.floor(burden.longestLeadM * 10) / 10, style),
            sectionText(leadMm2, style),
          )}
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
    ...(fuseA === undefined ? [] : [PLAN_WORDS.fuse(amps(fuseA))]),
    ...(generationA > 0 ? [PLAN_WORDS.generationUpTo(amps(generationA))] : []),
    ...(fuseA === undefined && loadA > 0 ? [PLAN_WORDS.loadUpTo(amps(loadA))] : []),
    ...(nightA === undefined ? [] : [PLAN_WORDS.aboutAtNight(amps(nightA))]),
  ];
  if (needA === undefined) return PLAN_WORDS.thePlanDoesNotSayWhatCanFlowHere;
  return PLAN_WORDS.canFlowHereThePrimaryMustHold(
    parts.join(", "),
    amps(needA),
    advisedA === undefined
      ? PLAN_WORDS.noPrimaryOfThisCtThatTheMeterTakes
      : PLAN_WORDS.theSmallestThatDoesIs(amps(advisedA)),
  );
}

function saidEntry({ input, kitInput }: PlanInput): Sentence {
  const { primaryA, secondary } = input;
  if (!kitInput) return PLAN_WORDS.aInTheFormThatTheMeterAsksFor(primaryA, said`${secondary.value} ${secondary.unit}`);
  const entry = ratioEntry(kitInput.ratio, primaryA, secondary);
  const takes = PLAN_WORDS.theKitTakes(saidRatioForm(kitInput.ratio));
  return entry.kind === "entry" ? said`${entry.text}${takes}` : PLAN_WORDS.cannotBeEntered(entry.why, takes);
}
