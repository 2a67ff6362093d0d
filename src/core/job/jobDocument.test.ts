import { describe, expect, it } from "vitest";
import { importJob } from "@/core/job/importJob";
import { pathText } from "@/core/problem";
import { jobFromPattern } from "../../../tests/fixtures/shipped";

const job = jobFromPattern("outbuilding-radio-pair");

/** The paths of what is wrong with a job that was changed so. */
function wrongAt(change: (loose: ReturnType<typeof loosely>) => void): readonly string[] {
  const copy = loosely();
  change(copy);
  const outcome = importJob(JSON.stringify(copy));
  return outcome.kind === "bad-file" ? outcome.problems.map((problem) => pathText(problem.path)) : [];
}

/** The job without its types, to be made wrong. */
function loosely() {
  return structuredClone(job) as unknown as {
    kits: { id: string }[];
    accepted: object[];
    packed: unknown[];
    job: { pattern?: unknown };
    site: {
      nodes: { kit?: string; place?: string; fuseA?: unknown; owner?: unknown }[];
      places: { id: string; shelter?: string }[];
      ways: { from: string; to: string; walkMin: number; cableM?: number }[];
      equipment: { id: string; kit?: string; place?: string }[];
      supply: { mainFuseA?: unknown };
      meters: {
        kit?: string;
        place?: string;
        classPct?: unknown;
        inputs: { of?: string[]; role?: string; clamp?: { kit?: string; class?: string; turns?: unknown } }[];
      }[];
    };
  };
}

describe("a job file", () => {
  it("of a pattern is good", () => {
    expect(wrongAt(() => undefined)).toEqual([]);
  });

  it.each<readonly [string, Parameters<typeof wrongAt>[0], string]>([
    [
      "names a kit that it does not carry",
      (file) => {
        file.site.nodes[3]!.kit = "ghost";
      },
      "site.nodes[3].kit",
    ],
    [
      "names a meter's kit that it does not carry",
      (file) => {
        file.site.meters[0]!.kit = "ghost";
      },
      "site.meters[0].kit",
    ],
    [
      "names a CT that it does not carry",
      (file) => {
        file.site.meters[0]!.inputs[0]!.clamp = { kit: "ghost" };
      },
      "site.meters[0].inputs[0].clamp.kit",
    ],
    [
      "names a kit of equipment that it does not carry",
      (file) => {
        file.site.equipment[0]!.kit = "ghost";
      },
      "site.equipment[0].kit",
    ],
    [
      "carries a kit twice",
      (file) => {
        file.kits.push(file.kits[0]!);
      },
      `kits[${job.kits.length}].id`,
    ],
    [
      "puts a device where no place is",
      (file) => {
        file.site.nodes[1]!.place = "moon";
      },
      "site.nodes[1].place",
    ],
    [
      "puts a meter where no place is",
      (file) => {
        file.site.meters[0]!.place = "moon";
      },
      "site.meters[0].place",
    ],
    [
      "puts equipment where no place is",
      (file) => {
        file.site.equipment[1]!.place = "moon";
      },
      "site.equipment[1].place",
    ],
    [
      "has two places of one id",
      (file) => {
        file.site.places[1]!.id = "house";
      },
      "site.places[1].id",
    ],
    [
      "has two pieces of equipment of one id",
      (file) => {
        file.site.equipment[1]!.id = file.site.equipment[0]!.id;
      },
      "site.equipment[1].id",
    ],
    [
      "has a place in a weather that there is not",
      (file) => {
        file.site.places[0]!.shelter = "fog";
      },
      "site.places[0].shelter",
    ],
    [
      "has a way to nowhere",
      (file) => {
        file.site.ways[0]!.to = "moon";
      },
      "site.ways[0].to",
    ],
    [
      "has a way from a place to itself",
      (file) => {
        file.site.ways[0]!.to = file.site.ways[0]!.from;
      },
      "site.ways[0].to",
    ],
    [
      "has a way twice, the second time backwards",
      (file) => {
        file.site.ways.push({ from: file.site.ways[0]!.to, to: file.site.ways[0]!.from, walkMin: 1 });
      },
      "site.ways[1]",
    ],
    [
      "has a cable of no length",
      (file) => {
        file.site.ways[0]!.cableM = 0;
      },
      "site.ways[0].cableM",
    ],
    [
      "measures a device that there is not",
      (file) => {
        file.site.meters[0]!.inputs[0]!.of = ["ghost"];
      },
      "site.meters[0].inputs[0].of[0]",
    ],
    [
      "measures the supply itself as a device",
      (file) => {
        file.site.meters[0]!.inputs[0]!.of = ["grid"];
      },
      "site.meters[0].inputs[0].of[0]",
    ],
    [
      "gives an input a role that there is not",
      (file) => {
        file.site.meters[0]!.inputs[0]!.role = "moonlight";
      },
      "site.meters[0].inputs[0].role",
    ],
    [
      "takes a CT half a turn through",
      (file) => {
        file.site.meters[0]!.inputs[0]!.clamp = { turns: 0.5 };
      },
      "site.meters[0].inputs[0].clamp.turns",
    ],
    [
      "gives a meter a class below zero",
      (file) => {
        file.site.meters[0]!.classPct = -1;
      },
      "site.meters[0].classPct",
    ],
    [
      "has a main fuse of nothing",
      (file) => {
        file.site.supply.mainFuseA = 0;
      },
      "site.supply.mainFuseA",
    ],
    [
      "accepts a finding without a reason",
      (file) => {
        file.accepted.push({ finding: "x", reason: " ", at: "2026-11-25T10:00:00Z" });
      },
      "accepted[0].reason",
    ],
    [
      "accepts a finding at no time",
      (file) => {
        file.accepted.push({ finding: "x", reason: "y", at: "yesterday" });
      },
      "accepted[0].at",
    ],
    [
      "packs a number",
      (file) => {
        file.packed.push(7);
      },
      "packed[0]",
    ],
  ])("that %s is refused at its path", (_name, change, path) => {
    expect(wrongAt(change)).toContain(path);
  });
});
