import type { TestSheet, TestStep } from "@/core/flows/testSheetSchema";
import type { SiteAndSheet } from "@/core/flows/editSheet";
import type { Ct, Site } from "@/core/site/planSchema";

/**
 * Whether a reading is from before its CT was changed: turned, moved, exchanged, set to another ratio. What has no time
 * is taken as it stands.
 *
 * For example: read at 10:02 at A2, whose CT was turned at 10:10: true.
 */
export function isStale(site: Site, { meter, input, readAt }: TestStep["readings"][number]): boolean {
  if (readAt === undefined) return false;
  return site.cts.some(
    ({ plug, changedAt }) =>
      plug?.meter === meter &&
      plug.input === input &&
      changedAt !== undefined &&
      Date.parse(changedAt) > Date.parse(readAt),
  );
}

/** The sheet without what was read before a CT was changed: that tells of a fitting that is no more. */
export function freshSheet(site: Site, sheet: TestSheet): TestSheet {
  if (!sheet.steps.some(({ readings }) => readings.some((reading) => isStale(site, reading)))) return sheet;
  return {
    ...sheet,
    steps: sheet.steps.map((step) => ({
      ...step,
      readings: step.readings.filter((reading) => !isStale(site, reading)),
    })),
  };
}

/** The first step that is to be read again since a CT was changed, with those of its inputs that are. */
export function staleStep(
  site: Site,
  sheet: TestSheet,
): { readonly step: number; readonly label: string; readonly readings: TestStep["readings"] } | undefined {
  for (const [step, { label, readings }] of sheet.steps.entries()) {
    const stale = readings.filter((reading) => isStale(site, reading));
    if (stale.length > 0) return { step, label, readings: stale };
  }
  return undefined;
}

/** How long before a change what has no time was read at the latest, ms. */
const BEFORE_MS = 1000;

/**
 * A site after an edit of its CTs, those that are not as they were marked with the time of it, and the sheet with what
 * was read at them before: a reading that has no time is from before the change at the latest.
 *
 * For example: A2 turned at 10:10: its CT has `changedAt` 10:10, its untimed readings `readAt` 10:09:59.
 *
 * @param changedAt ISO 8601.
 */
export function afterClampChange(before: SiteAndSheet, site: Site, changedAt: string): SiteAndSheet {
  const old = new Map(before.site.cts.map((ct) => [ct.id, ct]));
  const isOther = (ct: Ct) => old.get(ct.id) !== ct;
  if (!site.cts.some(isOther)) return { site, tests: before.tests };
  const plugs = site.cts.filter(isOther).flatMap((ct) => [ct.plug, old.get(ct.id)?.plug ?? null]);
  const isOf = ({ meter, input, readAt }: TestStep["readings"][number]) =>
    readAt === undefined && plugs.some((plug) => plug?.meter === meter && plug.input === input);
  const readAt = new Date(Date.parse(changedAt) - BEFORE_MS).toISOString();
  return {
    site: { ...site, cts: site.cts.map((ct) => (isOther(ct) ? { ...ct, changedAt } : ct)) },
    tests: before.tests.steps.some(({ readings }) => readings.some(isOf))
      ? {
          ...before.tests,
          steps: before.tests.steps.map((step) => ({
            ...step,
            readings: step.readings.map((reading) => (isOf(reading) ? { ...reading, readAt } : reading)),
          })),
        }
      : before.tests,
  };
}
