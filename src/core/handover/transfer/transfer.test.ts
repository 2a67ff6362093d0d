import { describe, expect, it } from "vitest";
import { reminderLine } from "@/core/handover/allDeadlines";
import { jobDeadlines, jobDeadlineSchema } from "@/core/handover/jobDeadlines";
import { invitationEnds, transferStages } from "@/core/handover/transfer/transferStages";
import { deadlineSchema, dueDeadlines } from "@/core/job/deadline";
import type { JobDocument } from "@/core/job/jobDocument";
import { jobSummary } from "@/core/jobSummary";
import { transferSchema, type TransferRecord } from "@/core/plan/transferRecord";
import { resolve } from "@/core/plan/resolve";
import { jobFromPattern } from "../../../../tests/fixtures/shipped";

const TODAY = "2026-11-20";
const plant = jobFromPattern("split-phase-backup");
const withTransfer = (change: Partial<TransferRecord>): JobDocument => ({
  ...plant,
  transfer: transferSchema.parse({ ...change }),
});
const stageOf = (document: JobDocument, id: string) => transferStages(document, TODAY).find((own) => own.id === id)!;

describe("the transfer to the owner", () => {
  it("has its stages in order, each with what it needs until it is done", () => {
    const stages = transferStages(plant, TODAY);
    expect(stages.map(({ id }) => id)).toEqual(["site", "devices", "settings", "invited", "accepted", "access"]);
    expect(stages.every(({ isDone, says }) => !isDone && says !== "")).toBe(true);
    expect(stageOf(withTransfer({ siteMadeOn: "2026-11-02" }), "site")).toMatchObject({
      isDone: true,
      says: "2026-11-02",
    });
    expect(stageOf(withTransfer({ ownerContact: "by the owner's phone" }), "invited").says).toContain("by the owner's");
  });

  it("compares countries and regions whatever their letters, and only where both are known", () => {
    const problem = (change: Partial<TransferRecord>) => stageOf(withTransfer(change), "invited").problem;
    expect(problem({ countryHere: "Northland" })).toBeUndefined();
    expect(problem({ countryHere: "Northland", countryOwner: "northland" })).toBeUndefined();
    expect(problem({ countryHere: "Northland", countryOwner: "Southland" })).toContain("two countries");
    expect(problem({ dataRegion: "A", dataRegionOwner: "B" })).toContain("two regions");
  });

  it("says when an invitation lapsed and what happens then, until the owner accepted", () => {
    const out = { invitedOn: "2026-11-01", invitationDays: 14 };
    expect(invitationEnds(transferSchema.parse(out))).toBe("2026-11-15");
    expect(stageOf(withTransfer(out), "accepted").problem).toContain("lapsed on 2026-11-15");
    expect(stageOf(withTransfer({ ...out, invitationDays: 30 }), "accepted").problem).toBeUndefined();
    const accepted = withTransfer({ ...out, acceptedOn: "2026-11-10" });
    expect(stageOf(accepted, "accepted")).toMatchObject({ isDone: true, problem: undefined });
  });

  it("has the day of the installer's own end among the deadlines, done once the access was ended", () => {
    const open = withTransfer({ accessUntil: "2026-11-18" });
    expect(stageOf(open, "access").problem).toContain("should have ended");
    expect(dueDeadlines(jobDeadlines(open), TODAY)).toMatchObject([{ id: "access", state: "late", from: "transfer" }]);
    const ended = withTransfer({ accessUntil: "2026-11-18", accessEndedOn: "2026-11-17" });
    expect(stageOf(ended, "access").isDone).toBe(true);
    expect(dueDeadlines(jobDeadlines(ended), TODAY)).toMatchObject([{ state: "done" }]);
  });

  it("takes the settings for right only where every device was read back and none differs", () => {
    const devices = resolve(plant).joinable.filter(({ kit, isNew }) => isNew && kit.registers.length > 0);
    expect(devices.length).toBeGreaterThan(0);
    const readBacks = devices.map(({ id }) => ({ id, at: "2026-11-02T10:00:00.000Z", values: [] }));
    const limited = { ...plant, limit: { ...plant.limit, powerW: 3000 } };
    const read = (value: number): JobDocument => ({
      ...limited,
      readBacks: readBacks.map((own, at) =>
        at === 0 ? { ...own, values: [{ of: "limit", what: "Export limit", value, unit: "W" }] } : own,
      ),
    });
    expect(stageOf({ ...read(3000), readBacks: readBacks.slice(1) }, "settings").isDone).toBe(false);
    expect(stageOf(read(3000), "settings")).toMatchObject({ isDone: true, problem: undefined });
    expect(stageOf(read(5000), "settings").problem).toMatch(/^1 setting differs .*5000/);
  });
});

describe("the deadlines of a job", () => {
  it("are the typed ones, the registrations and the transfer's, and stand in its summary", () => {
    const typed = deadlineSchema.parse({ id: crypto.randomUUID(), what: "Inspection", on: "2026-12-01" });
    const document: JobDocument = {
      ...withTransfer({ invitedOn: "2026-11-18", accessUntil: "2027-11-18" }),
      deadlines: [typed],
      registration: { installedOn: "2026-11-02", items: [] },
    };
    const all = jobDeadlines(document);
    expect(all.map((own) => jobDeadlineSchema.parse(own))).toEqual(all);
    expect(new Set(all.map(({ from }) => from))).toEqual(new Set(["typed", "registration", "transfer"]));
    expect(new Set(all.map(({ id }) => id)).size).toBe(all.length);
    expect(jobSummary(document).deadlines).toEqual(all);
  });

  it("count a registration that was sent in time as in time", () => {
    const installed = { ...plant, registration: { installedOn: "2026-11-02", items: [] } };
    const [due] = jobDeadlines(installed);
    const id = due!.id.replace("registration ", "");
    const items = [{ id, has: [], reference: "", sentOn: "2026-11-10" }];
    expect(jobDeadlines({ ...installed, registration: { installedOn: "2026-11-02", items } })[0]).toMatchObject({
      doneOn: "2026-11-10",
    });
  });

  it("are reminded of in one line, late ones first", () => {
    expect(reminderLine(["later", "done"])).toBeUndefined();
    expect(reminderLine(["late", "soon", "soon"])).toBe("1 deadline is late, 2 are near");
    expect(reminderLine(["soon"])).toBe("1 deadline is near");
    expect(reminderLine(["late", "late"])).toBe("2 deadlines are late");
  });
});
