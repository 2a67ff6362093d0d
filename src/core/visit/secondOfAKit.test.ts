import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { wholeWiring } from "@/core/links/wiring/meterWiring";
import { addressPlan } from "@/core/links/network/addressPlan";
import { plainText } from "@/core/sentence";
import { resolve } from "@/core/plan/resolve";
import { wireFindings } from "@/core/job/wireFindings";
import { labels } from "@/core/visit/labels";
import { materials } from "@/core/visit/materials";
import { visitSheet } from "@/core/visit/visitSheet";
import { FORGOTTEN } from "../../../tests/fixtures/forgotten";
import { anyDoubled } from "../../../tests/fixtures/secondOfAKit";

const repeated = (ids: readonly string[]) => ids.filter((id, at) => ids.indexOf(id) !== at);

describe("A second device of the same kit", () => {
  it("has steps of its own in the sheet, each after what it needs", () => {
    fc.assert(
      fc.property(anyDoubled, (job) => {
        const { steps } = visitSheet(job);
        const placeOf = new Map(steps.map(({ id }, at) => [id, at]));
        expect(repeated(steps.map(({ id }) => id))).toEqual([]);
        for (const { id, needs } of steps)
          for (const { step } of needs) expect(placeOf.get(step)! < placeOf.get(id)!).toBe(true);
      }),
      { numRuns: 60 },
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
      { numRuns: 60 },
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
      { numRuns: 60 },
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
      { numRuns: 60 },
    );
  });
});
