import { createHash, randomBytes } from "node:crypto";
import { createWriteStream } from "node:fs";
import { mkdtemp, readFile, rm, truncate, writeFile } from "node:fs/promises";
import { tmpdir } from "node:os";
import path from "node:path";
import { Readable } from "node:stream";
import { pipeline } from "node:stream/promises";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { eachPhotoOf, extensionOf, readBundle } from "@/app/library/bundle/readBundle";
import { withReceivedFile } from "@/app/library/bundle/receivedFile";
import { writeBundle, type NewBundleFile } from "@/app/library/bundle/writeBundle";

const JPEG = Buffer.from([0xff, 0xd8, 0xff, 0xe0]);
const ABOUT = { job: "Barn", made: "2026-05-04T10:00:00.000Z", gormit: "0", logHead: "0".repeat(64), leavesOut: [] };
const sha256 = (bytes: Buffer) => createHash("sha256").update(bytes).digest("hex");
const photoAt = (at: number) => `photos/00000000-0000-4000-8000-${String(at).padStart(12, "0")}.jpg`;

describe("a bundle on its way", () => {
  let folder = "";
  beforeAll(async () => {
    folder = await mkdtemp(path.join(tmpdir(), "gormit-test-"));
  });
  afterAll(() => rm(folder, { recursive: true }));
  const written = async (name: string, files: readonly NewBundleFile[]) => {
    const file = path.join(folder, name);
    await pipeline(Readable.fromWeb(writeBundle(files, ABOUT) as never), createWriteStream(file));
    return file;
  };

  it("comes back as it went, each photograph fetched in its turn and one at a time", async () => {
    const photos = Array.from({ length: 5 }, () => Buffer.concat([JPEG, randomBytes(50_000)]));
    let [open, most] = [0, 0];
    const file = await written("whole.zip", [
      { path: "job.gormit-job.json", bytes: Buffer.from("{}") },
      ...photos.map((bytes, at) => ({
        path: photoAt(at),
        bytes: bytes.length,
        sha256: sha256(bytes),
        fetch: async () => {
          open++;
          most = Math.max(most, open);
          await Promise.resolve();
          open--;
          return bytes;
        },
      })),
    ]);
    expect(most).toBe(1);
    const read = await readBundle(file);
    expect(read.kind).toBe("read");
    if (read.kind !== "read") return;
    const found = new Map(read.files.map((own) => [own.path, own]));
    expect([...found.keys()]).toEqual([
      "job.gormit-job.json",
      ...photos.map((_, at) => photoAt(at)),
      "manifest.json",
      "SHA256SUMS",
    ]);
    for (const [at, bytes] of photos.entries()) {
      expect(found.get(photoAt(at))).toMatchObject({ sha256: sha256(bytes), bytes: bytes.length, content: undefined });
    }
    const kept: Buffer[] = [];
    await eachPhotoOf(file, async (_, bytes) => {
      kept.push(bytes);
      return Promise.resolve();
    });
    expect(kept.map(sha256)).toEqual(photos.map(sha256));
  });

  it("is named as damaged wherever it is cut off, and never throws", async () => {
    const file = await written("cut.zip", [{ path: "report.json", bytes: randomBytes(5_000) }]);
    const { length } = await readFile(file);
    for (const share of [0, 0.1, 0.5, 0.9, 0.99]) {
      await writeFile(path.join(folder, "part.zip"), await readFile(file));
      await truncate(path.join(folder, "part.zip"), Math.floor(length * share));
      const read = await readBundle(path.join(folder, "part.zip"));
      expect(read).toMatchObject({ kind: "bad-file" });
    }
  });

  it("ends with an error where a photograph is gone when its turn comes", async () => {
    const gone = { path: photoAt(1), bytes: 10, sha256: sha256(JPEG), fetch: () => Promise.reject(new Error("gone")) };
    await expect(written("gone.zip", [gone])).rejects.toThrow();
  });

  it("is received into a file that is not there any more afterwards, and refused where it is too large", async () => {
    const body = randomBytes(30_000);
    const sent = () => new Request("http://127.0.0.1/", { method: "POST", body: new Uint8Array(body) });
    let kept = "";
    const received = await withReceivedFile(sent(), 40_000, async (file) => {
      if (file.kind === "file") kept = file.path;
      return file.kind === "file" ? [file.sha256, (await readFile(file.path)).length] : [];
    });
    expect(received).toEqual([sha256(body), body.length]);
    await expect(readFile(kept)).rejects.toThrow();
    expect(await withReceivedFile(sent(), 20_000, (file) => Promise.resolve(file.kind))).toBe("too-large");
    const empty = new Request("http://127.0.0.1/", { method: "POST" });
    expect(await withReceivedFile(empty, 10, (file) => Promise.resolve(file.kind))).toBe("file");
  });

  it("knows a picture by its first bytes, not by what it is called", () => {
    expect(extensionOf(JPEG)).toBe("jpg");
    expect(extensionOf(Buffer.from("RIFF....WEBP", "latin1"))).toBe("webp");
    expect(extensionOf(Buffer.from("no picture"))).toBeUndefined();
  });
});
