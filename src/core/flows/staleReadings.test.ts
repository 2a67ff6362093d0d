import { describe, expect, it } from "vitest";
import { curedSite } from "@/core/flows/curedSite";
import { setReading } from "@/core/flows/editSheet";
import type { Fault } from "@/core/flows/faults";
import { afterClampChange, freshSheet, isStale, staleStep } from "@/core/flows/staleReadings";
import { testSheetShape } from "@/core/flows/testSheetSchema";
import { jobSummary, quickDiagnosis } from "@/core/jobSummary";
import { clampOf, flipClamp, placeAsPlanned, removeClamp } from "@/core/site/fitClamp";
import { starterPlan } from "@/core/job/starterPlan";

const ANSWERS = {
  name: "Turned",
  place: "",
  system: "single-phase",
  solarKw: 4,
  batteryKw: 0,
  solarMeter: false,
  arrow: "to-load",
} as const;
const plan = starterPlan(ANSWERS);
const job = { ...plan, site: placeAsPlanned(plan.site) };
const [meter] = job.site.meters;
const at = { meter: meter!.id, input: 1 };
const steps = [
  { label: "Solar off", devices: [{ node: "solar", powerW: 0 }] },
  { label: "Kettle on", devices: [{ node: "solar", powerW: 0 }] },
].map((step) => ({
  ...step,
  devices: step.devices.filter(({ node }) => job.site.nodes.some(({ id }) => id === node)),
}));
const sheet = [300, 2500].reduce(
  (own, watts, step) => setReading(own, step, at, watts, `2026-06-01T10:0${step}:00.000Z`),
  testSheetShape.parse({ steps }),
);
const CHANGED_AT = "2026-06-01T10:10:00.000Z";
const after = (site: typeof job.site) => afterClampChange({ site: job.site, tests: sheet }, site, CHANGED_AT);
const turned = after(flipClamp(job.site, job.site.cts[0]!.id)).site;

describe("a reading from before its CT was changed", () => {
  it("is marked by the time of the change, of that CT alone", () => {
    expect(turned.cts.map(({ changedAt }) => changedAt)).toEqual([
      "2026-06-01T10:10:00.000Z",
      ...job.site.cts.slice(1).map(() => undefined),
    ]);
    const [reading] = sheet.steps[0]!.readings;
    expect(isStale(job.site, reading!)).toBe(false);
    expect(isStale(turned, reading!)).toBe(true);
    expect(isStale(turned, { ...reading!, readAt: "2026-06-01T10:11:00.000Z" })).toBe(false);
    expect(isStale(turned, { ...at, powerW: 300 })).toBe(false);
  });

  it("rules no verdict, and stands first of what is next until it is read again", () => {
    expect(freshSheet(job.site, sheet)).toBe(sheet);
    expect(freshSheet(turned, sheet).steps.map(({ readings }) => readings.length)).toEqual([0, 0]);
    expect(staleStep(turned, sheet)).toMatchObject({ step: 0, label: "Solar off" });
    const changed = { ...job, site: turned, tests: sheet };
    expect(jobSummary(changed)).toMatchObject({ next: "Read again, since A1 changed: Solar off" });
    const again = setReading(sheet, 0, at, 310, "2026-06-01T10:12:00.000Z");
    expect(freshSheet(turned, again).steps.map(({ readings }) => readings.length)).toEqual([1, 0]);
    expect(jobSummary({ ...changed, tests: again }).next).toContain("Kettle on");
    expect(quickDiagnosis(changed)?.verdict).not.toBe("as-planned");
  });

  it("marks nothing where nothing was changed, and no CT that was taken off", () => {
    expect(after({ ...job.site, places: [] }).site.cts).toBe(job.site.cts);
    const less = after(removeClamp(job.site, job.site.cts[0]!.id)).site;
    expect(less.cts.every(({ changedAt }) => changedAt === undefined)).toBe(true);
  });

  it("is one without a time too, that stood there when the CT was turned", () => {
    const untimed = setReading(testSheetShape.parse({ steps }), 0, at, 300);
    const [reading] = untimed.steps[0]!.readings;
    expect(isStale(turned, reading!)).toBe(false);
    const changed = afterClampChange({ site: job.site, tests: untimed }, turned, CHANGED_AT);
    expect(changed.tests.steps[0]!.readings).toEqual([{ ...reading!, readAt: "2026-06-01T10:09:59.000Z" }]);
    expect(staleStep(changed.site, changed.tests)?.step).toBe(0);
  });
});

describe("a site after its faults were put right", () => {
  it("has the CTs that they touch as planned, whatever they were, and no other changed", () => {
    const three = placeAsPlanned(starterPlan({ ...ANSWERS, system: "three-phase" }).site);
    const wrong = { ...three, cts: three.cts.map((ct) => ({ ...ct, arrow: "to-grid" as const, turns: 2 })) };
    const [meter] = three.meters;
    const asPlanned = (faults: readonly Fault[]) => {
      const cured = curedSite(wrong, faults);
      return three.meters[0]!.inputs.map(
        ({ n }) => clampOf(cured, { meter: meter!.id, input: n })?.arrow === "to-load",
      );
    };
    expect(asPlanned([{ kind: "reversed", meter: meter!.id, input: 2 }])).toEqual([false, true, false]);
    expect(asPlanned([{ kind: "exchanged", meter: meter!.id, inputs: [1, 3] }])).toEqual([true, false, true]);
    expect(asPlanned([{ kind: "meter-reversed", meter: meter!.id }])).toEqual([true, true, true]);
    expect(asPlanned([{ kind: "reversed", meter: "another", input: 1 }])).toEqual([false, false, false]);
    expect(curedSite(wrong, [])).toBe(wrong);
    expect(curedSite({ ...three, cts: [] }, [{ kind: "dead", meter: meter!.id, input: 1 }]).cts).toHaveLength(1);
  });
});
