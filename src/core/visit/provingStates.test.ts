import { describe, expect, it } from "vitest";
import { predict } from "@/core/flows/predict";
import { knownDevices, provingStates } from "@/core/visit/provingStates";
import { maybeBackupSide } from "@/core/visit/rules/boardFeeds";
import { visitContext } from "@/core/visit/visitContext";
import { jobFromPattern, shippedPatterns } from "../../../tests/fixtures/shipped";

const statesOf = (id: string) => {
  const job = jobFromPattern(id);
  return { site: job.site, states: provingStates(job.site, maybeBackupSide(visitContext(job))) };
};

describe("The states in which flows are proved", () => {
  it.each(shippedPatterns().map(({ id }) => id))(
    "of %s are each there once, and none of its devices is unknown",
    (id) => {
      const { site, states } = statesOf(id);
      expect(new Set(states.map((state) => state.id)).size).toBe(states.length);
      const ids = new Set(site.nodes.map((node) => node.id));
      for (const state of states) for (const { node } of state.state.devices) expect(ids.has(node)).toBe(true);
    },
  );

  it.each(shippedPatterns().map(({ id }) => id))("of %s draw nothing from a grid that is off", (id) => {
    const { site, states } = statesOf(id);
    for (const state of states.filter(({ isIsland }) => isIsland)) {
      const { runs } = predict(site, "planned", state.state);
      const supply = site.nodes.filter(({ fedFrom }) => fedFrom === "grid").map((node) => node.id);
      for (const { run, powerW } of runs.filter((own) => supply.includes(own.run)))
        expect({ run, powerW: Math.abs(powerW) }).toEqual({ run, powerW: expect.closeTo(0, 0) as number });
    }
  });

  it("switch loads while nothing feeds in, then sources, then the grid off, the generator, and the grid back", () => {
    const ids = statesOf("split-phase-backup").states.map(({ id }) => id.split(":")[0]);
    expect(ids).toEqual(["night", "on", "on", "sun", "charging", "discharging", "grid-off", "running", "grid-back"]);
  });

  it("are known to the proof with what is on at its power and every other source at none", () => {
    const { site, states } = statesOf("diverter-and-hub");
    const heater = states.find(({ id }) => id === "on:heater")!;
    const known = knownDevices(site, heater);
    expect(known.find(({ node }) => node === "heater")).toMatchObject({ powerW: 3000, toleranceW: 150 });
    expect(known.filter(({ powerW }) => powerW !== 0)).toHaveLength(1);
    expect(known.map(({ node }) => node)).toEqual(expect.arrayContaining(["solar", "battery"]));
  });
});
