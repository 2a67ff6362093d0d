"use client";

import { Plus, Trash2 } from "lucide-react";
import { useState } from "react";
import { windowText } from "@/core/job/placeFindings";
import { addInput, addMeter, changeMeter, nextInput, removeMeter } from "@/core/edits/editPlan";
import { resolve } from "@/core/plan/resolve";
import { arrowSchool } from "@/core/sensing/schools";
import { inputTag, meterLetter } from "@/core/site/inputTag";
import { possibleHosts } from "@/core/site/meterHost";
import { sensingRoleSchema, type Meter, type SensingRole, type MeterInput } from "@/core/site/planSchema";
import { nameSchema } from "@/core/names";
import type { PlanInput } from "@/core/plan/resolvedPlan";
import { siteTree } from "@/core/site/tree";
import { cutText } from "@/core/text";
import { FindingMark } from "@/ui/parts/show/FindingMark";
import { CheckField } from "@/ui/parts/form/CheckField";
import { SelectField } from "@/ui/parts/form/SelectField";
import { KitLink } from "@/ui/plan/KitLink";
import { useNewest } from "@/ui/parts/form/useNewest";
import { TextField } from "@/ui/parts/form/TextField";
import { useSay } from "@/ui/parts/browser/useNumberStyle";
import { ROLE_WORDS } from "@/ui/plan/kindWords";
import type { PlanDesk, PlanPick } from "@/ui/plan/usePlan";
import { PLAN_WORDS } from "@/ui/words/planWords";

/** Meters with their inputs; an input opens beside the board, to choose its run, its CT and its method. */
export function MetersEditor({ plan, onPick }: { plan: PlanDesk; onPick: (picked: PlanPick | undefined) => void }) {
  const list = useNewest<HTMLDivElement>(plan.site.meters.length, "[data-meter]");
  return (
    <div ref={list} className="space-y-4">
      {plan.site.meters.map((meter) => (
        <MeterCard key={meter.id} plan={plan} meter={meter} onPick={onPick} />
      ))}
      {plan.site.meters.length === 0 && <p>{PLAN_WORDS.noMeterYetAddOneItsKitSaysHowMany}</p>}
      <AddMeter plan={plan} onPick={onPick} />
    </div>
  );
}

/** No id has a space. */
const ALONE = PLAN_WORDS.byItself;

function MeterCard({
  plan,
  meter,
  onPick,
}: {
  plan: PlanDesk;
  meter: Meter;
  onPick: (picked: PlanPick | undefined) => void;
}) {
  const { site, edit, kitOf, document } = plan;
  const say = useSay();
  const kit = kitOf(meter.kit);
  const setups = resolve(document).meterById.get(meter.id)?.inputs ?? [];
  const last = meter.inputs.at(-1);
  const isFull = nextInput(meter, kit) === undefined;
  return (
    <section aria-label={meter.name} data-meter={meter.id} className="panel bg-base-100 p-2">
      <MeterNameAndPlace plan={plan} meter={meter} />
      {possibleHosts(site, meter).length > 0 && (
        <SelectField
          label={PLAN_WORDS.partOf}
          value={meter.partOf === null ? ALONE : (meter.partOf ?? "")}
          hint={PLAN_WORDS.theDeviceWhoseOwnInputsTheseAre}
          onValue={(host) => edit(changeMeter(meter.id, { partOf: host === ALONE ? null : host || undefined }))}
          options={[
            ...(meter.partOf === undefined ? [{ value: "", label: PLAN_WORDS.nobodySaidYet }] : []),
            ...possibleHosts(site, meter).map(({ id, name }) => ({ value: id, label: name })),
            { value: ALONE, label: PLAN_WORDS.nothingAUnitByItself },
          ]}
        />
      )}
      <CheckField
        checked={meter.existing === true}
        onCheck={(isChecked) => edit(changeMeter(meter.id, { existing: isChecked || undefined }))}
      >
        {PLAN_WORDS.alreadyThereWithItsCTs}
      </CheckField>
      <p className="mt-1 text-sm">
        {kit ? <KitLink kit={kit} /> : PLAN_WORDS.noKit}.{" "}
        <span className="quiet">
          {PLAN_WORDS.classOf(
            Object.entries(meter.taps)
              .map(([tap, phase]) => PLAN_WORDS.on(tap, phase))
              .join(", "),
            say(String(meter.classPct ?? 1)),
          )}
        </span>
      </p>
      <ul className="mt-2 space-y-1">
        {setups.map((setup) => (
          <InputRow key={setup.input.n} setup={setup} plan={plan} onPick={onPick} />
        ))}
      </ul>
      <MeterButtons isFull={isFull} last={last} plan={plan} meter={meter} onPick={onPick} />
    </section>
  );
}

function MeterNameAndPlace({ plan, meter }: { plan: PlanDesk; meter: Meter }) {
  const { site, edit } = plan;
  return (
    <div className="grid grid-cols-2 gap-2">
      <TextField
        label={PLAN_WORDS.meter(meterLetter(site, meter.id))}
        value={meter.name}
        schema={nameSchema}
        onValue={(name) => edit(changeMeter(meter.id, { name }), `${meter.id} name`)}
      />
      <SelectField
        label={PLAN_WORDS.place}
        value={meter.place ?? ""}
        options={[
          { value: "", label: PLAN_WORDS.notSaid },
          ...site.places.map((place) => ({ value: place.id, label: place.name })),
        ]}
        onValue={(place) => edit(changeMeter(meter.id, { place: place || undefined }))}
      />
    </div>
  );
}

function InputRow({
  setup,
  plan,
  onPick,
}: {
  setup: PlanInput;
  plan: PlanDesk;
  onPick: (picked: PlanPick | undefined) => void;
}) {
  const { meter, input } = setup;
  const { site, picked, findings } = plan;
  const say = useSay();
  const isPicked = picked?.kind === "input" && picked.meter === meter.id && picked.input === input.n;
  const own = findings.filter(
    ({ subject, severity }) =>
      subject.kind === "input" && subject.meter === meter.id && subject.input === input.n && severity !== "note",
  );
  const arrow = arrowSchool(setup);
  return (
    <li>
      <button
        type="button"
        aria-pressed={isPicked}
        data-input={inputTag(site, meter.id, input.n)}
        className={
          "press flex w-full items-center gap-2 rounded-md border-2 px-2 py-1 text-left " +
          `text-sm ${isPicked ? "border-primary" : "border-base-300"}`
        }
        onClick={() => onPick(isPicked ? undefined : { kind: "input", meter: meter.id, input: input.n })}
      >
        <span
          className={
            "flex h-9 w-9 flex-none items-center justify-center rounded font-bold " +
            `${isPicked ? "bg-primary text-primary-content" : "bg-base-300"}`
          }
        >
          {inputTag(site, meter.id, input.n)}
        </span>
        <span className="min-w-0 flex-1 leading-snug">
          <span className="block truncate font-semibold">
            {input.role ?? PLAN_WORDS.noRole}: {windowText(site, input.measures)}
          </span>
          <span className="quiet block truncate">
            {PLAN_WORDS.arrow(
              input.builtIn
                ? PLAN_WORDS.insideUpToA(input.primaryA)
                : say(
                    `${Number(input.primaryA.toPrecision(4))} A : ${input.secondary.value} ` +
                      `${input.secondary.unit}`,
                  ),
              arrow.active === "to-load" ? PLAN_WORDS.toLoads : PLAN_WORDS.toGrid,
              arrow.isOverridden ? ` ${PLAN_WORDS.againstTheKit}` : "",
            )}
          </span>
        </span>
        {own[0] && <FindingMark level={own[0].severity} count={own.length} />}
      </button>
    </li>
  );
}

function MeterButtons({
  isFull,
  last,
  plan,
  meter,
  onPick,
}: {
  isFull: boolean;
  last: MeterInput | undefined;
  plan: PlanDesk;
  meter: Meter;
  onPick: (picked: PlanPick | undefined) => void;
}) {
  const { edit } = plan;
  return (
    <div className="mt-2 flex flex-wrap gap-2">
      <button
        type="button"
        className="btn btn-sm press"
        disabled={isFull || !last}
        title={isFull ? PLAN_WORDS.theKitHasNoMoreInputs : undefined}
        onClick={() =>
          last && edit(addInput(meter.id, last.measures[0]!.run, last.measures[0]!.conductor, last.role ?? "grid"))
        }
      >
        <Plus size={16} aria-hidden />
        {PLAN_WORDS.nextInput}
      </button>
      <button
        type="button"
        className="btn btn-sm press"
        onClick={() => {
          onPick(undefined);
          edit(removeMeter(meter.id));
        }}
      >
        <Trash2 size={16} aria-hidden />
        {PLAN_WORDS.removeOf(meter.name)}
      </button>
    </div>
  );
}

function AddMeter({ plan, onPick }: { plan: PlanDesk; onPick: (picked: PlanPick | undefined) => void }) {
  const { site, kits, edit, kitOf } = plan;
  const runs = siteTree(site).runs.filter((node) => node.kind !== "test-load");
  const [kitId, setKitId] = useState("");
  const [run, setRun] = useState("");
  const [role, setRole] = useState<SensingRole>("grid");
  const metering = kits.filter((kit) => kit.metering);
  const chosenRun = runs.some((node) => node.id === run) ? run : (runs[0]?.id ?? "");
  const kit = kitOf(kitId);
  const add = () => {
    if (!kit) return;
    const before = new Set(site.meters.map((meter) => meter.id));
    edit((document) => {
      const after = addMeter({ name: cutText(kit.name, 60), kit, run: chosenRun, role })(document);
      const added = after.site.meters.find((meter) => !before.has(meter.id));
      if (added) onPick({ kind: "input", meter: added.id, input: added.inputs[0]!.n });
      return after;
    });
    setKitId("");
  };
  return (
    <section aria-label={PLAN_WORDS.addAMeter} className="space-y-2">
      <h3 className="font-bold">{PLAN_WORDS.addAMeter}</h3>
      <SelectField
        label={PLAN_WORDS.kit}
        value={kitId}
        options={[
          { value: "", label: PLAN_WORDS.choose },
          ...metering.map((candidate) => ({ value: candidate.id, label: candidate.name })),
        ]}
        onValue={setKitId}
        hint={kit?.summary}
      />
      <div className="grid grid-cols-[1fr_1fr_auto] items-end gap-2">
        <SelectField
          label={PLAN_WORDS.role}
          value={role}
          options={sensingRoleSchema.options.map((value) => ({ value, label: value }))}
          onValue={(value) => setRole(sensingRoleSchema.parse(value))}
        />
        <SelectField
          label={PLAN_WORDS.circuit}
          value={chosenRun}
          options={runs.map((node) => ({ value: node.id, label: node.name }))}
          onValue={setRun}
        />
        <button type="button" className="btn press" disabled={!kit || !chosenRun} onClick={add}>
          <Plus size={18} aria-hidden />
          {PLAN_WORDS.add}
        </button>
      </div>
      <p className="quiet text-sm">{ROLE_WORDS[role]}</p>
    </section>
  );
}
