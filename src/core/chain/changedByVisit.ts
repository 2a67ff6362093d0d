import type { Changed } from "@/core/online/ways";
import type { VisitSettings } from "@/core/plan/visitSettings";

/**
 * What changed lately by what a visit is for; undefined where that says nothing of it.
 *
 * @example changedByVisit({ kind: "exchange" }) // "device"
 */
export function changedByVisit({ kind, reason }: Partial<Pick<VisitSettings, "kind" | "reason">>): Changed | undefined {
  if (kind === "exchange") return "device";
  return kind === "service" && reason === "router-changed" ? "router" : undefined;
}
