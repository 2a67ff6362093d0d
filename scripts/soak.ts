import { spawn, type ChildProcess } from "node:child_process";
import { randomUUID } from "node:crypto";
import { once } from "node:events";
import { readFileSync, rmSync, statSync } from "node:fs";
import path from "node:path";
import fc from "fast-check";
import pg from "pg";
import type { JobDocument } from "@/core/job/jobDocument";
import { startCluster } from "./lib/cluster.mjs";
import { freePort } from "./lib/cluster.mjs";
import { ensureBuilt, startApp } from "./lib/app.mjs";
import { migrate } from "./lib/database.mjs";
import { ensurePackages, ensurePostgres } from "./lib/install.mjs";
import { run, say } from "./lib/say.mjs";

// Bounded, on loopback: what many people, much data, nonsense and kills do to the app, in figures. `npm run soak` takes
// all
// parts; `npm run soak -- people` some of them. SOAK_SHARE=0.1 takes a tenth of the time and of the counts.

const SHARE = Number(process.env.SOAK_SHARE ?? 1);
type Part = "people" | "heavy" | "much" | "nonsense" | "kills";
const wanted = process.argv.slice(2);
const REQUEST_TIMEOUT_MS = 30_000;

interface Ground {
  app: Awaited<ReturnType<typeof startApp>>;
  readonly url: string;
}

await run(async () => {
  await ensurePackages();
  const binaries = await ensurePostgres();
  await ensureBuilt();
  const cluster = await startCluster(binaries, { name: "soak-cluster", throwAway: true });
  try {
    await migrate(cluster.url);
    const ground: Ground = {
      app: await startApp({ port: await freePort(), databaseUrl: cluster.url }),
      url: cluster.url,
    };
    try {
      if (isWanted("people")) await people(ground);
      if (isWanted("heavy")) await heavy(ground);
      if (isWanted("much")) await much(ground);
      if (isWanted("nonsense")) await nonsense(ground);
    } finally {
      await ground.app.stop();
    }
  } finally {
    await cluster.stop();
  }
  if (isWanted("kills")) await kills(binaries);
});

/** Fifty technicians for three minutes: a save each 5 s, an entry each 3 s, a look each 5 s, a diagnosis each 20 s. */
async function people({ app }: Ground): Promise<void> {
  const base = demo();
  const times = { save: [] as number[], entry: [] as number[], look: [] as number[], diagnosis: [] as number[] };
  const failures = new Map<string, number>();
  const until = Date.now() + 180_000 * SHARE;
  const technician = async (number: number) => {
    const job = (await (
      await send(app, "POST", "/jobs/import", { ...base, job: { ...base.job, name: `Soak ${number}` } }, number)
    ).json()) as { id: string; revision: number; document: JobDocument };
    let { revision } = job;
    const every = async (periodMs: number, kind: keyof typeof times, work: () => Promise<Response>) => {
      await pause(Math.random() * periodMs);
      while (Date.now() < until) {
        const began = performance.now();
        const status = await work().then(
          async (response) => {
            await response.arrayBuffer();
            return response.status;
          },
          () => 0,
        );
        times[kind].push(performance.now() - began);
        if (status !== 200) failures.set(`${kind} ${status}`, (failures.get(`${kind} ${status}`) ?? 0) + 1);
        await pause(Math.max(0, periodMs - (performance.now() - began)));
      }
    };
    await Promise.all([
      every(5_000, "save", async () => {
        const response = await send(
          app,
          "PUT",
          `/jobs/${job.id}`,
          { revision, document: { ...job.document, packed: [`p${revision}`] }, person: `T${number}` },
          number,
        );
        const saved = (await response.clone().json()) as { revision?: number };
        revision = saved.revision ?? revision;
        return response;
      }),
      every(3_000, "entry", () => send(app, "POST", `/jobs/${job.id}/run`, { entries: [note(number)] }, number)),
      every(5_000, "look", () =>
        fetch(`${app.address}/jobs/${job.id}/prove`, {
          headers: asBrowser(number),
          signal: AbortSignal.timeout(REQUEST_TIMEOUT_MS),
        }),
      ),
      every(20_000, "diagnosis", () =>
        send(app, "POST", "/compute/diagnose", { site: base.site, ...base.tests }, number),
      ),
    ]);
  };
  await Promise.all(Array.from({ length: 50 }, (_, number) => technician(number)));
  for (const [kind, values] of Object.entries(times))
    say(
      `people: ${kind}: ${values.length} requests, median ${quantile(values, 0.5)} ms, p99 ${quantile(values, 0.99)} ms, longest ${quantile(values, 1)} ms`,
    );
  say(
    `people: not 200: ${failures.size === 0 ? "none" : [...failures].map(([what, count]) => `${what} × ${count}`).join(", ")}`,
  );
}

/** The list of jobs while eight heavy requests run. */
async function heavy({ app }: Ground): Promise<void> {
  const inverter = (at: number) => ({
    id: `i${at}`,
    ratedW: 5000,
    availableW: 5000,
    phases: ["L1"],
    deadTimeMs: 600_000,
    tauMs: 600_000,
  });
  const limit = {
    system: "single-phase",
    limit: { powerW: 5000 },
    durationS: 3_000,
    stepMs: 20,
    inverters: Array.from({ length: 20 }, (_, at) => inverter(at)),
    meter: { samplePeriodMs: 200, delayMs: 600_000 },
    controller: { kind: "integral", gainPerS: 0.5, setPointW: 4900, periodMs: 600_000 },
  };
  const heavies = Array.from({ length: 8 }, (_, number) =>
    send(app, "POST", "/compute/export-limit", limit, 100 + number).then(
      async (response) => {
        await response.arrayBuffer();
        return response.status;
      },
      () => 0,
    ),
  );
  let isOver = false;
  void Promise.all(heavies).then(() => {
    isOver = true;
  });
  const times: number[] = [];
  while (!isOver && times.length < 400) {
    const began = performance.now();
    await (await fetch(`${app.address}/api/v1/jobs`)).arrayBuffer();
    times.push(performance.now() - began);
  }
  const statuses = await Promise.all(heavies);
  say(
    `heavy: GET /api/v1/jobs while eight export limits run: ${times.length} requests, median ${quantile(times, 0.5)} ms, p99 ${quantile(times, 0.99)} ms; the eight answered ${statuses.join(" ")}`,
  );
}

/** Ten thousand jobs, one of them with 5 000 entries and 3 000 revisions. */
async function much({ app, url }: Ground): Promise<void> {
  const client = new pg.Client({ connectionString: url });
  client.on("error", () => undefined);
  await client.connect();
  const base = demo();
  const [jobs, entries, revisions] = [10_000, 5_000, 3_000].map((count) => Math.max(1, Math.round(count * SHARE))) as [
    number,
    number,
    number,
  ];
  await client.query(
    "insert into job (name, document, summary) select 'Job ' || n, jsonb_set($1::jsonb, '{job,name}', to_jsonb('Job ' || n)), $2::jsonb from generate_series(1, $3::int) n",
    [
      base,
      {
        supply: "Single phase, 230 V 50 Hz",
        state: "placing",
        findings: { stop: 0, fix: 1, note: 2 },
        next: "Place a clamp",
      },
      jobs,
    ],
  );
  const { id } = (await client.query<{ id: string }>("select id from job where name = 'Job 1'")).rows[0]!;
  await client.query(
    "insert into run_entry (id, job_id, at, person, kind, body) select e.id, $1, now(), 'Robin', 'note', jsonb_build_object('id', e.id, 'at', '2026-11-26T08:00:00.000Z', 'person', 'Robin', 'kind', 'note', 'text', 'note ' || e.n) from (select gen_random_uuid() as id, n from generate_series(1, $2::int) n) e",
    [id, entries],
  );
  await client.query(
    "insert into job_revision (job_id, revision, document, began_at, parts) select $1, n, $2, now() - interval '1 day', '{site}' from generate_series(2, $3::int) n on conflict do nothing",
    [id, base, revisions],
  );
  await client.query("update job set revision = $2 where id = $1", [id, revisions]);
  await client.query("analyze");
  await client.end();
  for (const place of [
    "/jobs",
    "/jobs?search=job+99&sort=findings",
    "/jobs?page=150",
    `/jobs/${id}/run?part=log`,
    `/jobs/${id}/place`,
    `/api/v1/jobs/${id}/run`,
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

/** Ten thousand bodies and two thousand paths of nonsense. */
async function nonsense({ app }: Ground): Promise<void> {
  const base = demo();
  const { id } = (await (await send(app, "POST", "/jobs/import", base)).json()) as { id: string };
  const words = fc.constantFrom(
    "",
    "\u0000",
    "\ud83d",
    "🙂".repeat(50),
    "x".repeat(5000),
    "../..",
    "%00",
    "=cmd",
    "__proto__",
    "0000-00-00",
    "0000-01-01T00:00:00Z",
    "-1",
    "1e999",
  );
  const anyValue = fc.letrec((tie) => ({
    value: fc.oneof(
      { maxDepth: 3 },
      words,
      fc.jsonValue() as fc.Arbitrary<unknown>,
      fc.double(),
      fc.array(tie("value"), { maxLength: 4 }),
      fc.dictionary(words, tie("value"), { maxKeys: 4 }),
    ),
  })).value;
  const bodies = [
    ["POST", "/jobs"],
    ["POST", "/jobs?from=pattern"],
    ["POST", "/jobs/import"],
    ["PUT", `/jobs/${id}`],
    ["POST", `/jobs/${id}/run`],
    ["POST", "/kits"],
    ["PUT", `/jobs/${id}/photos/${randomUUID()}`],
    ...[
      "predict",
      "diagnose",
      "balance",
      "ct",
      "rs485",
      "can",
      "radio",
      "ethernet",
      "export-limit",
      "diversion",
      "schedule",
    ].map((name) => ["POST", `/compute/${name}`] as const),
  ] as const;
  const seeds: unknown[] = [
    { revision: 1, document: base },
    base,
    { name: "x", system: "single-phase", solarKw: 0.0004 },
    { entries: [note(1)] },
    { site: base.site, ...base.tests },
    { site: base.site, as: "fitted", state: {} },
  ];
  const spoiled = fc
    .record({ seed: fc.nat(), path: fc.array(fc.nat(), { maxLength: 6 }), value: anyValue })
    .map(({ seed, path: keys, value }) => spoil(structuredClone(seeds[seed % seeds.length]), keys, value));
  const count = Math.round(10_000 * SHARE);
  const tally = new Map<number, number>();
  let longestMs = 0;
  const worst: string[] = [];
  const shoot = async (method: string, where: string, body: string | undefined) => {
    const began = performance.now();
    const response = await fetch(`${app.address}${where}`, {
      method,
      body,
      headers: {
        ...asBrowser(Math.floor(Math.random() * 40)),
        "content-type": where.includes("/kits") ? "application/yaml" : "application/json",
      },
      signal: AbortSignal.timeout(REQUEST_TIMEOUT_MS),
      redirect: "manual",
    }).catch(() => undefined);
    await response?.arrayBuffer().catch(() => undefined);
    longestMs = Math.max(longestMs, performance.now() - began);
    const status = response?.status ?? 0;
    tally.set(status, (tally.get(status) ?? 0) + 1);
    if ((status >= 500 && status !== 503) || status === 0)
      worst.push(`${status} ${method} ${where.slice(0, 120)} ${body?.slice(0, 300) ?? ""}`);
  };
  const asked = fc.sample(fc.record({ which: fc.nat(), body: fc.oneof(spoiled, anyValue) }), count);
  await inTurns(asked, 8, async ({ which, body }) => {
    const [method, route] = bodies[which % bodies.length]!;
    await shoot(method, `/api/v1${route}`, JSON.stringify(body) ?? "");
  });
  say(
    `nonsense: ${count} bodies: ${[...tally]
      .sort(([a], [b]) => a - b)
      .map(([status, times]) => `${status} × ${times}`)
      .join(", ")}; longest ${Math.round(longestMs)} ms`,
  );
  tally.clear();
  longestMs = 0;
  const parts = fc.constantFrom(
    "jobs",
    "api",
    "v1",
    "kits",
    "%00",
    "%zz",
    "..",
    id,
    "🙂",
    "run",
    "log.csv",
    "labels.pdf?date=0000-00-00",
    "photos",
    "edit",
    "_next",
    "image?url=/a&w=64&q=1",
    "compute",
    "x".repeat(3000),
    "%E0%A4%A",
    ";",
    "?page=-1",
    "?search=%25",
  );
  await inTurns(fc.sample(fc.array(parts, { minLength: 1, maxLength: 6 }), Math.round(2_000 * SHARE)), 8, (pieces) =>
    shoot("GET", `/${pieces.join("/")}`, undefined),
  );
  say(
    `nonsense: paths: ${[...tally]
      .sort(([a], [b]) => a - b)
      .map(([status, times]) => `${status} × ${times}`)
      .join(", ")}; longest ${Math.round(longestMs)} ms`,
  );
  for (const line of worst.slice(0, 10)) say(`nonsense: ${line}`);
}

/** App and database killed in turn while entries and saves go on: everything acknowledged is there afterwards. */
async function kills(binaries: string): Promise<void> {
  const cluster = await startCluster(binaries, { name: `soak-kills-${process.pid}` });
  let app: Awaited<ReturnType<typeof startApp>> | undefined;
  let server: ChildProcess | undefined;
  const acknowledged: string[] = [];
  const rounds = Math.max(2, Math.round(200 * SHARE));
  try {
    await migrate(cluster.url);
    await cluster.stop();
    server = await serving(binaries, cluster);
    const port = await freePort();
    app = await startApp({ port, databaseUrl: cluster.url });
    const { id } = (await (await send(app, "POST", "/jobs/import", demo())).json()) as { id: string };
    let isOver = false;
    const address = app.address;
    const writers = Array.from({ length: 4 }, async (_, number) => {
      while (!isOver) {
        const entry = note(number);
        // Sent until it is acknowledged, as a browser does.
        for (let isKept = false; !isKept && !isOver; ) {
          isKept = await send({ address }, "POST", `/jobs/${id}/run`, { entries: [entry] }, number).then(
            (response) => response.ok,
            () => false,
          );
          if (isKept) acknowledged.push(entry.id);
          else await pause(40);
        }
      }
    });
    for (let round = 0; round < rounds; round++) {
      await pause(150 + Math.random() * 250);
      if (round % 2 === 0) {
        await killed(server);
        server = await serving(binaries, cluster);
      } else {
        process.kill(app.pid!, "SIGKILL");
        await app.ended;
        app = await startApp({ port, databaseUrl: cluster.url });
      }
    }
    await pause(500);
    isOver = true;
    await Promise.all(writers);
    const { entries } = (await (await fetch(`${address}/api/v1/jobs/${id}/run`)).json()) as {
      entries: { id: string }[];
    };
    const there = entries.map((entry) => entry.id);
    const lost = acknowledged.filter((known) => !there.includes(known));
    say(
      `kills: ${rounds} of app and database in turn: ${acknowledged.length} entries acknowledged, ${lost.length} lost, ${there.length - new Set(there).size} twice, no hand needed`,
    );
  } finally {
    await app?.stop();
    if (server) await killed(server);
    await cluster.stop();
    rmSync(path.dirname(cluster.data), { recursive: true, force: true });
  }
}

async function serving(
  binaries: string,
  { data, url }: { readonly data: string; readonly url: string },
): Promise<ChildProcess> {
  const { uid, gid } = statSync(data);
  const options = ["listen_addresses=127.0.0.1", `port=${new URL(url).port}`, "unix_socket_directories="].flatMap(
    (option) => ["-c", option],
  );
  for (;;) {
    const child = spawn(path.join(binaries, "postgres"), ["-D", data, ...options], {
      cwd: "/",
      stdio: ["ignore", "ignore", "pipe"],
      ...(process.getuid?.() === 0 ? { uid, gid } : {}),
    });
    let said = "";
    for await (const part of child.stderr) {
      said += String(part);
      if (said.includes("ready to accept connections")) {
        child.stderr.resume();
        return child;
      }
    }
    await pause(200);
  }
}

async function killed(child: ChildProcess): Promise<void> {
  if (child.exitCode !== null || child.signalCode !== null) return;
  const exit = once(child, "exit");
  child.kill("SIGKILL");
  await exit;
}

function spoil(value: unknown, keys: readonly number[], by: unknown): unknown {
  const [key, ...rest] = keys;
  if (key === undefined || typeof value !== "object" || value === null) return by;
  const names = Object.keys(value);
  if (names.length === 0) return by;
  const name = names[key % names.length]!;
  const record = value as Record<string, unknown>;
  record[name] = spoil(record[name], rest, by);
  return record;
}

async function inTurns<T>(items: readonly T[], hands: number, work: (item: T) => Promise<void>): Promise<void> {
  const left = [...items];
  await Promise.all(
    Array.from({ length: hands }, async () => {
      for (let item = left.pop(); item !== undefined; item = left.pop()) await work(item);
    }),
  );
}

function send(
  { address }: { readonly address: string },
  method: string,
  route: string,
  body: unknown,
  number = 0,
): Promise<Response> {
  return fetch(`${address}/api/v1${route}`, {
    method,
    body: JSON.stringify(body),
    headers: { ...asBrowser(number), "content-type": "application/json" },
    signal: AbortSignal.timeout(REQUEST_TIMEOUT_MS),
  });
}

/** Each technician has a browser of their own. */
function asBrowser(number: number): Record<string, string> {
  return { cookie: `gormit-browser=00000000-0000-4000-8000-${String(number).padStart(12, "0")}` };
}

function note(number: number) {
  return { id: randomUUID(), at: new Date().toISOString(), person: `T${number}`, kind: "note", text: "a note" };
}

function demo(): JobDocument {
  return JSON.parse(readFileSync(new URL("../demo/tollgate-cottage.json", import.meta.url), "utf8")) as JobDocument;
}

function quantile(values: readonly number[], share: number): number {
  const sorted = values.toSorted((a, b) => a - b);
  return Math.round(sorted[Math.min(sorted.length - 1, Math.floor(share * sorted.length))] ?? 0);
}

function pause(delayMs: number): Promise<void> {
  return new Promise((resolve) => {
    setTimeout(resolve, delayMs);
  });
}

function isWanted(part: Part): boolean {
  return wanted.length === 0 || wanted.includes(part);
}
