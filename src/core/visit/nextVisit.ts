import type { ServiceReason, VisitKind, VisitSettings } from "@/core/plan/visitSettings";
import { withoutEmpty } from "@/core/withoutEmpty";

/**
 * The settings of another visit of a job: the one until now is kept by its mark, so that its lines of the log are
 * found; technicians, methods and strings stay.
 *
 * @param id of the new visit
 * @param endedAt when the one until now ended, ISO 8601
 */
export function nextVisit(
  settings: VisitSettings,
  id: string,
  kind: VisitKind,
  endedAt: string,
  reason?: ServiceReason,
): VisitSettings {
  const { id: before, kind: kindBefore, reason: reasonBefore } = settings;
  const earlier = [...settings.earlier, withoutEmpty({ id: before, kind: kindBefore, reason: reasonBefore, endedAt })];
  return withoutEmpty({ ...settings, id, kind, reason: kind === "service" ? reason : undefined, earlier });
}
