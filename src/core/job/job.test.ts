import { readdirSync, readFileSync } from "node:fs";
import { describe, expect, it } from "vitest";
import { plainFinding } from "@/core/findings";
import { copyOfJob, jobFileName } from "@/core/job/copyOfJob";
import { importJob } from "@/core/job/importJob";
import type { JobDocument } from "@/core/job/jobDocument";
import { jobSummary } from "@/core/jobSummary";
import { resolve } from "@/core/plan/resolve";
import { placeFindings } from "@/core/job/placeFindings";
import { percent } from "@/core/job/proveFindings";
import { starterPlan, starterSchema } from "@/core/job/starterPlan";
import { railBoard } from "@/core/board/railBoard";
import type { Ct } from "@/core/site/planSchema";

const DEMO_FOLDER = new URL("../../../demo/", import.meta.url);
const tollgate = demo("tollgate-cottage.json");

describe("demo jobs", () => {
  it.each(readdirSync(DEMO_FOLDER))("%s is a valid job that draws", (file) => {
    expect(railBoard(demo(file).site).nodes.length).toBeGreaterThan(3);
  });

  it.each([
    ["tollgate-cottage.json", "faults-found", "Turn A2 round, or swap its two leads"],
    ["brindle-dairy.json", "proving", "Move A2 to L2 of Intake panel"],
    ["fennel-court.json", "proved", "Every reading is proved"],
    ["larkspur-house.json", "placing", "Place A2 round L2 of Main panel"],
  ])("%s stands at %s, and says what to do next", (file, state, next) => {
    expect(jobSummary(demo(file))).toMatchObject({ state, next });
  });
});

describe("importJob", () => {
  it("takes what was exported, unchanged", () => {
    expect(importJob(JSON.stringify(tollgate))).toEqual({ kind: "job", document: tollgate, questions: [] });
  });

  it.each<[string, (job: Record<string, unknown>) => void, string, string]>([
    [
      "another format",
      (job) => {
        job.format = "other";
      },
      "format",
      "this is no gormit-job file",
    ],
    [
      "a later version",
      (job) => {
        job.version = 4;
      },
      "version",
      "reads version 3",
    ],
    [
      "a field it does not know",
      (job) => {
        job.sauna = true;
      },
      "sauna",
      "no such field",
    ],
    [
      "a step on an unknown device",
      (job) => {
        (job.tests as { steps: { devices: { node: string }[] }[] }).steps[0]!.devices[0]!.node = "sauna";
      },
      "tests.steps.0.devices.0.node",
      "no node",
    ],
    [
      "a missing plan",
      (job) => {
        delete job.site;
      },
      "site",
      "expected object",
    ],
  ])("refuses %s and says where", (_, spoil, path, message) => {
    const job = structuredClone(tollgate) as unknown as Record<string, unknown>;
    spoil(job);
    const outcome = importJob(JSON.stringify(job));
    if (outcome.kind !== "bad-file") throw new Error("was taken");
    expect(outcome.problems.map((problem) => problem.path.join("."))).toEqual([path]);
    expect(outcome.problems[0]!.message).toContain(message);
  });

  it("says of what is no JSON that it is none", () => {
    expect(importJob("<html>")).toMatchObject({
      kind: "bad-file",
      problems: [{ path: [], message: expect.stringContaining("not JSON") as string }],
    });
  });
});

describe("placeFindings", () => {
  it.each<[string, Partial<Ct>, string, string]>([
    ["turned", { arrow: "to-grid" }, "fix", "points toward the grid; this kit wants it toward the loads"],
    ["with swapped leads", { leads: "swapped" }, "fix", "leads of A1 are swapped"],
    ["turned with swapped leads", { arrow: "to-grid", leads: "swapped" }, "note", "it reads right"],
    ["on another conductor", { around: [{ run: "house", conductor: "L1" }] }, "fix", "is round L1 of House"],
    ["of another ratio", { primaryA: 200 }, "fix", "reads 0.5 times"],
    ["with two turns", { turns: 2 }, "fix", "reads 2 times"],
    [
      "for amperes in an input for volts",
      { secondary: { value: 5, unit: "A" } },
      "stop",
      "Nothing it reads can be right",
    ],
    ["that is not plugged in", { plug: null }, "fix", "has no CT"],
  ])("finds a CT %s", (_, change, level, text) => {
    const site = {
      ...tollgate.site,
      cts: tollgate.site.cts.map((ct) => (ct.id === "ct1" ? { ...ct, ...change } : ct)),
    };
    expect(placeFindings(resolve({ site, kits: [], links: [] })).map(plainFinding)).toContainEqual(
      expect.objectContaining({ severity: level, detail: expect.stringContaining(text) as string }),
    );
  });

  it("finds taps that are out of order", () => {
    const { site } = demo("larkspur-house.json");
    const crossed = {
      ...site,
      meters: site.meters.map((meter) =>
        meter.id === "home" ? { ...meter, taps: { V1: "L2" as const, V2: "L1" as const } } : meter,
      ),
    };
    expect(placeFindings(resolve({ site: crossed, kits: [], links: [] })).map(plainFinding)).toContainEqual(
      expect.objectContaining({
        id: "taps:home",
        detail: expect.stringContaining("V1 is on L2, V2 is on L1") as string,
      }),
    );
  });

  it("finds nothing where everything is as planned", () => {
    expect(placeFindings(resolve(demo("fennel-court.json")))).toEqual([]);
  });
});

describe("starterPlan", () => {
  it.each(["single-phase", "split-phase", "three-phase"] as const)(
    "makes a valid %s job from the few answers",
    (system) => {
      const document = starterPlan(
        starterSchema.parse({ name: "New", system, solarKw: 6, batteryKw: 3, solarMeter: true, arrow: "to-grid" }),
      );
      expect(importJob(JSON.stringify(document)).kind).toBe("job");
      expect(document.site.meters).toHaveLength(2);
      expect(document.site.meters.every((meter) => meter.inputs.every((input) => input.arrow === "to-grid"))).toBe(
        true,
      );
    },
  );
});

describe("names and numbers", () => {
  it("names copies so that no two are alike", () => {
    expect(copyOfJob(tollgate, ["Tollgate Cottage"]).job.name).toBe("Tollgate Cottage (copy)");
    const second = copyOfJob(copyOfJob(tollgate, []), ["Tollgate Cottage (copy)"]);
    expect(second.job.name).toBe("Tollgate Cottage (copy 2)");
    const long = copyOfJob({ ...tollgate, job: { ...tollgate.job, name: "x".repeat(80) } }, []);
    expect(long.job.name).toHaveLength(80);
  });

  it("makes a file name that every system takes", () => {
    expect(jobFileName(tollgate)).toBe("tollgate-cottage.gormit-job.json");
    expect(jobFileName({ ...tollgate, job: { ...tollgate.job, name: "Zähler / Übergabe" } })).toBe(
      "zahler-ubergabe.gormit-job.json",
    );
    expect(jobFileName({ ...tollgate, job: { ...tollgate.job, name: "…" } })).toBe("job.gormit-job.json");
  });

  it.each([
    [1, "100 %"],
    [0.9999, "over 99 %"],
    [0.981, "98 %"],
    [0.0004, "under 1 %"],
    [0, "0 %"],
  ])("writes %f as %s", (share, text) => {
    expect(percent(share)).toBe(text);
  });
});

function demo(file: string): JobDocument {
  const outcome = importJob(readFileSync(new URL(file, DEMO_FOLDER), "utf8"));
  if (outcome.kind !== "job") throw new Error(`${file}: ${JSON.stringify(outcome.problems)}`);
  return outcome.document;
}
