import type { JobDocument } from "@/core/job/jobDocument";
import { resolve } from "@/core/plan/resolve";
import type { ResolvedPlan } from "@/core/plan/resolvedPlan";
import { OWED_TESTS } from "@/core/plan/visitSettings";
import { cableLines, linkParts } from "@/core/visit/bring/cableParts";
import { clampLines, deviceLines, helpLines } from "@/core/visit/bring/deviceParts";
import { brought, merged, type Material, type MaterialDraft } from "@/core/visit/bring/material";
import { connectorLines, protectionLines, smallParts } from "@/core/visit/bring/powerParts";
import { fixingLines, toolLines } from "@/core/visit/bring/toolParts";
import { labels } from "@/core/visit/labels";
import { isInverter, isSolar } from "@/core/visit/visitContext";

type Plan = Pick<JobDocument, "site" | "kits" | "job" | "links"> & Partial<Pick<JobDocument, "visit">>;

/**
 * What to bring, from the plan: devices that are not there yet, CTs with their ratio, breakers, cable by type and
 * length with slack, connectors with their crimpers, fixings, ferrules by size, labels, aerials, tools, instruments of
 * the tests that are owed, and help where something is heavy; each with the places and the part of the visit that use
 * it. What exists is left out.
 *
 * For example: A link of 12 m: 15.2 m of data cable (12 m + 10 % + 2 m).
 */
export function materials(document: Plan): readonly Material[] {
  const plan = resolve(document);
  return merged([
    ...deviceLines(plan),
    ...clampLines(plan),
    ...protectionLines(plan),
    ...cableLines(plan),
    ...connectorLines(plan, document.visit?.strings ?? []),
    ...fixingLines(plan),
    ...smallParts(plan),
    ...linkParts(plan),
    ...labelLines(document),
    ...warningLabels(plan),
    ...toolLines(plan, document.visit?.owedTests ?? OWED_TESTS),
    ...helpLines(plan),
  ]);
}

function labelLines(document: Plan): readonly MaterialDraft[] {
  const count = labels(document, "").length;
  if (count === 0) return [];
  return [
    {
      id: "labels",
      group: "labels",
      text: "Printed labels",
      quantity: count,
      unit: "pcs",
      why: "CTs, leads, breakers, invert settings",
      place: undefined,
      phase: "close",
    },
  ];
}

/** What warns whoever opens it: two sources, DC that light makes, a battery inside. */
function warningLabels(plan: ResolvedPlan): readonly MaterialDraft[] {
  return brought(plan).flatMap((item): readonly MaterialDraft[] => {
    const label = (id: string, text: string, quantity: number): MaterialDraft => ({
      id: `warning:${id}`,
      group: "labels",
      text,
      quantity,
      unit: "pcs",
      why: item.name,
      place: item.place?.id,
      phase: "close",
    });
    return [
      ...(isInverter(item) ? [label("two-sources", "Warning: two sources of supply, at device and board", 2)] : []),
      ...(isSolar(item) ? [label("solar-dc", "Warning: DC from light, live by day", 1)] : []),
      ...(item.kit.kind === "battery" || item.kit.kind === "battery-inverter"
        ? [label("battery", "Warning: battery inside", 1)]
        : []),
    ];
  });
}
