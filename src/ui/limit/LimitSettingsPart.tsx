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
import { LIMIT_WORDS } from "@/ui/words/limitWords";

/** The operator's rule, what follows from it, and every value to type, device by device. */
export function LimitSettingsPart({ desk }: { desk: LimitDesk }) {
  const { limit, plan, limiter, safeW } = desk;
  const findings = useFindings();
  const { result: cost, failure } = useLimitCost(desk);
  const say = useSay();
  if (!limiter) return null;
  const setPointW = limit.setPointW ?? safeW;
  const entries = limit.powerW === undefined ? [] : limitEntries(plan, limiter);
  const kwh = (value: number) => say(LIMIT_WORDS.kWh(threeDigits(value)));
  return (
    <div className="mx-auto max-w-6xl space-y-4">
      <OperatorsRule desk={desk} />
      {limit.powerW === undefined ? (
        <p>{LIMIT_WORDS.typeTheLimitThatTheOperatorWrote}</p>
      ) : (
        <>
          <Failure of={LIMIT_WORDS.whatTheLimitCosts} why={failure} />
          <SetPoint setPointW={setPointW} desk={desk} limiter={limiter} cost={cost} kwh={kwh} />
          {findings.open
            .filter(({ stage, code }) => stage === "limit" && code === "limit-entry")
            .map((finding) => (
              <FindingLine key={finding.id} finding={finding} />
            ))}
          {entries.map(({ device, kit, entries: own }, at) => (
            <section key={`${at} ${device}`} aria-label={LIMIT_WORDS.valuesOf(device)} className="panel p-3">
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
          <p className="caution">{LIMIT_WORDS.aLimitIsForTheNetworkOperatorsRule}</p>
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
    <section aria-label={LIMIT_WORDS.setPoint} className="panel space-y-2 p-3">
      <div className="flex flex-wrap items-start gap-3">
        <h3 className="mr-auto text-2xl font-bold">{LIMIT_WORDS.setPointW(say(String(Math.floor(setPointW))))}</h3>
        <SetPointFields desk={desk} />
      </div>
      <p>
        {say(
          LIMIT_WORDS.w1WWCtAndMeterMayShowThatMuchToo(
            limit.powerW,
            limiter.errorPct.toFixed(2),
            limit.deadBandW,
            Math.floor(safeW),
            limit.basis === "sum" ? "" : ` ${LIMIT_WORDS.onEachPhase}`,
          ),
        )}
      </p>
      {cost && (
        <p>
          {say(LIMIT_WORDS.inASimulatedYearOfKWhOfSunKWhLost(threeDigits(cost.sunKwh), threeDigits(cost.limitKwh)))}
          <b>{LIMIT_WORDS.byTheMargin(kwh(cost.marginKwh))}</b>
          {say(
            limit.basis === "sum"
              ? LIMIT_WORDS.andKWhMoreIfEachPhaseWereLimited(threeDigits(cost.perPhaseKwh))
              : LIMIT_WORDS.kWhOfItBecauseEachPhaseIsLimited(threeDigits(cost.perPhaseKwh)),
          )}{" "}
          {cost.holdsAll && `${LIMIT_WORDS.allOfItAtTheLimitIsMoreThanIsEver} `}
          <span className="quiet text-sm">{LIMIT_WORDS.placeRoofAndHouseAreSetUnderDivert}</span>
        </p>
      )}
    </section>
  );
}

function OperatorsRule({ desk }: { desk: LimitDesk }) {
  const { limit, set } = desk;
  return (
    <fieldset className="panel flex flex-wrap items-start gap-3 p-3">
      <legend className="px-1 font-bold">{LIMIT_WORDS.theNetworkOperatorsRule}</legend>
      <div className="w-40">
        <NumberField
          label={LIMIT_WORDS.exportLimit}
          unit="W"
          least={-0.1}
          most={1e8}
          optional
          value={limit.powerW}
          hint={LIMIT_WORDS.asWrittenByTheOperator}
          onValue={(powerW) => set({ powerW: powerW === undefined ? undefined : Math.max(0, powerW) }, "power")}
        />
      </div>
      <div className="w-60 max-w-full">
        <SelectField
          label={LIMIT_WORDS.on}
          value={limit.basis}
          options={[
            { value: "sum", label: LIMIT_WORDS.theSumOfThePhases },
            { value: "per-phase", label: LIMIT_WORDS.eachPhase },
          ]}
          onValue={(basis) => set({ basis: basis === "per-phase" ? "per-phase" : "sum" })}
          hint={LIMIT_WORDS.bothMethodsExistByRuleAndMetering}
        />
      </div>
      <div className="w-40">
        <NumberField
          label={LIMIT_WORDS.allowedAboveIt}
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
          label={LIMIT_WORDS.whereTheRuleStands}
          value={limit.rule}
          schema={limitSettingsSchema.shape.rule.unwrap()}
          placeholder={LIMIT_WORDS.letterDate}
          onValue={(rule) => set({ rule }, "rule")}
        />
      </div>
    </fieldset>
  );
}
