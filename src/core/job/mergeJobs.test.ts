import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { addNode, changeNode } from "@/core/edits/editPlan";
import { mergeJobs } from "@/core/job/mergeJobs";
import type { JobDocument } from "@/core/job/jobDocument";
import { setReading } from "@/core/flows/editSheet";
import { sameJson } from "@/core/sameJson";
import { anyRecipe, documentOf } from "../../../tests/fixtures/anyDocument";
import { anyEdit, edited } from "../../../tests/fixtures/randomEdits";
import { jobFromPattern } from "../../../tests/fixtures/shipped";

const job = jobFromPattern("energy-manager");
const inverter = job.site.nodes.find(({ kind }) => kind === "pv-inverter")!;
const named = (name: string, of = job): JobDocument => ({ ...of, job: { ...of.job, name } });
const fused = (fuseA: number, of = job) => changeNode(inverter.id, { fuseA })(of);

describe("mergeJobs", () => {
  it("puts different fields together and tells what came in, in words", () => {
    const merge = mergeJobs(job, fused(25), named("Dairy"))!;
    expect(merge).toMatchObject({ conflicts: [], taken: ["Job: Its name"] });
    expect(merge.document).toEqual(named("Dairy", fused(25)));
  });

  it("shows a field that both changed in words, with both values, and goes on with the one that is chosen", () => {
    const merge = mergeJobs(job, fused(25), fused(32))!;
    expect(merge.conflicts).toMatchObject([{ mine: "25", theirs: "32" }]);
    const [{ id, where }] = merge.conflicts as [(typeof merge.conflicts)[number]];
    expect(where).toBe(`${inverter.name}: Breaker or fuse of the circuit of this node`);
    const chosen = mergeJobs(job, fused(25), fused(32), (own) => (own === id ? "theirs" : "mine"))!;
    expect(chosen.document).toEqual(fused(32));
  });

  it("names a reading by its input and its step", () => {
    const [meter] = job.site.meters;
    const step = { id: "s", label: "Kettle on", devices: [], readings: [], source: "seen" as const };
    const base = { ...job, tests: { ...job.tests, steps: [step] } };
    const read = (watts: number): JobDocument => ({
      ...base,
      tests: setReading(base.tests, 0, { meter: meter!.id, input: meter!.inputs[0]!.n }, watts),
    });
    expect(mergeJobs(base, read(100), read(200))!.conflicts).toMatchObject([{ where: "Kettle on, A1" }]);
    const seen = read(50);
    const changed = (watts: number): JobDocument => ({
      ...seen,
      tests: setReading(seen.tests, 0, { meter: meter!.id, input: meter!.inputs[0]!.n }, watts),
    });
    expect(mergeJobs(seen, changed(100), changed(200))!.conflicts).toMatchObject([
      { where: "Kettle on, A1: Power, W", mine: "100", theirs: "200" },
    ]);
  });

  it("keeps what both added to a list, and what one took out of it stays out", () => {
    const packed = (...things: string[]): JobDocument => ({ ...job, packed: things });
    const merge = mergeJobs(packed("tester", "tape"), packed("tester", "ladder"), packed("tester", "tape", "cable"))!;
    expect(merge.document.packed.toSorted()).toEqual(["cable", "ladder", "tester"]);
  });

  it("takes the later of two times, and asks nobody about them", () => {
    const turned = (changedAt: string): JobDocument => ({
      ...job,
      site: { ...job.site, cts: job.site.cts.map((ct, at) => (at === 0 ? { ...ct, changedAt } : ct)) },
    });
    const [early, late] = ["2026-06-01T10:00:00.000Z", "2026-06-01T10:10:00.000Z"].map(turned);
    for (const merge of [mergeJobs(job, early!, late!), mergeJobs(job, late!, early!)])
      expect(merge).toMatchObject({ conflicts: [], document: late! });
  });

  it("makes no halves of two things that came up with the same name", () => {
    const [board] = job.site.nodes.filter(({ kind }) => kind === "board");
    const add = (name: string): JobDocument => ({
      ...job,
      site: {
        ...job.site,
        nodes: [...job.site.nodes, { id: "new", kind: "load", name, fedFrom: board!.id, phases: ["L1"] }],
      },
    });
    expect(mergeJobs(job, add("Pump"), add("Oven"))!.conflicts).toMatchObject([{ mine: "Pump", theirs: "Oven" }]);
    expect(mergeJobs(job, add("Pump"), add("Pump"))!.conflicts).toEqual([]);
  });

  it("gives nothing where the two cannot stand in one job", () => {
    const [board] = job.site.nodes.filter(({ kind }) => kind === "board");
    const withShed = addNode({ kind: "board", name: "Shed board", fedFrom: board!.id })(job);
    const shed = withShed.site.nodes.at(-1)!.id;
    const fed = addNode({ kind: "load", name: "Pump", fedFrom: shed })(withShed);
    expect(mergeJobs(withShed, job, fed)).toBeUndefined();
  });

  it("loses no change of either, whoever is called mine, and says everything in words", () => {
    fc.assert(
      fc.property(
        anyRecipe,
        fc.array(anyEdit, { maxLength: 4 }),
        fc.array(anyEdit, { maxLength: 4 }),
        (recipe, a, b) => {
          const base = documentOf(recipe);
          const [mine, theirs] = [a, b].map((edits) => edits.reduce(edited, base)) as [JobDocument, JobDocument];
          expect(mergeJobs(base, mine, base)!.document).toEqual(mine);
          expect(mergeJobs(base, base, theirs)!.document).toEqual(theirs);
          const merge = mergeJobs(base, mine, theirs);
          const turned = mergeJobs(base, theirs, mine, () => "theirs");
          expect(turned === undefined).toBe(merge === undefined);
          if (!merge || !turned) return;
          expect(turned.conflicts.length).toBe(merge.conflicts.length);
          for (const { where } of merge.conflicts) expect(where).not.toMatch(/\[|\]|site\.|undefined/);
          if (merge.conflicts.length === 0) {
            const byId = ({ site }: JobDocument) => new Map(site.nodes.map((node) => [node.id, node]));
            const [before, own, other, both] = [base, mine, theirs, merge.document].map(byId) as [
              ReturnType<typeof byId>,
              ReturnType<typeof byId>,
              ReturnType<typeof byId>,
              ReturnType<typeof byId>,
            ];
            for (const id of new Set([...own.keys(), ...other.keys()]))
              if (!before.has(id)) expect(both.has(id)).toBe(true);
            for (const id of before.keys()) if (!own.has(id) || !other.has(id)) expect(both.has(id)).toBe(false);
            expect(sameJson([...byId(turned.document).keys()].sort(), [...both.keys()].sort())).toBe(true);
          }
        },
      ),
      { numRuns: 60 },
    );
  });
});
