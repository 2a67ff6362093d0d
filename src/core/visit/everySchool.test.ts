import { describe, expect, it } from "vitest";
import { schoolChoices } from "@/core/plan/visitSettings";
import type { JobDocument } from "@/core/job/jobDocument";
import { isCurrentOutput } from "@/core/sensing/ctBurden";
import { activeSchool, SCHOOLS, type SchoolId } from "@/core/visit/schools";
import { visitSheet } from "@/core/visit/visitSheet";
import { TOUCHES } from "@/core/visit/rules/orderRules";
import type { StepTag, VisitStep } from "@/core/visit/visitStep";
import { jobFromPattern, shippedPatterns } from "../../../tests/fixtures/shipped";

const PATTERNS = shippedPatterns()
  .filter(({ visit }) => visit === undefined)
  .map(({ id }) => id);
const CHOICES = Object.entries(schoolChoices).flatMap(([id, choice]) =>
  choice.options.map((option) => ({ [id]: option }) as Partial<JobDocument["visit"]>),
);
const ON: readonly StepTag[] = ["on-ac", "on-battery", "on-dc", "on", "on-generator"];
const SOURCES: readonly StepTag[] = ["restore", "restore-backup", "island", ...ON];

/**
 * What holds at a moment of a visit, told by what was done before it: written from how the work goes, apart from the
 * rules that make the order.
 */
class Site {
  private readonly done: VisitStep[] = [];

  constructor(private readonly job: JobDocument) {}

  did(step: VisitStep): void {
    this.done.push(step);
  }

  has(tag: StepTag, about?: string): boolean {
    return this.done.some((step) => step.tag === tag && (about === undefined || step.about === about));
  }

  get isEnergised(): boolean {
    return this.done.some(({ tag }) => SOURCES.includes(tag));
  }

  /** Whether a device has power: its own switch, its battery's, or the supply where it has no switch. */
  hasPower(id: string, sheet: readonly VisitStep[]): boolean {
    const own = sheet.filter(({ tag, about }) => ON.includes(tag) && about === id);
    const batteries = this.job.links
      .filter(({ kind, members }) => kind === "can" && members.some(({ item }) => item === id))
      .flatMap(({ members }) => members.map(({ item }) => item));
    return own.length === 0
      ? this.isEnergised
      : this.done.some(({ tag, about }) => ON.includes(tag) && (about === id || batteries.includes(about!)));
  }

  left(tag: StepTag, sheet: readonly VisitStep[]): readonly VisitStep[] {
    return sheet.filter((step) => step.tag === tag && !this.done.includes(step));
  }
}

/** What a step presumes and what does not hold yet, in words; empty where all of it does. */
function missing(step: VisitStep, site: Site, sheet: readonly VisitStep[], job: JobDocument): readonly string[] {
  const unless = (holds: boolean, words: string) => (holds ? [] : [`${step.id}: ${words}`]);
  const none = (tag: StepTag) => site.left(tag, sheet).length === 0;
  switch (step.tag) {
    case "restore":
      return unless(site.has("clear", step.about) && none("clamp") && none("wire-power"), "somebody still works on it");
    case "restore-backup":
    case "island":
      return unless(site.has("clear", step.about) && site.has("restore"), "somebody still works on it");
    case "on-generator":
      return unless(
        ["restore", "restore-backup", "island", "on-battery", "on-dc"].every((tag) => none(tag as StepTag)),
        "the generator before what it waits for",
      );
    case "neutral-earth":
      return unless(none("wire-power"), "measured before its mains are in");
    case "loads":
      return unless(none("restore") && none("island") && none("on-generator"), "loads before a source");
    case "reach":
    case "configure":
      return unless(site.hasPower(step.about!, sheet), "has no power");
    case "cellular-level":
      return unless(site.isEnergised && none("sim"), "its module has no power");
    case "ct-test":
      return unless(none("loads") && none("reconnect") && none("configure"), "no grid, no load or no settings");
    case "prove":
      return unless(
        none("loads") && ON.every(none) && none("configure") && none("inverters-on") && none("pair"),
        "not all of it runs with its settings",
      );
    case "test-dead":
      return unless(!site.isEnergised, "a dead test on what is live");
    case "test-live":
      return unless(site.has("restore"), "a live test on what is dead");
    case "online":
    case "firmware":
      return unless(none("loads"), "the router has no supply");
    case "covers":
      return unless(none("prove") && none("test-running"), "closed before it is proved");
    default: {
      const link = job.links.find(({ id }) => id === step.about);
      const isModule = link?.kind === "usb";
      return TOUCHES.includes(step.tag) ? unless(!site.isEnergised || isModule, "touched while live") : [];
    }
  }
}

describe.each(PATTERNS)("every method on %s", (id) => {
  it("has an order without conflict in which no step is asked for before what it presumes", () => {
    const job = jobFromPattern(id);
    for (const choice of CHOICES) {
      const own = { ...job, visit: { ...job.visit, ...choice } };
      const { steps, findings } = visitSheet(own);
      expect({ choice, findings }).toEqual({ choice, findings: [] });
      const site = new Site(own);
      for (const step of steps) {
        expect({ choice, missing: missing(step, site, steps, own) }).toEqual({ choice, missing: [] });
        site.did(step);
      }
    }
  });

  it("fixes before it isolates or after, closes one CT or its leads first, as was chosen, and no gate is lost", () => {
    const job = jobFromPattern(id);
    const of = (visit: Partial<JobDocument["visit"]>) =>
      visitSheet({ ...job, visit: { ...job.visit, ...visit } }).steps;
    const first = (steps: readonly VisitStep[], tag: StepTag) => steps.findIndex((step) => step.tag === tag);
    const wallMounts = (steps: readonly VisitStep[]) =>
      steps.flatMap(({ tag, about }, at) => {
        const kit = [...job.site.nodes, ...job.site.equipment].find((own) => own.id === about)?.kit;
        return tag === "mount" && kit !== undefined ? [at] : [];
      });
    const [late, early] = [of({ isolateWhen: "fix-first" }), of({ isolateWhen: "isolate-first" })];
    for (const at of wallMounts(late)) expect(at).toBeLessThan(first(late, "isolate"));
    for (const at of wallMounts(early)) expect(at).toBeGreaterThan(first(early, "isolate"));
    const gates = (steps: readonly VisitStep[]) =>
      steps
        .filter(({ isGate }) => isGate)
        .map((step) => step.id)
        .toSorted();
    for (const choice of CHOICES.filter((own) => !("ctTest" in own))) expect(gates(of(choice))).toEqual(gates(late));
  });

  it("never closes a current-output CT round the supply before its leads are in", () => {
    const job = jobFromPattern(id);
    const { steps } = visitSheet({ ...job, visit: { ...job.visit, ctLeads: "clamp-first" } });
    const at = (tag: StepTag, about: string) => steps.findIndex((step) => step.tag === tag && step.about === about);
    for (const meter of job.site.meters.filter(({ inputs }) => inputs.some((input) => !input.builtIn))) {
      const isVoltage = meter.inputs.every(({ secondary }) => !isCurrentOutput(secondary));
      const supply = job.site.nodes.filter(({ fedFrom }) => fedFrom === "grid").map((node) => node.id);
      const isSupply = meter.inputs.some(({ measures }) => measures.some(({ run }) => supply.includes(run)));
      const [leads, clamp] = [at("ct-leads", meter.id), at("clamp", meter.id)];
      if (isVoltage) expect(clamp).toBeLessThan(leads);
      else if (isSupply) expect(leads).toBeLessThan(clamp);
    }
  });
});

describe("A method", () => {
  const kits = new Map(jobFromPattern("bluetooth-set-up").kits.map((kit) => [kit.id, kit]));
  const { visit } = jobFromPattern("bluetooth-set-up");

  it("has two answers in words and a reason for the usual one", () => {
    for (const [id, { question, words, usual }] of Object.entries(SCHOOLS)) {
      const options = schoolChoices[id as SchoolId].options.filter((option) => option !== "kit");
      expect(Object.keys(words).toSorted()).toEqual([...options].toSorted());
      expect(words[usual.option]).toBeDefined();
      expect([question, usual.why].every((text) => text.length > 5)).toBe(true);
    }
  });

  it("is the kit's where nobody chose, with the kit's reason; else the one that was chosen", () => {
    const kit = kits.get("pv-single-6k-short-range")!;
    expect(activeSchool(visit, kit, "configureWhen")).toEqual({
      option: "before-ac",
      why: expect.stringContaining("electronics live on DC") as string,
    });
    expect(activeSchool({ ...visit, configureWhen: "after-ac" }, kit, "configureWhen").option).toBe("after-ac");
  });

  it("is not followed where the kit's own order of switching on forbids it", () => {
    const kit = jobFromPattern("display-and-keys").kits.find(({ id }) => id === "pv-single-5k-keys")!;
    const active = activeSchool({ ...visit, configureWhen: "before-ac" }, kit, "configureWhen");
    expect(active).toEqual({ option: "after-ac", why: expect.stringContaining("its AC comes first") as string });
  });
});
