import type { Schedule, ScheduleRequest } from "@/core/visit/schedule/scheduleSchema";

const CLOSE_MIN = 1e-6;

/**
 * The chain of steps that the end of a schedule hangs on, first to last: each begins as soon as the one before lets it,
 * by a need, by the state that the site was in, or because the same technician was busy or walking.
 *
 * For example: Boot of 3 min, then configure: both, when nothing else takes longer.
 */
export function criticalPath(
  { steps }: Pick<ScheduleRequest, "steps">,
  { assignments, makespanMin }: Schedule,
): readonly string[] {
  const byId = new Map(steps.map((step) => [step.id, step]));
  const placed = new Map(assignments.map((assignment) => [assignment.step, assignment]));
  const complete = (id: string) => placed.get(id)!.startMin + byId.get(id)!.activeMin + byId.get(id)!.waitMin;
  const path: string[] = [];
  let current = assignments.find(({ step }) => Math.abs(complete(step) - makespanMin) < CLOSE_MIN)?.step;
  while (current !== undefined && path.length <= steps.length) {
    path.unshift(current);
    const { startMin, technician } = placed.get(current)!;
    if (startMin < CLOSE_MIN) break;
    const step = byId.get(current)!;
    const need = [...step.needs, ...(step.window ? [step.window.after] : [])].find(
      (id) => placed.has(id) && Math.abs(complete(id) - startMin) < CLOSE_MIN,
    );
    const held = steps.find(
      ({ id, state }) =>
        state !== undefined &&
        state.of === step.state?.of &&
        state.as !== step.state.as &&
        Math.abs(complete(id) - startMin) < CLOSE_MIN,
    );
    const before = assignments
      .filter((other) => isWith(other, technician) && other.startMin < startMin - CLOSE_MIN)
      .toSorted((a, b) => b.startMin - a.startMin)[0]?.step;
    current = need ?? held?.id ?? before;
  }
  return path;
}

function isWith({ technician, others }: Schedule["assignments"][number], who: number): boolean {
  return technician === who || (others?.includes(who) ?? false);
}
