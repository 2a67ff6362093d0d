import type { ChildProcess } from "node:child_process";
import { randomUUID } from "node:crypto";
import { readFileSync, rmSync } from "node:fs";
import path from "node:path";
import pg from "pg";
import { afterAll, describe, expect, it } from "vitest";
import { importJob } from "@/core/job/importJob";
import type { JobDocument } from "@/core/job/jobDocument";
import { visitEntrySchema, type VisitEntry } from "@/core/visit/visitEntry";
import { closeDatabase, query } from "@/db/client";
import { deleteJob, jobSearchSchema, onePageOfJobs, saveJob } from "@/db/job";
import { addPhoto, maybePhoto, type NewPhoto } from "@/db/photo";
import { keepSummary, manyDueSummaries, maybeSummaryGround } from "@/db/summaryDue";
import { addVisitEntries, manyPlanChanges, manyVisitEntries } from "@/db/visitEntry";
import { summarised } from "@/workers/jobTasks";
import { keptJob } from "../fixtures/keptJob";
import { startCluster } from "../../scripts/lib/cluster.mjs";
import { endServer, startServer } from "../../scripts/lib/killable.mjs";
import { migrate } from "../../scripts/lib/database.mjs";
import { ensurePostgres } from "../../scripts/lib/install.mjs";

const NOBODY = "00000000-0000-4000-8000-000000000000";
const PNG = Buffer.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a, 0]);

describe("the log of a visit", () => {
  afterAll(() => closeDatabase());

  it("keeps entries in the order in which they came, and takes those that are sent twice for one", async () => {
    const job = await keptJob(demo());
    const [a, b, c] = [note("a"), note("b"), note("c")];
    expect(await addVisitEntries(job.id, [a, b])).toEqual({ kind: "kept", ids: [a.id, b.id] });
    expect(await addVisitEntries(job.id, [b, c])).toEqual({ kind: "kept", ids: [b.id, c.id] });
    expect((await manyVisitEntries(job.id)).map(({ id }) => id)).toEqual([a.id, b.id, c.id]);
  });

  it("acknowledges nothing under an id that another job's log has", async () => {
    const [job, other] = [await keptJob(demo()), await keptJob(demo())];
    const [line, another] = [note("mine"), note("new")];
    await addVisitEntries(job.id, [line]);
    expect(await addVisitEntries(other.id, [another, line])).toEqual({
      kind: "taken",
      taken: [{ id: line.id, why: "it is of another job's log" }],
    });
    expect(await manyVisitEntries(other.id)).toEqual([]);
  });

  it("lets nobody change or delete a line or a photo", async () => {
    const job = await keptJob(demo());
    await addVisitEntries(job.id, [note("kept")]);
    await addPhoto(job.id, randomUUID(), photo(PNG));
    for (const table of ["visit_entry", "photo"]) {
      await expect(query(`update ${table} set job_id = job_id`)).rejects.toThrow("append-only");
      await expect(query(`delete from ${table}`)).rejects.toThrow("append-only");
    }
  });

  it("keeps photos of a job, and gives them to no other", async () => {
    const [job, other] = [await keptJob(demo()), await keptJob(demo())];
    const id = randomUUID();
    expect(await addPhoto(job.id, id, photo(PNG))).toEqual({ kind: "kept" });
    expect(await addPhoto(job.id, id, photo(PNG))).toEqual({ kind: "kept" });
    expect(await addPhoto(job.id, id, photo(Buffer.concat([PNG, PNG])))).toEqual({ kind: "taken" });
    expect(await addPhoto(other.id, id, photo(PNG))).toEqual({ kind: "taken" });
    expect((await maybePhoto(job.id, id))?.bytes.equals(PNG)).toBe(true);
    expect(await maybePhoto(other.id, id)).toBeUndefined();
    expect(await addPhoto(NOBODY, randomUUID(), photo(PNG))).toEqual({ kind: "no-job" });
    await deleteJob(job.id);
    expect(await maybePhoto(job.id, id)).toBeUndefined();
    expect(await addVisitEntries(NOBODY, [note("x")])).toEqual({ kind: "no-job" });
  });

  it("makes a summary due with every step that moves, and not with a note", async () => {
    const job = await keptJob(demo());
    const dueOf = async () => (await manyDueSummaries(1000)).find(({ jobId }) => jobId === job.id);
    await addVisitEntries(job.id, [note("kept")]);
    expect(await dueOf()).toBeUndefined();
    const [first, second] = [skip("a"), skip("b")];
    await addVisitEntries(job.id, [first, second, skip("b", "Still locked")]);
    const due = (await dueOf())!;
    const ground = (await maybeSummaryGround(job.id))!;
    expect(ground.entries).toMatchObject([{ step: "a" }, { step: "b", reason: "Still locked" }]);
    const summary = { ...summarised(job.document).summary, next: "Fetch the key of the cabinet" };
    await keepSummary(due, { revision: 2, summary: { ...summary, next: "of a later revision" } });
    expect(await lineOf(job.id)).not.toMatchObject({ summary: { next: "of a later revision" } });
    expect(await dueOf()).toBeUndefined();
    await addVisitEntries(job.id, [skip("c")]);
    const earlier = (await dueOf())!;
    await saveJob(job.id, 1, summarised({ ...job.document, links: [] }));
    expect((await dueOf())!.mark).not.toBe(earlier.mark);
    await keepSummary(earlier, { revision: 2, summary });
    expect(await lineOf(job.id)).toMatchObject({ summary });
    expect(await dueOf()).toBeDefined();
  });

  it("knows which revision changed what", async () => {
    const job = await keptJob(demo());
    const renamed = { ...job.document, job: { ...job.document.job, name: "Other" } };
    await saveJob(job.id, 1, summarised(renamed), "Robin");
    await saveJob(job.id, 2, summarised({ ...renamed, links: [] }), "Kim");
    expect(await manyPlanChanges(job.id)).toMatchObject([{ revision: 3, parts: ["links"] }]);
  });

  it("refuses in the schema what no code should write", async () => {
    const job = await keptJob(demo());
    await expect(
      query(
        "insert into visit_entry (id, job_id, at, person, kind, body) values (gen_random_uuid(), $1, now(), " +
          "' ', 'note', '{\"kind\":\"note\"}')",
        [job.id],
      ),
    ).rejects.toThrow("visit_entry_person_check");
    await expect(
      query(
        "insert into visit_entry (id, job_id, at, person, kind, body) values (gen_random_uuid(), $1, now(), " +
          "'Kim', 'note', '{\"kind\":\"skip\"}')",
        [job.id],
      ),
    ).rejects.toThrow("visit_entry_check");
    await expect(
      query(
        "insert into photo (id, job_id, type, bytes, sha256, sent_sha256) values (gen_random_uuid(), $1, " +
          "'text/html', 'x', sha256('x'), sha256('x'))",
        [job.id],
      ),
    ).rejects.toThrow("photo_type_check");
  });
});

describe("a database that is killed between two recordings", () => {
  it("has every line that was acknowledged, and takes what is sent again once", async () => {
    const binaries = await ensurePostgres();
    const cluster = await startCluster(binaries, { name: `killed-cluster-${process.pid}` });
    const servers: ChildProcess[] = [];
    try {
      await migrate(cluster.url);
      await cluster.stop();
      // A child of this test, so that its end is seen here.
      servers.push(await startServer(binaries, cluster));
      const client = await connected(cluster.url);
      const {
        rows: [job],
      } = await client.query(
        "insert into job (name, document, summary) values ('Kill', '{\"format\":\"gormit-job\"}', " +
          '\'{"supply":"","state":"","findings":{},"next":""}\') returning id',
      );
      const insert = (to: pg.Client, entry: VisitEntry) =>
        to.query(
          "insert into visit_entry (id, job_id, at, person, kind, body) values ($1, $2, $3, $4, $5, $6) on " +
            "conflict (id) do nothing",
          [entry.id, job.id, entry.at, entry.person, entry.kind, entry],
        );
      const [first, second] = [note("first"), note("second")];
      await insert(client, first);
      const gone = new Promise<void>((resolve) => {
        client.once("end", () => resolve());
      });
      await endServer(servers[0]!, "SIGKILL");
      await gone;
      await expect(insert(client, second)).rejects.toThrow();
      servers.push(await startServer(binaries, cluster));
      const again = await connected(cluster.url);
      await insert(again, first);
      await insert(again, second);
      const { rows } = await again.query("select id from visit_entry order by sequence");
      await again.end();
      expect(rows.map(({ id }) => id as string)).toEqual([first.id, second.id]);
    } finally {
      for (const server of servers) await endServer(server, "SIGINT");
      await cluster.stop();
      rmSync(path.dirname(cluster.data), { recursive: true, force: true });
    }
  });
});

async function connected(url: string): Promise<pg.Client> {
  const client = new pg.Client({ connectionString: url });
  // Its end is what this test is about; unhandled it would end the test run.
  client.on("error", () => undefined);
  await client.connect();
  return client;
}

function note(text: string): VisitEntry {
  return visitEntrySchema.parse({
    id: randomUUID(),
    at: "2026-11-26T08:00:00.000Z",
    person: "Robin",
    kind: "note",
    text,
  });
}

function photo(bytes: Buffer): NewPhoto {
  return { type: "image/png", bytes, sent: bytes };
}

function skip(step: string, reason = "Locked"): VisitEntry {
  const common = { id: randomUUID(), at: "2026-11-26T08:00:00.000Z", person: "Robin", kind: "skip" as const };
  return visitEntrySchema.parse({ ...common, step, title: `Step ${step}`, content: "1", reason });
}

async function lineOf(id: string) {
  const { jobs } = await onePageOfJobs(jobSearchSchema.parse({ size: 200 }));
  return jobs.find((line) => line.id === id);
}

function demo(): JobDocument {
  const outcome = importJob(readFileSync(new URL("../../demo/fennel-court.json", import.meta.url), "utf8"));
  if (outcome.kind !== "job") throw new Error("the demo does not parse");
  return outcome.document;
}
