import * as fc from "fast-check";
import { describe, expect, it } from "vitest";
import { actKey, actStanding, deviceActs, newlyPaired, type DeviceAct } from "@/core/bench/deviceActs";
import { resolve } from "@/core/plan/resolve";
import { jobFromPattern, shippedPatterns } from "../../../tests/fixtures/shipped";

const pair = (aS: number, bS: number, bHasWindow = true): readonly DeviceAct[] => [
  {
    device: "a",
    name: "A",
    kind: "pairing",
    lastsS: aS,
    partners: [{ device: "b", hasWindow: bHasWindow }],
    meters: [],
  },
  { device: "b", name: "B", kind: "pairing", lastsS: bS, partners: [{ device: "a", hasWindow: true }], meters: [] },
];
const begun = (a?: number, b?: number) =>
  new Map([
    ...(a === undefined ? [] : [["a pairing", a] as const]),
    ...(b === undefined ? [] : [["b pairing", b] as const]),
  ]);
const testOf = (pattern: string) => {
  const document = jobFromPattern(pattern);
  const act = deviceActs(resolve(document)).find(({ kind }) => kind === "built-in-test");
  return act && { site: document.site, act };
};
const tested = shippedPatterns().flatMap(({ id }) => testOf(id) ?? []);

describe("pairing on a bench", () => {
  it("succeeds just where both windows are open at once, whoever is opened first", () => {
    const [from, lasts] = [fc.integer({ min: 0, max: 300 }), fc.integer({ min: 1, max: 200 })];
    fc.assert(
      fc.property(from, lasts, from, lasts, (a, aLasts, b, bLasts) => {
        const acts = pair(aLasts, bLasts);
        const paired = new Set<string>();
        for (let nowS = 0; nowS <= 600; nowS++) {
          const begunS = begun(nowS >= a ? a : undefined, nowS >= b ? b : undefined);
          for (const device of newlyPaired(acts, { nowS, begunS })) paired.add(device);
        }
        expect(paired.has("a")).toBe(Math.max(a, b) < Math.min(a + aLasts, b + bLasts));
        expect(paired.has("b")).toBe(paired.has("a"));
      }),
      { numRuns: 50 },
    );
  });

  it("finds a partner that always listens, and says that nobody answered when its time is over", () => {
    expect(newlyPaired(pair(60, 60, false), { nowS: 5, begunS: begun(0) })).toContain("a");
    const [act] = pair(60, 60);
    const { site } = jobFromPattern("two-ct-add-on");
    const at = (nowS: number, paired: readonly string[] = []) =>
      actStanding(act!, { nowS, begunS: begun(0), paired: new Set(paired) }, site);
    expect(at(20)).toMatchObject({ state: "running", leftS: 40 });
    expect(at(61)).toMatchObject({ state: "bad", says: [expect.stringContaining("Nobody answered")] });
    expect(at(61, ["a"]).state).toBe("good");
    expect(actStanding(act!, { nowS: 5, begunS: new Map(), paired: new Set() }, site).state).toBe("idle");
  });
});

describe("the test that a device makes of its own CTs", () => {
  const ended = { nowS: 10_000, paired: new Set<string>() };
  const standing = ({ site, act }: (typeof tested)[number]) =>
    actStanding(act, { ...ended, begunS: new Map([[actKey(act), 0]]) }, site);

  it("is there in a pattern whose kit has one, and passes where every CT is as planned", () => {
    expect(tested.length).toBeGreaterThan(0);
    for (const own of tested) {
      const { state, says } = standing(own);
      expect([state, says.every((line) => line.endsWith("is right"))]).toEqual(["good", true]);
    }
  });

  it("names the CT that is the wrong way round, and the one that shows nothing", () => {
    for (const { site, act } of tested) {
      const turned = site.cts.map((ct) => ({
        ...ct,
        arrow: ct.arrow === "to-load" ? ("to-grid" as const) : ("to-load" as const),
      }));
      const wrong = standing({ site: { ...site, cts: turned }, act });
      expect(wrong.state).toBe("bad");
      expect(wrong.says.some((line) => line.endsWith("is the wrong way round"))).toBe(true);
      const gone = standing({ site: { ...site, cts: [] }, act });
      expect(gone.says.every((line) => line.endsWith("shows nothing"))).toBe(true);
    }
  });
});
