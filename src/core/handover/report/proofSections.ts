import { chainOf } from "@/core/chain/chainOf";
import { seenDevices } from "@/core/chain/seenDevices";
import { saidFaults } from "@/core/flows/cure";
import type { Fault } from "@/core/flows/faults";
import { expectedReadings, sureFaults } from "@/core/flows/expectedReadings";
import type { Diagnosis } from "@/core/flows/diagnose";
import { freshSheet } from "@/core/flows/staleReadings";
import { section, table } from "@/core/handover/report/section";
import type { ReportWords } from "@/core/handover/report/words/reportWords";
import type { ReportSection } from "@/core/handover/report/reportSchema";
import type { JobDocument } from "@/core/job/jobDocument";
import { readBack } from "@/core/live/readBack";
import { rungName } from "@/core/online/rungs";
import { wayName } from "@/core/online/ways";
import type { ResolvedPlan } from "@/core/plan/resolvedPlan";
import { plainText } from "@/core/sentence";
import type { Site } from "@/core/site/planSchema";
import { momentText } from "@/core/momentText";
import { inputFlowText } from "@/core/site/inputFlowText";
import { inputTag } from "@/core/site/inputTag";
import { powerText, threeDigits } from "@/core/units";

const MOST_OTHERS = 3;
const LEAST_PERCENT = 0.1;

/** Readings, limit, settings and way online of a report. For example: each step with expected, measured and verdict. */
export function proofSections(
  document: JobDocument,
  plan: ResolvedPlan,
  diagnosis: Diagnosis | undefined,
  words: ReportWords,
): readonly ReportSection[] {
  return [
    readingsSection(document, diagnosis, words),
    limitSection(document, words),
    settingsSection(document, words),
    onlineSection(document, plan, words),
  ];
}

function readingsSection(
  { site, tests }: JobDocument,
  diagnosis: Diagnosis | undefined,
  words: ReportWords,
): ReportSection {
  const sheet = freshSheet(site, tests);
  const expected = expectedReadings(site, sheet, sureFaults(diagnosis));
  const tables = sheet.steps.map((step, at) =>
    table(
      `${at + 1}. ${step.label}${step.source === "simulated" ? ` (${words.simulatedStep})` : ""}`,
      words.heads.readings,
      step.readings.map(({ meter, input, powerW }) => {
        const own = expected[at]?.find((one) => one.meter === meter && one.input === input);
        const isInside = own && Math.abs(powerW - own.meanW) <= own.bandW;
        return [
          inputTag(site, meter, input),
          own ? `${inputFlowText(site, meter, input, own.meanW)} ± ${powerText(own.bandW)}` : "",
          inputFlowText(site, meter, input, powerW),
          own ? words.yesNo(isInside === true) : "",
        ];
      }),
    ),
  );
  const read = sheet.steps.some(({ readings }) => readings.length > 0);
  return section("readings", words.parts.readings, {
    lines: read ? verdictLines(site, diagnosis, words) : [words.nothingRead],
    tables,
  });
}

/** The verdict, and how strongly every other explanation is excluded. */
function verdictLines(site: Site, diagnosis: Diagnosis | undefined, words: ReportWords): readonly string[] {
  if (!diagnosis) return [words.notWeighed];
  const [best, ...others] = diagnosis.hypotheses;
  const said = (faults: readonly Fault[]) => plainText(saidFaults(site, faults));
  const next = others
    .slice(0, MOST_OTHERS)
    .map(({ faults, probability }) => `${said(faults)}: ${percent(probability, words)}`);
  return [
    words.verdict(diagnosis.verdict),
    ...(best ? [words.likeliest(said(best.faults), percent(best.probability, words))] : []),
    ...(next.length > 0 ? [words.others(next.join("; "))] : []),
  ];
}

/** Whoever reads it wants to know whether it counts, not how many zeros it has. */
function percent(probability: number, words: ReportWords): string {
  const value = 100 * probability;
  return value < LEAST_PERCENT ? words.lessThan(LEAST_PERCENT) : `${threeDigits(value)} %`;
}

function limitSection({ limit }: JobDocument, words: ReportWords): ReportSection {
  const { parts, heads, tables } = words;
  if (limit.powerW === undefined) return section("limit", parts.limit, { lines: [words.noLimit] });
  return section("limit", parts.limit, {
    lines: [
      words.limit(limit.powerW, limit.basis, limit.secondsAllowed),
      ...(limit.rule === "" ? [] : [words.rule(limit.rule)]),
      ...(limit.setPointW === undefined ? [] : [words.setPoint(limit.setPointW)]),
    ],
    tables: [
      table(
        tables.stepTests,
        heads.stepTests,
        limit.proofs.map(({ label, at, person, verdict, maxExportW, settledExportW, onBench }) => [
          `${label}${onBench ? ` (${words.onBench})` : ""}`,
          momentText(at),
          person,
          words.stepVerdicts[verdict],
          powerText(maxExportW),
          powerText(settledExportW),
        ]),
      ),
      table(
        tables.withoutMeter,
        heads.withoutMeter,
        limit.fallbackTests.map(({ at, person, verdict, seconds, beforeW, afterW, onBench }) => [
          `${momentText(at)}${onBench ? ` (${words.onBench})` : ""}`,
          person,
          words.fallbackVerdicts[verdict],
          seconds === undefined ? "" : `${threeDigits(seconds)} s`,
          powerText(beforeW),
          powerText(afterW),
        ]),
      ),
    ],
    courses: limit.proofs.slice(-2).map(({ label, tS, exportW, limitW }) => ({
      title: words.exportOf(label),
      unit: "W",
      tS,
      values: exportW,
      mark: { value: limitW, words: words.limitMark(limitW) },
    })),
  });
}

function settingsSection(document: JobDocument, words: ReportWords): ReportSection {
  const rows = document.readBacks.flatMap(({ id, values }) =>
    readBack(document, id, values, undefined).map(({ what, unit, planned, read, isDifferent }) => [
      id,
      what,
      planned === undefined ? words.notSaid : `${planned} ${unit}`.trim(),
      `${read} ${unit}`.trim(),
      words.compared(isDifferent),
    ]),
  );
  return section("settings", words.parts.settings, {
    lines: rows.length === 0 ? [words.notReadBack] : [],
    tables: [table("", words.heads.settings, rows)],
  });
}

/** How far each device is seen; never a passphrase. */
function onlineSection(document: JobDocument, plan: ResolvedPlan, words: ReportWords): ReportSection {
  const rows = seenDevices(plan).map((seen) => {
    const { proved, record } = chainOf(seen, plan, document.online, 0);
    return [
      seen.device.name,
      seen.way === undefined ? words.noWay : wayName(seen.way),
      seen.through?.name ?? "",
      proved === null ? words.nothing : rungName(proved),
      record.ownerSeesAt === undefined ? "" : momentText(record.ownerSeesAt),
    ];
  });
  return section("online", words.parts.online, {
    tables: [table("", words.heads.online, rows)],
  });
}
