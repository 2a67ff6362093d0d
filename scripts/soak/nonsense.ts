import { randomUUID } from "node:crypto";
import fc from "fast-check";
import { say } from "../lib/say.mjs";
import { asBrowser, demo, note, REQUEST_TIMEOUT_MS, send, type Ground } from "./ground";

/** Ten thousand bodies and two thousand paths of nonsense. */
export async function nonsense({ app, share }: Ground): Promise<void> {
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
    ["POST", `/jobs/${id}/visit`],
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
      "diagnose-log",
      "proof-plan",
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
  const count = Math.round(10_000 * share);
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
    "visit",
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
  await inTurns(fc.sample(fc.array(parts, { minLength: 1, maxLength: 6 }), Math.round(2_000 * share)), 8, (pieces) =>
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
