import { readFileSync } from "node:fs";
import { describe, expect, it } from "vitest";
import { ctResponseSchema } from "@/core/sensing/computeCt";
import { jobDocumentSchema } from "@/core/job/jobDocument";
import { usualAnswers } from "@/core/patterns/patternAnswers";
import { kitText, shippedKits, shippedPattern } from "../fixtures/shipped";
import { fromTestRun } from "../setup/environment";

interface ErrorAnswer {
  readonly error: {
    readonly code: string;
    readonly message: string;
    readonly issues: readonly { readonly path: string; readonly message: string }[];
  };
}

describe("POST /api/v1/compute/ct", () => {
  const request = {
    class: "0.5",
    meterClassPct: 0.5,
    primaryA: 600,
    secondary: { value: 5, unit: "A" },
    currentA: 300,
    powerFactor: 0.9,
    voltageV: 230,
    leadLengthM: 10,
    leadAreaMm2: 2.5,
    ratedVa: 5,
    meterVa: 0.2,
    ratioForm: { kind: "ratio", min: 1, max: 2000, step: 1 },
  };

  it("answers with errors, burden and the ratio to type", async () => {
    const { status, body } = await call("POST", "/compute/ct", JSON.stringify(request));
    expect(status).toBe(200);
    const answer = ctResponseSchema.parse(body);
    // 50 % of 600 A lies three eighths of the way from 20 % to 100 %.
    expect(answer.ratioErrorPct).toBeCloseTo(0.75 - 0.375 * 0.25, 10);
    expect(answer.displacementMin).toBeCloseTo(45 - 0.375 * 15, 10);
    expect(answer).toMatchObject({ promised: true, ratioEntry: 120, findings: [] });
    expect(answer.burdenVa).toBeCloseTo(3.74, 10);
  });

  it("names every field that is wrong", async () => {
    const { status, body } = await call<ErrorAnswer>(
      "POST",
      "/compute/ct",
      JSON.stringify({ ...request, class: "7", currentA: -1, powerFactor: 0 }),
    );
    expect(status).toBe(400);
    expect(body.error.issues.map((issue) => issue.path).sort()).toEqual(["class", "currentA", "powerFactor"]);
  });
});

describe("the kit routes", () => {
  it("list what ships and what was brought in, and keep its text word for word", async () => {
    const text = `# from the van\n${kitText("meter-three-5a").replace("id: meter-three-5a", "id: van-meter")}`;
    expect((await call("POST", "/kits", text)).status).toBe(201);
    const { body } = await call<{ kits: { kit: { id: string }; origin: string }[] }>("GET", "/kits");
    expect(body.kits).toHaveLength(shippedKits().length + body.kits.filter((entry) => entry.origin === "own").length);
    expect(body.kits.find((entry) => entry.kit.id === "van-meter")?.origin).toBe("own");
    expect(await (await fetch(`${address()}/kits/van-meter/export`)).text()).toBe(text);
  });

  it("name every problem of a bad file with its line, and keep nothing", async () => {
    const { status, body } = await call<ErrorAnswer>(
      "POST",
      "/kits",
      kitText("meter-three-5a").replace("id: meter-three-5a", "id: bad-meter").replace("classPct: 0.5", "classPct: -1"),
    );
    expect(status).toBe(400);
    expect(body.error.issues).toMatchObject([{ path: "line 10: metering.classPct" }]);
    expect((await fetch(`${address()}/kits/bad-meter/export`)).status).toBe(404);
  });

  it("refuse the id of a shipped kit, and that of an own one unless it is meant", async () => {
    expect((await call<ErrorAnswer>("POST", "/kits", kitText("meter-three-5a"))).body.error.issues).toMatchObject([
      { path: "id" },
    ]);
    const own = kitText("meter-three-5a").replace("id: meter-three-5a", "id: twice-meter");
    expect((await call("POST", "/kits", own)).status).toBe(201);
    expect((await call("POST", "/kits", own)).status).toBe(201);
    const other = own.replace("classPct: 0.5", "classPct: 0.2");
    expect((await call("POST", "/kits", other)).status).toBe(409);
    expect(await call("POST", "/kits?replace=twice-meter&revision=1", other)).toMatchObject({
      status: 201,
      body: { revision: 2 },
    });
    expect(await call("POST", "/kits?replace=twice-meter&revision=1", own)).toMatchObject({
      status: 409,
      body: { current: { revision: 2, text: other } },
    });
    expect(await (await fetch(`${address()}/kits/twice-meter/export`)).text()).toContain("classPct: 0.2");
  });

  it("delete an own kit and bring it back; shipped ones stay", async () => {
    await call("POST", "/kits", kitText("ct-split-1a-20mm").replace("id: ct-split-1a-20mm", "id: old-clamp"));
    expect((await call("DELETE", "/kits/old-clamp")).status).toBe(204);
    expect((await fetch(`${address()}/kits/old-clamp/export`)).status).toBe(404);
    expect((await call("POST", "/kits/old-clamp/restore")).status).toBe(204);
    expect((await fetch(`${address()}/kits/old-clamp/export`)).status).toBe(200);
    expect((await call("DELETE", "/kits/meter-three-5a")).status).toBe(404);
  });
});

describe("a job from a pattern", () => {
  const pattern = shippedPattern("three-phase-storage");

  it("is made whole, with its kits, and has labels and materials", async () => {
    const { status, body } = await call<{ id: string; document: unknown }>(
      "POST",
      "/jobs?from=pattern",
      JSON.stringify({ ...usualAnswers(pattern), name: "From three-phase-storage" }),
    );
    expect(status).toBe(201);
    expect(jobDocumentSchema.parse(body.document).job).toMatchObject({
      name: "From three-phase-storage",
      pattern: "three-phase-storage",
    });
    const pdf = await fetch(`${address()}/jobs/${body.id}/labels.pdf?form=a4-10&date=2026-11-25`);
    expect(pdf.headers.get("content-type")).toBe("application/pdf");
    expect(
      Buffer.from(await pdf.arrayBuffer())
        .subarray(0, 5)
        .toString(),
    ).toBe("%PDF-");
    expect(await (await fetch(`${address()}/jobs/${body.id}/labels.csv`)).text()).toContain(
      "CT round L2 of Main board; Arrow toward the grid",
    );
    expect(await (await fetch(`${address()}/jobs/${body.id}/materials.csv`)).text()).toContain(
      '"Split-core CT, 100 mA, 24 mm window, 100 A : 100 mA, class 1","3","pcs"',
    );
  });

  it("is refused with the path of what is wrong", async () => {
    const { status, body } = await call<ErrorAnswer>(
      "POST",
      "/jobs?from=pattern",
      JSON.stringify({ ...usualAnswers(pattern), name: "", mainFuseA: 0 }),
    );
    expect(status).toBe(400);
    expect(body.error.issues.map((issue) => issue.path).sort()).toEqual(["mainFuseA", "name"]);
    expect(
      (
        await call<ErrorAnswer>(
          "POST",
          "/jobs?from=pattern",
          JSON.stringify({ ...usualAnswers(pattern), system: "split-phase" }),
        )
      ).body.error.issues,
    ).toMatchObject([{ path: "system" }]);
    expect(
      (
        await call<ErrorAnswer>(
          "POST",
          "/jobs?from=pattern",
          JSON.stringify({ ...usualAnswers(pattern), pattern: "S99" }),
        )
      ).body.error.issues,
    ).toMatchObject([{ path: "pattern" }]);
  });

  it("prints no labels in a form that there is not, nor of a job without CTs", async () => {
    const demo = JSON.parse(readFileSync(new URL("../../demo/fennel-court.json", import.meta.url), "utf8")) as {
      site: { meters: object[]; cts: object[] };
      tests: object;
    };
    const bare = { ...demo, site: { ...demo.site, meters: [], cts: [] }, tests: {}, links: [] };
    const { body } = await call<{ id: string }>("POST", "/jobs/import", JSON.stringify(bare));
    expect((await call<ErrorAnswer>("GET", `/jobs/${body.id}/labels.pdf?form=huge`)).body.error.issues).toMatchObject([
      { path: "form" },
    ]);
    expect((await fetch(`${address()}/jobs/${body.id}/labels.pdf`)).status).toBe(422);
  });
});

async function call<T = unknown>(method: string, path: string, body?: string): Promise<{ status: number; body: T }> {
  const response = await fetch(`${address()}${path}`, {
    method,
    body,
    headers: { "content-type": path.startsWith("/kits") ? "application/yaml" : "application/json" },
  });
  return { status: response.status, body: (response.status === 204 ? undefined : await response.json()) as T };
}

function address(): string {
  return `${fromTestRun("GORMIT_TEST_APP")}/api/v1`;
}
