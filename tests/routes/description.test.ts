import { readdirSync, readFileSync } from "node:fs";
import { randomUUID } from "node:crypto";
import net from "node:net";
import path from "node:path";
import { ServerTCP } from "modbus-serial";
import sharp from "sharp";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { z } from "zod";
import { openApi, ROUTES } from "@/app/api/description/openApi";
import { handoversSchema } from "@/core/handover/version/handoverVersion";
import { jobDocumentSchema } from "@/core/job/jobDocument";
import { computeErrorSchema } from "@/core/flows/computeResponses";
import { readableLines } from "@/core/live/readableLines";
import { resolve } from "@/core/plan/resolve";
import { bundleFiles, zipped } from "../fixtures/bundleFiles";
import { answersFor, jobFromPattern, kitText } from "../fixtures/shipped";
import { fromTestRun } from "../setup/environment";

const FOLDER = path.join(import.meta.dirname, "../../src/app/api/v1");
const jobSchema = z.object({
  id: z.uuid(),
  revision: z.int(),
  savedAt: z.iso.datetime(),
  document: jobDocumentSchema,
});
const COMPONENTS: Readonly<Record<string, z.ZodType>> = { Job: jobSchema, JobDocument: jobDocumentSchema };

const document = jobFromPattern("three-phase-storage", { name: "Described" });
const entry = { id: randomUUID(), at: "2026-11-28T08:00:00.000Z", person: "Kim", kind: "note", text: "described" };
/** What each route is called with, where its description has no example that fits; by its operation. */
const bodies: Record<string, unknown> = {};
const params: Record<string, string> = {
  photoId: randomUUID(),
  kitId: "described-meter",
  patternId: "two-ct-add-on",
  number: "newest",
};
/** Asked last, since nothing is left after them; and the way back right behind. */
const LAST = ["archiveJob", "unarchiveJob", "deleteKit", "restoreKit", "deleteJob", "restoreJob"];

const meterLine = readableLines(resolve(document)).find(({ units }) => units.some((unit) => unit.meter))!;
let meter: { readonly port: number; readonly close: () => Promise<void> };

afterAll(() => meter.close());

beforeAll(async () => {
  const made = await fetch(`${fromTestRun("GORMIT_TEST_APP")}/api/v1/jobs?from=pattern`, {
    method: "POST",
    headers: { "content-type": "application/json" },
    body: JSON.stringify(answersFor("three-phase-storage", { name: "Described" })),
  });
  const job = jobSchema.parse(await made.json());
  params.jobId = job.id;
  // Something that answers whatever it is asked, so that a link can be read.
  meter = await answering();
  params.linkId = meterLine.link;
  params.deviceId = meterLine.units[0]!.device;
  const picture = sharp({ create: { width: 4, height: 4, channels: 3, background: "white" } });
  Object.assign(bodies, {
    importJob: document,
    saveJob: { revision: 1, document: { ...job.document, packed: ["described"] }, person: "Kim" },
    addToLog: { entries: [entry] },
    addPhoto: new Uint8Array(await picture.png().toBuffer()),
    readLink: { link: meterLine.link, way: { kind: "modbus-tcp", host: "127.0.0.1", port: meter.port } },
    writeSetting: {
      device: meterLine.units[0]!.device,
      of: "ratio",
      input: 1,
      value: 0,
      armed: "ratio/1",
    },
    listenToLink: { way: { kind: "rtu-over-tcp", host: "127.0.0.1", port: meter.port }, seconds: 1 },
    importBundle: new Uint8Array(await zipped(bundleFiles([]))),
    addKit: kitText("meter-three-5a").replace("id: meter-three-5a", `id: ${params.kitId}`),
  });
});

async function seenHandover(): Promise<object> {
  const answer = await fetch(`${fromTestRun("GORMIT_TEST_APP")}/api/v1/jobs/${params.jobId}/handovers`);
  const { current } = handoversSchema.parse(await answer.json());
  return { id: randomUUID(), person: "Kim", sha256: current.sha256 };
}

describe("the description of the routes", () => {
  it("has every method of every route that there is, and no other", () => {
    const there = readdirSync(FOLDER, { recursive: true, encoding: "utf8" })
      .filter((file) => path.basename(file) === "route.ts")
      .flatMap((file) => {
        const where = `/${path.dirname(file).replaceAll(path.sep, "/").replaceAll("[", "{").replaceAll("]", "}")}`;
        const source = readFileSync(path.join(FOLDER, file), "utf8");
        const methods = [...source.matchAll(/export (?:async )?(?:function|const) (GET|POST|PUT|DELETE|PATCH)\b/g)];
        return methods.map(([, method]) => `${method!.toLowerCase()} ${where}`);
      });
    expect(there.length).toBeGreaterThan(30);
    expect(ROUTES.map(({ method, path: where }) => `${method} ${where}`).toSorted()).toEqual(there.toSorted());
  });

  it("gives every operation a name of its own, and names no component that is not there", () => {
    expect(new Set(ROUTES.map(({ operationId }) => operationId)).size).toBe(ROUTES.length);
    const { components } = openApi() as { components: { schemas: object } };
    const named = new Set(
      [...JSON.stringify(openApi()).matchAll(/#\/components\/schemas\/(\w+)/g)].map(([, name]) => name),
    );
    expect([...named].toSorted()).toEqual(Object.keys(components.schemas).toSorted());
  });

  it("is the one that stands in the documentation, and that the app gives", async () => {
    const written = JSON.parse(
      readFileSync(path.join(import.meta.dirname, "../../docs/api/openapi.json"), "utf8"),
    ) as unknown;
    expect(JSON.parse(JSON.stringify(openApi()))).toEqual(written);
    expect(await (await fetch(`${fromTestRun("GORMIT_TEST_APP")}/api/v1/openapi.json`)).json()).toEqual(written);
  });
});

describe("every route, called as its description says", () => {
  const inTurn = ROUTES.toSorted(
    (a, b) => LAST.indexOf(a.operationId) - LAST.indexOf(b.operationId) || order(a) - order(b),
  );
  it.each(inTurn.map((route) => [route.operationId, route] as const))("%s", async (operationId, route) => {
    // What is handed over is the report as it is by then.
    if (operationId === "handOver") bodies.handOver = await seenHandover();
    const sent = bodies[operationId] ?? route.body?.example;
    const isText = route.body?.type !== "application/json";
    const response = await fetch(
      `${fromTestRun("GORMIT_TEST_APP")}/api/v1${route.path.replace(/\{(\w+)\}/g, (_, name: string) => params[name]!)}`,
      {
        method: route.method.toUpperCase(),
        ...(route.body
          ? {
              headers: { "content-type": route.body.type.replace("*", "png") },
              body: isText ? (sent as string | Uint8Array<ArrayBuffer>) : JSON.stringify(sent),
            }
          : {}),
      },
    );
    expect(route.body === undefined || sent !== undefined).toBe(true);
    const answer = route.answers.find(({ status }) => status === response.status);
    expect(answer, `${response.status}: ${answer ? "" : await response.clone().text()}`).toBeDefined();
    expect(response.headers.get("content-type") ?? "").toContain(answer!.type?.replace("*", "") ?? "");
    if (answer!.type !== "application/json") return;
    if (operationId === "startBench") params.benchId = ((await response.clone().json()) as { id: string }).id;
    const schema = typeof answer!.schema === "string" ? COMPONENTS[answer!.schema]! : answer!.schema!;
    expect(schema.safeParse(await response.json())).toMatchObject({ success: true });
  });

  it("says with 304 that a job has no news, and refuses a revision that says another in its header", async () => {
    const url = `${fromTestRun("GORMIT_TEST_APP")}/api/v1/jobs/${params.jobId}`;
    const first = await fetch(url);
    const mark = first.headers.get("etag")!;
    const job = jobSchema.parse(await first.json());
    expect(mark).toBe(`"${job.revision}"`);
    expect((await fetch(url, { headers: { "if-none-match": mark } })).status).toBe(304);
    expect((await fetch(url, { headers: { "if-none-match": '"0"' } })).status).toBe(200);
    const save = (match: string) =>
      fetch(url, {
        method: "PUT",
        headers: { "content-type": "application/json", "if-match": match },
        body: JSON.stringify({ revision: job.revision, document: job.document }),
      });
    const refused = await save('"999"');
    expect(refused.status).toBe(400);
    expect(computeErrorSchema.parse(await refused.json()).error.issues[0]?.path).toBe("if-match");
    const saved = await save(mark);
    expect(saved.status).toBe(200);
    expect(saved.headers.get("etag")).toBe(`"${jobSchema.parse(await saved.json()).revision}"`);
  });
});

/** A Modbus server that gives 0 for every register. */
async function answering(): Promise<typeof meter> {
  const free = net.createServer();
  await new Promise<void>((listening) => free.listen({ host: "127.0.0.1", port: 0 }, listening));
  const { port } = free.address() as net.AddressInfo;
  await new Promise((closed) => free.close(closed));
  const read = (_: number, count: number) => Array.from({ length: count }, () => 0);
  const vector = {
    getInputRegister: () => 0,
    getHoldingRegister: () => 0,
    getMultipleInputRegisters: read,
    getMultipleHoldingRegisters: read,
    setRegisterArray: () => undefined,
    setRegister: () => undefined,
  };
  const server = new ServerTCP(vector, { host: "127.0.0.1", port });
  await new Promise<void>((listening) => server.on("initialized", () => listening()));
  return {
    port,
    close: () =>
      new Promise((closed) => {
        server.close(() => closed());
        for (const socket of server.socks.keys()) socket.destroy();
      }),
  };
}

/** Reading comes after writing: then there is something to read. */
function order({ method }: { readonly method: string }): number {
  return ["put", "post", "patch", "get", "delete"].indexOf(method);
}
