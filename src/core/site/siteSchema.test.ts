import { describe, expect, it } from "vitest";
import { pathText } from "@/core/problem";
import { siteSchema } from "@/core/site/siteSchema";
import { houseSite } from "../../../tests/fixtures/sites";

type Raw = Record<string, unknown> & {
  nodes: Record<string, unknown>[];
  meters: Record<string, never>[];
  cts: Record<string, unknown>[];
};

describe("siteSchema", () => {
  it.each(["single-phase", "split-phase", "three-phase"] as const)("accepts a %s house", (system) => {
    expect(siteSchema.safeParse(houseSite(system)).success).toBe(true);
  });

  it.each<[string, (site: Raw) => void, string[]]>([
    ["two grids", (site) => site.nodes.push({ id: "g2", kind: "grid", name: "Second" }), ["nodes"]],
    [
      "an id used twice",
      (site) => site.nodes.push({ id: "pv", kind: "load", name: "Again", fedFrom: "board", phases: ["L1"] }),
      ["nodes[7].id"],
    ],
    [
      "an unknown feeder",
      (site) => {
        site.nodes[2]!.fedFrom = "attic";
      },
      ["nodes[2].fedFrom"],
    ],
    [
      "a missing feeder",
      (site) => {
        delete site.nodes[2]!.fedFrom;
      },
      ["nodes[2].fedFrom"],
    ],
    [
      "a cycle",
      (site) => {
        site.nodes[1]!.fedFrom = "house";
      },
      [
        "nodes[1].fedFrom",
        "nodes[2].fedFrom",
        "nodes[3].fedFrom",
        "nodes[4].fedFrom",
        "nodes[5].fedFrom",
        "nodes[6].fedFrom",
      ],
    ],
    [
      "a phase that the feeder lacks",
      (site) => {
        site.nodes[1]!.phases = ["L1", "L2"];
      },
      [
        "nodes[2].phases[2]",
        "nodes[3].phases[2]",
        "nodes[6].phases[0]",
        "meters[0].inputs[2].measures[0].conductor",
        "cts[2].around[0].conductor",
      ],
    ],
    [
      "a CT on an unknown run",
      (site) => {
        site.cts[0]!.around = [{ run: "shed", conductor: "L1" }];
      },
      ["cts[0].around[0].run"],
    ],
    [
      "a CT on the grid itself",
      (site) => {
        site.cts[0]!.around = [{ run: "grid", conductor: "L1" }];
      },
      ["cts[0].around[0].run"],
    ],
    [
      "two CTs in one input",
      (site) => {
        site.cts[1]!.plug = { meter: "m1", input: 1 };
      },
      ["cts[1].plug"],
    ],
    [
      "a plug into a meter that is not there",
      (site) => {
        site.cts[1]!.plug = { meter: "m9", input: 1 };
      },
      ["cts[1].plug.meter"],
    ],
    [
      "a negative primary",
      (site) => {
        site.cts[1]!.primaryA = -5;
      },
      ["cts[1].primaryA"],
    ],
    [
      "a number that is not finite",
      (site) => {
        site.cts[1]!.primaryA = NaN;
      },
      ["cts[1].primaryA"],
    ],
  ])("refuses %s and says where", (_, spoil, paths) => {
    const site = structuredClone(houseSite("three-phase")) as unknown as Raw;
    spoil(site);
    expect(siteSchema.safeParse(site).error?.issues.map((issue) => pathText(issue.path))).toEqual(paths);
  });

  it("lists every problem at once, not only the first", () => {
    const site = structuredClone(houseSite("three-phase")) as unknown as Raw;
    site.nodes[2]!.fedFrom = "attic";
    site.cts[0]!.around = [{ run: "shed", conductor: "L1" }];
    site.cts[1]!.plug = { meter: "m1", input: 9 };
    expect(siteSchema.safeParse(site).error?.issues).toHaveLength(3);
  });
});
