import { beforeAll, describe, expect, it } from "vitest";
import { triedSchema } from "@/core/chain/tried";
import { seenDevices } from "@/core/chain/seenDevices";
import { errorAnswerSchema } from "@/core/answers/errorAnswer";
import { keptSecretSchema } from "@/core/online/passphrase/wifiSecret";
import { resolve } from "@/core/plan/resolve";
import { jobFromPattern } from "../fixtures/shipped";
import { fromTestRun } from "../setup/environment";

const document = jobFromPattern("split-phase-backup", { name: "Online routes" });
const device = seenDevices(resolve(document))[0]!.device.id;
const SECRET = { name: "Harbour Lane", passphrase: "ferry timetable 7" };

async function ask(method: string, path: string, body?: unknown) {
  const response = await fetch(`${fromTestRun("GORMIT_TEST_APP")}/api/v1/jobs${path}`, {
    method,
    headers: { "content-type": "application/json" },
    ...(body === undefined ? {} : { body: JSON.stringify(body) }),
  });
  return { status: response.status, headers: response.headers, text: await response.text() };
}
const pathOf = (text: string) => errorAnswerSchema.parse(JSON.parse(text)).error.issues[0]?.path;

describe("the passphrase of a job", () => {
  let job = "";
  beforeAll(async () => {
    job = (JSON.parse((await ask("POST", "/import", document)).text) as { id: string }).id;
  });

  it("is kept, told only on purpose, never cached, and forgotten", async () => {
    expect(keptSecretSchema.parse(JSON.parse((await ask("GET", `/${job}/passphrase`)).text)).keptAt).toBeNull();
    expect((await ask("POST", `/${job}/passphrase/shown`)).status).toBe(404);
    const kept = await ask("PUT", `/${job}/passphrase`, SECRET);
    expect(kept.status).toBe(200);
    expect(kept.text).not.toContain(SECRET.passphrase);
    const shown = await ask("POST", `/${job}/passphrase/shown`);
    expect(JSON.parse(shown.text)).toEqual(SECRET);
    expect(shown.headers.get("cache-control")).toContain("no-store");
    expect((await ask("GET", `/${job}/passphrase/shown`)).status).toBe(405);
    expect((await ask("DELETE", `/${job}/passphrase`)).status).toBe(204);
    expect((await ask("POST", `/${job}/passphrase/shown`)).status).toBe(404);
  });

  it("stands in no error, export or copy", async () => {
    await ask("PUT", `/${job}/passphrase`, SECRET);
    const wrong = await ask("PUT", `/${job}/passphrase`, { ...SECRET, passphrase: `${SECRET.passphrase.repeat(9)}` });
    expect(wrong.status).toBe(400);
    expect(pathOf(wrong.text)).toBe("passphrase");
    expect(wrong.text).not.toContain(SECRET.passphrase);
    const copy = JSON.parse((await ask("POST", `/${job}/duplicate`)).text) as { id: string };
    for (const path of [`/${job}`, `/${job}/export`, `/${job}/visit`, `/${job}/log.json`, `/${copy.id}`])
      expect((await ask("GET", path)).text, path).not.toContain(SECRET.passphrase);
    expect((await ask("POST", `/${copy.id}/passphrase/shown`)).status).toBe(404);
  });

  it("is checked field by field", async () => {
    expect(pathOf((await ask("PUT", `/${job}/passphrase`, { ...SECRET, name: " " })).text)).toBe("name");
    expect((await ask("PUT", `/${job}/passphrase`, { ...SECRET, more: 1 })).status).toBe(400);
    const nobody = "00000000-0000-4000-8000-000000000000";
    expect((await ask("PUT", `/${nobody}/passphrase`, SECRET)).status).toBe(404);
  });

  it("lets nothing be tried of a device that nobody sees, and no bench that does not run", async () => {
    const unknown = await ask("POST", `/${job}/online/try`, { device: "nobody" });
    expect([unknown.status, pathOf(unknown.text)]).toEqual([400, "device"]);
    expect((await ask("POST", `/${job}/online/try`, { device, onBench: true })).status).toBe(404);
    const tried = await ask("POST", `/${job}/online/try`, { device });
    expect(tried.status).toBe(200);
    // The plan names no gateway, and its service is an invention: nothing but the name is asked.
    const { tried: tries } = triedSchema.parse(JSON.parse(tried.text));
    expect(tries.every(({ seen }) => seen === undefined || seen.check === "name")).toBe(true);
  });
});
