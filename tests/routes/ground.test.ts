import { randomUUID } from "node:crypto";
import { readFileSync } from "node:fs";
import { request } from "node:http";
import { describe, expect, it } from "vitest";
import { kitText } from "../fixtures/shipped";
import { limitRequestOf } from "../fixtures/limitRequest";
import { houseSite, usualSheet } from "../fixtures/sites";
import { fromTestRun } from "../setup/environment";

const tollgate = JSON.parse(readFileSync(new URL("../../demo/tollgate-cottage.json", import.meta.url), "utf8")) as Demo;

interface Demo {
  readonly job: { readonly name: string };
  readonly site: { readonly nodes: readonly { readonly id: string }[] };
}
interface Answer {
  readonly status: number;
  readonly headers: Headers;
  readonly body: {
    readonly id?: string;
    readonly total?: number;
    readonly jobs?: readonly { readonly name: string }[];
    readonly document?: Demo;
    readonly error?: {
      readonly code: string;
      readonly message: string;
      readonly issues: readonly { readonly path: string }[];
    };
  };
}

describe("who is served", () => {
  it.each(["evil.example", "127.0.0.1.evil.example"])("is nobody who calls this app %s", async (host) => {
    expect(await statusByName(host, "/api/v1/jobs")).toBe(403);
    expect(await statusByName(host, "/jobs")).toBe(403);
  });

  it("is no page of another site that writes; a command line is", async () => {
    const body = { name: "Origins", system: "single-phase" };
    expect(
      (await send("POST", "/jobs", body, { origin: "http://evil.example", "sec-fetch-site": "cross-site" })).status,
    ).toBe(403);
    expect((await send("POST", "/jobs", body, { origin: "null" })).status).toBe(403);
    expect((await send("POST", "/jobs", body, { origin: address(), "sec-fetch-site": "same-origin" })).status).toBe(
      201,
    );
    expect((await send("POST", "/jobs", body)).status).toBe(201);
  });

  it.each(["text/plain", "application/x-www-form-urlencoded", "multipart/form-data", ""])(
    "is no body of the type %j at a JSON route",
    async (type) => {
      for (const route of ["/jobs", "/jobs/import", "/compute/can", "/kits"])
        expect((await send("POST", route, {}, { "content-type": type })).status).toBe(415);
    },
  );

  it("gets headers that keep other sites out, and nothing that a proxy keeps", async () => {
    const page = await fetch(`${address()}/jobs`);
    const policy = page.headers.get("content-security-policy") ?? "";
    const nonce = /'nonce-([^']+)'/.exec(policy)?.[1];
    expect(nonce).toBeDefined();
    expect(policy).not.toMatch(/script-src[^;]*'unsafe-inline'/);
    for (const [script] of (await page.text()).matchAll(/<script\b[^>]*>/g))
      expect(script).toContain(`nonce="${nonce}"`);
    expect([page.headers.get("cross-origin-opener-policy"), page.headers.get("cross-origin-resource-policy")]).toEqual([
      "same-origin",
      "same-origin",
    ]);
    const { body } = await send("POST", "/jobs/import", tollgate);
    for (const route of [
      "",
      "/export",
      "/labels.csv",
      "/labels.pdf",
      "/log.csv",
      "/log.json",
      "/visit",
      "/materials.csv",
      "/wiring.csv",
    ]) {
      expect((await fetch(`${address()}/api/v1/jobs/${body.id}${route}`)).headers.get("cache-control")).toBe(
        "private, no-store",
      );
    }
    expect((await fetch(`${address()}/_next/image?url=%2Ffavicon.svg&w=64&q=75`)).status).toBe(404);
  });

  it.each(["/api/v1/jobs/%00", "/jobs/%zz", "/kits/%E0%A4%A", "/api/v1/jobs?search=%00", "/api/v1/kits/%00/export"])(
    "is no address that is no text: %s",
    async (path) => {
      expect(await rawStatus(path)).toBe(400);
    },
  );
});

describe("what is sent twice", () => {
  it("makes one job, by the form, by import, from a pattern's copy", async () => {
    const id = randomUUID();
    const answers = { name: "Twice", system: "single-phase" };
    expect(await send("POST", `/jobs?id=${id}`, answers)).toMatchObject({ status: 201, body: { id } });
    expect(await send("POST", `/jobs?id=${id}`, answers)).toMatchObject({ status: 200, body: { id } });
    expect((await send("POST", `/jobs?id=${id}`, { ...answers, name: "Other" })).status).toBe(409);
    const imported = randomUUID();
    expect((await send("POST", `/jobs/import?id=${imported}`, tollgate)).status).toBe(201);
    expect((await send("POST", `/jobs/import?id=${imported}`, tollgate)).status).toBe(200);
    const copy = randomUUID();
    expect((await send("POST", `/jobs/${id}/duplicate?id=${copy}`)).status).toBe(201);
    expect((await send("POST", `/jobs/${id}/duplicate?id=${copy}`)).status).toBe(200);
    expect((await send("POST", `/jobs?id=nonsense`, answers)).status).toBe(400);
    await fetch(`${address()}/api/v1/jobs/${id}`, { method: "DELETE" });
    expect((await send("POST", `/jobs?id=${id}`, answers)).status).toBe(409);
  });

  it("is one line if it says the same, and refused with the reason if it does not", async () => {
    const {
      body: { id },
    } = await send("POST", "/jobs", { name: "Lines", system: "single-phase" });
    const line = note("as it was");
    expect((await send("POST", `/jobs/${id}/visit`, { entries: [line] })).status).toBe(200);
    expect((await send("POST", `/jobs/${id}/visit`, { entries: [line] })).status).toBe(200);
    const other = await send("POST", `/jobs/${id}/visit`, {
      entries: [note("new"), { ...line, text: "something else" }],
    });
    expect(other).toMatchObject({ status: 409, body: { error: { issues: [{ path: "entries[1].id" }] } } });
    expect(
      (
        await send("POST", `/jobs/${id}/visit`, {
          entries: [note("a"), ...[line, line].map((own, at) => ({ ...own, id: line.id, text: `${at}` }))],
        })
      ).status,
    ).toBe(409);
    expect(await (await fetch(`${address()}/api/v1/jobs/${id}/visit`)).json()).toMatchObject({ entries: [line] });
  });

  it("meets itself in any order without standing in its own way", async () => {
    const {
      body: { id },
    } = await send("POST", "/jobs", { name: "Crossing", system: "single-phase" });
    const lines = Array.from({ length: 12 }, (_, at) => note(`line ${at}`));
    const answers = await Promise.all(
      Array.from({ length: 60 }, (_, at) =>
        send("POST", `/jobs/${id}/visit`, { entries: at % 2 === 0 ? lines : lines.toReversed() }),
      ),
    );
    expect(
      [...new Set(answers.map(({ status }) => status))].filter((status) => status !== 200 && status !== 503),
    ).toEqual([]);
    expect(answers.some(({ status }) => status === 200)).toBe(true);
    const { entries } = (await (await fetch(`${address()}/api/v1/jobs/${id}/visit`)).json()) as { entries: unknown[] };
    expect(entries).toHaveLength(12);
  });
});

describe("what is odd", () => {
  it.each<[string, string, object, string]>([
    ["half an emoji in a name", "/jobs", { name: "x\uD83D", system: "single-phase" }, "name"],
    ["a NUL in a name", "/jobs", { name: "x\u0000y", system: "single-phase" }, "name"],
    ["a rating of half a watt", "/jobs", { name: "x", system: "single-phase", solarKw: 0.0004 }, "solarKw"],
    ["a job without nodes", "/jobs/import", { ...tollgate, site: { ...tollgate.site, nodes: [] } }, "site.nodes"],
    [
      "a job with two nodes of one id",
      "/jobs/import",
      { ...tollgate, site: { ...tollgate.site, nodes: [...tollgate.site.nodes, tollgate.site.nodes[2]] } },
      `site.nodes[${tollgate.site.nodes.length}].id`,
    ],
  ])("is refused with its place: %s", async (_, route, body, path) => {
    const answer = await send("POST", route, body);
    expect(answer.status).toBe(400);
    expect(answer.body.error!.issues.map((issue) => issue.path)).toContain(path);
  });

  it("is refused where no table can hold it: a line of the year 0", async () => {
    const {
      body: { id },
    } = await send("POST", "/jobs", { name: "Years", system: "single-phase" });
    expect(
      (await send("POST", `/jobs/${id}/visit`, { entries: [{ ...note("old"), at: "0000-01-01T00:00:00.000Z" }] }))
        .status,
    ).toBe(400);
  });

  it.each(["👩‍👧".repeat(16), `${"é".repeat(79)}x`, "🙂".repeat(40)])(
    "is acknowledged and can be read: a copy of %s",
    async (name) => {
      const { status, body } = await send("POST", "/jobs", { name, system: "single-phase" });
      expect(status).toBe(201);
      for (const _copy of [1, 2]) {
        const copy = await send("POST", `/jobs/${body.id}/duplicate`);
        expect(copy.status).toBe(201);
        expect(copy.body.document!.job.name).toMatch(/ \(copy( 2)?\)$/);
        expect((await fetch(`${address()}/api/v1/jobs/${copy.body.id}`)).status).toBe(200);
      }
    },
  );

  it("is told of in at most a hundred places", async () => {
    const { status, body } = await send("POST", "/compute/can", {
      bitrate: 500_000,
      lengthM: 1,
      terminators: 2,
      frames: Array.from({ length: 1_500 }, () => ({ id: -1, bytes: 9, perSecond: -1 })),
    });
    expect(status).toBe(400);
    expect(body.error!.issues).toHaveLength(100);
    expect(body.error!.message).toContain("4500 things");
  });

  it("is a kit file of nothing but repeated keys, or of aliases that blow up", async () => {
    const repeated = await send("POST", "/kits", kitText("meter-three-5a") + "name: again\n".repeat(12_000), {
      "content-type": "application/yaml",
    });
    expect(repeated.status).toBe(400);
    expect(repeated.body.error!.issues.length).toBeLessThanOrEqual(100);
    const bomb = `a: &a [x, x, x, x, x, x, x, x, x]\n${"bcdefgh"
      .split("")
      .map((name, at) => `${name}: &${name} [${Array(9).fill(`*${"abcdefgh"[at]}`).join(", ")}]`)
      .join("\n")}\n`;
    expect((await send("POST", "/kits", bomb, { "content-type": "application/yaml" })).status).toBe(400);
  });

  it("is found by its own signs, and not by what they mean to the database", async () => {
    await send("POST", "/jobs", { name: "Sign 50%_of", system: "single-phase" });
    await send("POST", "/jobs", { name: "Sign 50 of", system: "single-phase" });
    const names = async (search: string) =>
      (await send("GET", `/jobs?search=${encodeURIComponent(search)}`)).body.jobs!.map(({ name }) => name);
    expect(await names("sign 50%_")).toEqual(["Sign 50%_of"]);
    expect(await names("sign \\")).toEqual([]);
    expect(await names("sign'; drop table job; --")).toEqual([]);
    expect(await send("GET", "/jobs?page=0")).toMatchObject({
      status: 400,
      body: { error: { issues: [{ path: "page" }] } },
    });
    expect((await send("GET", "/jobs?size=1&page=999")).body.jobs).toHaveLength(1);
  });
});

describe("what is heavy", () => {
  const sluggish = (count: number) => {
    const base = limitRequestOf();
    return {
      ...base,
      stepMs: 20,
      durationS: 3_000,
      inverters: Array.from({ length: count }, (_, at) => ({
        ...base.inverters[0]!,
        id: `i${at}`,
        deadTimeMs: 600_000,
        tauMs: 600_000,
      })),
      meter: { ...base.meter, delayMs: 600_000 },
      controller: { ...base.controller, periodMs: 600_000 },
    };
  };

  it("is refused with what it would cost before it is begun", async () => {
    const site = houseSite("three-phase", { solarMeter: true });
    const [step] = usualSheet(site, 3).steps;
    const readings = site.meters.flatMap((meter) =>
      meter.inputs.map(({ n }, at) => ({ meter: meter.id, input: n, powerW: 400 + at })),
    );
    const answer = await send("POST", "/compute/diagnose", {
      site,
      ...usualSheet(site, 3),
      steps: Array.from({ length: 40 }, (_, at) => ({ ...step, label: `step ${at}`, readings })),
    });
    expect(answer.status).toBe(422);
    expect(answer.body).toMatchObject({ cost: { budgetMs: 15_000 }, error: { issues: [{ path: "maxFaults" }] } });
  });

  it.each([1, 64])(
    "says what it cost where it is answered, however sluggish the loop, with %i inverters",
    async (count) => {
      const answer = await send("POST", "/compute/export-limit", { ...sluggish(count), durationS: 60 });
      expect(answer.status).toBe(200);
      expect(Number(answer.headers.get("x-gormit-cost-ms"))).toBeGreaterThan(0);
    },
  );

  it(
    "is taken from one person for so long as there is room, then refused with when to try again; " +
      "others are served",
    async () => {
      const mine = { cookie: `gormit-browser=${randomUUID()}` };
      const answers = await Promise.all(
        Array.from({ length: 14 }, () =>
          send("POST", "/compute/export-limit", { ...sluggish(8), durationS: 600 }, mine),
        ),
      );
      const refused = answers.filter(({ status }) => status === 429);
      expect(answers.filter(({ status }) => status === 200).length).toBeGreaterThanOrEqual(10);
      expect(refused.length).toBeGreaterThan(0);
      for (const { headers, body } of refused) {
        expect(Number(headers.get("retry-after"))).toBeGreaterThan(0);
        expect(body.error!.message).toContain("Try again in");
      }
      expect((await send("POST", "/compute/can", { bitrate: 500_000, lengthM: 1, terminators: 2 })).status).toBe(200);
    },
  );
});

function address(): string {
  return fromTestRun("GORMIT_TEST_APP");
}

function note(text: string) {
  return { id: randomUUID(), at: "2026-11-26T08:00:00.000Z", person: "Robin", kind: "note", text };
}

async function send(
  method: string,
  route: string,
  body?: unknown,
  headers: Record<string, string> = {},
): Promise<Answer> {
  const response = await fetch(`${address()}/api/v1${route}`, {
    method,
    headers: { "content-type": "application/json", ...headers },
    ...(body === undefined ? {} : { body: typeof body === "string" ? body : JSON.stringify(body) }),
  });
  return {
    status: response.status,
    headers: response.headers,
    body: (await response.json().catch(() => ({}))) as Answer["body"],
  };
}

/** The status of a path as it is written: a client that mends addresses would hide what is asked. */
function rawStatus(path: string, headers: Record<string, string> = {}): Promise<number | undefined> {
  const { hostname, port } = new URL(address());
  return new Promise((resolve, reject) => {
    request({ hostname, port, path, headers }, (response) => {
      response.resume();
      resolve(response.statusCode);
    })
      .on("error", reject)
      .end();
  });
}

function statusByName(host: string, path: string): Promise<number | undefined> {
  return rawStatus(path, { host });
}
