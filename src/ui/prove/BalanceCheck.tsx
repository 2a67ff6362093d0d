"use client";

import { CircleAlert, CircleCheck, X } from "lucide-react";
import {
  balance,
  balanceRoleSchema,
  type BalanceRole,
  type ShownValue,
  type BalanceResult,
} from "@/core/flows/balance";
import { PowerField } from "@/ui/parts/form/PowerField";
import { useEditor, useJob } from "@/ui/workspace/workspaceContext";
import { PROVE_WORDS } from "@/ui/words/proveWords";

const SIGN_WORDS: Readonly<Record<BalanceRole, { source: string; sink: string }>> = {
  grid: { source: PROVE_WORDS.importing, sink: PROVE_WORDS.exporting },
  solar: { source: PROVE_WORDS.generating, sink: PROVE_WORDS.consuming },
  battery: { source: PROVE_WORDS.discharging, sink: PROVE_WORDS.charging },
  house: { source: PROVE_WORDS.feedingBack, sink: PROVE_WORDS.consuming },
  heater: { source: PROVE_WORDS.feedingBack, sink: PROVE_WORDS.consuming },
  vehicle: { source: PROVE_WORDS.discharging, sink: PROVE_WORDS.charging },
};

const RESOLUTIONS_W = [
  { value: 1, text: "1 W" },
  { value: 10, text: "0.01 kW" },
  { value: 100, text: "0.1 kW" },
];

/** Whether the values that displays show at one moment add up, and what it looks like when they do not. */
export function BalanceCheck() {
  const editor = useEditor();
  const job = useJob();
  const { displays } = job.document;
  const put = (values: ShownValue[], field?: string) =>
    editor.edit((document) => ({ ...document, displays: values }), field);
  const change = (at: number, part: Partial<ShownValue>, field: string) =>
    put(displays.with(at, { ...displays[at]!, ...part }), `display ${at} ${field}`);
  const free = balanceRoleSchema.options.filter((role) => !displays.some((value) => value.role === role));
  const result = displays.length >= 2 ? balance(displays) : undefined;
  const isGood = result?.verdict === "balances" || result?.verdict === "within-rounding";

  return (
    <details className="panel p-3" open={displays.length > 0 || undefined}>
      <summary className="press flex cursor-pointer items-center font-bold">{PROVE_WORDS.doTheDisplaysAddUp}</summary>
      <div className="mt-2 space-y-2">
        <p className="text-sm">{PROVE_WORDS.typeWhatTheDisplaysShowAtOneMoment}</p>
        {displays.map((value, at) => (
          <DisplayRow key={value.role} value={value} change={change} at={at} put={put} displays={displays} />
        ))}
        {free.length > 0 && <AddDisplay put={put} displays={displays} free={free} />}
        {result && <BalanceLine isGood={isGood} result={result} />}
      </div>
    </details>
  );
}

function DisplayRow({
  value,
  change,
  at,
  put,
  displays,
}: {
  value: ShownValue;
  change: (at: number, part: Partial<ShownValue>, field: string) => void;
  at: number;
  put: (values: ShownValue[], field?: string) => void;
  displays: readonly ShownValue[];
}) {
  return (
    <div className="grid grid-cols-[4.5rem_1fr_1fr_44px] items-start gap-1.5 max-sm:grid-cols-[1fr_1fr_44px]">
      <span className="pt-2.5 font-semibold capitalize max-sm:col-span-3 max-sm:pt-0">{value.role}</span>
      <span>
        <PowerField
          label={PROVE_WORDS.shown(value.role)}
          powerW={value.shownW}
          onPower={(shownW) => change(at, { shownW: shownW ?? 0 }, "shown")}
        />
      </span>
      <select
        aria-label={PROVE_WORDS.whatPositiveMeansFor(value.role)}
        className="field"
        value={value.positive}
        onChange={(event) => change(at, { positive: event.target.value === "source" ? "source" : "sink" }, "sign")}
      >
        <option value="source">{PROVE_WORDS.is(SIGN_WORDS[value.role].source)}</option>
        <option value="sink">{PROVE_WORDS.isOf(SIGN_WORDS[value.role].sink)}</option>
      </select>
      <button type="button" className="btn btn-ghost press px-2" onClick={() => put(displays.toSpliced(at, 1))}>
        <X size={18} aria-hidden />
        <span className="sr-only">{PROVE_WORDS.takeOut(value.role)}</span>
      </button>
      <DisplayPrecision value={value} change={change} at={at} />
    </div>
  );
}

function DisplayPrecision({
  value,
  change,
  at,
}: {
  value: ShownValue;
  change: (at: number, part: Partial<ShownValue>, field: string) => void;
  at: number;
}) {
  return (
    <>
      <label className="col-start-2 flex items-center gap-2 text-sm max-sm:col-start-1">
        {PROVE_WORDS.lastDigit}
        <select
          aria-label={PROVE_WORDS.lastDigitOf(value.role)}
          className="field"
          value={value.resolutionW}
          onChange={(event) => change(at, { resolutionW: Number(event.target.value) }, "digit")}
        >
          {RESOLUTIONS_W.map(({ value: resolutionW, text }) => (
            <option key={text} value={resolutionW}>
              {text}
            </option>
          ))}
        </select>
      </label>
      <label className="flex items-center gap-2 text-sm">
        {PROVE_WORDS.readAt}
        <select
          aria-label={PROVE_WORDS.whenWasRead(value.role)}
          className="field"
          value={value.atS}
          onChange={(event) => change(at, { atS: Number(event.target.value) }, "time")}
        >
          {[0, 5, 10, 30, 60, 120, 300].map((atS) => (
            <option key={atS} value={atS}>
              {atS === 0 ? PROVE_WORDS.theStart : PROVE_WORDS.sLater(atS)}
            </option>
          ))}
        </select>
      </label>
    </>
  );
}

function AddDisplay({
  put,
  displays,
  free,
}: {
  put: (values: ShownValue[], field?: string) => void;
  displays: readonly ShownValue[];
  free: readonly BalanceRole[];
}) {
  return (
    <select
      aria-label={PROVE_WORDS.addADisplay}
      className="field max-w-xs"
      value=""
      onChange={(event) => {
        const role = balanceRoleSchema.safeParse(event.target.value);
        if (!role.success) return;
        const isLoad = role.data === "house" || role.data === "heater" || role.data === "vehicle";
        put([
          ...displays,
          { role: role.data, shownW: 0, positive: isLoad ? "sink" : "source", resolutionW: 10, atS: 0 },
        ]);
      }}
    >
      <option value="">{PROVE_WORDS.addADisplayTitle}</option>
      {free.map((role) => (
        <option key={role} value={role}>
          {role}
        </option>
      ))}
    </select>
  );
}

function BalanceLine({ isGood, result }: { isGood: boolean; result: BalanceResult }) {
  return (
    <p role="status" className={`flex items-start gap-2 font-semibold ${isGood ? "text-success" : "text-warning"}`}>
      {isGood ? (
        <CircleCheck size={20} className="mt-0.5 flex-none" aria-hidden />
      ) : (
        <CircleAlert size={20} className="mt-0.5 flex-none" aria-hidden />
      )}
      {result.text}
    </p>
  );
}
