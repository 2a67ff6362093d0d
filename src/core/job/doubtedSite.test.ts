import { describe, expect, it } from "vitest";
import { diagnose } from "@/core/flows/diagnose";
import { saidFault } from "@/core/flows/cure";
import { simulateSeen } from "@/core/flows/simulateSeen";
import { doubtedSite, doubtedSiteSchema, FIRST_STEP, type DoubtedSite } from "@/core/job/doubtedSite";
import { jobSummary } from "@/core/jobSummary";
import { seededNormal } from "@/core/random";
import { plainText } from "@/core/sentence";
import { flipClamp } from "@/core/site/fitClamp";

const asked = (["single-phase", "split-phase", "three-phase"] as const).flatMap((system) =>
  (["solar", "solar-and-battery", "battery", "none"] as const).flatMap((sources) =>
    (["grid", "grid-and-solar"] as const).map((meters): DoubtedSite => ({ name: "Wrong", system, sources, meters })),
  ),
);
const possible = asked.filter((site) => doubtedSiteSchema.safeParse(site).success);

describe("a site that reads wrong", () => {
  it("is asked for its solar only where there is some", () => {
    expect(asked.length - possible.length).toBe(6);
    expect(
      doubtedSiteSchema.safeParse({ name: "A", system: "single-phase", sources: "none", meters: "grid-and-solar" })
        .error?.issues,
    ).toMatchObject([{ path: ["meters"], message: "there is no solar to be measured" }]);
  });

  it.each(possible)("of $system with $sources, $meters measured, is told to read first", (answers) => {
    const job = doubtedSite(answers);
    expect(job.tests.steps[0]).toMatchObject({ id: FIRST_STEP, readings: [] });
    const summary = jobSummary(job);
    expect(summary.findings).toMatchObject({ stop: 0, fix: 0 });
    expect(summary.next).toBe(`Read every meter: ${job.tests.steps[0]!.label}`);
  });

  it.each(possible.filter(({ sources }) => sources !== "none"))(
    "of $system with $sources, $meters measured, names a CT that is turned round from its first readings on",
    (answers) => {
      const { site, tests } = doubtedSite(answers);
      const fitted = flipClamp(site, site.cts[0]!.id);
      const steps = simulateSeen(fitted, tests, seededNormal(7)).map((step) => ({ ...step, source: "seen" as const }));
      const outcome = diagnose(site, { ...tests, steps });
      if (outcome.kind !== "diagnosed") throw new Error("it has readings");
      const [first] = outcome.diagnosis.hypotheses;
      expect(outcome.diagnosis.verdict).toBe("faults-found");
      expect(plainText(saidFault(site, first!.faults[0]!))).toContain("A1");
    },
  );
});
