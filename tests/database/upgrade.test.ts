import { randomUUID } from "node:crypto";
import { runner } from "node-pg-migrate";
import pg from "pg";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { jobSummary } from "@/core/jobSummary";
import { closeDatabase } from "@/db/client";
import { maybeJob, saveJob } from "@/db/job";
import { manyKits, saveKit } from "@/db/kit";
import { maybePhoto } from "@/db/photo";
import { checkedLog } from "@/db/visitChain";
import { manyPlanChanges, manyVisitEntries } from "@/db/visitEntry";
import { kitSchema } from "@/core/kits/kitSchema";
import { readYaml } from "@/core/kits/readYaml";
import { summarised } from "@/workers/jobTasks";
import { jobFromPattern, kitText } from "../fixtures/shipped";
import { fromTestRun } from "../setup/environment";

/** How many migrations the revision before had. */
const BEFORE = 3;

describe("a database of the revision before", () => {
  const name = `before_${process.pid}`;
  const old = new URL(fromTestRun("DATABASE_URL"));
  old.pathname = `/${name}`;
  const [jobId, photoId, entryId] = [randomUUID(), randomUUID(), randomUUID()];
  const job = jobFromPattern("hybrid-high-voltage", { name: "From before" });
  const { visit, ...withoutVisit } = job;
  const first = {
    ...withoutVisit,
    run: visit,
    version: 1,
    site: { ...job.site, meters: job.site.meters.map(({ partOf: _partOf, ...meter }) => meter) },
  };
  const migrate = (count: number) =>
    runner({
      databaseUrl: old.href,
      dir: "src/db/migrations",
      direction: "up",
      migrationsTable: "migration",
      log: () => undefined,
      count,
    });

  beforeAll(async () => {
    await onServer((client) => client.query(`create database ${name}`));
    await migrate(BEFORE);
    const client = new pg.Client({ connectionString: old.href });
    await client.connect();
    await client.query(
      "insert into job (id, name, document, summary, revision) values ($1, 'From before', $2, $3, 3)",
      [jobId, first, jobSummary(job)],
    );
    const changed = { ...first, links: [] };
    for (const [revision, document] of [
      [1, first],
      [2, changed],
      [3, first],
    ] as const)
      await client.query("insert into job_revision (job_id, revision, document) values ($1, $2, $3)", [
        jobId,
        revision,
        document,
      ]);
    await client.query(
      "insert into run_entry (id, job_id, at, person, kind, body) values ($1, $2, now(), 'Kim', 'note', $3)",
      [entryId, jobId, { id: entryId, at: "2026-11-26T08:00:00.000Z", person: "Kim", kind: "note", text: "kept" }],
    );
    await client.query(
      "insert into photo (id, job_id, type, bytes, sha256) values ($1, $2, 'image/png', 'x', sha256('x'))",
      [photoId, jobId],
    );
    await client.query("insert into kit (id, text, document) values ('old-meter', $1, $2), ('broken-meter', 'x', $3)", [
      ownKit().text,
      ownKit().kit,
      { format: "gormit-kit", id: "broken-meter", version: 0 },
    ]);
    await client.end();
    await migrate(Infinity);
    process.env.DATABASE_URL = old.href;
  });

  afterAll(async () => {
    await closeDatabase();
    process.env.DATABASE_URL = fromBefore;
    await onServer((client) => client.query(`drop database ${name} with (force)`));
  });

  const fromBefore = fromTestRun("DATABASE_URL");

  it("has every job, upgraded as it is read, with its log, photos and what its revisions changed", async () => {
    expect((await maybeJob(jobId))?.document).toEqual(job);
    expect((await manyVisitEntries(jobId)).map(({ id }) => id)).toEqual([entryId]);
    expect(await checkedLog(jobId)).toMatchObject({ lines: 1, broken: null });
    expect((await maybePhoto(jobId, photoId))?.bytes.toString()).toBe("x");
    expect(await manyPlanChanges(jobId)).toMatchObject([
      { revision: 2, parts: ["links"] },
      { revision: 3, parts: ["links"] },
    ]);
  });

  it("is saved on top of, in the form of now", async () => {
    const renamed = { ...job, job: { ...job.job, name: "Saved now" } };
    expect(await saveJob(jobId, 3, summarised(renamed), "Kim")).toMatchObject({ kind: "saved", revision: 4 });
  });

  it("has its kits with their texts; one that cannot be read is told and takes none with it", async () => {
    const { kits, broken } = await manyKits();
    expect(kits.map(({ kit, revision }) => [kit.id, revision])).toEqual([["old-meter", 1]]);
    expect(broken).toMatchObject([{ id: "broken-meter", text: "x" }]);
    expect(await saveKit(ownKit().kit, `${ownKit().text}\n# newer`, 1)).toEqual({ kind: "saved", revision: 2 });
    expect(await saveKit(ownKit().kit, `${ownKit().text}\n# on an old one`, 1)).toMatchObject({
      kind: "conflict",
      revision: 2,
    });
  });
});

describe("what one person saves within two minutes", () => {
  afterAll(() => closeDatabase());

  it("is one revision with all that it changed; another person's is one of its own, and the first stays", async () => {
    const { keptJob } = await import("../fixtures/keptJob");
    const { manyRevisions } = await import("@/db/job");
    const job = await keptJob(jobFromPattern("two-ct-add-on", { name: "Merged" }));
    let revision = 1;
    const save = async (document: typeof job.document, person: string) => {
      const outcome = await saveJob(job.id, revision, summarised(document), person);
      if (outcome.kind !== "saved") throw new Error(outcome.kind);
      revision = outcome.revision;
    };
    const named = (name: string) => ({ ...job.document, job: { ...job.document.job, name } });
    for (const count of [1, 2, 3, 4]) await save(named(`Robin ${count}`), "Robin");
    await save({ ...named("Robin 4"), links: [] }, "Robin");
    await save({ ...named("Robin 4"), links: [], packed: ["drill"] }, "Kim");
    await save({ ...named("Robin 5"), links: [], packed: ["drill"] }, "Robin");
    expect(await manyRevisions(job.id)).toEqual([8, 7, 6, 1]);
    expect(await manyPlanChanges(job.id)).toMatchObject([{ revision: 6, parts: ["links"] }]);
  });
});

function ownKit() {
  const text = kitText("meter-three-5a").replace("id: meter-three-5a", "id: old-meter");
  const outcome = readYaml(text, kitSchema);
  if (outcome.kind === "bad-file") throw new Error(outcome.problems[0]?.message);
  return { kit: outcome.value, text };
}

async function onServer(work: (client: pg.Client) => Promise<unknown>): Promise<void> {
  const client = new pg.Client({ connectionString: fromTestRun("DATABASE_URL") });
  await client.connect();
  await work(client);
  await client.end();
}
