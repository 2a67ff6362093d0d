import { describe, expect, it } from "vitest";
import { controllers } from "@/core/control/controllers";
import { exportLimiter } from "@/core/control/exportLimiter";
import { heaterChecks } from "@/core/control/heaterChecks";
import { sightFindings, whoSeesWhat } from "@/core/control/whoSeesWhat";
import { changeNode, removeNode } from "@/core/edits/editPlan";
import type { JobDocument } from "@/core/job/jobDocument";
import { readingAges } from "@/core/links/bus/readingAges";
import { topologyFindings } from "@/core/links/check/topologyRules";
import { proposeLinks } from "@/core/links/propose/proposeLinks";
import { wiringSchedule } from "@/core/links/wiring/wiringSchedule";
import { resolve } from "@/core/plan/resolve";
import type { Meter, SiteNode } from "@/core/site/planSchema";
import { materials } from "@/core/visit/materials";
import { visitSheet } from "@/core/visit/visitSheet";
import { answersFor, jobFromPattern, shippedKits, shippedPatterns } from "../../../tests/fixtures/shipped";

const withLinks = (job: JobDocument): JobDocument => ({ ...job, links: [...proposeLinks(resolve(job))] });
const without = (id: string, device: string) =>
  jobFromPattern(id, {
    devices: answersFor(id).devices.map((own) => (own.id === device ? { ...own, present: false } : own)),
  });
const controllersOf = (job: JobDocument) =>
  Object.fromEntries(controllers(resolve(job)).map(({ id, meter, through }) => [id, [meter.id, through?.id]]));
const lineOf = ({ links }: JobDocument, item: string) =>
  links.find(({ kind, members }) => kind === "rs485" && members.some((member) => member.item === item));

describe("Whoever acts on a meter", () => {
  it("is the one that asks on the line, also from its middle", () => {
    const job = jobFromPattern("cellular-shared-pair");
    expect(lineOf(job, "meter")?.members.map(({ item }) => item)).toEqual(["stack", "hybrid", "meter"]);
    expect(readingAges(resolve(job)).map(({ reader }) => reader.id)).toEqual(["hybrid"]);
    expect(exportLimiter(resolve(job))?.controller.id).toBe("hybrid");
  });

  it("asks through a radio pair as over a wire", () => {
    expect(controllersOf(jobFromPattern("outbuilding-radio-pair"))).toEqual({ solar: ["grid-meter", undefined] });
  });

  it("goes by its hub's CTs where it follows one, and the hub's battery CT keeps the battery out of the heater", () => {
    const job = jobFromPattern("diverter-and-hub");
    expect(controllersOf(job)).toEqual({ heater: ["hub", "charger"], charger: ["hub", undefined] });
    const sights = whoSeesWhat(resolve(job), "planned").filter(({ controller }) => controller.id === "heater");
    expect(sights.map(({ words }) => words)).toEqual(sights.map(() => "seen"));
    expect(sightFindings(resolve(job)).map(({ code }) => code)).not.toContain("battery-feeds-heater");
    const blind = {
      ...job,
      site: { ...job.site, meters: job.site.meters.filter(({ id }) => id !== "radio"), cts: [] },
    };
    expect(sightFindings(resolve(blind), whoSeesWhat(resolve(blind), "planned")).map(({ code }) => code)).toContain(
      "battery-feeds-heater",
    );
  });

  it("goes by the gateway's or the energy manager's, where they share a network or a line", () => {
    expect(controllersOf(jobFromPattern("metering-gateway"))).toEqual({
      "battery-1": ["gateway", "gateway"],
      "battery-2": ["gateway", "gateway"],
    });
    const job = jobFromPattern("energy-manager");
    expect(controllersOf(job)).toMatchObject({ em: ["em", undefined], "charger-1": ["em", "em"] });
    const apart = { ...job, links: job.links.filter(({ kind }) => kind !== "ethernet") };
    expect(Object.keys(controllersOf(apart))).not.toContain("battery-1");
  });

  it("leads a hybrid with its storage on the DC side: told by network, charged and discharged in turn", () => {
    const job = jobFromPattern("energy-manager");
    const kits = [...job.kits, ...shippedKits().filter(({ id }) => /^(hybrid-three-10k|battery-stack-hv)$/.test(id))];
    const hybrid: SiteNode = {
      ...job.site.nodes.find(({ id }) => id === "battery-1")!,
      kind: "hybrid-inverter",
      kit: "hybrid-three-10k",
      phases: ["L1", "L2", "L3"],
      ratedW: 10_000,
    };
    const site = {
      ...job.site,
      nodes: job.site.nodes.flatMap((node) =>
        node.id === "battery-1" ? hybrid : node.id === "battery-2" ? [] : [node],
      ),
      equipment: [...job.site.equipment, { id: "stack", name: "Stack", kit: "battery-stack-hv", place: "garage" }],
    };
    const dc = withLinks({ ...job, site, kits });
    expect(controllersOf(dc)).toMatchObject({ "battery-1": ["em", "em"] });
    expect(dc.links.find(({ kind }) => kind === "can")?.members.map(({ item }) => item)).toEqual([
      "battery-1",
      "stack",
    ]);
    const { steps } = visitSheet(dc);
    const proved = steps.filter(({ tag }) => tag === "prove").map(({ about }) => about);
    expect(proved).toEqual(expect.arrayContaining(["charging:battery-1", "discharging:battery-1"]));
    const typed = steps.find(({ tag, about }) => tag === "configure" && about === "battery-1");
    expect(typed?.content.map(({ value }) => value)).toContain("led from outside, by Energy manager");
  });
});

describe("The meter of cascaded inverters", () => {
  it("is asked by the logger while there are two, and by the inverter itself when one is left", () => {
    expect(lineOf(jobFromPattern("cascaded-logger"), "sensor")?.members[0]).toMatchObject({ item: "logger" });
    const lone = without("cascaded-logger", "solar-2");
    expect(lineOf(lone, "sensor")?.members).toMatchObject([
      { item: "solar-1", port: "meter" },
      { item: "sensor", port: "bus" },
    ]);
    expect(lone.links.filter(({ kind }) => kind === "rs485")).toHaveLength(2);
    expect(topologyFindings(resolve(lone))).toEqual([]);
  });

  it("moves when one is removed: the plan says so until its links are proposed anew", () => {
    const both = jobFromPattern("cascaded-logger");
    expect(topologyFindings(resolve(both))).toEqual([]);
    const one = removeNode("solar-2")(both);
    expect(topologyFindings(resolve(one)).map(({ code }) => code)).toEqual(["topology-meter-place"]);
    expect(topologyFindings(resolve(withLinks(one)))).toEqual([]);
    const readers = (job: JobDocument) => readingAges(resolve(job)).map(({ reader }) => reader.id);
    expect([readers(both), readers(withLinks(one))]).toEqual([["logger"], ["solar-1"]]);
  });
});

describe("Contacts", () => {
  const stop = jobFromPattern("cascaded-logger");

  it("of a shutdown switch stop one inverter each, core by core, and each is proved once with its caution", () => {
    const links = resolve(stop).links.filter(({ id, kind }) => kind === "dry-contact" && id !== "dry-contact-1");
    expect(links.map(({ members }) => members.map(({ item, port }) => `${item} ${port}`))).toEqual([
      ["shutdown stop-1", "solar-1 stop"],
      ["shutdown stop-2", "solar-2 stop"],
    ]);
    const cores = wiringSchedule({ links: links.slice(0, 1) });
    expect(cores.map(({ from, to }) => [from.terminal, to?.terminal])).toEqual([
      ["11", "S1"],
      ["12", "S2"],
    ]);
    const { steps } = visitSheet(stop);
    const proved = steps.filter(({ tag }) => tag === "contact");
    expect(proved.map(({ about }) => about).toSorted()).toEqual(
      stop.links.flatMap(({ id, kind }) => (kind === "dry-contact" ? id : [])).toSorted(),
    );
    expect(proved.find(({ about }) => about === links[0]!.id)?.caution).toMatch(/isolates nothing/);
    const covers = steps.findIndex(({ tag }) => tag === "covers");
    for (const step of proved) expect(steps.indexOf(step)).toBeLessThan(covers);
  });

  it("of an energy manager close a smart switch, which is wired feed in and load out", () => {
    const job = jobFromPattern("energy-manager");
    const { steps } = visitSheet(job);
    const mains = steps.find(({ tag, about }) => tag === "wire-power" && about === "pump-switch");
    expect(mains?.content.find(({ label }) => label === "Direction")?.value).toBe("supply in at FEED, out at LOAD");
    const contact = steps.find(({ tag }) => tag === "contact");
    expect(contact?.title).toContain("Smart switch of the pool pump");
    expect(contact?.caution).toBeUndefined();
  });

  it.each(shippedPatterns().map(({ id }) => id))(
    "of %s have a proving step each, but what starts a generator",
    (id) => {
      const job = jobFromPattern(id);
      if (job.visit.kind !== "first-installation") return;
      const proved = visitSheet(job).steps.flatMap(({ tag, about }) => (tag === "contact" ? about! : []));
      const given = resolve(job).links.filter(
        ({ kind, ends }) => kind === "dry-contact" && !ends.some(({ device }) => device?.kit.kind === "generator"),
      );
      expect(proved.toSorted()).toEqual(given.map((link) => link.id).toSorted());
    },
  );
});

describe("A heater circuit that a diverter takes over", () => {
  const job = jobFromPattern("diverter-and-hub");
  const heater = job.site.nodes.find(({ id }) => id === "heater")!;
  const checked = (part: Partial<SiteNode>) =>
    heaterChecks(resolve(changeNode("heater", part)(job))).map(({ code }) => code);

  it("is traced, cut behind its isolator, each element measured by its resistance before it is joined", () => {
    const step = visitSheet(job).steps.find(({ tag, about }) => tag === "wire-power" && about === "heater");
    const lines = Object.fromEntries(step!.content.map(({ label, value }) => [label, value]));
    expect(lines["The circuit there"]).toContain("from the breaker into SUPPLY");
    expect([lines["On H1"], lines["On H2"]]).toEqual(["Lower element, 3.00 kW", "Upper element, 3.00 kW"]);
    expect(lines.Bypass).toContain("SUN for surplus");
    const fields = step!.evidence.kind === "values" ? step!.evidence.fields : [];
    // 230 V² / 3000 W = 17.6 Ω.
    expect(fields.find(({ id }) => id === "element-h1")).toMatchObject({ unit: "Ω", least: 15.9, most: 20.3 });
    const proof = visitSheet(job).steps.find(({ tag, about }) => tag === "prove" && about === "on:heater");
    expect(proof?.content.map(({ label }) => label)).toEqual(expect.arrayContaining(["In turn", "Bypass"]));
  });

  it("has each element on an output that is there, none beside another, none above what it carries", () => {
    expect(checked({})).not.toEqual(expect.arrayContaining([expect.stringMatching(/^element-/)]));
    const [lower, upper] = heater.heater!.elements;
    const elements = (...own: (typeof lower)[]) => ({ heater: { elements: own.map((element) => element!) } });
    expect(checked(elements(lower, { ...upper!, output: "h1" }))).toContain("element-shared");
    expect(checked(elements(lower, { ...upper!, output: "h7" }))).toContain("element-output");
    expect(checked(elements({ ...lower!, ratedW: 3600 }, upper))).toContain("element-over-output");
  });

  it("brings nothing into the sheet of a diverter whose elements nobody named", () => {
    const plain = { ...job, site: { ...job.site, nodes: job.site.nodes.map(({ heater: _, ...node }) => node) } };
    const step = visitSheet(plain).steps.find(({ tag, about }) => tag === "wire-power" && about === "heater");
    expect(step?.content.some(({ label }) => label === "The circuit there")).toBe(false);
    expect(materials(plain).length).toBeGreaterThan(0);
  });
});

describe("A battery with a meter port and a CT of its own on the generation", () => {
  const base = jobFromPattern("two-ct-add-on");
  const battery: SiteNode = {
    id: "battery",
    kind: "battery-inverter",
    name: "Battery",
    fedFrom: "board",
    phases: ["L1"],
    kit: "battery-inverter-5k-meter",
    place: "cupboard",
    ratedW: 5000,
    fuseA: 32,
  };
  const [meter] = base.site.meters;
  const grid = { ...meter!, inputs: meter!.inputs.filter(({ role }) => role === "grid") };
  const sun = {
    ...meter!.inputs.find(({ role }) => role === "generation")!,
    n: 1,
    primaryA: 80,
    secondary: { value: 100, unit: "mA" as const },
  };
  const ownCt: Meter = {
    id: "sun-ct",
    name: "Sun CT",
    kit: "battery-inverter-5k-meter",
    partOf: "battery",
    taps: { V1: "L1" },
    inputs: [sun],
  };
  const job = withLinks({
    ...base,
    kits: [...base.kits, ...shippedKits().filter(({ id }) => id === battery.kit)],
    site: {
      ...base.site,
      nodes: [...base.site.nodes, battery],
      meters: [grid, ownCt],
      cts: [],
    },
  });

  it("asks the grid meter over its line, acts on it, and has role and ratio of its own CT typed", () => {
    expect(lineOf(job, "meter")?.members.map(({ item, port }) => `${item} ${port}`)).toEqual([
      "battery meter",
      "meter bus",
    ]);
    expect(controllersOf(job)).toEqual({ battery: ["meter", undefined] });
    const typed = visitSheet(job).steps.find(({ tag, about }) => tag === "configure" && about === "battery");
    const lines = Object.fromEntries(typed!.content.map(({ label, value }) => [label, value]));
    expect(lines["Sun ring is for"]).toMatch(/generation/);
    expect(lines["Sun ring amperes"]).toMatch(/^80 /);
  });
});
