import pg from "pg";
import { say } from "../lib/say.mjs";
import { demo, quantile, type Ground } from "./ground";

/** Ten thousand jobs, one of them with 5 000 entries and 3 000 revisions. */
export async function much({ app, url, share }: Ground): Promise<void> {
  const client = new pg.Client({ connectionString: url });
  client.on("error", () => undefined);
  await client.connect();
  const base = demo();
  const [jobs, entries, revisions] = [10_000, 5_000, 3_000].map((count) => Math.max(1, Math.round(count * share))) as [
    number,
    number,
    number,
  ];
  await client.query(
    "insert into job (name, document, summary) select 'Job ' || n, jsonb_set($1::jsonb, '{job,name}', " +
      "to_jsonb('Job ' || n)), $2::jsonb from generate_series(1, $3::int) n",
    [
      base,
      {
        supply: "Single phase, 230 V 50 Hz",
        state: "placing",
        findings: { stop: 0, fix: 1, note: 2 },
        next: "Place a CT",
      },
      jobs,
    ],
  );
  const { id } = (await client.query<{ id: string }>("select id from job where name = 'Job 1'")).rows[0]!;
  await client.query(
    "insert into visit_entry (id, job_id, at, person, kind, body) select e.id, $1, now(), 'Robin', 'note', " +
      "jsonb_build_object('id', e.id, 'at', '2026-11-26T08:00:00.000Z', 'person', 'Robin', 'kind', 'note', " +
      "'text', 'note ' || e.n) from (select gen_random_uuid() as id, n from generate_series(1, $2::int) n) e",
    [id, entries],
  );
  await client.query(
    "insert into job_revision (job_id, revision, document, began_at, parts) select $1, n, $2, now() - interval " +
      "'1 day', '{site}' from generate_series(2, $3::int) n on conflict do nothing",
    [id, base, revisions],
  );
  await client.query("update job set revision = $2 where id = $1", [id, revisions]);
  await client.query("analyze");
  await client.end();
  for (const place of [
    "/jobs",
    "/jobs?search=job+99&sort=findings",
    "/jobs?page=150",
    `/jobs/${id}/visit?part=log`,
    `/jobs/${id}/place`,
    `/api/v1/jobs/${id}/visit`,
    `/api/v1/jobs/${id}/log.csv`,
  ]) {
    const times: number[] = [];
    for (let at = 0; at < 15; at++) {
      const began = performance.now();
      await (await fetch(app.address + place)).arrayBuffer();
      times.push(performance.now() - began);
    }
    say(`much: ${place.replace(id, "…")}: median ${quantile(times, 0.5)} ms, longest ${quantile(times, 1)} ms`);
  }
}
