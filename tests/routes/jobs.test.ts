import { readFileSync } from "node:fs";
import { describe, expect, it } from "vitest";
import { jobDocumentSchema } from "@/core/job/jobDocument";
import { fromTestRun } from "../setup/environment";

interface JobAnswer {
  readonly id: string;
  readonly revision: number;
  readonly document: { readonly job: { readonly name: string } };
}
interface ErrorAnswer {
  readonly error: { readonly code: string; readonly issues: readonly { readonly path: string }[] };
}

const tollgate = readFileSync(new URL("../../demo/tollgate-cottage.json", import.meta.url), "utf8");

describe("the job routes", () => {
  it("export what was imported, word for word, marked as a copy, and say what is left out", async () => {
    const { body } = await call<JobAnswer>("POST", "/import", tollgate);
    const response = await fetch(`${address()}/${body.id}/export`);
    expect(response.headers.get("content-disposition")).toContain("tollgate-cottage.gormit-job.json");
    const { leavesOut, copied, ...exported } = (await response.json()) as { leavesOut: string[]; copied: object };
    expect(leavesOut).toEqual(["log", "photographs", "hand overs", "passphrase"]);
    expect(copied).toMatchObject({ how: "file", without: leavesOut });
    expect(jobDocumentSchema.parse(exported)).toEqual(jobDocumentSchema.parse(JSON.parse(tollgate)));
  });

  it("import nothing of a bad file and list all that is wrong with it", async () => {
    const before = await names();
    const bad = JSON.parse(tollgate) as {
      site: { nodes: { fedFrom?: string }[] };
      tests: { steps: { readings: { input: number }[] }[] };
      colour?: string;
    };
    bad.site.nodes[2]!.fedFrom = "attic";
    bad.site.nodes[3]!.fedFrom = "cellar";
    const { status, body } = await call<ErrorAnswer>("POST", "/import", JSON.stringify(bad));
    expect(status).toBe(400);
    expect(body.error.issues.map((issue) => issue.path)).toEqual(["site.nodes[2].fedFrom", "site.nodes[3].fedFrom"]);
    expect(await names()).toEqual(before);
  });

  it("refuse a field that the format does not know instead of dropping it", async () => {
    const { body } = await call<ErrorAnswer>(
      "POST",
      "/import",
      JSON.stringify({ ...(JSON.parse(tollgate) as object), colour: "green" }),
    );
    expect(body.error.issues.map((issue) => issue.path)).toEqual(["colour"]);
  });

  it("make a job from the few answers of the form", async () => {
    const { status, body } = await call<JobAnswer>(
      "POST",
      "",
      JSON.stringify({ name: "From a form", system: "three-phase", solarKw: 8 }),
    );
    expect(status).toBe(201);
    expect(jobDocumentSchema.parse(body.document).site.meters[0]!.inputs).toHaveLength(3);
  });

  it.each([
    ["no name", { system: "single-phase" }, "name"],
    ["a blank name", { name: "  ", system: "single-phase" }, "name"],
    ["an unknown supply", { name: "x", system: "dc" }, "system"],
    ["a negative rating", { name: "x", system: "single-phase", solarKw: -1 }, "solarKw"],
  ])("refuse a new job with %s", async (_, answers, path) => {
    const { status, body } = await call<ErrorAnswer>("POST", "", JSON.stringify(answers));
    expect(status).toBe(400);
    expect(body.error.issues.map((issue) => issue.path)).toEqual([path]);
  });

  it("answer a save on an old revision with 409 and the current version", async () => {
    const { body: job } = await call<JobAnswer>("POST", "/import", tollgate);
    const change = (name: string) =>
      JSON.stringify({ revision: 1, document: { ...job.document, job: { ...job.document.job, name } } });
    expect((await call("PUT", `/${job.id}`, change("First"))).status).toBe(200);
    const second = await call<ErrorAnswer & { current: JobAnswer }>("PUT", `/${job.id}`, change("Second"));
    expect(second.status).toBe(409);
    expect(second.body.current).toMatchObject({ revision: 2, document: { job: { name: "First" } } });
  });

  it("duplicate under a free name, delete, and restore", async () => {
    const { body: job } = await call<JobAnswer>(
      "POST",
      "",
      JSON.stringify({ name: "Original", system: "split-phase" }),
    );
    expect((await call<JobAnswer>("POST", `/${job.id}/duplicate`)).body.document.job.name).toBe("Original (copy)");
    expect((await call<JobAnswer>("POST", `/${job.id}/duplicate`)).body.document.job.name).toBe("Original (copy 2)");
    expect((await call("DELETE", `/${job.id}`)).status).toBe(204);
    expect((await call("GET", `/${job.id}`)).status).toBe(404);
    expect((await call("POST", `/${job.id}/restore`)).status).toBe(204);
    expect((await call("GET", `/${job.id}`)).status).toBe(200);
  });

  it.each(["GET", "DELETE"])("answer %s of an id that is no id with 404", async (method) => {
    expect((await call(method, "/nonsense")).status).toBe(404);
  });
});

function address(): string {
  return `${fromTestRun("GORMIT_TEST_APP")}/api/v1/jobs`;
}

async function call<T>(method: string, path: string, body?: string): Promise<{ status: number; body: T }> {
  const response = await fetch(address() + path, { method, body, headers: { "content-type": "application/json" } });
  return { status: response.status, body: (response.status === 204 ? undefined : await response.json()) as T };
}

async function names(): Promise<string[]> {
  return (await call<{ jobs: { name: string }[] }>("GET", "")).body.jobs.map((job) => job.name).sort();
}
