import { readFileSync } from "node:fs";
import pg from "pg";
import { afterAll, describe, expect, it } from "vitest";
import { importJob } from "@/core/job/importJob";
import { dayAfter } from "@/core/job/deadline";
import type { JobDocument } from "@/core/job/jobDocument";
import { closeDatabase, DatabaseBusy, DatabaseUnavailable, query, transaction, UnstorableValue } from "@/db/client";
import {
  createJob,
  deleteJob,
  jobSearchSchema,
  manyRevisions,
  maybeJob,
  archiveJob,
  onePageOfJobs,
  restoreJob,
  saveJob,
  type WrittenJob,
} from "@/db/job";
import { summarised } from "@/workers/jobTasks";
import { keptJob } from "../fixtures/keptJob";
import { fromTestRun } from "../setup/environment";

const SUMMARY = JSON.stringify({ supply: "", state: "placing", findings: {}, next: "" });
const NOBODY = "00000000-0000-4000-8000-000000000000";

describe("job", () => {
  afterAll(() => closeDatabase());

  it("keeps a document as it was given, at revision 1, with a summary for the list", async () => {
    const job = await keptJob(demo("tollgate-cottage"));
    expect(await maybeJob(job.id)).toEqual({ ...job, revision: 1, document: demo("tollgate-cottage") });
    expect((await onePageOfJobs(jobSearchSchema.parse({}))).jobs.find((line) => line.id === job.id)).toMatchObject({
      name: "Tollgate Cottage",
      place: "Mallow Quay",
      summary: { state: "faults-found" },
    });
  });

  it("saves on top of the revision that the change was made on, and keeps both revisions", async () => {
    const job = await keptJob(demo("fennel-court"));
    const outcome = await saveJob(job.id, 1, renamed(job.document, "Changed"));
    expect(outcome).toMatchObject({ kind: "saved", revision: 2 });
    expect(await manyRevisions(job.id)).toEqual([2, 1]);
  });

  it("writes nothing over a newer revision, and hands that one back", async () => {
    const job = await keptJob(demo("fennel-court"));
    await saveJob(job.id, 1, renamed(job.document, "First"));
    expect(await saveJob(job.id, 1, renamed(job.document, "Second"))).toMatchObject({
      kind: "conflict",
      current: { revision: 2, document: { job: { name: "First" } } },
    });
    expect((await maybeJob(job.id))?.document.job.name).toBe("First");
  });

  it("lets one of many saves at once win, and tells the others", async () => {
    const job = await keptJob(demo("fennel-court"));
    const outcomes = await Promise.all(
      Array.from({ length: 8 }, (_, at) => saveJob(job.id, 1, renamed(job.document, `Writer ${at}`))),
    );
    expect(outcomes.map((outcome) => outcome.kind).sort()).toEqual([...Array<string>(7).fill("conflict"), "saved"]);
  });

  it("takes a save that is sent twice for one", async () => {
    const job = await keptJob(demo("fennel-court"));
    await saveJob(job.id, 1, renamed(job.document, "Once"));
    expect(await saveJob(job.id, 1, renamed(job.document, "Once"))).toMatchObject({ kind: "saved", revision: 2 });
    expect(await manyRevisions(job.id)).toEqual([2, 1]);
  });

  it("brings a deleted job back as it was", async () => {
    const job = await keptJob(demo("larkspur-house"));
    expect(await deleteJob(job.id)).toBe(true);
    expect(await maybeJob(job.id)).toBeUndefined();
    expect(await saveJob(job.id, 1, summarised(job.document))).toEqual({ kind: "gone" });
    expect(await restoreJob(job.id)).toBe(true);
    expect(await maybeJob(job.id)).toEqual(job);
  });

  it("keeps the archive out of the list, unchanged, and finds jobs by how far they are and where", async () => {
    const job = await keptJob({
      ...demo("larkspur-house"),
      job: { ...demo("larkspur-house").job, place: "Sluice Row" },
    });
    const ids = async (search: object) =>
      (await onePageOfJobs(jobSearchSchema.parse({ place: "Sluice Row", ...search }))).jobs.map(({ id }) => id);
    expect(await ids({})).toEqual([job.id]);
    expect(await ids({ state: "placing" })).toEqual([job.id]);
    expect(await ids({ state: "proved" })).toEqual([]);
    expect(await ids({ place: "Sluice" })).toEqual([]);
    expect(await archiveJob(job.id, true)).toBe(true);
    expect(await archiveJob(job.id, true)).toBe(true);
    expect(await ids({})).toEqual([]);
    expect(await ids({ shelf: "archived", search: "larkspur" })).toEqual([job.id]);
    expect(await maybeJob(job.id)).toEqual(job);
    expect((await onePageOfJobs(jobSearchSchema.parse({}))).places).toContain("Sluice Row");
    expect(await archiveJob(job.id, false)).toBe(true);
    expect(await ids({})).toEqual([job.id]);
  });

  it("finds jobs by when something is due, and hides no job whose deadlines make no sense", async () => {
    const [row] = await query<{ today: string }>("select to_char(current_date, 'YYYY-MM-DD') as today");
    const { today } = row!;
    const due = async (days: number, done = false) => {
      const deadline = {
        id: NOBODY,
        what: "Send the notice",
        on: dayAfter(today, days),
        remindDays: 7,
        lost: "",
        ...(done ? { doneOn: today } : {}),
      };
      const plan = { ...demo("fennel-court"), deadlines: [deadline] };
      return (await keptJob({ ...plan, job: { ...plan.job, place: "Due Row" } })).id;
    };
    const [late, soon, later, far] = [await due(-1), await due(0), await due(8), await due(31)];
    const done = await due(-1, true);
    const ids = async (search: object) =>
      (await onePageOfJobs(jobSearchSchema.parse({ place: "Due Row", ...search }))).jobs.map(({ id }) => id).toSorted();
    expect(await ids({ due: "late" })).toEqual([late]);
    expect(await ids({ due: "week" })).toEqual([late, soon].toSorted());
    expect(await ids({ due: "month" })).toEqual([late, soon, later].toSorted());
    await query(`update job set summary = summary || '{"deadlines": 7}' where id = $1`, [late]);
    expect(await ids({ due: "month" })).toEqual([soon, later].toSorted());
    expect(await ids({})).toEqual([late, soon, later, far, done].toSorted());
    expect(jobSearchSchema.safeParse({ due: "tomorrow" }).success).toBe(false);
  });

  it("answers unknown and malformed ids as no job", async () => {
    expect(await maybeJob(NOBODY)).toBeUndefined();
    expect(await maybeJob("'; drop table job; --")).toBeUndefined();
    expect(await deleteJob("x")).toBe(false);
    expect(await restoreJob(NOBODY)).toBe(false);
    expect(await archiveJob(NOBODY, true)).toBe(false);
  });

  it("loads a demo job once, and not again after it was deleted", async () => {
    const once = () => createJob(summarised(demo("brindle-dairy")), { demoKey: "test-demo" });
    const first = await once();
    expect(first.kind).toBe("created");
    expect((await once()).kind).toBe("there-already");
    if (first.kind === "created") await deleteJob(first.job.id);
    expect(await once()).toEqual({ kind: "taken" });
  });

  it("lets nobody change a kept revision", async () => {
    await keptJob(demo("fennel-court"));
    await expect(query("update job_revision set document = '{}'")).rejects.toThrow("not to be changed any more");
    await expect(query("delete from job_revision")).rejects.toThrow("keeps what was acknowledged");
  });

  it("refuses in the schema what no code should write", async () => {
    await expect(query("insert into job (name, document, summary) values ('x', '{}', '{}')")).rejects.toThrow(
      /job_(document|summary)_check/,
    );
    await expect(
      query(`insert into job (name, document, summary) values ('  ', '{"format":"gormit-job"}', '${SUMMARY}')`),
    ).rejects.toThrow("job_name_check");
  });

  it("saves one job though another is locked, however many saves wait for that one", async () => {
    const [locked, free] = [await keptJob(demo("fennel-court")), await keptJob(demo("fennel-court"))];
    const other = new pg.Client({ connectionString: fromTestRun("DATABASE_URL") });
    await other.connect();
    await other.query("begin");
    await other.query("select id from job where id = $1 for update", [locked.id]);
    const waiting = Array.from({ length: 20 }, (_, at) =>
      saveJob(locked.id, 1, renamed(locked.document, `Waits ${at}`)),
    );
    expect((await saveJob(free.id, 1, renamed(free.document, "Goes on"))).kind).toBe("saved");
    await other.query("rollback");
    await other.end();
    expect((await Promise.all(waiting)).filter(({ kind }) => kind === "saved")).toHaveLength(1);
  });

  it("makes as many jobs at once as are asked for", async () => {
    const made = await Promise.all(Array.from({ length: 60 }, () => keptJob(demo("fennel-court"))));
    expect(new Set(made.map(({ id }) => id)).size).toBe(60);
  });

  it("waits for another process that saves the same job, and then overwrites nothing of it", async () => {
    const job = await keptJob(demo("fennel-court"));
    const other = new pg.Client({ connectionString: fromTestRun("DATABASE_URL") });
    await other.connect();
    await other.query("begin");
    await other.query(
      "update job set name = 'Theirs', document = jsonb_set(document, '{job,name}', '\"Theirs\"'), revision " +
        "= 2 where id = $1",
      [job.id],
    );
    const mine = saveJob(job.id, 1, renamed(job.document, "Mine"));
    await other.query("commit");
    await other.end();
    expect(await mine).toMatchObject({
      kind: "conflict",
      current: { revision: 2, document: { job: { name: "Theirs" } } },
    });
    expect(await saveJob(job.id, 2, renamed(job.document, "Mine"))).toMatchObject({ kind: "saved", revision: 3 });
  });

  it("says that a text cannot be kept, and that a transaction that met another may be tried again", async () => {
    await expect(query("select $1::text", ["a\u0000b"])).rejects.toBeInstanceOf(UnstorableValue);
    await expect(query("select '0000-01-01'::timestamptz")).rejects.toBeInstanceOf(UnstorableValue);
    let tries = 0;
    const outcome = await transaction("collides", async (client) => {
      tries++;
      if (tries < 3) await client.query("do $$ begin raise exception 'met another' using errcode = '40P01'; end $$");
      return "done";
    });
    expect([outcome, tries]).toEqual(["done", 3]);
    await expect(
      transaction("collides", (client) =>
        client.query("do $$ begin raise exception 'met another' using errcode = '40001'; end $$"),
      ),
    ).rejects.toBeInstanceOf(DatabaseBusy);
  });

  it("does all of a transaction or none", async () => {
    const count = async () => (await onePageOfJobs(jobSearchSchema.parse({}))).total;
    const before = await count();
    await expect(
      transaction("half", async (client) => {
        await client.query(
          `insert into job (name, document, summary) values ('Half', '{"format":"gormit-job"}', '${SUMMARY}')`,
        );
        throw new Error("half way");
      }),
    ).rejects.toThrow("half way");
    expect(await count()).toBe(before);
  });

  it("says that the database is unavailable when its server ends the connection", async () => {
    await expect(
      transaction("ended", (client) => client.query("select pg_terminate_backend(pg_backend_pid())")),
    ).rejects.toBeInstanceOf(DatabaseUnavailable);
    expect((await onePageOfJobs(jobSearchSchema.parse({}))).jobs).toBeInstanceOf(Array);
  });
});

function demo(name: string): JobDocument {
  const outcome = importJob(readFileSync(new URL(`../../demo/${name}.json`, import.meta.url), "utf8"));
  if (outcome.kind !== "job") throw new Error(`demo/${name}.json does not parse`);
  return outcome.document;
}

function renamed(document: JobDocument, name: string): WrittenJob {
  return summarised({ ...document, job: { ...document.job, name } });
}
