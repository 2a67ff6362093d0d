import { readFileSync } from "node:fs";
import { describe, expect, it } from "vitest";
import { computeErrorSchema, diagnoseResponseSchema, predictResponseSchema } from "@/core/flows/computeResponses";
import type { Fault } from "@/core/flows/faults";
import { onlineResponseSchema } from "@/core/online/onlineSchema";
import { houseSite, usualSheet } from "../fixtures/sites";
import { fromTestRun } from "../setup/environment";

interface Answered {
  readonly meter: string;
  readonly input: number;
  readonly powerW: number;
  readonly reactiveVar: number;
  readonly currentA: number;
}
interface PredictCase {
  readonly site: unknown;
  readonly state: unknown;
  readonly answer: Record<"planned" | "fitted", Answered[]>;
}
interface DiagnoseCase {
  readonly request: unknown;
  readonly answer: { readonly best: { readonly faults: Fault[] } };
}

const predictCases = contract<PredictCase[]>("predict");
const diagnoseCases = contract<DiagnoseCase[]>("diagnose");

describe("POST /api/v1/compute/predict", () => {
  it.each(
    predictCases.flatMap((example, at) => (["planned", "fitted"] as const).map((as) => [at, as, example] as const)),
  )("agrees with worked example %i as %s", async (_, as, { site, state, answer }) => {
    const { status, body } = await post("predict", JSON.stringify({ site, as, state }));
    expect(status).toBe(200);
    const { inputs } = predictResponseSchema.parse(body);
    inputs.forEach((got, at) => {
      const wanted = answer[as][at]!;
      expect([got.meter, got.input]).toEqual([wanted.meter, wanted.input]);
      expect(Math.abs(got.powerW - wanted.powerW)).toBeLessThan(0.01);
      expect(Math.abs(got.reactiveVar - wanted.reactiveVar)).toBeLessThan(0.01);
    });
  });

  it("refuses a CT of another kind than its input with 422 and the path", async () => {
    const site = houseSite("single-phase");
    const clashing = { ...site, cts: [{ ...site.cts[0]!, secondary: { value: 5, unit: "A" } }] };
    const { status, body } = await post(
      "predict",
      JSON.stringify({ site: clashing, as: "fitted", state: { devices: [] } }),
    );
    expect(status).toBe(422);
    expect(computeErrorSchema.parse(body).error.issues[0]!.path).toBe("site.cts[0].secondary.unit");
  });
});

describe("POST /api/v1/compute/diagnose", () => {
  it.each(diagnoseCases.map((example, at) => [at, example] as const))(
    "agrees with worked example %i",
    async (_, { request, answer }) => {
      const { status, body } = await post("diagnose", JSON.stringify(request));
      expect(status).toBe(200);
      const [best] = diagnoseResponseSchema.parse(body).hypotheses;
      expect([best!.faults, ...best!.alternatives]).toContainEqual(answer.best.faults);
    },
  );

  it("answers others while a long diagnosis is under way", async () => {
    const site = houseSite("three-phase", { solarMeter: true });
    const sheet = usualSheet(site, 3);
    const steps = sheet.steps.map((step) => ({ ...step, readings: [{ meter: "m1", input: 1, powerW: 400 }] }));
    let isLongDone = false;
    const long = post("diagnose", JSON.stringify({ site, ...sheet, steps })).finally(() => {
      isLongDone = true;
    });
    const short = await post("predict", JSON.stringify({ site, as: "planned", state: {} }));
    expect(short.status).toBe(200);
    expect(isLongDone).toBe(false);
    expect((await long).status).toBe(200);
  });

  it("refuses more combinations than it looks at with 422", async () => {
    const site = houseSite("three-phase");
    const meters = Array.from({ length: 6 }, (_, at) => ({ ...site.meters[0]!, id: `m${at}` }));
    const { status, body } = await post(
      "diagnose",
      JSON.stringify({ ...usualSheet(site, 3), site: { ...site, meters, cts: [] } }),
    );
    expect(status).toBe(422);
    expect(computeErrorSchema.parse(body).error.issues[0]!.path).toBe("maxFaults");
  });
});

describe("bad input to the compute routes", () => {
  const good = JSON.stringify({
    site: houseSite("three-phase"),
    as: "planned",
    state: { devices: [{ node: "pv", powerW: -3000 }] },
  });

  it.each([
    ["no JSON", "{", 400, ""],
    ["a bare NaN", good.replace("-3000", "NaN"), 400, ""],
    ["a number that overflows", good.replace("-3000", "1e999"), 400, "state.devices[0].powerW"],
    ["a huge number", good.replace("-3000", "-1e12"), 400, "state.devices[0].powerW"],
    ["an unknown node", good.replace('"node":"pv"', '"node":"attic"'), 400, "state.devices[0].node"],
    ["a list for an object", "[]", 400, ""],
    ["null", "null", 400, ""],
    ["a word for a system", good.replace("three-phase", "two-phase"), 400, "site.supply.system"],
  ])("refuses %s", async (_, text, wantedStatus, path) => {
    const { status, body } = await post("predict", text);
    expect(status).toBe(wantedStatus);
    expect(computeErrorSchema.parse(body).error.issues.map((issue) => issue.path)).toContain(path);
  });

  it("lists the path of every problem, not only of the first", async () => {
    const site = structuredClone(houseSite("three-phase"));
    site.nodes[2]!.fedFrom = "attic";
    site.cts[1]!.plug = { meter: "m1", input: 1 };
    site.meters[0]!.inputs[2]!.tap = "V9";
    const { body } = await post("predict", JSON.stringify({ site, as: "planned", state: {} }));
    expect(
      computeErrorSchema
        .parse(body)
        .error.issues.map((issue) => issue.path)
        .sort(),
    ).toEqual(["site.cts[1].plug", "site.meters[0].inputs[2].tap", "site.nodes[2].fedFrom"]);
  });

  it.each(["predict", "diagnose", "balance", "ct", "rs485", "can", "radio", "ethernet", "online"])(
    "refuses a body of ten megabytes at %s with 413",
    async (route) => {
      const { status, body } = await post(route, `{"padding":"${"x".repeat(10_000_000)}"}`);
      expect(status).toBe(413);
      expect(computeErrorSchema.parse(body).error.code).toBe("too-large");
    },
  );
});

describe("POST /api/v1/compute/online", () => {
  it("names the rung, the cause, its cure and the next check", async () => {
    const { status, body } = await post(
      "online",
      JSON.stringify({
        way: "cable",
        observed: [
          { check: "address", outcome: "192.168.7.30" },
          { check: "gateway", outcome: "answers" },
          { check: "outside", outcome: "answers" },
          { check: "name", outcome: "fails" },
          { check: "phone-internet", outcome: "no" },
        ],
      }),
    );
    expect(status).toBe(200);
    const { rung, causes, nextChecks, verdict } = onlineResponseSchema.parse(body);
    expect([rung, causes[0]!.id, verdict]).toEqual(["internet", "dns", "cause-found"]);
    expect(causes[0]!.cure.length).toBeGreaterThan(0);
    expect(nextChecks.length).toBeGreaterThan(0);
  });

  it("refuses an unknown check and an unknown outcome, each with its path", async () => {
    const pathOf = async (observed: object) => {
      const { status, body } = await post("online", JSON.stringify({ way: "wifi", observed: [observed] }));
      expect(status).toBe(400);
      return computeErrorSchema.parse(body).error.issues[0]!.path;
    };
    expect(await pathOf({ check: "weather", outcome: "fair" })).toBe("observed[0].check");
    expect(await pathOf({ check: "gateway", outcome: "perhaps" })).toBe("observed[0].outcome");
  });
});

describe("GET /api/v1/openapi.json", () => {
  it("describes every compute route with what it takes and gives", async () => {
    const description = (await (await fetch(`${fromTestRun("GORMIT_TEST_APP")}/api/v1/openapi.json`)).json()) as {
      paths: Record<string, { post: { requestBody: unknown; responses: object } }>;
    };
    expect(
      Object.keys(description.paths)
        .filter((path) => path.startsWith("/api/v1/compute/"))
        .map((path) => path.replace("/api/v1/compute/", ""))
        .sort(),
    ).toEqual([
      "balance",
      "can",
      "ct",
      "diagnose",
      "diagnose-log",
      "diversion",
      "ethernet",
      "export-limit",
      "online",
      "predict",
      "proof-plan",
      "radio",
      "rs485",
      "schedule",
      "visit",
    ]);
    expect(JSON.stringify(description.paths["/api/v1/compute/predict"]!.post.requestBody)).toContain("fedFrom");
  });
});

async function post(route: string, text: string): Promise<{ status: number; body: unknown }> {
  const response = await fetch(`${fromTestRun("GORMIT_TEST_APP")}/api/v1/compute/${route}`, {
    method: "POST",
    headers: { "content-type": "application/json" },
    body: text,
  });
  return { status: response.status, body: await response.json() };
}

function contract<T>(name: string): T {
  return JSON.parse(readFileSync(new URL(`../contract/${name}.json`, import.meta.url), "utf8")) as T;
}
