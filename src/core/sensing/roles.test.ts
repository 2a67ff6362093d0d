import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { predict } from "@/core/flows/predict";
import { inputFlows } from "@/core/sensing/inputFlows";
import { resolve } from "@/core/plan/resolve";
import { roleChecks } from "@/core/sensing/roleChecks";
import { roleRuns } from "@/core/sensing/roleRuns";
import { countedDevices, isRight, mismatchText, roleMismatch } from "@/core/sensing/roles";
import type { Site } from "@/core/site/planSchema";
import { siteSchema } from "@/core/site/siteSchema";
import { phasesOf } from "@/core/site/tree";
import { arbitrarySite } from "../../../tests/fixtures/arbitrarySite";
import { meterOn } from "../../../tests/fixtures/sites";

const TEST_W = 1000;

/** A house with solar on the roof and in a garage behind a board of its own, and a battery. */
function garageSite(change: { run?: string; role?: Site["meters"][number]["inputs"][number]["role"] } = {}): Site {
  const meter = meterOn({ id: "m1", run: change.run ?? "board", phases: ["L1"] });
  return siteSchema.parse({
    supply: { system: "single-phase", voltageV: 230, mainFuseA: 63 },
    nodes: [
      { id: "grid", kind: "grid", name: "Supply" },
      { id: "board", kind: "board", name: "Main board", fedFrom: "grid", phases: ["L1"] },
      { id: "house", kind: "load", name: "House", fedFrom: "board", phases: ["L1"], nightW: 230 },
      { id: "roof", kind: "pv-inverter", name: "Roof inverter", fedFrom: "board", phases: ["L1"], ratedW: 3680 },
      { id: "garage", kind: "board", name: "Garage board", fedFrom: "board", phases: ["L1"] },
      {
        id: "garage-pv",
        kind: "pv-inverter",
        name: "Garage inverter",
        fedFrom: "garage",
        phases: ["L1"],
        ratedW: 2300,
      },
      { id: "battery", kind: "battery-inverter", name: "Battery", fedFrom: "garage", phases: ["L1"], ratedW: 2300 },
    ],
    meters: [{ ...meter, inputs: meter.inputs.map((input) => ({ ...input, role: change.role ?? "grid" })) }],
  });
}

describe("roles", () => {
  it("finds the run from the supply right for the grid and every other one wrong", () => {
    const choices = roleRuns(garageSite(), { role: "grid" }, "L1");
    expect(choices[0]).toMatchObject({ isRight: true, runs: [{ id: "board" }] });
    expect(choices.filter((choice) => choice.isRight)).toHaveLength(1);
  });

  it("says what a wrong run would miss and count besides", () => {
    expect(mismatchText(roleMismatch(garageSite(), { role: "generation" }, [{ run: "garage", conductor: "L1" }]))).toBe(
      "would miss the Roof inverter and would also count the Battery",
    );
  });

  it("says what two CTs would count twice", () => {
    const both = [
      { run: "board", conductor: "L1" as const },
      { run: "garage", conductor: "L1" as const },
    ];
    expect(mismatchText(roleMismatch(garageSite(), { role: "grid" }, both))).toBe(
      "would count the Garage inverter and the Battery twice",
    );
  });

  it("offers several runs together where no single one is right", () => {
    const [best] = roleRuns(garageSite(), { role: "generation" }, "L1");
    expect(best).toMatchObject({ isRight: true, runs: [{ id: "roof" }, { id: "garage-pv" }] });
  });

  it("takes named devices only", () => {
    expect(
      isRight(roleMismatch(garageSite(), { role: "generation", of: ["roof"] }, [{ run: "roof", conductor: "L1" }])),
    ).toBe(true);
  });

  it("makes a finding of a grid input behind the first branch, with the circuit to measure instead", () => {
    expect(roleChecks(resolve({ site: garageSite({ run: "garage" }), kits: [], links: [] }))).toMatchObject([
      {
        code: "role",
        severity: "fix",
        cure: "Measure the circuit of Main board",
        detail: expect.stringContaining("would miss the House and the Roof inverter") as string,
      },
    ]);
  });

  it("finds nothing wrong with a right one, and a role without a device empty", () => {
    expect(roleChecks(resolve({ site: garageSite(), kits: [], links: [] }))).toEqual([]);
    expect(
      roleChecks(resolve({ site: garageSite({ role: "vehicle" }), kits: [], links: [] })).map(
        (finding) => finding.code,
      ),
    ).toContain("role-empty");
  });

  it("finds a phase of the grid that no input measures", () => {
    const site = siteSchema.parse({
      ...garageSite(),
      supply: { system: "three-phase", voltageV: 230 },
      nodes: garageSite().nodes.map((node) =>
        node.kind === "grid"
          ? node
          : { ...node, phases: node.id === "board" || node.id === "house" ? ["L1", "L2", "L3"] : ["L1"] },
      ),
    });
    expect(roleChecks(resolve({ site: site, kits: [], links: [] }))).toMatchObject([
      { detail: "Measured here, the grid of Meter m1 would miss the House on L2 and L3.", subject: { input: 1 } },
    ]);
  });

  it("agrees with predict on any site: a device is in the sum as often as its power is in the reading", () => {
    fc.assert(
      fc.property(arbitrarySite({ mostDevices: 7, mostMeters: 2 }), fc.nat(), fc.nat(), (site, which, twice) => {
        const runs = site.nodes.filter((node) => node.kind !== "grid");
        const conductor = phasesOf(runs[which % runs.length]!, site)[0]!;
        const around = [runs[which % runs.length]!, runs[twice % runs.length]!]
          .filter((node, at, all) => phasesOf(node, site).includes(conductor) && all.indexOf(node) === at)
          .map((node) => ({ run: node.id, conductor }));
        const meter = site.meters[0]!;
        const tapped = siteSchema.parse({
          ...site,
          cts: [],
          meters: [
            {
              ...meter,
              taps: { V1: conductor },
              inputs: [{ ...meter.inputs[0]!, measures: around, tap: "V1", positive: "to-load" }],
            },
          ],
        });
        const counts = countedDevices(tapped, around);
        for (const node of runs.filter(({ kind }) => kind !== "board")) {
          const own = phasesOf(node, tapped);
          const state = {
            devices: [
              {
                node: node.id,
                powerW: 0,
                reactiveVar: 0,
                perPhase: Object.fromEntries(own.map((phase) => [phase, { powerW: TEST_W, reactiveVar: 0 }])),
              },
            ],
          };
          const reading = predict(tapped, "planned", state).inputs[0]!.powerW;
          expect(reading).toBeCloseTo(TEST_W * (counts.get(node.id) ?? 0), 6);
        }
      }),
      { numRuns: 60 },
    );
  });
});

describe("inputFlows", () => {
  it("takes the fuse, the generation and the night load of what is below", () => {
    const site = garageSite();
    expect(inputFlows(site, site.meters[0]!.inputs[0]!)).toMatchObject({
      fuseA: 63,
      needA: 63,
      nightA: 1,
      generationA: expect.closeTo(36, 6) as number,
    });
  });

  it("needs what all generation gives where that is more than the fuse, or where no fuse is known", () => {
    const site = garageSite();
    const bare = { ...site, supply: { ...site.supply, mainFuseA: undefined } };
    expect(inputFlows(bare, site.meters[0]!.inputs[0]!).needA).toBeCloseTo(36, 6);
    const small = { ...site, supply: { ...site.supply, mainFuseA: 25 } };
    expect(inputFlows(small, site.meters[0]!.inputs[0]!).needA).toBeCloseTo(36, 6);
  });
});
