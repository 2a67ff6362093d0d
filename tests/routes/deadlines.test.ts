import { randomUUID } from "node:crypto";
import ICAL from "ical.js";
import { beforeAll, describe, expect, it } from "vitest";
import { allDeadlinesSchema } from "@/core/handover/allDeadlines";
import { privateLinkSchema } from "@/core/handover/privateLink";
import { serialsTwiceSchema } from "@/core/handover/registration/serialTwice";
import { flat, readPdf } from "../fixtures/readPdf";
import { jobFromPattern } from "../fixtures/shipped";
import { fromTestRun } from "../setup/environment";

const app = () => fromTestRun("GORMIT_TEST_APP");
const call = (method: string, path: string, body?: object) =>
  fetch(`${app()}/api/v1${path}`, {
    method,
    ...(body ? { headers: { "content-type": "application/json" }, body: JSON.stringify(body) } : {}),
  });
const serialOf = (device: string, serial: string) => ({
  id: randomUUID(),
  at: "2026-11-02T09:00:00.000Z",
  person: "Kim",
  kind: "result",
  step: `serial:${device}`,
  title: "Serial number",
  content: "x",
  serial,
});

describe("what is due over all jobs", () => {
  const jobs: string[] = [];
  const serial = `GKX-${randomUUID()}`;
  beforeAll(async () => {
    for (const name of ["Due first", "Due second"]) {
      const document = {
        ...jobFromPattern("split-phase-backup", { name }),
        registration: { installedOn: name === "Due first" ? "2026-10-02" : "2026-11-02", items: [] },
      };
      const made = (await (await call("POST", "/jobs/import", document)).json()) as { id: string };
      jobs.push(made.id);
      await call("POST", `/jobs/${made.id}/visit`, { entries: [serialOf("hybrid", serial)] });
    }
  });
  const due = async () => allDeadlinesSchema.parse(await (await call("GET", "/deadlines")).json()).deadlines;

  it("lists the nearest first, with its job; not those of a deleted job, nor what was sent", async () => {
    const own = (await due()).filter(({ jobId }) => jobs.includes(jobId));
    expect(own.map(({ job, on }) => [job, on])).toEqual([
      ["Due first", "2026-10-30"],
      ["Due second", "2026-11-30"],
      ["Due first", "2026-12-01"],
      ["Due second", "2027-01-01"],
    ]);
    const [first] = jobs;
    const saved = (await (await call("GET", `/jobs/${first}`)).json()) as { revision: number; document: object };
    const items = [{ id: "hybrid grid-notice", has: [], reference: "", sentOn: "2026-10-20" }];
    const registration = { installedOn: "2026-10-02", items };
    const put = { revision: saved.revision, document: { ...saved.document, registration } };
    expect((await call("PUT", `/jobs/${first}`, put)).status).toBe(200);
    expect((await due()).filter(({ jobId }) => jobId === first)).toHaveLength(1);
  });

  it("is a calendar by a private link, that a standard parser reads, and that ends", async () => {
    const { path } = privateLinkSchema.parse(await (await call("POST", "/calendar-link")).json());
    const feed = await fetch(`${app()}${path}`);
    expect(feed.headers.get("content-type")).toContain("text/calendar");
    const events = new ICAL.Component(ICAL.parse(await feed.text()) as unknown[]).getAllSubcomponents("vevent");
    const summaries = events.map((own) => new ICAL.Event(own).summary);
    expect(summaries).toContain("Notice of connection: Hybrid inverter: Due second");
    const uids = events.map((own) => new ICAL.Event(own).uid);
    expect(new Set(uids).size).toBe(uids.length);
    const again = await (await fetch(`${app()}${path}`)).text();
    for (const uid of uids) expect(again.replace(/\r\n[ \t]/g, "")).toContain(uid);
    const { path: next } = privateLinkSchema.parse(await (await call("POST", "/calendar-link")).json());
    expect((await fetch(`${app()}${path}`)).status).toBe(404);
    expect((await fetch(`${app()}${next}`)).status).toBe(200);
    expect((await call("DELETE", "/calendar-link")).status).toBe(204);
    expect((await fetch(`${app()}${next}`)).status).toBe(404);
    for (const bad of ["x.ics", "x", `${"a".repeat(32)}.ics`]) {
      expect((await fetch(`${app()}/calendar/${bad}`)).status).toBe(404);
    }
  });

  it("stays whole for all jobs where one has a day that nobody meant", async () => {
    for (const installedOn of ["9999-12-31", "0001-01-01"]) {
      const document = {
        ...jobFromPattern("split-phase-backup", { name: `Slipped ${installedOn}` }),
        registration: { installedOn, items: [] },
      };
      expect((await call("POST", "/jobs/import", document)).status).toBe(201);
    }
    expect((await due()).map(({ job }) => job)).toContain("Slipped 9999-12-31");
    expect((await call("GET", "/jobs")).status).toBe(200);
    expect((await fetch(`${app()}/jobs`)).status).toBe(200);
    const { path } = privateLinkSchema.parse(await (await call("POST", "/calendar-link")).json());
    const calendar = new ICAL.Component(ICAL.parse(await (await fetch(`${app()}${path}`)).text()) as unknown[]);
    for (const event of calendar.getAllSubcomponents("vevent"))
      expect(new ICAL.Event(event).startDate.toString()).toMatch(/^\d{4}-\d{2}-\d{2}$/);
  });

  it("names a serial number that stands in another job, whatever its letters, and none of a deleted one", async () => {
    const twice = async (job: string) =>
      serialsTwiceSchema.parse(await (await call("GET", `/jobs/${job}/serials-twice`)).json()).twice;
    const [first, second] = jobs;
    expect(await twice(first!)).toEqual([{ serial, job: "Due second", jobId: second, device: "hybrid" }]);
    await call("POST", `/jobs/${first}/visit`, { entries: [serialOf("other", serial.toLowerCase())] });
    expect((await twice(first!)).map(({ device }) => device)).toContain("other");
    await call("DELETE", `/jobs/${second}`);
    expect((await twice(first!)).map(({ job }) => job)).not.toContain("Due second");
  });

  it("goes to each receiver as a table, and to the operator as a filled notice", async () => {
    const [first] = jobs;
    const table = await (await call("GET", `/jobs/${first}/registrations.csv?receiver=operator`)).text();
    expect(table).toContain("Notice of connection");
    expect(table).toContain("2026-10-20");
    expect(table).not.toContain("Longer warranty");
    expect(await (await call("GET", `/jobs/${first}/registrations.csv`)).text()).toContain("Longer warranty");
    expect((await call("GET", `/jobs/${first}/registrations.csv?receiver=nobody`)).status).toBe(400);
    const notice = await call("GET", `/jobs/${first}/notice.pdf?paper=letter`);
    const { text, title, width } = await readPdf(new Uint8Array(await notice.arrayBuffer()));
    expect(title).toBe("Notice to the grid operator, Due first");
    expect(Math.round(width)).toBe(612);
    for (const word of ["Capacity: 9", serial, "Installed on: 2026-10-02"]) expect(text).toContain(flat(word));
    expect((await call("GET", `/jobs/${first}/notice.pdf?paper=a0`)).status).toBe(400);
  });
});
