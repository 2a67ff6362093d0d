import type { Finding } from "@/core/findings";
import type { JobDocument } from "@/core/job/jobDocument";
import { diversionRequestSchema } from "@/core/control/diversionSchema";
import { exportLimitRequestSchema } from "@/core/control/exportLimitSchema";
import { backupChecks, heaterChecks, hubChecks } from "@/core/control/heaterChecks";
import { limitEntries } from "@/core/controlOfPlan/limitEntries";
import { diversionOfPlan } from "@/core/controlOfPlan/divertOfPlan";
import { limitLacks, limitPlan, limitRequest } from "@/core/controlOfPlan/limitOfPlan";
import { standingProof } from "@/core/controlOfPlan/stepTest";
import { sightFindings, whoSeesWhat } from "@/core/control/whoSeesWhat";
import { rangeFindings } from "@/core/rangeFindings";

type Plan = Pick<JobDocument, "site" | "kits" | "links" | "limit" | "divert">;

/**
 * What is wrong with the control of a site before anything is simulated: values that cannot be entered, a limit without
 * a
 * proof or with one that failed, who sees what with the clamps as fitted, heaters, backup and hubs.
 */
export function controlFindings(document: Plan): readonly Finding[] {
  const { site, kits, links } = document;
  return [
    ...settingFindings(document),
    ...surplusRange(document),
    ...sightFindings(site, whoSeesWhat(site, kits, links, "fitted")),
    ...heaterChecks(site, kits),
    ...backupChecks(site, kits),
    ...hubChecks(site, kits, links),
  ];
}

function settingFindings(document: Plan): readonly Finding[] {
  const { limit } = document;
  if (limit.powerW === undefined) return [];
  const make = (code: string, severity: Finding["severity"], title: string, detail: string, cure: string): Finding => ({
    id: code,
    code,
    severity,
    stage: "limit",
    subject: { kind: "job" },
    title,
    detail,
    cure,
    source: "Limit settings against kits and proofs",
  });
  const plan = limitPlan(document);
  if (!plan)
    return [
      make(
        "nobody-limits",
        "fix",
        "Nobody can hold the limit",
        `${limit.powerW} W are allowed. ${limitLacks(document).join(". ")}.`,
        "Add what is missing",
      ),
    ];
  const problems = limitEntries(document, plan).flatMap(({ device, entries }) =>
    entries.filter(({ isProblem }) => isProblem).map((entry) => ({ device, ...entry })),
  );
  const last = standingProof(limit);
  return [
    ...rangeFindings(exportLimitRequestSchema, limitRequest(document, plan, "own", true), {
      id: "limit",
      name: "Simulation of the limit",
      stage: "limit",
      subject: { kind: "job" },
    }),
    ...problems.map(({ device, field, value, why }) => ({
      ...make(
        "limit-entry",
        "fix",
        "A value cannot be entered as it should be",
        `${device}, ${field}: ${value}; ${why}.`,
        "Ask the network operator, or choose a kit that can hold it",
      ),
      id: `limit-entry:${device}:${field}`,
    })),
    ...(last?.verdict === "untested"
      ? [
          make(
            "proof-untested",
            "fix",
            "The last step test never came near the limit",
            `${last.label}: largest ${Math.round(last.maxExportW)} W of ${last.limitW} W, so nothing had to be held back.`,
            "Test again with more sun or less load, or set the limit lower for the test and put it back",
          ),
        ]
      : []),
    ...(!last && limit.proofs.length > 0
      ? [
          make(
            "proof-of-another-limit",
            "fix",
            "The limit changed after its step test",
            `The tests kept are of another limit, basis or time than ${limit.powerW} W within ${limit.secondsAllowed} s.`,
            "Test again with the limit as it is now",
          ),
        ]
      : []),
    ...(last && last.verdict !== "holds" && last.verdict !== "untested"
      ? [
          make(
            "proof-failed",
            "fix",
            "The last step test did not hold",
            `${last.label}: largest ${Math.round(last.maxExportW)} W, above for ${last.longestOverS.toFixed(1)} s, settled at ${Math.round(last.settledExportW)} W.`,
            "Lower the set-point or the delay, and test again",
          ),
        ]
      : []),
  ];
}

function surplusRange(document: Plan): readonly Finding[] {
  const day = diversionOfPlan(document, { days: 1, stepMin: 1, series: true });
  return rangeFindings(diversionRequestSchema, day, {
    id: "divert",
    name: "Simulation of the surplus",
    stage: "divert",
    subject: { kind: "job" },
  });
}

/** Where the limit stands, in a few words. */
export function limitState({ limit }: Pick<JobDocument, "limit">): string {
  if (limit.powerW === undefined) return "no limit yet";
  const last = standingProof(limit);
  if (!last || last.verdict === "untested") return "not proved";
  return last.verdict === "holds" ? "proved" : "not held";
}
