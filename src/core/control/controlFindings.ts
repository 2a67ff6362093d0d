import { figure, said, together } from "@/core/sentence";
import type { Finding } from "@/core/findings";
import { diversionRequestSchema } from "@/core/simulation/diversionSchema";
import { exportLimitRequestSchema } from "@/core/simulation/exportLimitSchema";
import { sunSeries, usualAzimuthDeg } from "@/core/simulation/sun";
import { limitFinding } from "@/core/simulation/limitFinding";
import { backupChecks } from "@/core/control/backupChecks";
import { divertFinding } from "@/core/control/divertFinding";
import { heaterChecks } from "@/core/control/heaterChecks";
import { hubChecks } from "@/core/control/hubChecks";
import { limitEntries } from "@/core/control/limitEntries";
import { diversionOfPlan } from "@/core/control/divertOfPlan";
import { exportLimiter, limitLacks, limitRequest } from "@/core/control/exportLimiter";
import { standingProof, unprovenPhases } from "@/core/control/stepTest";
import { sightFindings } from "@/core/control/whoSeesWhat";
import { given } from "@/core/given";
import type { LimitSettings } from "@/core/plan/limitSettings";
import type { Check, ResolvedPlan } from "@/core/plan/resolvedPlan";
import { joined } from "@/core/words";
import { rangeFindings } from "@/core/rangeFindings";

/** From here on a field looks away from the equator, degrees from it. */
const AWAY_DEG = 120;
const YEAR_DAYS = 365;
const FACING_STEP_MIN = 30;
const CONTROL_CHECKS: readonly Check[] = [
  settingFindings,
  surplusRange,
  facingFindings,
  (plan) => sightFindings(plan),
  (plan) => heaterChecks(plan),
  backupChecks,
  hubChecks,
];

/**
 * What is wrong with the control of a site before anything is simulated: values that cannot be entered, a limit without
 * a proof or with one that failed, who sees what with the CTs as fitted, heaters, backup and hubs.
 */
export function controlFindings(plan: ResolvedPlan): readonly Finding[] {
  return CONTROL_CHECKS.flatMap((check) => check(plan));
}

function settingFindings(plan: ResolvedPlan): readonly Finding[] {
  const { limit } = plan;
  if (limit.powerW === undefined) return [];
  const make = limitFinding("Limit settings against kits and proofs");
  const limiter = exportLimiter(plan);
  if (!limiter)
    return [
      make(
        "nobody-limits",
        "fix",
        "Nobody can hold the limit",
        said`${limit.powerW} W are allowed. ${limitLacks(plan).join(". ")}.`,
        "Add what is missing",
      ),
    ];
  const problems = limitEntries(plan, limiter).flatMap(({ device, entries }) =>
    entries.filter(({ isProblem }) => isProblem).map((entry) => ({ device, ...entry })),
  );
  const last = standingProof(limit);
  return given(
    rangeFindings(exportLimitRequestSchema, limitRequest(plan, limiter, "own", true), {
      id: "limit",
      name: "Simulation of the limit",
      stage: "limit",
      subject: { kind: "job" },
    }),
    problems.map(({ device, field, value, why }) => ({
      ...make(
        "limit-entry",
        "fix",
        "A value cannot be entered as it should be",
        said`${device}, ${field}: ${value}; ${why}.`,
        "Ask the network operator, or choose a kit that can hold it",
      ),
      id: `limit-entry:${device}:${field}`,
    })),
    fallbackFinding(limit),
    last?.verdict === "untested" &&
      last.eachPhase &&
      make(
        "proof-untested",
        "fix",
        "The limit is not proved on every phase",
        said`Still to prove: ${joined(unprovenPhases(last))}. One phase alone proves one phase.`,
        "Record the step test on these phases too, with enough sun on each",
      ),
    last?.verdict === "untested" &&
      !last.eachPhase &&
      make(
        "proof-untested",
        "fix",
        "The last step test never came near the limit",
        together(
          said`${last.label}: largest ${Math.round(last.maxExportW)} W of ${last.limitW} W, so nothing `,
          "had to be held back.",
        ),
        "Test again with more sun or less load, or set the limit lower for the test and put it back",
      ),
    !last &&
      limit.proofs.length > 0 &&
      make(
        "proof-of-another-limit",
        "fix",
        "The limit changed after its step test",
        together(
          said`The tests kept are of another limit, basis or time than ${limit.powerW} W within `,
          said`${limit.secondsAllowed} s.`,
        ),
        "Test again with the limit as it is now",
      ),
    last &&
      last.verdict !== "holds" &&
      last.verdict !== "untested" &&
      make(
        "proof-failed",
        "fix",
        "The last step test did not hold",
        together(
          said`${last.label}: largest ${Math.round(last.maxExportW)} W, above for `,
          said`${figure(last.longestOverS.toFixed(1))} s, settled at ${Math.round(last.settledExportW)} W.`,
        ),
        "Lower the set-point or the delay, and test again",
      ),
  );
}

/** The newest test without the meter that was done on the site, where it failed. */
function fallbackFinding({ fallbackTests }: LimitSettings): Finding | false {
  const last = fallbackTests.findLast(({ onBench }) => !onBench);
  if (last?.verdict !== "late" && last?.verdict !== "stays") return false;
  const took =
    last.seconds === undefined || last.verdict === "stays"
      ? said`Still ${Math.round(last.afterW)} W, where ${Math.round(last.fallbackW)} W are allowed.`
      : said`It took ${figure(last.seconds.toFixed(0))} s, at the latest ${last.latestS} s were planned.`;
  return limitFinding("The newest test without the meter")(
    "fallback-failed",
    "fix",
    last.verdict === "late" ? "The fail-safe comes too late" : "The inverters go on without the meter",
    took,
    "Switch the fail-safe on in every inverter, check its time and its power, and test again",
  );
}

function surplusRange(plan: ResolvedPlan): readonly Finding[] {
  const day = diversionOfPlan(plan, { days: 1, stepMin: 1, series: true });
  return rangeFindings(diversionRequestSchema, day, {
    id: "divert",
    name: "Simulation of the surplus",
    stage: "divert",
    subject: { kind: "job" },
  });
}

/** Fields that look away from the equator, each with what that costs in a year against looking to it. */
function facingFindings(plan: ResolvedPlan): readonly Finding[] {
  const { place, fields, cloudiness, seed } = plan.divert;
  const wanted = usualAzimuthDeg(place);
  const noon = wanted === 0 ? "north" : "south";
  return fields.flatMap((field, at): readonly Finding[] => {
    const { azimuthDeg = wanted } = field;
    const offDeg = Math.abs(((azimuthDeg - wanted + 540) % 360) - 180);
    if (offDeg < AWAY_DEG) return [];
    const yearOf = (own: typeof field) =>
      sunSeries(place, [own], 1, YEAR_DAYS, FACING_STEP_MIN, cloudiness, seed).reduce((sum, watts) => sum + watts, 0);
    const lostPct = Math.round(100 * (1 - yearOf(field) / yearOf({ ...field, azimuthDeg: wanted })));
    return [
      {
        ...divertFinding(
          "faces-away",
          "note",
          `field-${at + 1}`,
          "A field looks away from the equator",
          together(
            said`At ${figure(place.latDeg.toFixed(0))}° the sun stands in the ${noon} at noon; field ${at + 1} faces `,
            said`${Math.round(azimuthDeg)}° and makes about ${lostPct} % less in a year.`,
          ),
          said`Check the direction; ${wanted}° looks to the equator`,
          "Simulated year of this field, both ways",
        ),
        id: `faces-away:${at}`,
        subject: { kind: "job" },
      },
    ];
  });
}

/** Where the limit stands, in a few words. */
export function limitState(limit: LimitSettings): string {
  if (limit.powerW === undefined) return "no limit yet";
  const last = standingProof(limit);
  if (!last || last.verdict === "untested") return "not proved";
  return last.verdict === "holds" ? "proved" : "not held";
}
