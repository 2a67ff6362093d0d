import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { clampOf } from "@/core/site/fitClamp";
import { resolve } from "@/core/plan/resolve";
import { changeLinks } from "@/core/job/changeLinks";
import { changeMember } from "@/core/links/editLinks";
import { anyEdit, edited } from "../../../tests/fixtures/randomEdits";
import { jobFromPattern, shippedPatterns } from "../../../tests/fixtures/shipped";

const anyJob = fc
  .record({
    pattern: fc.constantFrom(...shippedPatterns().map(({ id }) => id)),
    steps: fc.array(anyEdit, { maxLength: 8 }),
  })
  .map(({ pattern, steps }) => steps.reduce((job, step) => edited(job, step), jobFromPattern(pattern)));

describe("a resolved plan", () => {
  it("has of every device what the document says of it: kit, place, feeder, own meters and links", () => {
    fc.assert(
      fc.property(anyJob, (job) => {
        const { site, kits, links } = job;
        const plan = resolve(job);
        for (const { node, kit, place, parent, children, isNew } of plan.nodes) {
          expect(kit).toBe(kits.find(({ id }) => id === node!.kit));
          expect(place).toBe(site.places.find(({ id }) => id === node!.place));
          expect(parent?.node).toBe(site.nodes.find(({ id }) => id === node!.fedFrom));
          expect(children.map((child) => child.node)).toEqual(site.nodes.filter(({ fedFrom }) => fedFrom === node!.id));
          expect(isNew).toBe(!node!.existing);
        }
        for (const device of [...plan.nodes, ...plan.equipment])
          expect(device.meters.map(({ meter }) => meter)).toEqual(
            site.meters.filter(({ partOf }) => partOf === device.id),
          );
        for (const device of plan.joinable)
          expect(device.links.map(({ id }) => id)).toEqual(
            links.filter(({ members }) => members.some(({ item }) => item === device.id)).map(({ id }) => id),
          );
      }),
      { numRuns: 60 },
    );
  });

  it("has on each input its kit's input and the CT that is plugged in", () => {
    fc.assert(
      fc.property(anyJob, (job) => {
        const { inputs } = resolve(job);
        expect(inputs.map(({ meter, input }) => [meter.id, input.n])).toEqual(
          job.site.meters.flatMap((meter) => meter.inputs.map(({ n }) => [meter.id, n])),
        );
        for (const { meter, input, kit, kitInput, clamp } of inputs) {
          expect(clamp).toBe(clampOf(job.site, { meter: meter.id, input: input.n }));
          expect(kitInput).toBe(kit?.metering?.inputs.find(({ n }) => n === input.n));
        }
      }),
      { numRuns: 60 },
    );
  });

  it("has of each link an end for every member, and whole ones only where all are there", () => {
    fc.assert(
      fc.property(anyJob, (job) => {
        for (const { members, ends, whole, isFarSide, kind } of resolve(job).links) {
          expect(ends.map(({ member }) => member)).toEqual(members);
          for (const { member, device, port } of ends) {
            if (device) expect(device.id).toBe(member.item);
            if (port) expect(port.id).toBe(member.port);
          }
          expect(whole !== undefined).toBe(ends.every(({ port }) => port !== undefined));
          if (isFarSide) expect(kind).toBe("rs485");
        }
      }),
      { numRuns: 60 },
    );
  });

  it("joins both sides of a radio pair to one bus, and knows which is the far one", () => {
    const barn = resolve(jobFromPattern("outbuilding-radio-pair"));
    const near = barn.links.find(({ beyond }) => beyond?.line !== undefined)!;
    expect(near.beyond).toMatchObject({ radio: { kind: "radio" }, line: { kind: "rs485", isFarSide: true } });
    expect(near.isFarSide).toBe(false);
    expect(near.beyond!.nearHalf!.kit.kind).toBe("radio-pair");
    expect(near.beyond!.farHalf).not.toBe(near.beyond!.nearHalf);
  });

  it("loses an end whose port is gone, and says so by it", () => {
    const job = jobFromPattern("export-controller");
    const [line] = job.links.filter(({ kind }) => kind === "rs485");
    const links = changeMember(job.links, line!.id, 1, { port: "no such port" });
    const { ends, whole } = resolve({ ...job, links }).linkById.get(line!.id)!;
    expect(whole).toBeUndefined();
    expect(ends[1]).toMatchObject({ port: undefined, device: { id: line!.members[1]!.item } });
  });

  it("is made once a change: the same is given until a part is another", () => {
    const job = jobFromPattern("export-controller");
    const plan = resolve(job);
    expect(resolve({ ...job })).toBe(plan);
    expect(resolve({ ...job, limit: { ...job.limit, powerW: 5000 } })).toMatchObject({ limit: { powerW: 5000 } });
    const unlinked = resolve(changeLinks(job, () => []));
    expect(unlinked.links).toEqual([]);
    expect(resolve(job)).toEqual(plan);
    expect(resolve(job).links).toHaveLength(job.links.length);
  });
});
