"use client";

import { CopyPlus, FlaskConical, Plus, Trash2 } from "lucide-react";
import { useState } from "react";
import { windowText } from "@/core/job/placeFindings";
import type { TestStep } from "@/core/flows/testSheetSchema";
import { powerText } from "@/core/units";
import { flowWord } from "@/core/site/flowWords";
import { nodeName } from "@/core/site/tree";
import { inputTag } from "@/core/site/inputTag";
import type { Meter, MeterInput } from "@/core/site/planSchema";
import { KnownDevices } from "@/ui/prove/KnownDevices";
import { ReadingRound } from "@/ui/prove/ReadingRound";
import { SeenCell } from "@/ui/prove/SeenCell";
import type { ProveDesk } from "@/ui/prove/useProve";
import { Say } from "@/ui/parts/show/Say";
import { PROVE_WORDS } from "@/ui/words/proveWords";

type Slot = { readonly meter: Meter; readonly input: MeterInput };

/** Test steps × meter inputs: what each should show and what was seen. On a phone every step is a card. */
export function TestGrid({ prove }: { prove: ProveDesk }) {
  const { site, sheet } = prove;
  const inputs: readonly Slot[] = site.meters.flatMap((meter) => meter.inputs.map((input) => ({ meter, input })));
  return (
    <section aria-label={PROVE_WORDS.testSteps}>
      <TestGridHead prove={prove} />
      {sheet.steps.length > 0 && (
        <p className="quiet mb-1 text-sm">
          {prove.isNarrowed
            ? PROVE_WORDS.expectedWhatARightFittingShows
            : PROVE_WORDS.expectedWhatARightFittingShowsThe}
        </p>
      )}
      {sheet.steps.length === 0 && <p className="panel p-4">{PROVE_WORDS.noStepYetAddTheOneProposedAbove}</p>}
      {sheet.steps.length > 0 && (
        <div className="overflow-x-auto">
          <table className="w-full border-collapse text-left">
            <thead className="max-md:sr-only">
              <tr className="border-b-2 border-base-300 align-bottom">
                <th scope="col" className="w-60 min-w-52 py-1 pr-3">
                  {PROVE_WORDS.whatIsOn}
                </th>
                {inputs.map(({ meter, input }) => (
                  <th key={`${meter.id} ${input.n}`} scope="col" className="min-w-42 px-1 py-1">
                    <span className="mr-1 rounded bg-base-300 px-1.5 text-sm">{inputTag(site, meter.id, input.n)}</span>
                    {meter.name}
                    <span className="quiet block text-sm font-normal">
                      {PROVE_WORDS.positive(
                        windowText(site, input.measures),
                        input.positive === "to-load" ? PROVE_WORDS.intoTheSite : PROVE_WORDS.towardTheGrid,
                      )}
                    </span>
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {sheet.steps.map((step, at) => (
                <StepRow key={step.id ?? at} step={step} at={at} prove={prove} inputs={inputs} />
              ))}
            </tbody>
          </table>
        </div>
      )}
    </section>
  );
}

function TestGridHead({ prove }: { prove: ProveDesk }) {
  const { sheet } = prove;
  return (
    <div className="mb-2 flex flex-wrap items-center gap-2">
      <h3 className="mr-auto text-lg font-bold">{PROVE_WORDS.stepsAndReadings}</h3>
      <button type="button" className="btn press" onClick={prove.addBlank}>
        <Plus size={18} aria-hidden />
        {PROVE_WORDS.addAStep}
      </button>
      <button type="button" className="btn press" disabled={sheet.steps.length === 0} onClick={prove.simulate}>
        <FlaskConical size={18} aria-hidden />
        {PROVE_WORDS.practiceReadings}
      </button>
    </div>
  );
}

function StepRow({
  step,
  at,
  prove,
  inputs,
}: {
  step: TestStep;
  at: number;
  prove: ProveDesk;
  inputs: readonly Slot[];
}) {
  const { site } = prove;
  return (
    <tr
      data-step={at + 1}
      data-step-id={step.id}
      className="scroll-mt-2 border-b border-base-300 align-top max-md:panel max-md:mb-3 max-md:block max-md:p-3"
    >
      <th
        scope="row"
        className={
          "sticky left-0 z-10 bg-base-100 py-2 pr-3 font-normal max-md:static max-md:block " + "max-md:bg-transparent"
        }
      >
        <StepHead prove={prove} step={step} at={at} />
      </th>
      {inputs.map(({ meter, input }, slot) => (
        <td key={`${meter.id} ${input.n}`} className="px-1 py-2 max-md:block">
          <span className="font-semibold md:hidden">
            {inputTag(site, meter.id, input.n)} {meter.name}, {windowText(site, input.measures)}
          </span>
          <SeenCell
            prove={prove}
            step={at}
            meter={meter}
            input={input}
            expected={prove.expected[at]?.[slot]}
            seen={step.readings.find((reading) => reading.meter === meter.id && reading.input === input.n)}
          />
        </td>
      ))}
    </tr>
  );
}

function StepHead({ prove, step, at }: { prove: ProveDesk; step: TestStep; at: number }) {
  const [open, setOpen] = useState(false);
  const [label, setLabel] = useState<string | undefined>();
  return (
    <div className="space-y-1">
      <label className="flex items-center gap-2">
        <span className="reading quiet">{at + 1}</span>
        <span className="sr-only">{PROVE_WORDS.whatStepIs(at + 1)}</span>
        <textarea
          className="field resize-none font-semibold leading-tight"
          rows={2}
          value={label ?? step.label}
          maxLength={120}
          aria-invalid={label?.trim() === ""}
          onChange={(event) => {
            setLabel(event.target.value);
            if (event.target.value.trim() !== "") prove.change(at, { label: event.target.value }, `label ${at}`);
          }}
          onBlur={() => setLabel(undefined)}
        />
      </label>
      {step.source === "simulated" && step.readings.length > 0 && (
        <p className="flex items-center gap-1 text-sm font-semibold text-warning">
          <FlaskConical size={15} aria-hidden />
          {PROVE_WORDS.simulated}
        </p>
      )}
      <ul className="text-sm leading-snug">
        {step.devices.map((device) => (
          <li key={device.node}>
            {nodeName(prove.site, device.node)}{" "}
            <span className="reading">
              <Say>
                {device.powerW === 0
                  ? PROVE_WORDS.off
                  : `${powerText(Math.abs(device.powerW))} ± ${powerText(device.toleranceW)}`}
              </Say>
            </span>{" "}
            {device.powerW !== 0 && flowWord(prove.site, device.node, device.powerW)}
          </li>
        ))}
        {step.devices.length === 0 && <li className="quiet">{PROVE_WORDS.onlyTheBackground}</li>}
      </ul>
      <ReadingRound prove={prove} step={step} at={at} />
      <StepButtons open={open} setOpen={setOpen} prove={prove} at={at} />
      {open && <KnownDevices prove={prove} step={step} at={at} />}
    </div>
  );
}

function StepButtons({
  open,
  setOpen,
  prove,
  at,
}: {
  open: boolean;
  setOpen: (next: boolean) => void;
  prove: ProveDesk;
  at: number;
}) {
  return (
    <div className="flex gap-1">
      <button type="button" className="btn btn-sm press" aria-expanded={open} onClick={() => setOpen(!open)}>
        {open ? PROVE_WORDS.done : PROVE_WORDS.devices}
      </button>
      <button
        type="button"
        className="btn btn-ghost btn-sm press px-2"
        title={PROVE_WORDS.repeatThisStep}
        onClick={() => prove.repeat(at)}
      >
        <CopyPlus size={18} aria-hidden />
        <span className="sr-only">{PROVE_WORDS.repeatStep(at + 1)}</span>
      </button>
      <button
        type="button"
        className="btn btn-ghost btn-sm press px-2"
        title={PROVE_WORDS.removeThisStepUndoBringsItBack}
        onClick={() => prove.remove(at)}
      >
        <Trash2 size={18} aria-hidden />
        <span className="sr-only">{PROVE_WORDS.removeStep(at + 1)}</span>
      </button>
    </div>
  );
}
