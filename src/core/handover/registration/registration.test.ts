import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { handoverItems, type HandoverItem } from "@/core/handover/handoverItems";
import { receiversOf, registrationRows, REGISTRATION_COLUMNS } from "@/core/handover/registration/registrationTable";
import { NEED_WORDS, registrationsOf, serialOf } from "@/core/handover/registration/registrationsDue";
import { gridNotice } from "@/core/handover/notice";
import { reportSchema } from "@/core/handover/report/reportSchema";
import type { JobDocument } from "@/core/job/jobDocument";
import { NEED_IDS } from "@/core/kits/registrationKitSchema";
import { resolve } from "@/core/plan/resolve";
import type { RegistrationState } from "@/core/plan/registrationRecord";
import type { VisitEntry } from "@/core/visit/visitEntry";
import { visitSheet } from "@/core/visit/visitSheet";
import { visitState } from "@/core/visit/visitState";
import { jobFromPattern, shippedKits, shippedPatterns } from "../../../../tests/fixtures/shipped";

const AT = "2026-11-02T09:00:00.000Z";
const serial = (device: string, number: string): VisitEntry => ({
  id: crypto.randomUUID(),
  at: AT,
  person: "Kim",
  kind: "result",
  step: `serial:${device}`,
  title: "Serial number",
  content: "x",
  serial: number,
  said: number,
  outside: [],
});
const photo = (device: string): VisitEntry => ({
  id: crypto.randomUUID(),
  at: AT,
  person: "Kim",
  kind: "photo",
  step: `serial:${device}`,
  photo: crypto.randomUUID(),
  text: "",
});
const installed = (document: JobDocument, items: RegistrationState[] = []): JobDocument => ({
  ...document,
  registration: { installedOn: "2026-11-02", items },
});
const plant = installed(jobFromPattern("split-phase-backup"));
const [first] = registrationsOf(plant, []);
const storage = installed(jobFromPattern("three-phase-storage"));
const numbered = registrationsOf(storage, []).find(
  ({ device, kit }) => device.kit.serialPattern && kit.needs.length > 1,
)!;
const device = numbered.device.id;
const good = numbered.device.kit.serialPattern!.replace(/[$^]/g, "").replace("[0-9]{7}", "1234567");
const ofNumbered = (log: readonly VisitEntry[]) => registrationsOf(storage, log).find(({ id }) => id === numbered.id)!;

describe("what must be registered", () => {
  it("is due so many days after the installation, and not before that day is known", () => {
    expect(registrationsOf(plant, []).map(({ dueOn }) => dueOn)).toEqual(["2027-01-01", "2026-11-30", undefined]);
    const unknown = { ...plant, registration: { items: [] } };
    expect(registrationsOf(unknown, []).every(({ dueOn }) => dueOn === undefined)).toBe(true);
    expect(registrationsOf(unknown, [])[0]!.missing).toContain("installed-on");
  });

  it("takes serial numbers and photographs from the log, and the last one that was recorded", () => {
    expect(numbered.missing).toContain("serial");
    const log = [serial(device, "wrong"), serial(device, good)];
    expect(ofNumbered(log)).toMatchObject({ serial: good, problem: undefined });
    expect(ofNumbered(log).missing).not.toContain("serial");
    expect(serialOf([...log].reverse(), device)).toBe("wrong");
    expect(ofNumbered([serial(device, "wrong")]).problem).toContain("does not look like");
    // Look-alikes of a worn plate are told as what they may be.
    expect(ofNumbered([serial(device, `${good.slice(0, -1)}O`)]).problem).toMatch(/it may be .*0$/);
  });

  it("needs nothing more once everything is there, whatever it asks for", () => {
    for (const { id } of shippedPatterns()) {
      const document = installed(jobFromPattern(id));
      document.limit.powerW = undefined;
      const due = registrationsOf(document, []);
      const items = due.map((own) => ({
        id: own.id,
        has: ["consent" as const, "owner-contact" as const],
        reference: "",
      }));
      const log = due.flatMap((own) => [serial(own.device.id, "x"), photo(own.device.id)]);
      expect(registrationsOf(installed(document, items), log).flatMap(({ missing }) => missing)).toEqual([]);
    }
  });

  it("is open, then sent, then confirmed; and missing at the hand over until it is confirmed", () => {
    const state = (change: Partial<RegistrationState>) => {
      const document = installed(plant, [{ id: first!.id, has: [], reference: "", ...change }]);
      const [own] = registrationsOf(document, []);
      return [own!.status, itemOf(document, `registration ${first!.id}`)?.state];
    };
    expect(state({})).toEqual(["open", "missing"]);
    expect(state({ sentOn: "2026-11-03" })).toEqual(["sent", "missing"]);
    expect(state({ sentOn: "2026-11-03", confirmedOn: "2026-11-09" })).toEqual(["confirmed", "proved"]);
    expect(itemOf(plant, `registration ${first!.id}`, "2027-02-01")?.why).toContain("was due on 2027-01-01");
  });

  it("goes to each maker by itself, and to the operator and the owner's account once", () => {
    const kits = shippedKits().filter(({ registrations }) => registrations.length > 0);
    expect(kits.length).toBeGreaterThanOrEqual(10);
    const due = registrationsOf(plant, []);
    const receivers = receiversOf(due);
    expect(receivers.flatMap((own) => own.due)).toHaveLength(due.length);
    expect(new Set(receivers.map(({ id }) => id)).size).toBe(receivers.length);
    const rows = registrationRows(due, "2026-11-02");
    for (const row of rows) expect(Object.keys(row)).toEqual([...REGISTRATION_COLUMNS]);
    for (const need of NEED_IDS) expect(NEED_WORDS[need]).toBeTruthy();
  });

  it("is not asked for what was there before", () => {
    const nodes = plant.site.nodes.map((node) => ({ ...node, existing: true }));
    const old = { ...plant, site: { ...plant.site, nodes } };
    const devices = registrationsOf(old, []).map((own) => own.device.node);
    expect(devices.every((node) => node === undefined)).toBe(true);
  });
});

describe("the notice to the grid operator", () => {
  it("has the capacity, every source with its serial number, the limit and its test, for every pattern", () => {
    for (const { id } of shippedPatterns()) {
      const document = installed(jobFromPattern(id));
      const sources = resolve(document).joinable.filter(({ kit }) => /inverter/.test(kit.kind));
      const log = sources.map((own, at) => serial(own.id, `S-${at}`));
      const notice = reportSchema.parse(gridNotice(document, log, { today: "2026-11-20", logHead: "0" }));
      const text = JSON.stringify(notice);
      for (const [at, own] of sources.entries()) {
        expect(text).toContain(own.name);
        expect(text).toContain(`S-${at}`);
      }
      expect(text).toContain("Installed on: 2026-11-02");
      for (const { tables } of notice.sections)
        for (const { heads, rows } of tables) for (const row of rows) expect(row).toHaveLength(heads.length);
    }
  });

  it("adds up what can feed in, and says whether the limit is proved", () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 30_000 }), (ratedW) => {
        const nodes = plant.site.nodes.map((node) => (node.kind === "hybrid-inverter" ? { ...node, ratedW } : node));
        const document = { ...plant, site: { ...plant.site, nodes } };
        const notice = gridNotice(document, [], { today: "2026-11-20", logHead: "0" });
        const [line] = notice.sections.find(({ id }) => id === "plant")!.lines;
        const said = Number(/[\d.]+/.exec(line!)![0]) * (line!.includes("kW") ? 1000 : 1);
        expect(Math.abs(said - ratedW)).toBeLessThanOrEqual(Math.max(1, 0.01 * ratedW));
        expect(notice.state).toBe("No export limit is set");
      }),
    );
    const limited = { ...plant, limit: { ...plant.limit, powerW: 3000 } };
    expect(gridNotice(limited, [], { today: "", logHead: "0" }).state).toBe("The export limit is not proved yet");
  });
});

function itemOf(document: JobDocument, id: string, today = "2026-11-05"): HandoverItem | undefined {
  const sheet = visitSheet(document);
  const visit = visitState(sheet, [], document.visit.id);
  const findings = { open: [], accepted: [] };
  const ground = { document, sheet, visit, diagnosis: undefined, findings, entries: [], today };
  return handoverItems(ground).find((own) => own.id === id);
}
