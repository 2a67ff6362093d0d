"use client";

import type { ExportLimiter } from "@/core/control/exportLimiter";
import { limitEntries } from "@/core/control/limitEntries";
import { limitSettingsSchema } from "@/core/plan/limitSettings";
import type { LimitCost } from "@/core/simulation/limitCost";
import { threeDigits } from "@/core/units";
import { SetPointFields } from "@/ui/limit/SetPointFields";
import { useLimitCost, type LimitDesk } from "@/ui/limit/useLimit";
import { Failure } from "@/ui/parts/show/Failure";
import { FindingLine } from "@/ui/parts/show/FindingLine";
import { NumberField } from "@/ui/parts/form/NumberField";
import { SelectField } from "@/ui/parts/form/SelectField";
import { TextField } from "@/ui/parts/form/TextField";
import { useSay } from "@/ui/parts/browser/useNumberStyle";
import { useFindings } from "@/ui/workspace/workspaceContext";

/** The operator's rule, what follows from it, and every value to type, device by device. */
export function LimitSettingsPart({ desk }: { desk: LimitDesk }) {
  const { limit, plan, limiter, safeW } = desk;
  const findings = useFindings();
  const { result: cost, failure } = useLimitCost(desk);
  const say = useSay();
  if (!limiter) return null;
  const setPointW = limit.setPointW ?? safeW;
  const entries = limit.powerW === undefined ? [] : limitEntries(plan, limiter);
  const kwh = (value: number) => say(`${threeDigits(value)} kWh`);
  return (
    <div className="mx-auto max-w-6xl space-y-4">
      <OperatorsRule desk={desk} />
      {limit.powerW === undefined ? (
        <p>Type the limit that the operator wrote; the values to enter follow from it.</p>
      ) : (
        <>
          <Failure of="What the limit costs" why={failure} />
          <SetPoint setPointW={setPointW} desk={desk} limiter={limiter} cost={cost} kwh={kwh} />
          {findings.open
            .filter(({ stage, code }) => stage === "limit" && code === "limit-entry")
            .map((finding) => (
              <FindingLine key={finding.id} finding={finding} />
            ))}
          {entries.map(({ device, kit, entries: own }) => (
            <section key={device} aria-label={`Values of ${device}`} className="panel p-3">
              <h3 className="font-bold">
                {device} <span className="quiet font-normal">{kit}</span>
              </h3>
              <dl className="mt-1 grid gap-x-4 gap-y-1 sm:grid-cols-[12rem_auto_1fr]">
                {own.map(({ field, value, why, isProblem }) => (
                  <div key={field} className="contents">
                    <dt className="font-semibold">{field}</dt>
                    <dd className={`reading whitespace-normal text-lg font-bold ${isProblem ? "text-error" : ""}`}>
                      {say(value)}
                    </dd>
                    <dd className="quiet text-sm sm:self-center">{say(why)}</dd>
                  </div>
                ))}
              </dl>
            </section>
          ))}
          <p className="caution">
            A limit is for the network operator’s rule and local codes to set; values are typed as the maker’s manual
            says.
          </p>
        </>
      )}
    </div>
  );
}

function SetPoint({
  setPointW,
  desk,
  limiter,
  cost,
  kwh,
}: {
  setPointW: number;
  desk: LimitDesk;
  limiter: ExportLimiter;
  cost: LimitCost | undefined;
  kwh: (value: number) => string;
}) {
  const say = useSay();
  const { limit, safeW } = desk;
  return (
    <section aria-label="Set-point" className="panel space-y-2 p-3">
      <div className="flex flex-wrap items-start gap-3">
        <h3 className="mr-auto text-2xl font-bold">Set-point {say(String(Math.floor(setPointW)))} W</h3>
        <SetPointFields desk={desk} />
      </div>
      <p>
        {say(
          `${limit.powerW} W · (1 − ${limiter.errorPct.toFixed(2)} %) − ${limit.deadBandW} W = ` +
            `${Math.floor(safeW)} W${limit.basis === "sum" ? "" : " on each phase"}: CT and meter may show that much ` +
            "too little, and the controller does nothing within its dead band.",
        )}
      </p>
      {cost && (
        <p>
          {say(
            `In a simulated year of ${threeDigits(cost.sunKwh)} kWh of sun: ${threeDigits(cost.limitKwh)} ` +
              "kWh lost by the limit itself, ",
          )}
          <b>{kwh(cost.marginKwh)} by the margin</b>
          {say(
            limit.basis === "sum"
              ? `, and ${threeDigits(cost.perPhaseKwh)} kWh more if each phase were limited instead of the sum.`
              : `; ${threeDigits(cost.perPhaseKwh)} kWh of it because each phase is limited and not the sum of as ` +
                  "much.",
          )}{" "}
          {cost.holdsAll && "All of it at the limit is more than is ever made. "}
          <span className="quiet text-sm">Place, roof and house are set under Divert.</span>
        </p>
      )}
    </section>
  );
}

function OperatorsRule({ desk }: { desk: LimitDesk }) {
  const { limit, set } = desk;
  return (
    <fieldset className="panel flex flex-wrap items-start gap-3 p-3">
      <legend className="px-1 font-bold">The network operator’s rule</legend>
      <div className="w-40">
        <NumberField
          label="Export limit"
          unit="W"
          least={-0.1}
          most={1e8}
          optional
          value={limit.powerW}
          hint="as written by the operator"
          onValue={(powerW) => set({ powerW: powerW === undefined ? undefined : Math.max(0, powerW) }, "power")}
        />
      </div>
      <div className="w-60">
        <SelectField
          label="On"
          value={limit.basis}
          options={[
            { value: "sum", label: "the sum of the phases" },
            { value: "per-phase", label: "each phase" },
          ]}
          onValue={(basis) => set({ basis: basis === "per-phase" ? "per-phase" : "sum" })}
          hint="both methods exist: by rule and metering"
        />
      </div>
      <div className="w-40">
        <NumberField
          label="Allowed above it"
          unit="s"
          least={-0.1}
          most={3600}
          value={limit.secondsAllowed}
          onValue={(secondsAllowed) =>
            secondsAllowed !== undefined && set({ secondsAllowed: Math.max(0, secondsAllowed) }, "seconds")
          }
        />
      </div>
      <div className="min-w-56 flex-1">
        <TextField
          label="Where the rule stands"
          value={limit.rule}
          schema={limitSettingsSchema.shape.rule.unwrap()}
          placeholder="letter, date"
          onValue={(rule) => set({ rule }, "rule")}
        />
      </div>
    </fieldset>
  );
}
