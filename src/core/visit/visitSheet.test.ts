import { describe, expect, it } from "vitest";
import { visitSettingsSchema } from "@/core/plan/visitSettings";
import { maybeHere, meanwhile, nextStep, readySteps } from "@/core/visit/nextSteps";
import { visitEntrySchema, type VisitEntry } from "@/core/visit/visitEntry";
import { visitSheet, type VisitSheet } from "@/core/visit/visitSheet";
import {
  contentMark,
  isComplete,
  limitsText,
  openGates,
  outsideLimits,
  recordedText,
  visitFindings,
  visitState,
  stateOf,
} from "@/core/visit/visitState";
import type { VisitStep } from "@/core/visit/visitStep";
import { ORDER_RULES } from "@/core/visit/rules/orderRules";
import { schedule } from "@/core/visit/schedule/schedule";
import { visitProgress, sheetSchedule } from "@/core/visit/sheetSchedule";
import { filledContent } from "@/core/visit/filledContent";
import { withProvedStep } from "@/core/visit/provedStep";
import { stringVoltageV } from "@/core/visit/stringVoltage";
import { scheduleLines, timelineLanes } from "@/core/visit/timelineLanes";
import { searchLog, visitLog } from "@/core/visit/visitLog";
import { changeNode, removeNode } from "@/core/edits/editPlan";
import { jobDocumentSchema, type JobDocument } from "@/core/job/jobDocument";
import { jobFromPattern, shippedPatterns } from "../../../tests/fixtures/shipped";

const storage = jobFromPattern("three-phase-storage");
const sheet = visitSheet(storage);
const START_MS = Date.parse("2026-11-26T08:00:00.000Z");
let made = 0;

function step(of: VisitSheet, id: string): VisitStep {
  const found = of.steps.find((candidate) => candidate.id === id);
  if (!found) throw new Error(`no step ${id}`);
  return found;
}

/** An entry on a step, a minute after the one before. */
function entry(of: VisitSheet, id: string, part: object): VisitEntry {
  const own = step(of, id);
  made++;
  return visitEntrySchema.parse({
    id: `00000000-0000-4000-8000-${String(made).padStart(12, "0")}`,
    at: new Date(START_MS + made * 60_000).toISOString(),
    person: "Robin",
    step: id,
    title: own.title,
    content: contentMark(own),
    ...part,
  });
}

const done = (of: VisitSheet, ...ids: string[]) => ids.map((id) => entry(of, id, { kind: "result" }));
const allGates = (of: VisitSheet) => of.steps.filter(({ isGate }) => isGate).map(({ id }) => id);

describe("the run sheet", () => {
  it.each(shippedPatterns().map(({ id }) => id))(
    "of %s has no circle, one order that keeps every need, and every safety gate before what it guards",
    (id) => {
      const own = visitSheet(jobFromPattern(id));
      expect(own.findings).toEqual([]);
      expect(own.steps.length).toBeGreaterThan(id === "router-changed" ? 3 : 20);
      expect(new Set(own.steps.map((candidate) => candidate.id)).size).toBe(own.steps.length);
      const at = new Map(own.steps.map((candidate, index) => [candidate.id, index]));
      for (const candidate of own.steps)
        for (const need of candidate.needs) expect(at.get(need.step)!).toBeLessThan(at.get(candidate.id)!);
      const before = (first: string, then: string) => {
        const [firsts, thens] = [first, then].map((tag) => own.steps.filter((candidate) => candidate.tag === tag));
        for (const a of firsts!)
          for (const b of thens!) if (a.about === b.about) expect(at.get(a.id)!).toBeLessThan(at.get(b.id)!);
      };
      before("ct-leads", "clamp");
      before("battery-polarity", "on-battery");
      before("strings", "on-dc");
      before("bond", "wire-power");
      for (const touch of own.steps.filter(({ tag }) =>
        ["bond", "wire-power", "taps", "ct-leads", "clamp", "wire-link", "measure-link"].includes(tag),
      )) {
        for (const dead of own.steps.filter(({ tag, place }) => tag === "prove-dead" && place === touch.place))
          expect(at.get(dead.id)!).toBeLessThan(at.get(touch.id)!);
      }
      const supply = own.steps.findIndex(({ tag }) => tag === "restore");
      for (const on of own.steps.filter(({ tag }) => tag.startsWith("on-")))
        expect(at.get(on.id)!).toBeGreaterThan(supply);
    },
  );

  it("computes what each step says: voltages, bus resistance, ratio to type, readings to see", () => {
    expect(step(sheet, "restore:board").evidence).toMatchObject({
      kind: "values",
      fields: [
        { id: "l1", least: 207, most: 253 },
        {},
        {},
        { id: "l1-l2", least: 359, most: 438 },
        {},
        {},
        { id: "n-pe", least: 0, most: 5 },
        { id: "below", least: 0, most: 10 },
      ],
    });
    expect(step(sheet, "measure-link:can-1").evidence).toMatchObject({
      fields: [{ unit: "Ω", least: 52.8, most: 67.2 }],
    });
    expect(step(sheet, "configure:grid-meter").content.find(({ label }) => label === "Adr")).toEqual({
      label: "Adr",
      value: "4",
    });
    expect(step(sheet, "prove:on:kettle-l2").content[1]).toMatchObject({
      label: "A2",
      value: expect.stringContaining("importing") as string,
    });
    expect(step(sheet, "battery-polarity:stack").evidence).toMatchObject({ fields: [{ least: 340, most: 460 }] });
  });

  it("limits a string by its modules, from cold to hot", () => {
    expect(stringVoltageV({ modules: 10, vocV: 41 })).toMatchObject({ usual: 410 });
    const withString = {
      ...storage,
      visit: visitSettingsSchema.parse({ strings: [{ device: "hybrid", name: "South", modules: 10, vocV: 41 }] }),
    };
    expect(step(visitSheet(withString), "strings:hybrid").evidence).toMatchObject({
      fields: [{ label: "South, open, + to −", least: 344, most: 452 }],
    });
    expect(removeNode("hybrid")(withString as JobDocument).visit.strings).toEqual([]);
  });

  it("follows the methods that are chosen", () => {
    const chosen = visitSheet({
      ...storage,
      visit: visitSettingsSchema.parse({ ctTest: "built-in", setUpBy: "web-page" }),
    });
    expect(step(chosen, "reach:hybrid").school).toMatchObject({
      active: "the device's own web page",
      other: "the maker's app",
    });
    const tested = jobFromPattern("hybrid-high-voltage");
    expect(
      visitSheet({ ...tested, visit: visitSettingsSchema.parse({ ctTest: "built-in" }) }).steps.some(
        ({ tag }) => tag === "ct-test",
      ),
    ).toBe(true);
    expect(visitSheet(tested).steps.some(({ tag }) => tag === "ct-test")).toBe(false);
  });

  it("names the rules in conflict, and leaves the kit's own out", () => {
    const [first, second] = [
      { first: "ac" as const, then: "battery" as const, why: "x" },
      { first: "battery" as const, then: "ac" as const, why: "y" },
    ];
    const clashing = {
      ...storage,
      kits: storage.kits.map((kit) => (kit.id === "hybrid-three-10k" ? { ...kit, powerUp: [first, second] } : kit)),
    };
    const own = visitSheet(clashing);
    expect(own.findings).toMatchObject([
      { code: "visit-cycle", severity: "fix", detail: expect.stringContaining("ac before battery") as string },
    ]);
    expect(own.steps).toHaveLength(sheet.steps.length);
  });

  it("gives every order rule a reason, and none twice", () => {
    expect(new Set(ORDER_RULES.map(({ id }) => id)).size).toBe(ORDER_RULES.length);
    for (const rule of ORDER_RULES) expect(rule.why.length).toBeGreaterThan(5);
  });
});

describe("evidence", () => {
  it("is held against its limits, and says what to check next", () => {
    const bond = step(sheet, "bond:hybrid");
    expect(outsideLimits(bond, { values: { bond: 0.3 } })).toEqual([]);
    expect(outsideLimits(bond, { values: { bond: 0.8 } })[0]).toContain("expected 0 to 0.5 Ω. Look for paint");
    expect(outsideLimits(step(sheet, "strings:hybrid"), { values: { "string-0": -380 } })[0]).toContain("reversed");
    const serial = step(sheet, "serial:hybrid");
    expect(outsideLimits(serial, { serial: "GKF1234567" })).toEqual([]);
    // One that does not look right is kept, and doubted.
    expect(outsideLimits(serial, { serial: "GKF123456O" })).toEqual([]);
    const doubted = visitState(sheet, [entry(sheet, serial.id, { kind: "result", serial: "GKF123456O" })]);
    expect(stateOf(doubted, serial.id).status).toBe("done");
    expect(visitFindings(sheet, doubted)).toMatchObject([
      { code: "serial-doubted", severity: "note", cure: expect.stringContaining("GKF1234560") as string },
    ]);
    const lamp = step(sheet, "on-ac:hybrid");
    expect(outsideLimits(lamp, { choice: "lamp-0" })).toEqual([]);
    expect(outsideLimits(lamp, { choice: "lamp-2" })[0]).toContain("Battery does not answer");
    expect([
      limitsText(1, undefined, "V"),
      limitsText(undefined, 2, "V"),
      limitsText(undefined, undefined, "V"),
    ]).toEqual(["at least 1 V", "at most 2 V", "any V"]);
  });

  it("is complete only with every value", () => {
    const supply = step(sheet, "restore:board");
    expect(isComplete(supply, { values: { l1: 230 } })).toBe(false);
    expect(
      isComplete(supply, {
        values: { l1: 230, l2: 230, l3: 230, "l1-l2": 400, "l2-l3": 400, "l1-l3": 400, "n-pe": 1, below: 0 },
      }),
    ).toBe(true);
    expect([
      isComplete(step(sheet, "survey"), {}),
      isComplete(step(sheet, "serial:hybrid"), { serial: " " }),
      isComplete(step(sheet, "on-ac:hybrid"), {}),
    ]).toEqual([true, false, false]);
  });
});

describe("where a visit stands", () => {
  it("follows the log: done, stopped, skipped, opened again", () => {
    const log = [
      ...done(sheet, "survey"),
      entry(sheet, "bond:hybrid", { kind: "result", values: { bond: 0.9 }, outside: ["too much"] }),
      entry(sheet, "isolate:board", { kind: "skip", reason: "no supply yet" }),
    ];
    const state = visitState(sheet, log);
    expect(["survey", "bond:hybrid", "isolate:board", "unload"].map((id) => stateOf(state, id).status)).toEqual([
      "done",
      "stopped",
      "skipped",
      "open",
    ]);
    expect(visitFindings(sheet, state).map(({ code, severity }) => `${code} ${severity}`)).toEqual([
      "gate-skipped fix",
      "step-outside stop",
    ]);
    expect(
      stateOf(visitState(sheet, [...log, entry(sheet, "survey", { kind: "reopen", reason: "again" })]), "survey")
        .status,
    ).toBe("open");
  });

  it("marks a recorded step whose content changed, and keeps what was recorded", () => {
    const log = done(sheet, "wire-power:hybrid", "survey");
    const changed = visitSheet(changeNode("hybrid", { fuseA: 25 })(storage));
    const state = visitState(changed, log);
    expect(stateOf(state, "wire-power:hybrid")).toMatchObject({ status: "done", needsLook: true });
    expect(stateOf(state, "survey").needsLook).toBe(false);
    expect(visitFindings(changed, state).filter(({ code }) => code !== "gate-late")).toMatchObject([
      { code: "look-again" },
    ]);
    const renamed = visitSheet(changeNode("hybrid", { name: "Cellar hybrid" })(storage));
    expect(stateOf(visitState(renamed, log), "wire-power:hybrid").status).toBe("done");
  });

  it("holds everything behind an open safety gate, however far", () => {
    const gates = openGates(sheet, visitState(sheet, []), step(sheet, "clamp:grid-meter")).map(({ id }) => id);
    expect(gates).toEqual(expect.arrayContaining(["ct-leads:grid-meter", "prove-dead:plant", "isolate:board"]));
    expect(
      openGates(sheet, visitState(sheet, done(sheet, ...allGates(sheet))), step(sheet, "clamp:grid-meter")),
    ).toEqual([]);
    expect(openGates(sheet, visitState(sheet, []), step(sheet, "survey"))).toEqual([]);
  });

  it("says of a gate that is still open while something behind it is recorded that it comes too late", () => {
    const early = visitFindings(sheet, visitState(sheet, done(sheet, "clamp:grid-meter")));
    expect(early.map(({ code, subject }) => [code, "step" in subject && subject.step])).toEqual(
      expect.arrayContaining([
        ["gate-late", "isolate:board"],
        ["gate-late", "ct-leads:grid-meter"],
      ]),
    );
    const gates = visitState(sheet, done(sheet, ...allGates(sheet), "clamp:grid-meter"));
    expect(visitFindings(sheet, gates).filter(({ code }) => code === "gate-late")).toEqual([]);
  });

  it("leads nobody away from open work at the place where they recorded last", () => {
    const log = done(sheet, "survey", "unload", "mount:hybrid");
    const state = visitState(sheet, log);
    const here = maybeHere(sheet, log, "Robin");
    expect(here).toBe("wall");
    expect(nextStep(sheet, state, ["isolate:board"], here)).toMatchObject({ place: "wall" });
    expect(maybeHere(sheet, log, "Kim")).toBeUndefined();
    // Where nothing more can be done here, the way leads on.
    const all = [...log];
    for (let next = nextStep(sheet, state, [], "wall"); next?.place === "wall";) {
      all.push(...done(sheet, next.id));
      next = nextStep(sheet, visitState(sheet, all), [], "wall");
    }
    expect(all.length).toBeGreaterThan(log.length);
    expect(nextStep(sheet, visitState(sheet, all), [], "wall")?.place).toBe("plant");
  });

  it("waits where a lamp says so, stops where it is bad, and is done only where it is good", () => {
    const own = visitSheet(jobFromPattern("diverter-and-hub"));
    const on = step(own, "on-ac:solar");
    const options = on.evidence.kind === "choice" ? on.evidence.options : [];
    const record = (id: string) => {
      const recorded = { choice: id };
      const outside = [...outsideLimits(on, recorded)];
      return stateOf(visitState(own, [entry(own, on.id, { kind: "result", ...recorded, outside })]), on.id);
    };
    const statuses = options.map(({ id, isGood, waitMin }) => [
      isGood ? "done" : waitMin === undefined ? "stopped" : "waiting",
      record(id).status,
    ]);
    for (const [expected, status] of statuses) expect(status).toBe(expected);
    const pairs = own.steps.filter(({ tag }) => tag === "pair");
    expect(pairs.length).toBeGreaterThan(0);
    const waits = options.find(({ waitMin }) => waitMin !== undefined);
    if (waits) expect(record(waits.id).waitsUntilMs).toBeGreaterThan(START_MS);
    expect(options.at(-1)).toMatchObject({ id: "other", isGood: false });
  });

  it("fills the network's name in once the serial number is read", () => {
    const reach = step(sheet, "reach:hybrid");
    const name = (state: ReturnType<typeof visitState>) =>
      filledContent(sheet, state, reach).find(({ label }) => label === "Network name")!.value;
    expect(name(visitState(sheet, []))).toBe("kit-······");
    const read = entry(sheet, "serial:hybrid", { kind: "result", serial: "GKF1234567" });
    expect(name(visitState(sheet, [read]))).toBe("kit-234567");
  });

  it("puts the readings of a proving step into the test sheet, once, in place of those before", () => {
    const prove = step(sheet, "prove:on:kettle-l1");
    const once = withProvedStep(storage, prove, { "grid-meter/1": -2400, "grid-meter/2": -300 });
    expect(once.tests.steps).toMatchObject([
      {
        label: "Kettle L1 on",
        source: "seen",
        readings: [
          { meter: "grid-meter", input: 1, powerW: -2400 },
          { meter: "grid-meter", input: 2, powerW: -300 },
        ],
      },
    ]);
    expect(once.tests.steps[0]!.devices).toContainEqual({
      node: "kettle-l1",
      powerW: 2000,
      reactiveVar: 0,
      toleranceW: 100,
    });
    expect(jobDocumentSchema.safeParse(once).success).toBe(true);
    const again = withProvedStep(once, prove, { "grid-meter/1": -2500 });
    expect(again.tests.steps).toHaveLength(1);
    expect(again.tests.steps[0]!.readings).toEqual([{ meter: "grid-meter", input: 1, powerW: -2500 }]);
    expect(withProvedStep(storage, { about: "party" }, {})).toBe(storage);
  });

  it("says what is due, and what can be done meanwhile at this place first", () => {
    const state = visitState(sheet, done(sheet, "survey", "unload"));
    expect(nextStep(sheet, state, [])?.stage).toBe("mount");
    const here = step(sheet, "mount:hybrid");
    const others = meanwhile(sheet, state, here, []);
    expect(others[0]!.place).toBe(here.place);
    expect(others.map(({ id }) => id)).not.toContain(here.id);
    expect(nextStep(sheet, state, ["mount:stack"])?.id).toBe("mount:stack");
    expect(nextStep(sheet, visitState(sheet, done(sheet, ...sheet.steps.map(({ id }) => id))), [])).toBeUndefined();
    expect(
      readySteps(sheet, state).every(({ needs }) => needs.every(({ step: id }) => ["survey", "unload"].includes(id))),
    ).toBe(true);
  });

  it("runs a wait from its start until its time is over", () => {
    const start = entry(sheet, "firmware:hybrid", { kind: "start" });
    expect(stateOf(visitState(sheet, [start]), "firmware:hybrid")).toMatchObject({
      status: "waiting",
      waitsUntilMs: Date.parse(start.at) + 27 * 60_000,
    });
  });
});

describe("the schedule of a visit", () => {
  const now = START_MS + 1e8;

  it("is planned whole before the day, and from now on without what is done or waits", () => {
    const whole = sheetSchedule(sheet, visitState(sheet, []), storage.site, 2, [], undefined);
    expect(whole.steps).toHaveLength(sheet.steps.length);
    const log = [
      ...done(sheet, "survey", "unload"),
      entry(sheet, "firmware:hybrid", { kind: "start", at: new Date(now - 60_000).toISOString() }),
    ];
    const left = sheetSchedule(sheet, visitState(sheet, log), storage.site, 1, log, now);
    expect(left.steps.map(({ id }) => id)).not.toContain("survey");
    expect(left.steps.map(({ id }) => id)).not.toContain("firmware:hybrid");
    expect(left.starts[0]?.place).toBe("wall");
    const outcome = schedule(left);
    expect(outcome.kind).toBe("schedule");
    expect(visitProgress(sheet, visitState(sheet, log))).toMatchObject({ over: 2, stopped: 0 });
  });

  it("is drawn in rows of bars that do not overlap", () => {
    const request = sheetSchedule(sheet, visitState(sheet, []), storage.site, 2, [], undefined);
    const outcome = schedule(request);
    if (outcome.kind !== "schedule") throw new Error("a cycle");
    for (const { bars } of timelineLanes(request, outcome.schedule)) {
      const sorted = bars.toSorted((a, b) => a.fromMin - b.fromMin);
      for (let at = 1; at < sorted.length; at++)
        expect(sorted[at]!.fromMin).toBeGreaterThanOrEqual(sorted[at - 1]!.toMin - 1e-6);
    }
    const lines = scheduleLines(timelineLanes(request, outcome.schedule));
    const times = lines.map(({ fromMin }) => fromMin);
    expect(times).toEqual(times.toSorted((a, b) => a - b));
    const worked = new Set(lines.filter(({ kind }) => kind === "work").map(({ step }) => step));
    expect(worked).toEqual(new Set(request.steps.map(({ id }) => id)));
    expect(lines.every(({ who }) => who !== "")).toBe(true);
  });

  it("finds a pairing window that one technician cannot keep", () => {
    const hub = jobFromPattern("diverter-and-hub");
    const own = visitSheet(hub);
    expect(
      own.steps.filter(({ window }) => window).every(({ window }) => own.steps.some(({ id }) => id === window!.after)),
    ).toBe(true);
    const alone = schedule(sheetSchedule(own, visitState(own, []), hub.site, 1, [], undefined));
    expect(alone.kind === "schedule" && alone.schedule.findings.map(({ code }) => code)).toContain("window-impossible");
    const both = schedule(sheetSchedule(own, visitState(own, []), hub.site, 2, [], undefined));
    expect(both.kind === "schedule" && both.schedule.findings).toEqual([]);
  });
});

describe("the log", () => {
  const [survey] = done(sheet, "survey");
  const note = visitEntrySchema.parse({
    id: "00000000-0000-4000-8000-00000000aaaa",
    at: "2026-11-26T12:00:00.000Z",
    person: "Kim",
    kind: "note",
    text: "Key with the neighbour",
  });
  const correction = visitEntrySchema.parse({
    id: "00000000-0000-4000-8000-00000000bbbb",
    at: "2026-11-26T12:05:00.000Z",
    person: "Kim",
    kind: "correction",
    corrects: note.id,
    text: "Key in the box",
  });
  const changes = [
    { revision: 2, at: "2026-11-26T11:00:00.000Z", parts: ["site"] },
    { revision: 3, at: "2026-11-26T11:00:30.000Z", parts: ["links"] },
  ];

  it(
    "has entries, changes of the plan and accepted findings in the order of time, corrections as " +
      "lines of their own",
    () => {
      const lines = visitLog([survey!, note, correction], changes, [
        {
          finding: "no-links",
          title: "Nobody is joined",
          person: "Kim",
          reason: "by radio",
          at: "2026-11-26T13:00:00.000Z",
        },
      ]);
      expect(lines.map(({ kind }) => kind)).toEqual(["result", "plan-change", "note", "correction", "accepted"]);
      expect(lines[1]).toMatchObject({ title: "Revision 3", text: "site, links" });
      expect(lines[2]!.isCorrected).toBe(true);
      expect(lines[4]).toMatchObject({ title: "Nobody is joined", person: "Kim", text: "by radio" });
      expect(lines[3]!.text).toContain("corrects note of 12:00");
    },
  );

  it("says what was recorded with its labels and units, long after the sheet is gone", () => {
    const step = sheet.steps.find(({ evidence }) => evidence.kind === "values")!;
    const values = Object.fromEntries(
      step.evidence.kind === "values" ? step.evidence.fields.map(({ id }) => [id, -0.25]) : [],
    );
    const said = recordedText(step, { values });
    expect(said).toMatch(/^\p{L}.* −0\.25 \S+/u);
    const [line] = visitLog([entry(sheet, step.id, { kind: "result", values, said })], [], []);
    expect(line).toMatchObject({ title: step.title, text: said });
    expect(
      visitLog(
        [entry(sheet, step.id, { kind: "result", values: { r: 3 }, serial: "AB1", outside: ["too much"] })],
        [],
        [],
      )[0]!.text,
    ).toBe("r 3; AB1; outside: too much");
    expect(recordedText({ evidence: { kind: "tick" } }, {})).toBe("");
  });

  it("is searched by words, kind and person", () => {
    const lines = visitLog([survey!, note, correction], [], []);
    expect(searchLog(lines, "key neighbour", "", "").map(({ id }) => id)).toEqual([note.id]);
    expect(searchLog(lines, "", "result", "")).toHaveLength(1);
    expect(searchLog(lines, "", "", "Kim")).toHaveLength(2);
  });

  it.each([
    [{ kind: "skip", reason: " " }, "reason"],
    [{ kind: "note", text: "" }, "text"],
    [{ kind: "result", person: "" }, "person"],
    [{ kind: "party" }, "kind"],
    [{ kind: "result", at: "yesterday" }, "at"],
  ])("refuses %j", (part, path) => {
    const whole = { id: note.id, at: note.at, person: "Kim", step: "survey", title: "Look", content: "1", ...part };
    expect(visitEntrySchema.safeParse(whole).error?.issues.map((issue) => issue.path.join("."))).toContain(path);
  });
});
