import { describe, expect, it } from "vitest";
import type { JobDocument } from "@/core/job/jobDocument";
import { busOfLink } from "@/core/links/bus/busOfLink";
import { resolve } from "@/core/plan/resolve";
import { visitOf } from "@/core/plan/askedVisit";
import { serviceReasonSchema, visitKindSchema, visitSettingsSchema } from "@/core/plan/visitSettings";
import { computeVisit, visitResponseSchema } from "@/core/visit/computeVisit";
import type { SettingId } from "@/core/kits/menuSchema";
import { nextVisit } from "@/core/visit/nextVisit";
import { TOUCHES } from "@/core/visit/rules/orderRules";
import { visitEntrySchema } from "@/core/visit/visitEntry";
import { visitNames } from "@/core/visit/visitKinds";
import { visitSheet } from "@/core/visit/visitSheet";
import { contentMark, stateOf, visitState } from "@/core/visit/visitState";
import { jobFromPattern, shippedPatterns } from "../../../tests/fixtures/shipped";

const PATTERNS = shippedPatterns().map(({ id }) => id);
const KINDS = [
  ...visitKindSchema.options.filter((kind) => kind !== "service"),
  ...serviceReasonSchema.options,
] as const;
const OPENS = new Set(["isolate", "prove-dead", "bleed", "restore", "covers", "mount", ...TOUCHES]);

/** A site on which all stands already, but what is named. */
function standing(job: JobDocument, ...news: readonly string[]): JobDocument {
  const there = <T extends { readonly id: string }>(things: readonly T[]) =>
    things.map((thing) => ({ ...thing, existing: !news.includes(thing.id) }));
  const { site, links } = job;
  return {
    ...job,
    site: { ...site, nodes: there(site.nodes), meters: there(site.meters), equipment: there(site.equipment) },
    links: links.map((link) => ({ ...link, existing: !link.members.some(({ item }) => news.includes(item)) })),
  };
}

function stepsOf(job: JobDocument, asked: (typeof KINDS)[number]) {
  return visitSheet({ ...job, visit: { ...job.visit, ...visitOf(asked) } }).steps;
}

describe.each(PATTERNS)("visits to %s", (id) => {
  const job = jobFromPattern(id);

  it("open nothing and have no gate where the router changed, something is not online, or it is inspected", () => {
    for (const kind of ["router-changed", "not-online", "inspection"] as const) {
      const steps = stepsOf(job, kind);
      expect(steps.filter(({ tag, isGate }) => OPENS.has(tag) || isGate)).toEqual([]);
      expect(steps.at(-1)?.tag).toBe("compare");
    }
  });

  it("are read as found before anything is opened for a wrong reading, and compared before it is closed", () => {
    const steps = stepsOf(job, "reading-wrong");
    const isClamped = job.site.meters.some(({ inputs }) => inputs.some((input) => !input.builtIn));
    expect(steps.some(({ tag }) => tag === "isolate")).toBe(isClamped);
    if (!isClamped) return;
    const at = (tag: string) => steps.findIndex((step) => step.tag === tag);
    expect(at("as-found")).toBeLessThan(at("isolate"));
    expect(at("isolate")).toBeLessThan(at("clamp"));
    expect(at("clamp")).toBeLessThan(at("prove"));
    expect(at("prove")).toBeLessThan(at("compare"));
    expect(at("compare")).toBeLessThan(at("covers"));
    expect(steps.filter(({ tag }) => ["mount", "bond", "wire-power", "ct-leads", "configure"].includes(tag))).toEqual(
      [],
    );
  });

  it("leave what stands there alone, whatever their kind", () => {
    const all = standing(job);
    for (const kind of ["first-installation", "device-added", "exchange", "extension"] as const)
      expect(stepsOf(all, kind).filter(({ tag }) => OPENS.has(tag))).toEqual([]);
  });

  it("work on the one meter that is new, switch off what feeds it, and tell its reader", () => {
    const meter = job.site.meters[0]!;
    const steps = stepsOf(standing(job, meter.id), "device-added");
    expect(
      steps.some(({ tag, about }) => tag === "clamp" && about === meter.id) ||
        meter.inputs.every((input) => input.builtIn),
    ).toBe(true);
    const others = new Set([...job.site.meters.slice(1), ...job.site.nodes].map((thing) => thing.id));
    expect(
      steps.filter(
        ({ tag, about }) =>
          ["clamp", "ct-leads", "taps", "wire-power", "bond", "mount"].includes(tag) && others.has(about!),
      ),
    ).toEqual([]);
  });

  it("switch off what feeds a device before a new cable is brought into it", () => {
    const parentOf = new Map(job.site.nodes.map((node) => [node.id, node.fedFrom]));
    for (const { id: added } of [...job.site.equipment, ...job.site.meters]) {
      const plan = standing(job, added);
      const steps = stepsOf(plan, "device-added");
      const off = new Set(steps.filter(({ tag }) => tag === "isolate").map(({ about }) => about));
      const wired = new Set(steps.filter(({ tag }) => tag === "wire-link").map(({ about }) => about));
      for (const { members } of plan.links.filter((link) => wired.has(link.id)))
        for (const { item } of members.filter((member) => parentOf.has(member.item))) {
          const above = [];
          for (let at = parentOf.get(item); at !== undefined; at = parentOf.get(at)) above.push(at);
          expect(above.some((board) => off.has(board))).toBe(true);
        }
    }
  });

  it("come from the route as from the sheet, for every kind, in an order that keeps every need", () => {
    for (const visit of KINDS) {
      const answer = computeVisit({ document: job, visit });
      expect(visitResponseSchema.parse(answer)).toEqual(answer);
      const seen = new Set<string>();
      for (const step of answer.steps) {
        for (const need of step.needs) expect(seen).toContain(need);
        seen.add(step.id);
      }
      expect(answer.findings).toEqual([]);
    }
  });
});

it.each(PATTERNS)("has one speed, parity and address for each bus of %s, those that Wire computes with", (id) => {
  const plan = resolve(jobFromPattern(id));
  const steps = visitSheet(jobFromPattern(id)).steps.filter(({ tag }) => tag === "configure");
  for (const { about, content } of steps) {
    const buses = (plan.deviceById.get(about!)?.links ?? []).flatMap((link) => busOfLink(link) ?? []);
    // Without a bus the kit says what it comes with.
    if (buses.length === 0) continue;
    const { menu } = plan.deviceById.get(about!)!.kit!;
    const typed = (sets: SettingId, usual: string) => {
      const field = menu.find((entry) => entry.sets === sets)?.field ?? usual;
      return content.filter(({ label }) => label.startsWith(field)).map(({ value }) => value);
    };
    expect(typed("baud", "Bus speed")).toEqual(buses.map(({ baud }) => `${baud} baud`));
    expect(typed("parity", "Parity")).toEqual(buses.map(({ parity }) => parity));
    expect(typed("stop-bits", "Stop bits")).toEqual(buses.map(({ stopBits }) => String(stopBits)));
    expect(typed("address", "Bus address").length).toBeLessThanOrEqual(buses.length);
  }
});

it("keeps every step, a gate above all, of a device whose id holds a colon", () => {
  const { links: _links, ...job } = jobFromPattern("two-ct-add-on");
  const titles = (id: string) => {
    const nodes = job.site.nodes.map((node) => ({ ...node, existing: false, ...(node.id === "solar" ? { id } : {}) }));
    return visitSheet({ ...job, links: [], site: { ...job.site, meters: [], cts: [], nodes } }).steps.map(
      ({ title }) => title,
    );
  };
  expect(titles("solar").some((title) => title.startsWith("Switch on AC"))).toBe(true);
  expect(titles("so:lar")).toEqual(titles("solar"));
});

it("shows the jumpers of this supply only: one for a single phase would short three", () => {
  const phases = jobFromPattern("export-controller");
  const said = visitSheet(phases)
    .steps.filter(({ tag }) => tag === "taps")
    .flatMap(({ content }) => content);
  expect(said.length).toBeGreaterThan(0);
  expect(said.filter(({ label }) => /single-phase/.test(label))).toEqual([]);
});

it.each(PATTERNS)("asks of %s nothing before what it presumes, and ends with a tidy site and its owner", (id) => {
  const job = jobFromPattern(id);
  const steps = visitSheet({ ...job, visit: { ...job.visit, kind: "first-installation", ctTest: "built-in" } }).steps;
  const at = (tag: string) => steps.flatMap((step, index) => (step.tag === tag ? [index] : []));
  const presumes = [
    ["restore", "cellular-level"],
    ["restore", "ct-test"],
    ["reconnect", "ct-test"],
    ["ct-test", "prove"],
    ["covers", "owner"],
  ] as const;
  for (const [first, then] of presumes)
    for (const later of at(then)) expect(Math.max(-1, ...at(first))).toBeLessThan(later);
  expect(steps.slice(-2).map(({ tag }) => tag)).toEqual(["tidy", "owner"]);
});

it.each(PATTERNS)("sends to the board that feeds the run for the CTs of %s", (id) => {
  const { site } = jobFromPattern(id);
  const nodeOf = new Map(site.nodes.map((node) => [node.id, node]));
  for (const { about, place } of visitSheet(jobFromPattern(id)).steps.filter(({ tag }) => tag === "clamp")) {
    const { measures } = site.meters.find((meter) => meter.id === about)!.inputs[0]!;
    const run = nodeOf.get(measures[0]!.run)!;
    const feeder = nodeOf.get(run.fedFrom!)!;
    expect(place).toBe(feeder.kind === "board" ? feeder.place : run.place);
  }
});

it("has no taps for a transmitter without mains", () => {
  const job = jobFromPattern("diverter-and-hub");
  const alone = job.site.meters.filter(({ kit }) => {
    const transmitter = job.kits.find((own) => own.id === kit)?.metering?.transmitter;
    return transmitter !== undefined && transmitter.supply !== "mains";
  });
  expect(alone.length).toBeGreaterThan(0);
  const about = new Set(
    visitSheet(job)
      .steps.filter(({ tag }) => tag === "taps")
      .map((step) => step.about),
  );
  for (const { id } of alone) expect(about).not.toContain(id);
});

it("keeps the log of each visit apart: a step of the next is open, whatever was recorded on the one before", () => {
  const job = jobFromPattern("two-ct-add-on");
  const sheet = visitSheet(job);
  const [survey] = sheet.steps;
  const entry = visitEntrySchema.parse({
    id: "00000000-0000-4000-8000-000000000001",
    at: "2026-11-28T08:00:00.000Z",
    person: "Robin",
    kind: "result",
    step: survey!.id,
    title: survey!.title,
    content: contentMark(survey!),
    outside: [],
  });
  const next = nextVisit(job.visit, "second", "device-added", "2026-11-28T17:00:00.000Z");
  expect(visitSettingsSchema.parse(next)).toEqual(next);
  expect(stateOf(visitState(sheet, [entry], job.visit.id), survey!.id).status).toBe("done");
  expect(stateOf(visitState(sheet, [entry], next.id), survey!.id).status).toBe("open");
  expect([...visitNames(next)]).toEqual([
    ["first", "1, First installation"],
    ["second", "2, Device or meter added"],
  ]);
});
