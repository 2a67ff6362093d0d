import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { planFindings } from "@/core/job/planFindings";
import { wireFindings } from "@/core/job/wireFindings";
import { proposeLinks } from "@/core/links/propose/proposeLinks";
import { nameChecks } from "@/core/plan/nameChecks";
import { resolve } from "@/core/plan/resolve";
import { plainText } from "@/core/sentence";
import { withSecond } from "../../../tests/fixtures/secondOfAKit";
import { jobFromPattern, shippedPatterns } from "../../../tests/fixtures/shipped";

const PATTERNS = shippedPatterns().map(({ id }) => id);
const anySameName = fc
  .record({
    pattern: fc.constantFrom(...PATTERNS),
    which: fc.array(fc.nat(40), { minLength: 1, maxLength: 4 }),
    calls: fc.constantFrom(
      (name: string) => name,
      (name: string) => ` ${name.toUpperCase()} `,
    ),
  })
  .map(({ pattern, which, calls }) => withSecond(jobFromPattern(pattern), which, calls));

describe("Names of a plan", () => {
  it.each(PATTERNS)("tell all devices of %s apart", (id) => {
    expect(nameChecks(resolve(jobFromPattern(id)))).toEqual([]);
  });

  it("that stand twice are noted at the second, also in other letters or with a space", () => {
    fc.assert(
      fc.property(anySameName, (job) => {
        const again = [...job.site.nodes, ...job.site.equipment, ...job.site.meters].filter(({ id }) =>
          id.endsWith("-again"),
        );
        const found = planFindings(resolve(job)).filter(({ code }) => code === "same-name");
        expect(found.map(({ id }) => id).toSorted()).toEqual(again.map(({ id }) => `same-name:${id}`).toSorted());
        for (const { detail, severity } of found) {
          expect(severity).toBe("note");
          expect(again.some(({ name }) => plainText(detail).includes(name))).toBe(true);
        }
      }),
      { numRuns: 60 },
    );
  });

  it("that stand twice give no finding of the links the id of another: each can be accepted by itself", () => {
    fc.assert(
      fc.property(anySameName, (job) => {
        const ids = wireFindings(resolve({ ...job, links: [...proposeLinks(resolve(job))] })).map(({ id }) => id);
        expect(new Set(ids).size).toBe(ids.length);
      }),
      { numRuns: 100 },
    );
  });

  it("of a meter may be those of the device that it is part of", () => {
    const job = jobFromPattern("energy-manager");
    const [meter] = job.site.meters;
    const device = job.site.nodes.find(({ kind }) => kind !== "grid" && kind !== "board")!;
    const meters = job.site.meters.map((own) => (own === meter ? { ...own, name: device.name } : own));
    expect(nameChecks(resolve({ ...job, site: { ...job.site, meters } }))).toEqual([]);
  });
});
