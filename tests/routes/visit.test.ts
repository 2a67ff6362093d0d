import { randomUUID } from "node:crypto";
import sharp from "sharp";
import { describe, expect, it } from "vitest";
import { jobPageSchema } from "@/core/answers/jobAnswers";
import type { JobDocument } from "@/core/job/jobDocument";
import type { JobSummary } from "@/core/jobSummary";
import { visitSheet } from "@/core/visit/visitSheet";
import { contentMark } from "@/core/visit/visitState";
import { scheduleResponseSchema } from "@/core/visit/schedule/scheduleSchema";
import { answersFor } from "../fixtures/shipped";
import { fromTestRun } from "../setup/environment";

/** A picture of one dot. */
const PNG = Buffer.from(
  "iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR4nGNgYGBgAAAABQABpfZFQAAAAABJRU5ErkJggg==",
  "base64",
);
const NOBODY = "00000000-0000-4000-8000-000000000000";
const TWO = {
  technicians: 1,
  places: [{ id: "a" }, { id: "b" }],
  walkMin: { "a|b": 3 },
  steps: [
    { id: "x", place: "a", activeMin: 10, waitMin: 0, needs: [] },
    { id: "y", place: "b", activeMin: 10, waitMin: 5, needs: ["x"] },
  ],
};

describe("the routes of a visit", () => {
  it("keep entries once, and answer with all of them", async () => {
    const id = await job();
    const entry = note();
    expect(await post(`jobs/${id}/visit`, { entries: [entry] })).toMatchObject({
      status: 200,
      body: { kept: [entry.id] },
    });
    expect((await post(`jobs/${id}/visit`, { entries: [entry] })).status).toBe(200);
    const answer = (await (await fetch(url(`jobs/${id}/visit`))).json()) as { entries: unknown[] };
    expect(answer.entries).toEqual([entry]);
  });

  it("send nothing again to whoever has all of it, until there is news", async () => {
    const id = await job();
    const mark = (await fetch(url(`jobs/${id}/visit`))).headers.get("etag")!;
    const again = () => fetch(url(`jobs/${id}/visit`), { headers: { "if-none-match": mark } });
    expect((await again()).status).toBe(304);
    await post(`jobs/${id}/visit`, { entries: [note()] });
    const news = await again();
    expect(news.status).toBe(200);
    expect(news.headers.get("etag")).not.toBe(mark);
  });

  it.each<readonly [object, string]>([
    [{ entries: [] }, "entries"],
    [{ entries: [{ ...note(), person: " " }] }, "entries[0].person"],
    [{ entries: [{ ...note(), kind: "party" }] }, "entries[0].kind"],
    [{ entries: [{ ...note(), id: "1" }] }, "entries[0].id"],
  ])("refuse %j with its path", async (body, path) => {
    const answer = await post(`jobs/${await job()}/visit`, body);
    expect(answer.status).toBe(400);
    expect(
      (answer.body as { error: { issues: { path: string }[] } }).error.issues.map((issue) => issue.path),
    ).toContain(path);
  });

  it("refuse a line under an id of another job's log, with its place", async () => {
    const line = note();
    await post(`jobs/${await job()}/visit`, { entries: [line] });
    const answer = await post(`jobs/${await job()}/visit`, { entries: [note(), line] });
    expect(answer).toMatchObject({ status: 409, body: { error: { issues: [{ path: "entries[1].id" }] } } });
  });

  it("let the list of jobs count what the log finds, at once and after the next save", async () => {
    const name = `Log counted ${randomUUID().slice(0, 8)}`;
    const id = await job(name);
    const before = await lineOf(name);
    const saved = (await (await fetch(url(`jobs/${id}`))).json()) as { document: JobDocument };
    const gate = visitSheet(saved.document).steps.find(({ isGate }) => isGate)!;
    const skip = { kind: "skip", reason: "The cabinet is locked" };
    const entry = { ...note(), ...skip, step: gate.id, title: gate.title, content: contentMark(gate), text: undefined };
    expect((await post(`jobs/${id}/visit`, { entries: [entry] })).status).toBe(200);
    const counted = { ...before.findings, fix: before.findings.fix + 1 };
    // Several people look at once: each of them sees it counted.
    const seen = await Promise.all([lineOf(name), lineOf(name), lineOf(name)]);
    expect(seen.map(({ findings }) => findings)).toEqual([counted, counted, counted]);
    const changed = { ...saved.document, job: { ...saved.document.job, place: "Behind the barn" } };
    const body = JSON.stringify({ revision: 1, document: changed });
    const headers = { "content-type": "application/json" };
    expect((await fetch(url(`jobs/${id}`), { method: "PUT", body, headers })).status).toBe(200);
    expect((await lineOf(name)).findings).toEqual(counted);
  });

  it("know no job that is not there", async () => {
    expect((await post(`jobs/${NOBODY}/visit`, { entries: [note()] })).status).toBe(404);
    expect((await post("jobs/nonsense/visit", { entries: [note()] })).status).toBe(404);
    expect((await fetch(url(`jobs/${NOBODY}/log.csv`))).status).toBe(404);
    expect((await put(`jobs/${NOBODY}/photos/${randomUUID()}`, PNG)).status).toBe(404);
  });

  it("take pictures by their bytes, and nothing else or larger", async () => {
    const id = await job();
    const photo = randomUUID();
    expect((await put(`jobs/${id}/photos/${photo}`, PNG)).status).toBe(200);
    const back = await fetch(url(`jobs/${id}/photos/${photo}`));
    expect(back.headers.get("content-type")).toBe("image/png");
    expect(await sharp(Buffer.from(await back.arrayBuffer())).metadata()).toMatchObject({
      width: 1,
      height: 1,
      format: "png",
    });
    expect((await put(`jobs/${id}/photos/${photo}`, PNG)).status).toBe(200);
    expect((await put(`jobs/${id}/photos/${randomUUID()}`, Buffer.from("<script>alert(1)</script>"))).status).toBe(400);
    expect(
      (await put(`jobs/${id}/photos/${randomUUID()}`, Buffer.concat([PNG, Buffer.alloc(13 * 1024 * 1024)]))).status,
    ).toBe(413);
    expect((await fetch(url(`jobs/${id}/photos/${randomUUID()}`))).status).toBe(404);
  });

  it("plan steps, say what leads in a circle, and refuse nonsense", async () => {
    expect(scheduleResponseSchema.parse((await post("compute/schedule", TWO)).body)).toMatchObject({
      makespanMin: 28,
      lowerBoundMin: 28,
      order: ["x", "y"],
    });
    const circle = { ...TWO, steps: TWO.steps.map((step) => ({ ...step, needs: [step.id === "x" ? "y" : "x"] })) };
    expect(await post("compute/schedule", circle)).toMatchObject({
      status: 422,
      body: { error: { code: "cannot-compute", issues: [{ path: "steps" }] } },
    });
    expect(
      await post("compute/schedule", { ...TWO, technicians: 9, steps: [{ id: "x", place: "nowhere", activeMin: -1 }] }),
    ).toMatchObject({ status: 400 });
  });
});

async function job(name = "Visit routes"): Promise<string> {
  const answers = answersFor("two-ct-add-on", { name });
  return ((await post("jobs?from=pattern", answers)).body as { id: string }).id;
}

/** What the list says of the one job of this name. */
async function lineOf(name: string): Promise<JobSummary> {
  const page = await (await fetch(url(`jobs?search=${encodeURIComponent(name)}`))).json();
  const { jobs } = jobPageSchema.parse(page);
  expect(jobs).toHaveLength(1);
  return jobs[0]!.summary;
}

function note() {
  return {
    id: randomUUID(),
    at: "2026-11-26T08:00:00.000Z",
    person: "Robin",
    kind: "note",
    text: "Key with the neighbour",
  };
}

function url(path: string): string {
  return `${fromTestRun("GORMIT_TEST_APP")}/api/v1/${path}`;
}

async function post(path: string, body: object): Promise<{ readonly status: number; readonly body: unknown }> {
  const response = await fetch(url(path), {
    method: "POST",
    body: JSON.stringify(body),
    headers: { "content-type": "application/json" },
  });
  return { status: response.status, body: await response.json() };
}

function put(path: string, bytes: Buffer): Promise<Response> {
  return fetch(url(path), { method: "PUT", body: new Uint8Array(bytes) });
}
