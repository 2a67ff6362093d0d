import { chainOf } from "@/core/chain/chainOf";
import { seenDevices } from "@/core/chain/seenDevices";
import { saidFaults } from "@/core/flows/cure";
import type { Fault } from "@/core/flows/faults";
import { expectedReadings, sureFaults } from "@/core/flows/expectedReadings";
import type { Diagnosis } from "@/core/flows/diagnose";
import { freshSheet } from "@/core/flows/staleReadings";
import { section, table } from "@/core/handover/report/section";
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
const VERDICT_WORDS: Readonly<Record<Diagnosis["verdict"], string>> = {
  "as-planned": "as planned",
  "faults-found": "faults found",
  ambiguous: "not certain yet",
  "not-explained": "not explained",
  "reading-doubtful": "a reading is doubtful",
};

/** Readings, limit, settings and way online of a report. For example: each step with expected, measured and verdict. */
export function proofSections(
  document: JobDocument,
  plan: ResolvedPlan,
  diagnosis: Diagnosis | undefined,
): readonly ReportSection[] {
  return [
    readingsSection(document, diagnosis),
    limitSection(document),
    settingsSection(document),
    onlineSection(document, plan),
  ];
}

function readingsSection({ site, tests }: JobDocument, diagnosis: Diagnosis | undefined): ReportSection {
  const sheet = freshSheet(site, tests);
  const expected = expectedReadings(site, sheet, sureFaults(diagnosis));
  const tables = sheet.steps.map((step, at) =>
    table(
      `${at + 1}. ${step.label}${step.source === "simulated" ? " (simulated: proves nothing)" : ""}`,
      ["CT", "Expected", "Measured", "Inside"],
      step.readings.map(({ meter, input, powerW }) => {
        const own = expected[at]?.find((one) => one.meter === meter && one.input === input);
        const isInside = own && Math.abs(powerW - own.meanW) <= own.bandW;
        return [
          inputTag(site, meter, input),
          own ? `${inputFlowText(site, meter, input, own.meanW)} ± ${powerText(own.bandW)}` : "",
          inputFlowText(site, meter, input, powerW),
          own ? (isInside ? "yes" : "no") : "",
        ];
      }),
    ),
  );
  const read = sheet.steps.some(({ readings }) => readings.length > 0);
  return section("readings", "Readings", {
    lines: read ? verdictLines(site, diagnosis) : ["Nothing was read."],
    tables,
  });
}

/** The verdict, and how strongly every other explanation is excluded. */
function verdictLines(site: Site, diagnosis: Diagnosis | undefined): readonly string[] {
  if (!diagnosis) return ["Not weighed here: this site takes longer to be judged than a report can wait."];
  const [best, ...others] = diagnosis.hypotheses;
  const said = (faults: readonly Fault[]) => plainText(saidFaults(site, faults));
  const next = others
    .slice(0, MOST_OTHERS)
    .map(({ faults, probability }) => `${said(faults)}: ${percent(probability)}`);
  return [
    `Verdict: ${VERDICT_WORDS[diagnosis.verdict]}.`,
    ...(best ? [`Likeliest: ${said(best.faults)}, ${percent(best.probability)}.`] : []),
    ...(next.length > 0 ? [`Other explanations: ${next.join("; ")}.`] : []),
  ];
}

/** Whoever reads it wants to know whether it counts, not how many zeros it has. */
function percent(probability: number): string {
  const value = 100 * probability;
  return value < LEAST_PERCENT ? `less than ${LEAST_PERCENT} %` : `${threeDigits(value)} %`;
}

function limitSection({ limit }: JobDocument): ReportSection {
  if (limit.powerW === undefined) return section("limit", "Export limit", { lines: ["No limit is set."] });
  const basis = limit.basis === "sum" ? "on the sum of the phases" : "on each phase";
  return section("limit", "Export limit", {
    lines: [
      `${limit.powerW} W ${basis}, above it for at most ${limit.secondsAllowed} s.`,
      ...(limit.rule === "" ? [] : [`Rule: ${limit.rule}.`]),
      ...(limit.setPointW === undefined ? [] : [`Set-point typed: ${limit.setPointW} W.`]),
    ],
    tables: [
      table(
        "Step tests",
        ["Test", "When", "Who", "Verdict", "Largest", "Settled"],
        limit.proofs.map(({ label, at, person, verdict, maxExportW, settledExportW, onBench }) => [
          `${label}${onBench ? " (on the bench: proves nothing)" : ""}`,
          momentText(at),
          person,
          verdict,
          powerText(maxExportW),
          powerText(settledExportW),
        ]),
      ),
      table(
        "Without the meter",
        ["When", "Who", "Verdict", "Took", "From", "To"],
        limit.fallbackTests.map(({ at, person, verdict, seconds, beforeW, afterW, onBench }) => [
          `${momentText(at)}${onBench ? " (on the bench: proves nothing)" : ""}`,
          person,
          verdict,
          seconds === undefined ? "" : `${threeDigits(seconds)} s`,
          powerText(beforeW),
          powerText(afterW),
        ]),
      ),
    ],
    courses: limit.proofs.slice(-2).map(({ label, tS, exportW, limitW }) => ({
      title: `Export, ${label}`,
      unit: "W",
      tS,
      values: exportW,
      mark: { value: limitW, words: `limit ${limitW} W` },
    })),
  });
}

function settingsSection(document: JobDocument): ReportSection {
  const rows = document.readBacks.flatMap(({ id, values }) =>
    readBack(document, id, values, undefined).map(({ what, unit, planned, read, isDifferent }) => [
      id,
      what,
      planned === undefined ? "not said" : `${planned} ${unit}`.trim(),
      `${read} ${unit}`.trim(),
      isDifferent ? "differs" : "the same",
    ]),
  );
  return section("settings", "Settings read back", {
    lines: rows.length === 0 ? ["Nothing was read back."] : [],
    tables: [table("", ["Device", "Setting", "Planned or typed", "Read", ""], rows)],
  });
}

/** How far each device is seen; never a passphrase. */
function onlineSection(document: JobDocument, plan: ResolvedPlan): ReportSection {
  const rows = seenDevices(plan).map((seen) => {
    const { proved, record } = chainOf(seen, plan, document.online, 0);
    return [
      seen.device.name,
      seen.way === undefined ? "no way" : wayName(seen.way),
      seen.through?.name ?? "",
      proved === null ? "nothing" : rungName(proved),
      record.ownerSeesAt === undefined ? "" : momentText(record.ownerSeesAt),
    ];
  });
  return section("online", "Online", {
    tables: [table("", ["Device", "Way", "Through", "Proved", "The owner saw it"], rows)],
  });
}
