import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { wholeWiring } from "@/core/links/wiring/meterWiring";
import { addressPlan } from "@/core/links/network/addressPlan";
import { plainText } from "@/core/sentence";
import { resolve } from "@/core/plan/resolve";
import { wireFindings } from "@/core/job/wireFindings";
import { labels } from "@/core/visit/labels";
import { materials } from "@/core/visit/materials";
import type { JobDocument } from "@/core/job/jobDocument";
import { proposeLinks } from "@/core/links/propose/proposeLinks";
import { visitSheet } from "@/core/visit/visitSheet";
import { FORGOTTEN } from "../../../tests/fixtures/forgotten";
import { jobFromPattern } from "../../../tests/fixtures/shipped";
import { anyDoubled, withSecond } from "../../../tests/fixtures/secondOfAKit";

const repeated = (ids: readonly string[]) => ids.filter((id, at) => ids.indexOf(id) !== at);

/** What a step of a sheet has to be typed under a name, device by device. */
function typedIn(job: JobDocument, label: string): Readonly<Record<string, string>> {
  return Object.fromEntries(
    visitSheet(job).steps.flatMap(({ id, content }) =>
      content.flatMap((line) => (line.label === label ? [[id.replace("configure:", ""), line.value] as const] : [])),
    ),
  );
}

describe("A second device of the same kit", () => {
  it("has the modules of its own bank counted into its menu, not those of the other inverter's", () => {
    const doubled = (pattern: string) => {
      const job = withSecond(
        jobFromPattern(pattern),
        Array.from({ length: 20 }, (_, at) => at),
      );
      return { ...job, links: [...proposeLinks(resolve(job))] };
    };
    const chained = doubled("battery-of-another-maker");
    expect(typedIn(chained, "Bank parts")).toEqual({ hybrid: "2", "hybrid-again": "2" });
    const modules = ["module-1", "module-1-again", "module-2", "module-2-again"];
    expect(typedIn(chained, "Own count")).toEqual(Object.fromEntries(modules.map((id) => [id, "2"])));
    expect(typedIn(doubled("three-phase-storage"), "Floors")).toEqual({ stack: "1", "stack-again": "1" });
  });

  it("has steps of its own in the sheet, each after what it needs", () => {
    fc.assert(
      fc.property(anyDoubled, (job) => {
        const { steps } = visitSheet(job);
        const placeOf = new Map(steps.map(({ id }, at) => [id, at]));
        expect(repeated(steps.map(({ id }) => id))).toEqual([]);
        for (const { id, needs } of steps)
          for (const { step } of needs) expect(placeOf.get(step)! < placeOf.get(id)!).toBe(true);
      }),
      { numRuns: 30 },
    );
  });

  it("is told from the first in every title of a step that is about one device", () => {
    fc.assert(
      fc.property(anyDoubled, (job) => {
        const { steps } = visitSheet(job);
        expect(repeated(steps.map(({ title, about, id }) => `${title} (${about === undefined ? id : title})`))).toEqual(
          [],
        );
      }),
      { numRuns: 30 },
    );
  });

  it("has rows of its own in the wiring, and findings under ids of their own that forget nothing", () => {
    fc.assert(
      fc.property(anyDoubled, (job) => {
        const plan = resolve(job);
        expect(repeated(wholeWiring(plan).flatMap(({ rows }) => rows.map(({ id }) => id)))).toEqual([]);
        const findings = wireFindings(plan);
        expect(repeated(findings.map(({ id }) => id))).toEqual([]);
        for (const { detail, cure } of findings)
          for (const text of [plainText(detail), plainText(cure)]) expect(text).not.toMatch(FORGOTTEN);
      }),
      { numRuns: 30 },
    );
  });

  it("has labels and an address of its own, and what it needs is counted", () => {
    fc.assert(
      fc.property(anyDoubled, (job) => {
        expect(repeated(labels(job, "2026-11-29").map(({ id }) => id))).toEqual([]);
        const items = materials(job);
        expect(repeated(items.map(({ id }) => id))).toEqual([]);
        for (const { quantity } of items) expect(quantity).toBeGreaterThan(0);
        const network = { ...job.network, subnet: "192.168.7.0/24" };
        const proposed = addressPlan(resolve({ ...job, network })).flatMap((own) => own.proposed ?? []);
        expect(repeated(proposed)).toEqual([]);
      }),
      { numRuns: 30 },
    );
  });
});
