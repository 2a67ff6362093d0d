"use client";

import { Check } from "lucide-react";
import { useState } from "react";
import { changeInput, freeInputs, separateClamps } from "@/core/edits/editPlan";
import { roleRuns, type RunChoice } from "@/core/sensing/roleRuns";
import { mismatchText } from "@/core/sensing/roles";
import type { PlanInput } from "@/core/plan/resolvedPlan";
import { type Conductor, type Meter, type MeterInput, sensingRoleSchema, type SiteNode } from "@/core/site/planSchema";
import { siteTree } from "@/core/site/tree";
import { joined } from "@/core/words";
import { SelectField } from "@/ui/parts/form/SelectField";
import { ROLE_WORDS } from "@/ui/plan/kindWords";
import type { PlanDesk } from "@/ui/plan/usePlan";
import { PLAN_WORDS } from "@/ui/words/planWords";

const SHOWN_AT_FIRST = 4;

/** What the input is for, and every run that it could be round: what each would miss or count wrongly. */
export function RoleChoice({ plan, setup: { meter, input, kit } }: { plan: PlanDesk; setup: PlanInput }) {
  const { site, edit } = plan;
  const [showAll, setShowAll] = useState(false);
  const conductor = input.measures[0]!.conductor;
  const role = input.role ?? "grid";
  const choices = roleRuns(site, { role, of: input.of }, conductor);
  const shown = showAll ? choices : choices.slice(0, SHOWN_AT_FIRST);
  const change = (part: Parameters<typeof changeInput>[2]) => edit(changeInput(meter.id, input.n, part));
  const devices = siteTree(site).runs.filter((node) => node.kind !== "board" && node.kind !== "test-load");
  const named = new Set(input.of ?? []);
  const best = choices.find((choice) => choice.isRight);
  const isSeparate = input.measures.length === 1;
  const canSeparate = best !== undefined && freeInputs(meter, kit) >= best.runs.length - 1;
  return (
    <section aria-label={PLAN_WORDS.roleAndCircuit} className="space-y-2">
      <h4 className="font-bold">{PLAN_WORDS.whatItIsForAndWhereThatIsMeasured}</h4>
      <RoleAndTap input={input} change={change} meter={meter} />
      {input.role && input.role !== "grid" && (
        <OfWhichDevices named={named} input={input} devices={devices} change={change} />
      )}
      <ul className="space-y-1" aria-label={PLAN_WORDS.circuitsFor(conductor)}>
        {shown.map((choice) => {
          const isHere =
            choice.runs.length === input.measures.length &&
            choice.runs.every((run) => input.measures.some((entry) => entry.run === run.id));
          return (
            <RunButton
              key={choice.runs.map((run) => run.id).join(" ")}
              choice={choice}
              isHere={isHere}
              change={change}
              conductor={conductor}
            />
          );
        })}
      </ul>
      {best && best.isRight && best.runs.length > 1 && (
        <TogetherOrSeparate
          isSeparate={isSeparate}
          canSeparate={canSeparate}
          plan={plan}
          meter={meter}
          input={input}
          best={best}
        />
      )}
      {choices.length > SHOWN_AT_FIRST && (
        <button type="button" className="btn btn-sm press" onClick={() => setShowAll(!showAll)}>
          {showAll ? PLAN_WORDS.fewer : PLAN_WORDS.allCircuits(choices.length)}
        </button>
      )}
    </section>
  );
}

function RoleAndTap({
  input,
  change,
  meter,
}: {
  input: MeterInput;
  change: (part: Parameters<typeof changeInput>[2]) => void;
  meter: Meter;
}) {
  return (
    <div className="grid grid-cols-2 gap-2">
      <SelectField
        label={PLAN_WORDS.role}
        value={input.role ?? ""}
        options={[
          { value: "", label: PLAN_WORDS.notSaid },
          ...sensingRoleSchema.options.map((value) => ({ value, label: value })),
        ]}
        hint={input.role && ROLE_WORDS[input.role]}
        onValue={(value) =>
          change(
            value === "" ? { role: undefined, of: undefined } : { role: sensingRoleSchema.parse(value), of: undefined },
          )
        }
      />
      <SelectField
        label={PLAN_WORDS.voltageTap}
        value={input.tap}
        options={Object.entries(meter.taps).map(([tap, phase]) => ({ value: tap, label: PLAN_WORDS.on(tap, phase) }))}
        onValue={(tap) => change({ tap })}
      />
    </div>
  );
}

function OfWhichDevices({
  named,
  input,
  devices,
  change,
}: {
  named: ReadonlySet<string>;
  input: MeterInput;
  devices: readonly SiteNode[];
  change: (part: Parameters<typeof changeInput>[2]) => void;
}) {
  return (
    <details className="text-sm">
      <summary className="link press flex cursor-pointer items-center">
        {PLAN_WORDS.ofWhichDevices(
          named.size === 0
            ? PLAN_WORDS.allOfTheSite(input.role)
            : PLAN_WORDS.only(joined(devices.filter((node) => named.has(node.id)).map((node) => node.name))),
        )}
      </summary>
      <div className="flex flex-wrap gap-1.5">
        {devices.map((node) => (
          <button
            key={node.id}
            type="button"
            aria-pressed={named.has(node.id)}
            className={`btn btn-sm press ${named.has(node.id) ? "btn-neutral" : ""}`}
            onClick={() => {
              const of = named.has(node.id) ? [...named].filter((id) => id !== node.id) : [...named, node.id];
              change({ of: of.length > 0 ? of : undefined });
            }}
          >
            {node.name}
          </button>
        ))}
      </div>
    </details>
  );
}

function RunButton({
  choice,
  isHere,
  change,
  conductor,
}: {
  choice: RunChoice;
  isHere: boolean;
  change: (part: Parameters<typeof changeInput>[2]) => void;
  conductor: Conductor;
}) {
  return (
    <li>
      <button
        type="button"
        aria-pressed={isHere}
        className={
          "press flex w-full items-start gap-2 rounded-md border-2 bg-base-100 px-2 py-1 " +
          `text-left text-sm ${isHere ? "border-primary" : "border-base-300"}`
        }
        onClick={() => change({ measures: choice.runs.map((run) => ({ run: run.id, conductor })) })}
      >
        <Check size={18} aria-hidden className={`mt-0.5 flex-none ${choice.isRight ? "text-success" : "invisible"}`} />
        <span>
          <b>{PLAN_WORDS.of(conductor, joined(choice.runs.map((run) => run.name)))}</b>
          {choice.runs.length > 1 && ` ${PLAN_WORDS.inOneWindow}`}: {mismatchText(choice.mismatch)}
        </span>
      </button>
    </li>
  );
}

function TogetherOrSeparate({
  isSeparate,
  canSeparate,
  plan,
  meter,
  input,
  best,
}: {
  isSeparate: boolean;
  canSeparate: boolean;
  plan: PlanDesk;
  meter: Meter;
  input: MeterInput;
  best: RunChoice;
}) {
  const { edit } = plan;
  return (
    <p className="flex flex-wrap items-center gap-2 text-sm">
      <span className="min-w-0 flex-1">
        {isSeparate ? PLAN_WORDS.nowSeparateACtEachTells : PLAN_WORDS.nowOneWindowForSeveralCircuits}
      </span>
      <button
        type="button"
        className="btn btn-sm press"
        disabled={!canSeparate}
        title={canSeparate ? undefined : PLAN_WORDS.theKitHasNotEnoughFreeInputs}
        onClick={() =>
          edit(
            separateClamps(
              meter.id,
              input.n,
              best.runs.map((run) => run.id),
            ),
          )
        }
      >
        {PLAN_WORDS.aCtEach}
      </button>
    </p>
  );
}
