"use client";

import { useMemo, useState } from "react";
import { responseTexts, SCENARIOS, type ScenarioId } from "@/core/control/exportLimiter";
import type { ExportLimitResult } from "@/core/simulation/exportLimitSchema";
import type { SiteNode } from "@/core/site/planSchema";
import { powerText, threeDigits } from "@/core/units";
import { CheckField } from "@/ui/parts/form/CheckField";
import { SetPointFields } from "@/ui/limit/SetPointFields";
import { EventList } from "@/ui/limit/EventList";
import { useExportTrace, useScenario, type LimitDesk } from "@/ui/limit/useLimit";
import { Failure } from "@/ui/parts/show/Failure";
import { FindingLine } from "@/ui/parts/show/FindingLine";
import type { ChartLine } from "@/ui/parts/show/chartOptions";
import { LineChart } from "@/ui/parts/show/LineChart";
import { NumberField } from "@/ui/parts/form/NumberField";
import { SelectField } from "@/ui/parts/form/SelectField";
import { useSay, useThreeDigits } from "@/ui/parts/browser/useNumberStyle";
import { LIMIT_WORDS } from "@/ui/words/limitWords";

export const LIMIT_VERDICTS: Readonly<Record<ExportLimitResult["verdict"], string>> = {
  holds: LIMIT_WORDS.itHolds,
  "too-long": LIMIT_WORDS.aboveTheLimitForTooLong,
  "too-high": LIMIT_WORDS.itSettlesAboveTheLimit,
  hunts: LIMIT_WORDS.itHunts,
};
const BUDGET = [
  ["sampling", LIMIT_WORDS.meterSamples],
  ["transport", LIMIT_WORDS.busAndRadio],
  ["controller", LIMIT_WORDS.controller],
  ["deadTime", LIMIT_WORDS.deadTimeOfTheInverter],
  ["lag", LIMIT_WORDS.lagOfTheInverter],
] as const;

/**
 * A scenario in time: grid, inverters, what the controller believes; the verdict, where the delay comes from, how much
 * gain it bears.
 */
export function LimitSimulation({ desk }: { desk: LimitDesk }) {
  const { limit } = desk;
  const [scenario, setScenario] = useState<ScenarioId>("load-drop");
  const [chosenView, setView] = useState<string | undefined>();
  // What the limit is on is what is looked at first.
  const view = chosenView ?? (limit.basis === "per-phase" ? "phases" : "sum");
  const [withOthers, setWithOthers] = useState(false);
  const request = useScenario(desk, scenario, withOthers);
  const others = desk.document.site.nodes.filter(
    ({ kind, ratedW }) => (kind === "battery-inverter" || kind === "diverter") && ratedW !== undefined,
  );
  const { result, isBusy, failure } = useExportTrace(request);
  const { nodes } = desk.document.site;
  const lines = useMemo(() => (result ? traceLines(result.series, view, nodes) : []), [result, view, nodes]);
  if (limit.powerW === undefined)
    return <p className="mx-auto max-w-6xl">{LIMIT_WORDS.typeTheLimitUnderSettingsFirst}</p>;
  return (
    <div className="mx-auto max-w-6xl space-y-4">
      <ScenarioFields
        scenario={scenario}
        setScenario={setScenario}
        view={view}
        setView={setView}
        desk={desk}
        result={result}
      />
      {others.length > 0 && (
        <CheckField checked={withOthers} onCheck={(isChecked) => setWithOthers(isChecked)}>
          {LIMIT_WORDS.actOnTheGridTooWithoutThisThey(others.map(({ name }) => name).join(" and "))}
        </CheckField>
      )}
      {scenario === "own" && <EventList desk={desk} />}
      <LimitVerdict isBusy={isBusy} failure={failure} result={result} />
      {result && <TraceCharts result={result} lines={lines} view={view} limit={limit} />}
      {result && <DelayBudget result={result} desk={desk} />}
    </div>
  );
}

/** The trace; phase by phase each has a chart of its own with its limit, since three lines over one cross. */
function TraceCharts({
  result: { series, verdict },
  lines,
  view,
  limit: { powerW = 0, basis },
}: {
  result: ExportLimitResult;
  lines: readonly ChartLine[];
  view: string;
  limit: LimitDesk["limit"];
}) {
  const say = useSay();
  const label = LIMIT_WORDS.gridAndInvertersOverTime(LIMIT_VERDICTS[verdict]);
  const mark = { value: -powerW, words: say(LIMIT_WORDS.limit(powerText(powerW))) };
  const isMarked = view === (basis === "sum" ? "sum" : "phases");
  const shared = { at: series.tS, unit: "W", atUnit: "s", ...(isMarked ? { mark } : {}) };
  if (view === "phases") return lines.map((line) => <PhaseChart key={line.name} line={line} shared={shared} />);
  return (
    <>
      <LineChart label={label} lines={lines} heightPx={320} {...shared} />
      {basis === "per-phase" && view === "sum" && (
        <p className="quiet text-sm">{LIMIT_WORDS.theLimitIsOnEachPhaseChoose}</p>
      )}
    </>
  );
}

function PhaseChart({
  line,
  shared,
}: {
  line: ChartLine;
  shared: Pick<Parameters<typeof LineChart>[0], "at" | "unit" | "atUnit" | "mark">;
}) {
  const lines = useMemo(() => [line], [line]);
  return <LineChart label={LIMIT_WORDS.overTime(line.name)} lines={lines} heightPx={200} {...shared} />;
}

/** The trace as lines: grid and actors, each phase, or each inverter. */
function traceLines(
  series: ExportLimitResult["series"],
  view: string,
  nodes: readonly SiteNode[],
): readonly ChartLine[] {
  const { gridW, inverterW, inverters, seenW, phaseW, batteryW, diverterW } = series;
  if (view === "inverters")
    return Object.entries(inverters).map(([id, values]) => ({
      name: nodes.find((node) => node.id === id)?.name ?? id,
      values,
    }));
  if (view === "phases") return Object.entries(phaseW).map(([phase, values]) => ({ name: `grid ${phase}`, values }));
  return [
    { name: LIMIT_WORDS.gridImporting, values: gridW, width: 3.5 },
    { name: LIMIT_WORDS.invertersGenerating, values: inverterW },
    { name: LIMIT_WORDS.gridAsTheControllerSeesIt, values: seenW },
    ...(batteryW.some(Boolean) ? [{ name: LIMIT_WORDS.battery, values: batteryW }] : []),
    ...(diverterW.some(Boolean) ? [{ name: LIMIT_WORDS.diverter, values: diverterW }] : []),
  ];
}

function ScenarioFields({
  scenario,
  setScenario,
  view,
  setView,
  desk,
  result,
}: {
  scenario: ScenarioId;
  setScenario: (next: ScenarioId) => void;
  view: string;
  setView: (next: string) => void;
  desk: LimitDesk;
  result: ExportLimitResult | undefined;
}) {
  const { limit, set } = desk;
  return (
    <div className="flex flex-wrap items-start gap-3">
      <div className="w-44">
        <SelectField
          label={LIMIT_WORDS.whatHappens}
          value={scenario}
          options={SCENARIOS.map(({ id, name }) => ({ value: id, label: name }))}
          onValue={(id) => setScenario(SCENARIOS.find((own) => own.id === id)?.id ?? "load-drop")}
        />
      </div>
      <div className="w-48">
        <SelectField
          label={LIMIT_WORDS.show}
          value={view}
          options={[
            { value: "sum", label: LIMIT_WORDS.sumAndInverters },
            { value: "phases", label: LIMIT_WORDS.eachPhase },
            { value: "inverters", label: LIMIT_WORDS.eachInverter },
          ]}
          onValue={setView}
        />
      </div>
      <div className="w-36">
        <NumberField
          label={LIMIT_WORDS.gain}
          unit="1/s"
          most={1000}
          value={limit.gainPerS}
          {...(result ? { hint: LIMIT_WORDS.huntsAbove(threeDigits(result.maxStableGainPerS)) } : {})}
          onValue={(gainPerS) => gainPerS !== undefined && set({ gainPerS }, "gain")}
        />
      </div>
      <SetPointFields desk={desk} />
    </div>
  );
}

function LimitVerdict({
  isBusy,
  failure,
  result,
}: {
  isBusy: boolean;
  failure: string | undefined;
  result: ExportLimitResult | undefined;
}) {
  const three = useThreeDigits();
  const say = useSay();
  return (
    <div role="status" aria-label={LIMIT_WORDS.whetherItHolds} aria-busy={isBusy}>
      <Failure of={LIMIT_WORDS.thisScenario} why={failure} />
      {!result ? (
        failure === undefined && <p>{LIMIT_WORDS.simulating}</p>
      ) : (
        <>
          <p className={`text-2xl font-bold ${result.verdict === "holds" ? "text-success" : "text-error"}`}>
            {LIMIT_VERDICTS[result.verdict]}
          </p>
          <p>
            {LIMIT_WORDS.largestExport} <b className="reading">{say(powerText(result.maxExportW))}</b>
            {LIMIT_WORDS.aboveTheLimitFor}
            <b className="reading">{three(result.longestOverS)} s</b>{" "}
            {LIMIT_WORDS.atATimeAndSInAllSettledAt(three(result.secondsOver))}{" "}
            <b className="reading">{say(powerText(result.settledExportW))}</b>
            {LIMIT_WORDS.worstOn(result.worstPhase)}
            {result.fallbackS !== null && (
              <>
                {LIMIT_WORDS.afterTheMeterIsLost} <b className="reading">{three(result.fallbackS)} s</b>{" "}
                {LIMIT_WORDS.toTheFallback}
              </>
            )}
          </p>
          {result.findings.map((finding) => (
            <FindingLine key={finding.id} finding={finding} />
          ))}
        </>
      )}
    </div>
  );
}

/** Where the delay comes from, and how much gain it bears. */
function DelayBudget({ result, desk }: { result: ExportLimitResult; desk: LimitDesk }) {
  const three = useThreeDigits();
  const say = useSay();
  return (
    <section aria-label={LIMIT_WORDS.delay} className="panel p-3">
      <h3 className="font-bold">
        {LIMIT_WORDS.fromTheGridToTheInvertersMsUp(three(result.delayBudgetMs.total), three(result.maxStableGainPerS))}
      </h3>
      <ul className="mt-2 space-y-1">
        {BUDGET.map(([key, name]) => (
          <li
            key={key}
            className={
              "grid grid-cols-[11rem_1fr_5rem] items-center gap-2 text-sm " + "max-md:grid-cols-[8rem_1fr_4.5rem]"
            }
          >
            <span>
              {name}
              {result.delayBudgetMs.dominant === key && <b>{LIMIT_WORDS.most}</b>}
            </span>
            <span className="h-5">
              <span
                className={
                  "block h-full border border-base-content " +
                  `${result.delayBudgetMs.dominant === key ? "bg-primary" : "bg-neutral"}`
                }
                style={{ width: `${(100 * result.delayBudgetMs[key]) / Math.max(1, result.delayBudgetMs.total)}%` }}
              />
            </span>
            <span className="reading text-right">{LIMIT_WORDS.ms(three(result.delayBudgetMs[key]))}</span>
          </li>
        ))}
      </ul>
      <p className="quiet mt-1 text-sm">
        {LIMIT_WORDS.busAndRadioComeFromWireTiming}
        {desk.limiter &&
          say(
            LIMIT_WORDS.msUntilAReadingIsThereMsUntil(
              threeDigits(desk.limiter.readingMs),
              threeDigits(desk.limiter.commandMs),
            ),
          )}
        .{" "}
        {desk.limiter &&
          responseTexts(desk.plan, desk.limiter).map((text) => (
            <span key={text} className="block">
              {say(text)}.
            </span>
          ))}
      </p>
    </section>
  );
}
