import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { planProblems } from "@/core/site/planProblems";
import type { Meter, Site, SiteNode } from "@/core/site/planSchema";
import { arbitrarySite } from "../../../tests/fixtures/arbitrarySite";
import { houseSite } from "../../../tests/fixtures/sites";

const sound: Site = {
  ...houseSite("three-phase", { solarMeter: true }),
  places: [
    { id: "house", name: "House", shelter: "indoors" },
    { id: "barn", name: "Barn", shelter: "unheated" },
  ],
  ways: [{ from: "house", to: "barn", walkMin: 2 }],
};

const withNode = (id: string, change: Partial<SiteNode>): Site => ({
  ...sound,
  nodes: sound.nodes.map((node) => (node.id === id ? { ...node, ...change } : node)),
});
const withMeter = (change: Partial<Meter>): Site => ({
  ...sound,
  meters: sound.meters.map((meter, at) => (at === 0 ? { ...meter, ...change } : meter)),
});
const withInput = (change: Partial<Meter["inputs"][number]>): Site =>
  withMeter({ inputs: sound.meters[0]!.inputs.map((input, at) => (at === 1 ? { ...input, ...change } : input)) });
const withCt = (change: Partial<Site["cts"][number]>): Site => ({
  ...sound,
  cts: sound.cts.map((ct, at) => (at === 2 ? { ...ct, ...change } : ct)),
});
const at = (id: string) => sound.nodes.findIndex((node) => node.id === id);

/** What is done to a sound plan, and where it must then be said to be wrong, in which words. */
const BROKEN: readonly (readonly [string, Site, string, RegExp])[] = [
  ["a second supply", withNode("house", { kind: "grid" }), "nodes", /exactly one node of kind grid; this one has 2/],
  ["no supply at all", withNode("grid", { kind: "load" }), "nodes", /this one has 0/],
  ["a supply that is fed", withNode("grid", { fedFrom: "board" }), `nodes.${at("grid")}.fedFrom`, /fed by nothing/],
  [
    "a supply of a phase that its system lacks",
    { ...withNode("grid", { phases: ["L1", "L3"] }), supply: { ...sound.supply, system: "split-phase" } },
    `nodes.${at("grid")}.phases.1`,
    /split-phase supply has no L3/,
  ],
  ["two nodes of one id", withNode("pv", { id: "house" }), `nodes.${at("pv")}.id`, /"house" is used twice/],
  ["a node that nothing feeds", withNode("pv", { fedFrom: undefined }), `nodes.${at("pv")}.fedFrom`, /what feeds "pv"/],
  ["a feeder that is not there", withNode("pv", { fedFrom: "shed" }), `nodes.${at("pv")}.fedFrom`, /no node "shed"/],
  ["a circle", withNode("board", { fedFrom: "house" }), `nodes.${at("board")}.fedFrom`, /in a circle/],
  ["a node on no phase", withNode("pv", { phases: undefined }), `nodes.${at("pv")}.phases`, /name the phases of "pv"/],
  ["a phase named twice", withNode("pv", { phases: ["L1", "L1"] }), `nodes.${at("pv")}.phases`, /a phase twice/],
  [
    "a phase that the feeder lacks",
    withNode("kettleL1", { fedFrom: "kettleL2" }),
    `nodes.${at("kettleL1")}.phases.0`,
    /"kettleL2", which feeds it, has no L1/,
  ],
  ["two meters of one id", withMeter({ id: "m2" }), "meters.1.id", /"m2" is used twice/],
  [
    "a tap on a phase that the supply lacks",
    { ...withMeter({ taps: { V1: "L1", V2: "L2", V3: "L3" } }), supply: { ...sound.supply, system: "single-phase" } },
    "meters.0.taps.V2",
    /single-phase supply has no L2/,
  ],
  ["a host that is not there", withMeter({ partOf: "shed" }), "meters.0.partOf", /no device "shed"/],
  ["an input of a number that is taken", withInput({ n: 1 }), "meters.0.inputs.1.n", /input 1 stands twice/],
  ["an input on no tap", withInput({ tap: "V9" }), "meters.0.inputs.1.tap", /no voltage tap "V9"/],
  [
    "an input on a circuit that is not there",
    withInput({ measures: [{ run: "shed", conductor: "L1" }] }),
    "meters.0.inputs.1.measures.0.run",
    /no circuit "shed"/,
  ],
  [
    "an input on the supply itself",
    withInput({ measures: [{ run: "grid", conductor: "L1" }] }),
    "meters.0.inputs.1.measures.0.run",
    /the grid itself is no circuit/,
  ],
  [
    "an input on a conductor that the circuit lacks",
    withInput({ measures: [{ run: "kettleL1", conductor: "L2" }] }),
    "meters.0.inputs.1.measures.0.conductor",
    /circuit of "kettleL1" has no L2/,
  ],
  ["an input of a device that is not there", withInput({ of: ["shed"] }), "meters.0.inputs.1.of.0", /no device "shed"/],
  [
    "a CT in a meter that is not there",
    withCt({ plug: { meter: "m9", input: 1 } }),
    "cts.2.plug.meter",
    /no meter "m9"/,
  ],
  ["a CT in an input that is not there", withCt({ plug: { meter: "m1", input: 9 } }), "cts.2.plug.input", /no input 9/],
  ["two CTs in one input", withCt({ plug: { meter: "m1", input: 1 } }), "cts.2.plug", /already holds "ct-m1-1"/],
  [
    "one conductor twice in one window",
    withCt({
      around: [
        { run: "board", conductor: "N" },
        { run: "board", conductor: "N" },
      ],
    }),
    "cts.2.around.1",
    /use turns/,
  ],
  ["two places of one id", { ...sound, places: [...sound.places, sound.places[0]!] }, "places.2.id", /"house" is used/],
  ["a place that is not there", withNode("pv", { place: "attic" }), `nodes.${at("pv")}.place`, /no place "attic"/],
  [
    "a way to where it begins",
    { ...sound, ways: [{ from: "house", to: "house", walkMin: 1 }] },
    "ways.0.to",
    /joins two different places/,
  ],
  [
    "a way that stands twice, the other way round",
    { ...sound, ways: [...sound.ways, { from: "barn", to: "house", walkMin: 2 }] },
    "ways.1",
    /stands twice/,
  ],
];

describe("What does not hang together in a plan", () => {
  it("is nothing in any sound one", () => {
    expect(planProblems(sound)).toEqual([]);
    fc.assert(
      fc.property(arbitrarySite({ mostDevices: 8, mostMeters: 4 }), (site) => {
        expect(planProblems(site)).toEqual([]);
      }),
    );
  });

  it.each(BROKEN)("is told at its place: %s", (_what, site, path, message) => {
    const found = planProblems(site).map((problem) => ({ ...problem, path: problem.path.join(".") }));
    expect(found.filter((problem) => problem.path === path && message.test(problem.message))).toHaveLength(1);
  });

  it("is told once for a feeder that is gone, not again for all that hangs below it", () => {
    const site = { ...sound, nodes: sound.nodes.filter(({ id }) => id !== "board") };
    const below = site.nodes.flatMap(({ id, fedFrom }) => (fedFrom === "board" ? [id] : []));
    const told = planProblems(site).filter(({ message }) => message.includes('no node "board"'));
    expect(told.map(({ path }) => site.nodes[Number(path[1])]?.id)).toEqual(below);
    expect(planProblems(site).some(({ message }) => message.includes("circle"))).toBe(false);
  });

  it("is told of every node of a circle, however it is entered", () => {
    fc.assert(
      fc.property(fc.shuffledSubarray(["house", "pv", "kettleL1"], { minLength: 2 }), (circle) => {
        const phases = ["L1" as const];
        const next = new Map(circle.map((id, which) => [id, circle[(which + 1) % circle.length]!]));
        const nodes = sound.nodes.map((node) =>
          next.has(node.id) ? { ...node, phases, fedFrom: next.get(node.id)! } : node,
        );
        const told = planProblems({ ...sound, nodes }).filter(({ message }) => message.includes("in a circle"));
        expect(told.map(({ path }) => nodes[Number(path[1])]!.id).toSorted()).toEqual(circle.toSorted());
      }),
    );
  });
});
