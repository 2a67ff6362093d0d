import { describe, expect, it } from "vitest";
import { jobDocumentSchema, type JobDocument } from "@/core/job/jobDocument";
import { patternListSchema } from "@/core/patterns/patternRequests";
import { schoolChoices, serviceReasonSchema, visitKindSchema } from "@/core/plan/visitSettings";
import { visitResponseSchema } from "@/core/visit/computeVisit";
import { fromTestRun } from "../setup/environment";

const KINDS = [...visitKindSchema.options, ...serviceReasonSchema.options];

describe("GET /api/v1/patterns and POST /api/v1/patterns/:id/job", () => {
  it("list the patterns, and give each as a job whose sheet comes for every kind of visit", async () => {
    const { patterns } = patternListSchema.parse((await call("GET", "/patterns")).body);
    expect(patterns.length).toBeGreaterThan(15);
    for (const { id, visit } of patterns) {
      const made = await call("POST", `/patterns/${id}/job`, {});
      expect(made.status).toBe(200);
      const document = jobDocumentSchema.parse(made.body);
      expect(document.visit.kind).toBe(visit.kind);
      for (const kind of KINDS) {
        const sheet = await call("POST", "/compute/visit", { document, visit: kind });
        expect(sheet.status).toBe(200);
        expect(visitResponseSchema.parse(sheet.body).steps.length).toBeGreaterThan(0);
      }
    }
  });

  it("take other answers and a visit, and say by field what is wrong with them", async () => {
    const job = async (body: object) => await call("POST", "/patterns/two-ct-add-on/job", body);
    const made = await job({ answers: { name: "Ash Lane", mainFuseA: 80 }, visit: "router-changed" });
    expect(made.body as JobDocument).toMatchObject({
      job: { name: "Ash Lane" },
      site: { supply: { mainFuseA: 80 } },
      visit: { kind: "service", reason: "router-changed" },
    });
    const bad = await job({ answers: { mainFuseA: -1 }, visit: { kind: "party" } });
    expect(bad.status).toBe(400);
    const { error } = bad.body as { error: { issues: { path: string }[] } };
    expect(error.issues.map(({ path }) => path).toSorted()).toEqual(["answers.mainFuseA", "visit"]);
    expect((await call("POST", "/patterns/nowhere/job", {})).status).toBe(404);
  });

  it("follow the methods that are asked for, whatever the job says", async () => {
    const { body } = await call("POST", "/patterns/hybrid-high-voltage/job", {});
    const tested = await call("POST", "/compute/visit", { document: body, schools: { ctTest: "built-in" } });
    const plain = await call("POST", "/compute/visit", { document: body, schools: { ctTest: "load-steps" } });
    const tests = ({ body: sheet }: { body: unknown }) =>
      visitResponseSchema.parse(sheet).steps.filter(({ title }) => title.startsWith("Built-in CT test")).length;
    expect([tests(tested), tests(plain)]).toEqual([1, 0]);
  });

  it("answer for every method of every question, and refuse a method that there is not", async () => {
    const { body } = await call("POST", "/patterns/split-phase-backup/job", {});
    for (const [id, choice] of Object.entries(schoolChoices))
      for (const option of choice.options) {
        const sheet = await call("POST", "/compute/visit", { document: body, schools: { [id]: option } });
        expect(sheet.status).toBe(200);
        const { findings, materials, steps } = visitResponseSchema.parse(sheet.body);
        expect(findings).toEqual([]);
        expect(materials.every(({ uses }) => uses.length > 0)).toBe(true);
        expect(steps.some(({ evidence }) => evidence.kind === "read-back")).toBe(true);
      }
    const refused = await call("POST", "/compute/visit", { document: body, schools: { energise: "both" } });
    expect(refused.status).toBe(400);
  });
});

async function call(method: "GET" | "POST", path: string, body?: object): Promise<{ status: number; body: unknown }> {
  const response = await fetch(`${fromTestRun("GORMIT_TEST_APP")}/api/v1${path}`, {
    method,
    ...(body ? { headers: { "content-type": "application/json" }, body: JSON.stringify(body) } : {}),
  });
  return { status: response.status, body: await response.json() };
}
