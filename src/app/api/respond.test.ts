import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { z } from "zod";
import { answered, errorResponse, fromThread, parseBody, readBytes, readJsonBytes } from "@/app/api/respond";
import { DatabaseBusy, DatabaseUnavailable, StorageFull, UnstorableValue } from "@/db/client";

/** A body that comes a byte at a time, so far apart; a stream that is pulled no more is left alone. */
function dripping(everyMs: number): Request {
  const body = new ReadableStream<Uint8Array>({
    async pull(stream) {
      await new Promise((resolve) => {
        setTimeout(resolve, everyMs);
      });
      stream.enqueue(new Uint8Array(1));
    },
  });
  return new Request("http://127.0.0.1/", { method: "POST", body, duplex: "half" } as RequestInit);
}

function posted(body: string, type = "application/json"): Request {
  return new Request("http://127.0.0.1/", { method: "POST", body, headers: { "content-type": type } });
}

describe("reading a body", () => {
  beforeEach(() => {
    vi.useFakeTimers({ toFake: ["setTimeout", "clearTimeout", "performance"] });
  });
  afterEach(() => {
    vi.useRealTimers();
  });

  it.each([
    ["sends nothing more", 60_000, 16_000],
    ["sends a byte each second for ever", 1_000, 30_000],
  ])("ends with one who %s", async (_, everyMs, withinMs) => {
    const reading = readBytes(dripping(everyMs), 1_000);
    await vi.advanceTimersByTimeAsync(withinMs);
    const outcome = await reading;
    expect(outcome.kind === "refused" && outcome.response.status).toBe(408);
  });

  it("keeps nothing of what is longer than allowed", async () => {
    const outcome = await readBytes(posted("x".repeat(2_000)), 1_000);
    expect(outcome.kind === "refused" && outcome.response.status).toBe(413);
    expect(await readBytes(posted("x".repeat(1_000)), 1_000)).toMatchObject({ kind: "ok" });
  });

  it.each(["text/plain", "application/x-www-form-urlencoded", "application/jsonp"])("takes no %s", async (type) => {
    const outcome = await readJsonBytes(posted("{}", type), 1_000);
    expect(outcome.kind === "refused" && outcome.response.status).toBe(415);
  });

  it("says where JSON breaks off, and names every field that is wrong", async () => {
    const schema = z.object({ a: z.number(), b: z.number() });
    const broken = await parseBody(posted("{"), schema);
    expect(broken.kind === "refused" && broken.response.status).toBe(400);
    const wrong = await parseBody(posted('{"a":"x"}'), schema);
    const body =
      wrong.kind === "refused"
        ? ((await wrong.response.json()) as { error: { issues: { path: string }[] } })
        : undefined;
    expect(body?.error.issues.map(({ path }) => path)).toEqual(["a", "b"]);
    expect(await parseBody(posted('{"a":1,"b":2}', "application/json; charset=utf-8"), schema)).toEqual({
      kind: "ok",
      value: { a: 1, b: 2 },
    });
  });
});

describe("answering", () => {
  it.each<[string, Error, number, boolean]>([
    ["a database that is away", new DatabaseUnavailable("x"), 503, true],
    ["one that is busy", new DatabaseBusy(), 503, true],
    ["a value that it cannot hold", new UnstorableValue("x"), 400, false],
    ["a full disk", new StorageFull(), 507, false],
  ])("%s is no defect", async (_, error, status, isLater) => {
    const response = await answered(async () => {
      throw error;
    });
    expect(response.status).toBe(status);
    expect(response.headers.has("retry-after")).toBe(isLater);
    expect(response.headers.get("cache-control")).toBe("private, no-store");
  });

  it.each([
    ["a person who asks for too much", { kind: "busy", whose: "person", retryAfterS: 2 }, 429],
    ["a server that has too much to do", { kind: "busy", whose: "everybody", retryAfterS: 5 }, 503],
    ["what takes too long", { kind: "too-long", limitMs: 12_000 }, 422],
    ["what takes too much memory", { kind: "too-large" }, 422],
    ["one who left", { kind: "aborted" }, 499],
  ] as const)("tells %s", (_, outcome, status) => {
    const answer = fromThread(outcome);
    expect(answer.kind === "refused" && answer.response.status).toBe(status);
    if (outcome.kind === "busy" && answer.kind === "refused") {
      expect(answer.response.headers.get("retry-after")).toBe(String(outcome.retryAfterS));
    }
  });

  it("hands on what a thread answered, and gives paths as text", async () => {
    expect(fromThread({ kind: "done", value: 7 })).toEqual({ kind: "ok", value: 7 });
    const response = errorResponse("invalid", "no", [{ path: ["site", "nodes", 2], message: "gone" }]);
    expect(await response.json()).toMatchObject({ error: { issues: [{ path: "site.nodes[2]", message: "gone" }] } });
  });
});
