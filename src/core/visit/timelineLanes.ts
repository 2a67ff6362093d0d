import type { Schedule, ScheduleRequest } from "@/core/visit/schedule/scheduleSchema";

/** A bar of the timeline, min from its beginning. */
export interface Bar {
  readonly step: string;
  readonly fromMin: number;
  readonly toMin: number;
  readonly kind: "work" | "wait" | "walk";
}

/** A row of bars that do not overlap: a technician, or things that run by themselves. */
export interface Lane {
  readonly name: string;
  readonly bars: readonly Bar[];
}

/**
 * A schedule as rows to draw: one for each technician with work and walks, then as many rows of waits as run at once.
 *
 * For example: Two technicians and a boot beside them: three lanes.
 */
export function timelineLanes(
  { steps, walkMin, technicians }: ScheduleRequest,
  { assignments }: Schedule,
): readonly Lane[] {
  const byId = new Map(steps.map((step) => [step.id, step]));
  const people = Array.from({ length: technicians }, (_, who): Lane => {
    const own = assignments
      .filter(({ technician, others }) => technician === who || others?.includes(who))
      .toSorted((a, b) => a.startMin - b.startMin);
    const bars = own.flatMap(({ step, startMin }, at): readonly Bar[] => {
      const before = own[at - 1];
      const [from, to] = [before && byId.get(before.step)!, byId.get(step)!];
      const walk =
        from && from.place !== to.place
          ? (walkMin[`${from.place}|${to.place}`] ?? walkMin[`${to.place}|${from.place}`] ?? 0)
          : 0;
      return [
        ...(walk > 0 ? [{ step, fromMin: startMin - walk, toMin: startMin, kind: "walk" as const }] : []),
        { step, fromMin: startMin, toMin: startMin + to.activeMin, kind: "work" },
      ];
    });
    return { name: technicians === 1 ? "Technician" : `Technician ${who + 1}`, bars };
  });
  const rows: Bar[][] = [];
  const waits = assignments
    .flatMap(({ step, startMin }): readonly Bar[] => {
      const { activeMin, waitMin } = byId.get(step)!;
      return waitMin > 0
        ? [{ step, fromMin: startMin + activeMin, toMin: startMin + activeMin + waitMin, kind: "wait" }]
        : [];
    })
    .toSorted((a, b) => a.fromMin - b.fromMin);
  for (const wait of waits) {
    const row = rows.find((bars) => bars.at(-1)!.toMin <= wait.fromMin);
    if (row) row.push(wait);
    else rows.push([wait]);
  }
  return [...people, ...rows.map((bars, at) => ({ name: at === 0 ? "Unattended" : "", bars }))];
}

/** A line of the schedule as a list. */
export interface ScheduleLine extends Bar {
  /** Who does it, or that it runs unattended. */
  readonly who: string;
}

/**
 * The schedule as a list in the order of its times; what begins at once stands by who does it.
 *
 * For example: A boot that is started at 5 min: "Technician, work, 5 to 6", then "Unattended, wait, 6 to 9".
 */
export function scheduleLines(lanes: readonly Lane[]): readonly ScheduleLine[] {
  return lanes
    .flatMap(({ name, bars }) => bars.map((bar): ScheduleLine => ({ ...bar, who: name || "Unattended" })))
    .toSorted((a, b) => a.fromMin - b.fromMin || a.who.localeCompare(b.who) || a.toMin - b.toMin);
}

/**
 * How long after the visit has begun, in hours and minutes.
 *
 * @example elapsedText(179.7) // "3:00"
 *
 * @param minutes since it has begun
 */
export function elapsedText(minutes: number): string {
  const whole = Math.round(minutes);
  return `${Math.floor(whole / 60)}:${String(whole % 60).padStart(2, "0")}`;
}
