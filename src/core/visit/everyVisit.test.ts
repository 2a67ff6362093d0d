import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { visitSettingsSchema } from "@/core/plan/visitSettings";
import { starterPlan } from "@/core/job/starterPlan";
import { meanwhile, nextStep, readySteps } from "@/core/visit/nextSteps";
import { visitEntrySchema, type VisitEntry } from "@/core/visit/visitEntry";
import { visitSheet, type VisitSheet } from "@/core/visit/visitSheet";
import {
  contentMark,
  isComplete,
  nameIds,
  openGates,
  outsideLimits,
  recordedText,
  visitFindings,
  visitState,
  stateOf,
  type Recorded,
} from "@/core/visit/visitState";
import { TOUCHES } from "@/core/visit/rules/orderRules";
import { VISIT_PHASES, type VisitStep } from "@/core/visit/visitStep";
import { visitProgress } from "@/core/visit/sheetSchedule";
import { searchLog, visitLog } from "@/core/visit/visitLog";
import { anyRecipe, documentOf } from "../../../tests/fixtures/anyDocument";
import { FORGOTTEN } from "../../../tests/fixtures/forgotten";
import { jobFromPattern, shippedPatterns } from "../../../tests/fixtures/shipped";

const PATTERNS = shippedPatterns().map(({ id }) => id);
/** Those of a site where something is installed. */
const INSTALLED = shippedPatterns()
  .filter(({ visit }) => visit === undefined)
  .map(({ id }) => id);
const START_MS = Date.parse("2026-11-26T08:00:00.000Z");

/** What a good site shows for a step. */
function goodEvidence({ evidence }: VisitStep): Recorded {
  switch (evidence.kind) {
    case "tick":
      return {};
    case "values":
      return {
        values: Object.fromEntries(
          evidence.fields.map(({ id, least, most }) => [
            id,
            least !== undefined && most !== undefined ? (least + most) / 2 : (least ?? most ?? 0),
          ]),
        ),
      };
    case "choice":
      return { choice: evidence.options.find(({ isGood }) => isGood)!.id };
    case "serial":
      return {
        serial:
          evidence.pattern === undefined
            ? "SN 1"
            : fc.sample(fc.stringMatching(new RegExp(evidence.pattern)), { numRuns: 1, seed: 7 })[0]!,
      };
    case "read-back":
      return { texts: Object.fromEntries(evidence.fields.map(({ id, value }) => [id, value])) };
    case "names":
      return { texts: Object.fromEntries(nameIds(evidence.count).map((id) => [id, `Robin ${id}`])) };
  }
}

function resultOf(step: VisitStep, recorded: Recorded, count: number): VisitEntry {
  return visitEntrySchema.parse({
    id: `00000000-0000-4000-8000-${String(count).padStart(12, "0")}`,
    at: new Date(START_MS + count * 60_000).toISOString(),
    person: "Robin",
    step: step.id,
    title: step.title,
    content: contentMark(step),
    kind: "result",
    ...recorded,
    said: recordedText(step, recorded),
    outside: [...outsideLimits(step, recorded)],
  });
}

/** A whole visit as the page leads through it, step by step. */
function wholeVisit(sheet: VisitSheet): readonly VisitEntry[] {
  const log: VisitEntry[] = [];
  for (let state = visitState(sheet, log); log.length < sheet.steps.length; state = visitState(sheet, log)) {
    const step = nextStep(sheet, state, []);
    expect(step).toBeDefined();
    expect(openGates(sheet, state, step!)).toEqual([]);
    expect(readySteps(sheet, state).map(({ id }) => id)).toContain(step!.id);
    const recorded = goodEvidence(step!);
    expect(isComplete(step!, recorded)).toBe(true);
    log.push(resultOf(step!, recorded, log.length + 1));
  }
  return log;
}

describe("a visit to every kind of site", () => {
  it.each(PATTERNS)(
    "%s is led through from arriving to closing, with no gate open on the way, and nothing left",
    (id) => {
      const sheet = visitSheet(jobFromPattern(id));
      const log = wholeVisit(sheet);
      const state = visitState(sheet, log);
      expect(visitProgress(sheet, state)).toMatchObject({
        over: sheet.steps.length,
        all: sheet.steps.length,
        stopped: 0,
      });
      expect(visitFindings(sheet, state)).toEqual([]);
      expect(readySteps(sheet, state)).toEqual([]);
      expect(nextStep(sheet, state, [])).toBeUndefined();
      const lines = visitLog(log, [], []);
      expect(lines.map(({ title }) => title)).toEqual(log.map((entry) => ("title" in entry ? entry.title : "")));
      expect(searchLog(lines, "robin", "result", "Robin")).toHaveLength(lines.length);
    },
  );

  it.each(PATTERNS)(
    "%s has no step that says less than it must: every text whole, times real, limits in order, a caution " +
      "where it is live",
    (id) => {
      const sheet = visitSheet(jobFromPattern(id));
      for (const step of sheet.steps) {
        for (const text of [
          step.title,
          step.why,
          step.source,
          step.caution ?? "",
          ...step.content.flatMap(({ label, value }) => [label, value]),
        ])
          expect(text).not.toMatch(FORGOTTEN);
        expect([step.title, step.why, step.source].every((text) => text.trim().length > 2)).toBe(true);
        expect(step.activeMin).toBeGreaterThan(0);
        expect(step.waitMin).toBeGreaterThanOrEqual(0);
        expect(step.waiting === undefined || step.waitMin > 0).toBe(true);
        expect(VISIT_PHASES).toContain(step.stage);
        if (step.tag.startsWith("on-") || step.tag === "restore") expect(step.caution).toBeDefined();
        if (step.evidence.kind === "values") {
          expect(new Set(step.evidence.fields.map((field) => field.id)).size).toBe(step.evidence.fields.length);
          for (const { label, unit, least, most, outside } of step.evidence.fields) {
            expect([label, unit, outside].every((text) => text.length > 0 && !FORGOTTEN.test(text))).toBe(true);
            expect(least ?? -Infinity).toBeLessThanOrEqual(most ?? Infinity);
          }
        }
        if (step.evidence.kind === "choice") {
          expect(step.evidence.options.some(({ isGood }) => isGood)).toBe(true);
          expect(new Set(step.evidence.options.map((option) => option.id)).size).toBe(step.evidence.options.length);
        }
      }
    },
  );

  it.each(INSTALLED)("%s names every meter, link and board of its plan in some step", (id) => {
    const job = jobFromPattern(id);
    const about = new Set(visitSheet(job).steps.map((step) => step.about));
    for (const { id: meter } of job.site.meters) expect(about.has(meter)).toBe(true);
    for (const { id: board } of job.site.nodes.filter(({ kind }) => kind === "board"))
      expect(about.has(board)).toBe(true);
    for (const { id: link } of job.links.filter(({ kind }) => kind === "rs485" || kind === "can"))
      expect(about.has(link)).toBe(true);
  });

  it.each(PATTERNS)(
    "%s keeps the ids of its steps when names change, and asks for another look only where words changed",
    (id) => {
      const job = jobFromPattern(id);
      const sheet = visitSheet(job);
      const named = {
        ...job,
        site: {
          ...job.site,
          nodes: job.site.nodes.map((node) => ({
            ...node,
            name: node.kind === "board" ? `${node.name} B` : node.name,
          })),
        },
      };
      const again = visitSheet(named);
      expect(again.steps.map((step) => step.id).toSorted()).toEqual(sheet.steps.map((step) => step.id).toSorted());
      const state = visitState(again, wholeVisit(sheet));
      for (const step of again.steps) {
        const before = sheet.steps.find((own) => own.id === step.id)!;
        expect(stateOf(state, step.id).needsLook).toBe(contentMark(before) !== contentMark(step));
      }
    },
  );

  it.each(INSTALLED)(
    "%s stops at any value outside its limits, says what next, and goes on when it is put right",
    (id) => {
      const sheet = visitSheet(jobFromPattern(id));
      const limited = sheet.steps.filter(
        (step) => step.evidence.kind === "values" && step.evidence.fields.some(({ most }) => most !== undefined),
      );
      expect(limited.length).toBeGreaterThan(0);
      for (const step of limited) {
        const good = goodEvidence(step);
        const field =
          step.evidence.kind === "values" ? step.evidence.fields.find(({ most }) => most !== undefined)! : undefined;
        const bad = { values: { ...good.values, [field!.id]: field!.most! + Math.abs(field!.most!) + 1 } };
        const wrong = resultOf(step, bad, 1);
        const state = visitState(sheet, [wrong]);
        expect(stateOf(state, step.id).status).toBe("stopped");
        expect(visitFindings(sheet, state)).toMatchObject([
          { code: "step-outside", severity: step.isGate ? "stop" : "fix", subject: { step: step.id } },
        ]);
        expect(outsideLimits(step, bad)[0]).toContain(field!.outside);
        expect(stateOf(visitState(sheet, [wrong, resultOf(step, good, 2)]), step.id).status).toBe("done");
      }
    },
  );
});

describe("a gate", () => {
  it("that is skipped is told with its reason until it is done after all", () => {
    const sheet = visitSheet(jobFromPattern("energy-manager"));
    const gate = sheet.steps.find(({ isGate }) => isGate)!;
    const skip = visitEntrySchema.parse({
      id: "00000000-0000-4000-8000-00000000aaaa",
      at: new Date(START_MS).toISOString(),
      person: "Robin",
      kind: "skip",
      step: gate.id,
      title: gate.title,
      content: contentMark(gate),
      reason: "no supply yet",
    });
    expect(visitFindings(sheet, visitState(sheet, [skip]))).toMatchObject([
      { code: "gate-skipped", severity: "fix", detail: expect.stringContaining("“no supply yet”, Robin") as string },
    ]);
    expect(visitFindings(sheet, visitState(sheet, [skip, resultOf(gate, goodEvidence(gate), 2)]))).toEqual([]);
  });

  it("holds back all that stands behind it, near and far", () => {
    const sheet = visitSheet(jobFromPattern("diverter-and-hub"));
    const none = visitState(sheet, []);
    const behind = sheet.steps.filter((step) => openGates(sheet, none, step).length > 0);
    expect(behind.length).toBeGreaterThan(sheet.steps.length / 2);
    for (const step of behind)
      for (const need of step.needs) {
        const before = sheet.steps.find((own) => own.id === need.step)!;
        for (const gate of openGates(sheet, none, before))
          expect(openGates(sheet, none, step).map((own) => own.id)).toContain(gate.id);
      }
  });
});

describe("meanwhile", () => {
  it("offers what is ready, this place first, then in the order of the plan, and never the step itself", () => {
    const sheet = visitSheet({ ...jobFromPattern("outbuilding-radio-pair"), visit: visitSettingsSchema.parse({}) });
    const state = visitState(sheet, wholeVisit(sheet).slice(0, 5));
    const ready = readySteps(sheet, state);
    const [current] = ready;
    const order = ready.map(({ id }) => id).toReversed();
    const offered = meanwhile(sheet, state, current, order);
    expect(offered.map(({ id }) => id).toSorted()).toEqual(
      ready
        .slice(1)
        .map(({ id }) => id)
        .toSorted(),
    );
    const places = offered.map(({ place }) => place === current!.place);
    expect(places).toEqual(places.toSorted((a, b) => Number(b) - Number(a)));
    const elsewhere = offered.filter(({ place }) => place !== current!.place).map(({ id }) => order.indexOf(id));
    expect(elsewhere).toEqual(elsewhere.toSorted((a, b) => a - b));
  });
});

describe("the gates of any visit", () => {
  /** Everything that comes before a step, however far. */
  function before(sheet: VisitSheet, step: VisitStep): readonly VisitStep[] {
    const byId = new Map(sheet.steps.map((own) => [own.id, own]));
    const seen = new Set<string>();
    const walk = (own: VisitStep): void => {
      for (const { step: id } of own.needs) {
        if (seen.has(id)) continue;
        seen.add(id);
        walk(byId.get(id)!);
      }
    };
    walk(step);
    return [...seen].map((id) => byId.get(id)!);
  }

  /** Isolated and proved dead at its place, or everywhere where nobody said at which; the covers and the supply too. */
  function expectGates(job: Parameters<typeof visitSheet>[0]): void {
    const sheet = visitSheet(job);
    const gates = sheet.steps.filter(({ tag }) => tag === "prove-dead");
    for (const step of sheet.steps.filter(({ tag }) => TOUCHES.includes(tag))) {
      const earlier = before(sheet, step);
      expect(earlier.some(({ tag, isGate }) => tag === "isolate" && isGate)).toBe(true);
      const proved = earlier.filter(({ tag, isGate }) => tag === "prove-dead" && isGate);
      if (step.place === undefined) expect(proved).toHaveLength(gates.length);
      else expect(proved.some(({ place }) => place === step.place)).toBe(true);
      expect(proved.length).toBeGreaterThan(0);
    }
    // What opens nothing isolates nothing; what opens something closes it again.
    const touches = sheet.steps.some(({ tag }) => TOUCHES.includes(tag));
    for (const tags of [["isolate"], ["restore", "restore-backup"], ["clear"], ["covers"]])
      expect(sheet.steps.some((step) => tags.includes(step.tag)) || !touches).toBe(true);
    if (!touches && sheet.steps.every(({ tag }) => tag !== "mount")) expect(gates).toEqual([]);
    const isUnplaced = sheet.steps.some(({ tag, place }) => TOUCHES.includes(tag) && place === undefined);
    const named = sheet.steps
      .filter(({ tag, place }) => TOUCHES.includes(tag) && place === undefined)
      .map(({ about }) => about);
    const things = [...job.site.nodes, ...job.site.meters, ...job.site.equipment].map(({ id }) => id);
    if (isUnplaced && named.some((about) => things.includes(about!)))
      expect(sheet.findings).toContainEqual(expect.objectContaining({ code: "place-missing", severity: "stop" }));
  }

  it.each(PATTERNS)(
    "%s has isolate and prove dead of the right place before every step that touches a conductor",
    (id) => expectGates(jobFromPattern(id)),
  );

  it.each(["single-phase", "split-phase", "three-phase"] as const)(
    "a job of the short form, %s, has them too",
    (system) => {
      expectGates(
        starterPlan({ name: "Short", place: "", system, solarKw: 5, batteryKw: 5, solarMeter: true, arrow: "to-load" }),
      );
    },
  );

  it("so has any job after any edits, and any document at all, without places and without a board too", () => {
    fc.assert(
      fc.property(anyRecipe, (recipe) => {
        const job = documentOf(recipe);
        expectGates(job);
        const nowhere = {
          ...job.site,
          places: [],
          ways: [],
          nodes: job.site.nodes.map(({ place: _place, ...node }) => node),
          meters: job.site.meters.map(({ place: _place, ...meter }) => meter),
          equipment: job.site.equipment.map(({ place: _place, ...item }) => item),
        };
        expectGates({ ...job, site: nowhere });
        expectGates({
          ...job,
          site: {
            ...nowhere,
            nodes: nowhere.nodes.map((node) => (node.kind === "board" ? { ...node, kind: "load" as const } : node)),
          },
        });
      }),
      { numRuns: 60 },
    );
  });
});
