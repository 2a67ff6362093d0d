import type { VisitEntry } from "@/core/visit/visitEntry";
import type { VisitSheet } from "@/core/visit/visitSheet";
import { isOver, stateOf, type VisitState } from "@/core/visit/visitState";
import type { ScheduleRequest } from "@/core/visit/schedule/scheduleSchema";
import { distanceBetween } from "@/core/site/distances";
import type { StepTag, VisitStep } from "@/core/visit/visitStep";
import type { Site } from "@/core/site/planSchema";

const MINUTE_MS = 60_000;
/** A step without a place is done anywhere; it is put where most of the work is. */
const ANYWHERE = "anywhere";

/**
 * What is left of a visit as a scheduling problem, from now on: done steps are gone, what waits holds up its followers
 * for as long as it still takes, and whoever recorded last is where that was.
 *
 * @param nowMs Undefined before the day: everything from its beginning.
 */
export function sheetSchedule(
  sheet: VisitSheet,
  state: VisitState,
  site: Site,
  technicians: number,
  entries: readonly VisitEntry[],
  nowMs: number | undefined,
): ScheduleRequest {
  const first = site.places[0]?.id ?? ANYWHERE;
  const places = [...new Set([...site.places.map(({ id }) => id), ...(site.places.length === 0 ? [ANYWHERE] : [])])];
  const isLeft = (id: string) => {
    const { status } = stateOf(state, id);
    return status === "open" || status === "stopped";
  };
  const stillMin = (id: string) => {
    const { waitsUntilMs } = stateOf(state, id);
    return waitsUntilMs === undefined || nowMs === undefined ? 0 : Math.max(0, (waitsUntilMs - nowMs) / MINUTE_MS);
  };
  const left = sheet.steps.filter(({ id }) => (nowMs === undefined ? true : isLeft(id)));
  const ids = new Set(left.map(({ id }) => id));
  return {
    technicians,
    seed: 1,
    places: places.map((id) => ({ id })),
    walkMin: walks(site, places),
    steps: left.map((step) => {
      const { id, place, activeMin, waitMin, needs, window } = step;
      const state = siteState(step);
      return {
        id,
        place: place !== undefined && places.includes(place) ? place : first,
        activeMin,
        waitMin,
        needs: needs.map(({ step }) => step).filter((need) => ids.has(need)),
        earliestMin: Math.max(0, ...needs.map(({ step }) => stillMin(step))),
        ...(window && ids.has(window.after) ? { window } : {}),
        people: Math.min(step.people === "all" ? technicians : step.people, technicians),
        ...(state ? { state } : {}),
      };
    }),
    starts:
      nowMs === undefined
        ? []
        : whereabouts(sheet, entries, technicians).map((place) => ({
            ...(place !== undefined && places.includes(place) ? { place } : {}),
            freeMin: 0,
          })),
  };
}

/** What the site is switched into: it is proved in one state at a time, and left alone while firmware loads. */
const SITE = "what is switched";
const SWITCHES: readonly StepTag[] = [
  "restore",
  "restore-backup",
  "on-ac",
  "on-battery",
  "on-dc",
  "on",
  "loads",
  "inverters-off",
  "inverters-on",
];
const ALONE: readonly StepTag[] = ["prove", "contact", "ct-test", "test-running", "island", "on-generator"];

function siteState({ tag, id }: VisitStep): { readonly of: string; readonly as: string } | undefined {
  if (tag === "firmware") return { of: SITE, as: "firmware loads" };
  if (SWITCHES.includes(tag)) return { of: SITE, as: "switching on" };
  return ALONE.includes(tag) ? { of: SITE, as: id } : undefined;
}

function walks(site: Site, places: readonly string[]): Record<string, number> {
  return Object.fromEntries(
    places.flatMap((a, at) =>
      places.slice(at + 1).flatMap((b) => {
        const { walkMin } = distanceBetween(site, a, b);
        return walkMin === undefined ? [] : [[`${a}|${b}`, walkMin] as const];
      }),
    ),
  );
}

/** The place of what each of those who recorded last was at. */
function whereabouts(
  sheet: VisitSheet,
  entries: readonly VisitEntry[],
  technicians: number,
): readonly (string | undefined)[] {
  const latest = new Map<string, string | undefined>();
  for (const entry of entries.toReversed()) {
    if (!("step" in entry) || entry.step === undefined || latest.has(entry.person)) continue;
    const step = sheet.steps.find(({ id }) => id === entry.step);
    if (step) latest.set(entry.person, step.place);
  }
  return Array.from({ length: technicians }, (_, at) => [...latest.values()][at]);
}

/** How much of a sheet is over. */
export function visitProgress(
  sheet: VisitSheet,
  state: VisitState,
): { readonly over: number; readonly all: number; readonly stopped: number } {
  return {
    over: sheet.steps.filter(({ id }) => isOver(stateOf(state, id))).length,
    all: sheet.steps.length,
    stopped: sheet.steps.filter(({ id }) => stateOf(state, id).status === "stopped").length,
  };
}
