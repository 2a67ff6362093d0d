import { describe, expect, it } from "vitest";
import { wholeWiring } from "@/core/links/wiring/meterWiring";
import { wiringSchedule } from "@/core/links/wiring/wiringSchedule";
import { resolve } from "@/core/plan/resolve";
import { jobFromPattern, shippedPatterns } from "../../../../tests/fixtures/shipped";

const patterns = shippedPatterns().map(({ id }) => id);

describe("the whole wiring of a plan", () => {
  it.each(patterns)("of %s has every core of a link once, and both leads of every CT", (id) => {
    const plan = resolve(jobFromPattern(id));
    const groups = wholeWiring(plan);
    const rows = groups.flatMap((group) => group.rows);
    expect(new Set(rows.map((row) => row.id)).size).toBe(rows.length);
    expect(rows.filter(({ link }) => !link.startsWith("meter:"))).toEqual(wiringSchedule(plan));
    for (const { id: meter, inputs, meter: own } of plan.meters) {
      const of = rows.filter(({ link }) => link === `meter:${meter}`);
      const fitted = inputs.filter(({ input }) => !input.builtIn).length;
      for (const role of ["ct-k", "ct-l"]) expect(of.filter((row) => row.role === role)).toHaveLength(fitted);
      expect(of.filter(({ role }) => role === "line")).toHaveLength(Object.keys(own.taps).length);
    }
  });

  it("says terminal and pin as they are printed, and where leads are swapped", () => {
    const job = jobFromPattern("two-ct-add-on");
    const [meter] = job.site.meters;
    const input = meter!.inputs[0]!;
    const ct = {
      id: "ct",
      around: input.measures,
      arrow: input.arrow,
      turns: 1,
      primaryA: input.primaryA,
      secondary: input.secondary,
      leads: "swapped" as const,
      plug: { meter: meter!.id, input: 1 },
    };
    const rows = wholeWiring(resolve({ ...job, site: { ...job.site, cts: [ct] } })).flatMap((group) => group.rows);
    const k = rows.find(({ id }) => id === `meter:${meter!.id}:1:ct-k`);
    expect(k).toMatchObject({ from: { item: "CT A1", terminal: "k (+)" }, to: { item: meter!.name } });
    expect(k!.notes).toContain("fitted the other way round: its leads are swapped");
    expect(rows.find(({ id }) => id === `meter:${meter!.id}:2:ct-k`)!.notes.join()).not.toContain("swapped");
  });
});
