import { wholeWiring, type WiringGroup } from "@/core/links/wiring/meterWiring";
import type { CoreEnd } from "@/core/links/wiring/wiringSchedule";
import type { ResolvedPlan } from "@/core/plan/resolvedPlan";

/**
 * The whole wiring of a plan as its reader writes numbers and its site measures: cables, ferrules and notes.
 *
 * For example: on 120/240 V, a ferrule "0.25 to 2.5 mm²" is "22 to 14 AWG (0.25 to 2.5 mm²)".
 *
 * @param say Writes one text so.
 */
export function saidWiring(plan: ResolvedPlan, say: (text: string) => string): readonly WiringGroup[] {
  const end = (own: CoreEnd): CoreEnd => ({
    ...own,
    ferrule: own.ferrule === undefined ? undefined : say(own.ferrule),
  });
  return wholeWiring(plan).map((group) => ({
    ...group,
    rows: group.rows.map((row) => ({
      ...row,
      cable: say(row.cable),
      notes: row.notes.map(say),
      from: end(row.from),
      to: row.to && end(row.to),
    })),
  }));
}
