import { execFileSync } from "node:child_process";
import { randomUUID } from "node:crypto";
import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import path from "node:path";
import { fromBufferPromise } from "yauzl";
import { PNG } from "pngjs";
import { beforeAll, describe, expect, it } from "vitest";
import type { JobDocument } from "@/core/job/jobDocument";
import { handoversSchema } from "@/core/handover/version/handoverVersion";
import type { VisitEntry } from "@/core/visit/visitEntry";
import { bundleFiles, zipped } from "../fixtures/bundleFiles";
import { demoDocument } from "../fixtures/demoDocument";
import { fromTestRun } from "../setup/environment";

type Files = ReadonlyMap<string, Buffer>;

const document = demoDocument("tollgate-cottage");
const at = (route: string) => `${fromTestRun("GORMIT_TEST_APP")}/api/v1/jobs${route}`;
const json = async <T>(route: string): Promise<T> => (await (await fetch(at(route))).json()) as T;
const send = (method: string, route: string, body: object) =>
  fetch(at(route), { method, headers: { "content-type": "application/json" }, body: JSON.stringify(body) });
const bring = (zip: Buffer, query = "", type = "application/zip") =>
  fetch(at(`/import-bundle${query}`), { method: "POST", headers: { "content-type": type }, body: new Uint8Array(zip) });
const issuesOf = async (response: Response) => {
  const { error } = (await response.json()) as { error: { issues: { path: string; message: string }[] } };
  return error.issues;
};
const count = async () => (await json<{ total: number }>("")).total;

async function unzipped(zip: Buffer): Promise<Files> {
  const read = await fromBufferPromise(zip, { lazyEntries: true });
  const files = new Map<string, Buffer>();
  for await (const entry of read.eachEntry()) {
    const chunks: Buffer[] = [];
    for await (const chunk of await read.openReadStreamPromise(entry)) chunks.push(chunk as Buffer);
    files.set(entry.fileName, Buffer.concat(chunks));
  }
  return files;
}

describe("the bundle of a job", () => {
  let job = "";
  let zip = Buffer.alloc(0);
  let files: Files = new Map();
  beforeAll(async () => {
    const made = await send("POST", "/import", { ...document, job: { ...document.job, name: "Bundled" } });
    job = ((await made.json()) as { id: string }).id;
    const photo = randomUUID();
    const picture = new Uint8Array(PNG.sync.write(new PNG({ width: 40, height: 30 })));
    await fetch(at(`/${job}/photos/${photo}`), {
      method: "PUT",
      headers: { "content-type": "image/png" },
      body: picture,
    });
    const base = { at: "2026-05-06T10:00:00.000Z", person: "Kim" };
    const note = { ...base, id: randomUUID(), kind: "note" as const, text: "Cover cracked, ± 2 mm" };
    const entries: VisitEntry[] = [
      note,
      { ...base, id: randomUUID(), kind: "photo", photo, text: "the cover" },
      { ...base, id: randomUUID(), kind: "correction", corrects: note.id, text: "± 3 mm" },
    ];
    await send("POST", `/${job}/visit`, { entries });
    const { current } = handoversSchema.parse(await json(`/${job}/handovers`));
    const strokes = [
      [
        [100, 100],
        [400, 200],
      ],
    ];
    const signatures = [{ role: "owner", name: "Robin", strokes }];
    await send("POST", `/${job}/handovers`, { id: randomUUID(), person: "Kim", sha256: current.sha256, signatures });
    const response = await fetch(at(`/${job}/handover.zip`));
    expect(response.headers.get("content-type")).toBe("application/zip");
    expect(response.headers.get("content-disposition")).toContain("bundled.gormit-handover.zip");
    zip = Buffer.from(await response.arrayBuffer());
    files = await unzipped(zip);
  });

  it("holds report, job, log, photographs, hand overs and tables, and standard tools find it whole", () => {
    const names = [...files.keys()];
    for (const name of ["report.pdf", "report.json", "job.gormit-job.json", "log.chain", "readings.csv", "labels.pdf"])
      expect(names).toContain(name);
    expect(names.filter((name) => name.startsWith("photos/"))).toHaveLength(1);
    expect(names.filter((name) => name.startsWith("handovers/"))).toHaveLength(2);
    expect(files.get("readings.csv")!.toString("utf8")).toContain('"power W"');
    const folder = mkdtempSync(path.join(tmpdir(), "gormit-test-"));
    try {
      for (const [name, content] of files) {
        mkdirSync(path.dirname(path.join(folder, name)), { recursive: true });
        writeFileSync(path.join(folder, name), content);
      }
      const told = execFileSync("sha256sum", ["-c", "SHA256SUMS"], { cwd: folder, encoding: "utf8" });
      expect(told.trim().split("\n")).toHaveLength(names.length - 1);
      expect(told).not.toContain("FAILED");
    } finally {
      rmSync(folder, { recursive: true });
    }
  });

  it("gives the same job, log, photographs and hand overs when it is brought in, once for one request", async () => {
    const id = randomUUID();
    const first = await bring(zip, `?id=${id}`);
    expect(first.status).toBe(201);
    // The first job stands here too, so that the lines get ids of their own; four with that of the hand over.
    expect(await first.json()).toMatchObject({
      id,
      brought: { entries: 4, photographs: 1, handovers: 1, isRenumbered: true },
    });
    expect((await bring(zip, `?id=${id}`)).status).toBe(200);
    const [old, own] = [
      await json<{ document: JobDocument }>(`/${job}`),
      await json<{ document: JobDocument }>(`/${id}`),
    ];
    expect({ ...own.document, copied: undefined }).toEqual({ ...old.document, copied: undefined });
    const logs = await Promise.all([job, id].map((one) => json<{ entries: VisitEntry[] }>(`/${one}/visit`)));
    const said = logs.map(({ entries }) => entries.map((entry) => [entry.kind, "text" in entry ? entry.text : ""]));
    expect(said[1]).toEqual(said[0]);
    const pictures = await Promise.all(
      [job, id].map(async (one, which) => {
        const entry = logs[which]!.entries.find(({ kind }) => kind === "photo") as { photo: string };
        return Buffer.from(await (await fetch(at(`/${one}/photos/${entry.photo}`))).arrayBuffer());
      }),
    );
    expect(pictures[1]!.equals(pictures[0]!)).toBe(true);
    const [before, after] = [await json(`/${job}/handovers`), await json(`/${id}/handovers`)].map(
      (one) => handoversSchema.parse(one).versions,
    );
    expect(after!.map(({ id: _, ...rest }) => rest)).toEqual(before!.map(({ id: _, ...rest }) => rest));
    expect(await json(`/${id}/log/check`)).toMatchObject({ lines: 4, broken: null });
  });

  it("keeps the hashes of its log where nothing of it is there yet", async () => {
    const note = (text: string): VisitEntry => ({
      id: randomUUID(),
      at: "2026-05-04T10:00:00.000Z",
      person: "Kim",
      kind: "note",
      text,
    });
    const fresh = bundleFiles([note("one"), note("two")]);
    const made = (await (await bring(await zipped(fresh))).json()) as { id: string };
    expect(made).toMatchObject({ brought: { entries: 2, isRenumbered: false } });
    const { logHead } = JSON.parse(fresh.get("manifest.json")!) as { logHead: string };
    // The database writes its lines by the names of their parts, so that only what it wrote itself keeps its hashes.
    const check = await json<{ lines: number; head: string; broken: null }>(`/${made.id}/log/check`);
    expect(check).toMatchObject({ lines: 2, broken: null });
    const again = await fetch(at(`/${made.id}/handover.zip`));
    const manifest = (await unzipped(Buffer.from(await again.arrayBuffer()))).get("manifest.json")!;
    expect((JSON.parse(manifest.toString("utf8")) as { logHead: string }).logHead).toBe(check.head);
    expect(logHead).toMatch(/^[0-9a-f]{64}$/);
  });

  it("is refused by name where a byte was changed, a file is missing, or one was put in; nothing is kept", async () => {
    const before = await count();
    const photo = [...files.keys()].find((name) => name.startsWith("photos/"))!;
    for (const name of ["report.pdf", "log.chain", photo, "handovers/1.report.json"]) {
      const changed = Buffer.from(files.get(name)!);
      changed[changed.length - 3]! ^= 1;
      const response = await bring(await zipped(new Map(files).set(name, changed)));
      expect(response.status).toBe(400);
      expect((await issuesOf(response)).map((issue) => issue.path)).toContain(name);
    }
    const without = new Map(files);
    without.delete(photo);
    expect(await issuesOf(await bring(await zipped(without)))).toContainEqual({ path: photo, message: "is missing" });
    const more = new Map(files).set("wiring.pdf", Buffer.from("%PDF-1.4 of another site"));
    expect((await issuesOf(await bring(await zipped(more)))).map((issue) => issue.path)).toContain("wiring.pdf");
    expect(await count()).toBe(before);
  });

  it("is refused by name where it is a bomb, leads outside, is of a wrong type or cut off, and not kept", async () => {
    const before = await count();
    const refused = async (bad: Buffer, word: RegExp) => {
      const response = await bring(bad);
      expect(response.status).toBe(400);
      expect((await issuesOf(response)).map(({ path: own, message }) => `${own}: ${message}`).join("\n")).toMatch(word);
    };
    await refused(await zipped(new Map([["job.gormit-job.json", Buffer.alloc(9 * 1024 * 1024)]])), /unpacks to more/);
    const lying = await zipped(new Map([["job.gormit-job.json", Buffer.alloc(9 * 1024 * 1024)]]));
    lying.writeUInt32LE(1000, lying.indexOf(Buffer.from("PK\x01\x02", "latin1")) + 24);
    await refused(lying, /cannot be unpacked/);
    const outside = (await zipped(new Map([["aa/evil.json", Buffer.from("{}")]]))).toString("latin1");
    await refused(Buffer.from(outside.replaceAll("aa/evil", "../evil"), "latin1"), /evil\.json/);
    await refused(await zipped(new Map([["run.sh", Buffer.from("rm")]])), /run\.sh: no bundle has such a file/);
    const text = `photos/${randomUUID()}.jpg`;
    await refused(await zipped(new Map([[text, Buffer.from("no picture at all")]])), /no picture/);
    await refused(zip.subarray(0, Math.floor(zip.length / 2)), /no whole zip/);
    await refused(Buffer.from("{}"), /no whole zip/);
    await refused(Buffer.alloc(0), /no whole zip/);
    const damaged = Buffer.from(zip);
    damaged.fill(0, zip.length - 400, zip.length - 200);
    expect((await bring(damaged)).status).toBe(400);
    expect((await bring(zip, "", "application/json")).status).toBe(415);
    expect((await bring(zip, "?id=7")).status).toBe(400);
    expect(await count()).toBe(before);
  });

  it("is taken from this app's own pages alone", async () => {
    const response = await fetch(at("/import-bundle"), {
      method: "POST",
      headers: { "content-type": "application/zip", origin: "http://elsewhere.example" },
      body: new Uint8Array(zip),
    });
    expect(response.status).toBe(403);
    expect((await fetch(at(`/${randomUUID()}/handover.zip`))).status).toBe(404);
  });
});
