import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { seededUniform } from "@/core/random";
import { findCycle, topologicalOrder } from "@/core/visit/schedule/constraintGraph";
import { criticalPath } from "@/core/visit/schedule/criticalPath";
import { sheetSchedule } from "@/core/visit/sheetSchedule";
import { visitSheet } from "@/core/visit/visitSheet";
import { visitState } from "@/core/visit/visitState";
import { schedule, scheduleInSlices } from "@/core/visit/schedule/schedule";
import { scheduleRequestSchema, type Schedule, type ScheduleRequest } from "@/core/visit/schedule/scheduleSchema";
import { jobFromPattern, shippedPatterns } from "../../../../tests/fixtures/shipped";
import { plainShortestMin } from "../../../../tests/reference/plainSchedule";

const CLOSE_MIN = 1e-6;

function request(change: Partial<Omit<ScheduleRequest, "steps">> & { steps: readonly object[] }): ScheduleRequest {
  return scheduleRequestSchema.parse({
    technicians: 1,
    places: [{ id: "a" }, { id: "b" }, { id: "c" }],
    walkMin: { "a|b": 3, "b|c": 2, "a|c": 4 },
    ...change,
  });
}

function scheduled(of: ScheduleRequest): Schedule {
  const outcome = schedule(of);
  if (outcome.kind !== "schedule") throw new Error(`a cycle: ${outcome.steps.join()}`);
  return outcome.schedule;
}

/** Everything that a schedule must keep, as what it breaks. */
function broken(
  of: ScheduleRequest,
  { assignments, makespanMin, lowerBoundMin, findings }: Schedule,
): readonly string[] {
  const step = (id: string) => of.steps.find((candidate) => candidate.id === id)!;
  const at = (id: string) => assignments.find((candidate) => candidate.step === id)!;
  const complete = (id: string) => at(id).startMin + step(id).activeMin + step(id).waitMin;
  const walk = (a: string, b: string) => (a === b ? 0 : (of.walkMin[`${a}|${b}`] ?? of.walkMin[`${b}|${a}`] ?? 0));
  const excused = findings.map(({ id, code }) =>
    code === "window-missed" ? "all" : id.replace("window-impossible:", ""),
  );
  const rows = Array.from({ length: of.technicians }, (_, who) =>
    assignments
      .filter(({ technician, others }) => technician === who || others?.includes(who))
      .toSorted((a, b) => a.startMin - b.startMin || step(a.step).activeMin - step(b.step).activeMin),
  );
  return [
    ...of.steps.flatMap(({ id, needs, earliestMin, window }) => [
      ...needs.filter((need) => complete(need) > at(id).startMin + CLOSE_MIN).map((need) => `${id} before ${need}`),
      ...(at(id).startMin < earliestMin - CLOSE_MIN ? [`${id} too early`] : []),
      ...(window &&
      !excused.includes("all") &&
      !excused.includes(id) &&
      at(id).startMin > complete(window.after) + window.withinMin + CLOSE_MIN
        ? [`${id} misses its window`]
        : []),
    ]),
    ...rows.flatMap((row) =>
      row
        .slice(1)
        .filter(
          (next, which) =>
            row[which]!.startMin +
              step(row[which]!.step).activeMin +
              walk(step(row[which]!.step).place, step(next.step).place) >
            next.startMin + CLOSE_MIN,
        )
        .map(({ step: id }) => `${id} overlaps`),
    ),
    ...assignments
      .filter(({ step: id, others }) => 1 + (others?.length ?? 0) !== step(id).people)
      .map(({ step: id }) => `${id} by too few or too many`),
    ...of.steps.flatMap((a, which) =>
      of.steps
        .slice(which + 1)
        .filter(
          (b) =>
            a.state !== undefined &&
            a.state.of === b.state?.of &&
            a.state.as !== b.state.as &&
            at(a.id).startMin < complete(b.id) - CLOSE_MIN &&
            at(b.id).startMin < complete(a.id) - CLOSE_MIN,
        )
        .map((b) => `${a.id} and ${b.id} in two states at once`),
    ),
    ...(Math.abs(Math.max(0, ...of.steps.map(({ id }) => complete(id))) - makespanMin) > CLOSE_MIN
      ? ["another makespan"]
      : []),
    ...(lowerBoundMin > makespanMin + CLOSE_MIN ? ["bound above the schedule"] : []),
  ];
}

/** Random sheets of some steps; needs point back, so that there is no circle. */
function sheets(most: number, hasWindows: boolean, hasStates = hasWindows): fc.Arbitrary<ScheduleRequest> {
  return fc
    .record({
      technicians: fc.integer({ min: 1, max: 2 }),
      seed: fc.integer({ min: 0, max: 1e6 }),
      count: fc.integer({ min: 1, max: most }),
    })
    .map(({ technicians, seed, count }) => {
      const random = seededUniform(seed);
      const whole = (below: number) => Math.floor(random() * below);
      return request({
        technicians,
        steps: Array.from({ length: count }, (_, at) => ({
          id: `s${at}`,
          place: ["a", "b", "c"][whole(3)]!,
          activeMin: whole(15),
          waitMin: random() < 0.3 ? whole(30) : 0,
          needs: at === 0 ? [] : Array.from({ length: whole(3) }, () => `s${whole(at)}`),
          ...(hasWindows && at > 0 && random() < 0.2
            ? { window: { after: `s${whole(at)}`, withinMin: 1 + whole(8) } }
            : {}),
          ...(hasStates && random() < 0.2 ? { people: technicians } : {}),
          ...(hasStates && random() < 0.4 ? { state: { of: ["site", "air"][whole(2)]!, as: `way ${whole(3)}` } } : {}),
        })),
      });
    });
}

describe("schedule", () => {
  it("walks between two places and says that it is proven", () => {
    expect(
      scheduled(
        request({
          steps: [
            { id: "x", place: "a", activeMin: 10 },
            { id: "y", place: "b", activeMin: 10 },
          ],
        }),
      ),
    ).toMatchObject({ makespanMin: 23, lowerBoundMin: 23, proven: true });
  });

  it("works while something waits", () => {
    const { makespanMin, order } = scheduled(
      request({
        steps: [
          { id: "boot", place: "a", activeMin: 1, waitMin: 20 },
          { id: "other", place: "a", activeMin: 15 },
          { id: "after", place: "a", activeMin: 5, needs: ["boot"] },
        ],
      }),
    );
    expect(makespanMin).toBe(26);
    expect(order[0]).toBe("boot");
  });

  it("parts the work between two, and keeps a pairing window by sending one ahead", () => {
    const pair = (technicians: number) =>
      request({
        technicians,
        walkMin: { "a|b": 6 },
        steps: [
          { id: "open", place: "a", activeMin: 1 },
          { id: "join", place: "b", activeMin: 1, window: { after: "open", withinMin: 2 } },
          { id: "more", place: "b", activeMin: 10 },
        ],
      });
    const two = scheduled(pair(2));
    expect(broken(pair(2), two)).toEqual([]);
    expect(two.findings).toEqual([]);
    expect(scheduled(pair(1)).findings).toMatchObject([{ code: "window-impossible", subject: { step: "join" } }]);
  });

  it("keeps every need, walk, window and technician on any sheet", () => {
    fc.assert(
      fc.property(sheets(24, true), (of) => {
        expect(broken(of, scheduled(of))).toEqual([]);
      }),
      { numRuns: 20 },
    );
  });

  it.each(shippedPatterns().map(({ id }, at) => [id, 1 + (at % 2)] as const))(
    "of %s for %d keeps every state of the site apart and lifts with both hands of both",
    (id, technicians) => {
      const job = jobFromPattern(id);
      const sheet = visitSheet(job);
      const of = sheetSchedule(sheet, visitState(sheet, []), job.site, technicians, [], undefined);
      expect(scheduleRequestSchema.safeParse(of).success).toBe(true);
      expect(broken(of, scheduled(of))).toEqual([]);
    },
  );

  it("never has two prove at once in two states, nor prove while firmware loads", () => {
    const of = request({
      technicians: 2,
      steps: [
        { id: "firmware", place: "a", activeMin: 1, waitMin: 20, state: { of: "site", as: "loading" } },
        { id: "night", place: "a", activeMin: 4, state: { of: "site", as: "night" } },
        { id: "sun", place: "b", activeMin: 4, state: { of: "site", as: "sun" } },
        { id: "on", place: "a", activeMin: 2, state: { of: "site", as: "switching" } },
        { id: "on too", place: "b", activeMin: 2, state: { of: "site", as: "switching" } },
      ],
    });
    const best = scheduled(of);
    expect(broken(of, best)).toEqual([]);
    expect(best).toMatchObject({ makespanMin: 31, lowerBoundMin: 31, proven: true });
  });

  it("proves the best of small sheets, which no constraint less makes longer", () => {
    fc.assert(
      fc.property(sheets(7, false), fc.nat(), (of, which) => {
        const before = scheduled(of);
        const loosened = {
          ...of,
          steps: of.steps.map((step, at) =>
            at === which % of.steps.length ? { ...step, needs: step.needs.slice(1) } : step,
          ),
        };
        const after = scheduled(loosened);
        expect([before.proven, after.proven]).toEqual([true, true]);
        expect(after.makespanMin).toBeLessThanOrEqual(before.makespanMin + CLOSE_MIN);
      }),
      { numRuns: 60 },
    );
  });

  it("keeps windows as short as a plain search of every order does: no longer, no false bound, proof or miss", () => {
    const counts = { optimal: 0, feasible: 0 };
    for (let seed = 1; seed <= 60; seed++) {
      const of = windowed(seed);
      const shortestMin = plainShortestMin(of);
      const result = scheduled(of);
      expect(broken(of, result)).toEqual([]);
      const isMissed = result.findings.some(({ code }) => code.startsWith("window-"));
      expect(isMissed).toBe(shortestMin === undefined);
      if (shortestMin === undefined) continue;
      counts.feasible++;
      if (result.makespanMin < shortestMin + CLOSE_MIN) counts.optimal++;
      expect(result.makespanMin).toBeGreaterThanOrEqual(shortestMin - CLOSE_MIN);
      expect(result.lowerBoundMin).toBeLessThanOrEqual(shortestMin + CLOSE_MIN);
      if (result.proven) expect(result.makespanMin).toBeCloseTo(shortestMin, 6);
    }
    expect(counts.feasible).toBeGreaterThan(30);
    expect(counts.optimal / counts.feasible).toBeGreaterThanOrEqual(0.95);
  });

  it("does other work while an opening waits, and what the follower needs too", () => {
    const of = request({
      steps: [
        { id: "boot", place: "a", activeMin: 2, waitMin: 20 },
        { id: "need", place: "a", activeMin: 6 },
        { id: "other", place: "a", activeMin: 9 },
        { id: "join", place: "a", activeMin: 3, needs: ["need"], window: { after: "boot", withinMin: 1 } },
      ],
    });
    expect(scheduled(of)).toMatchObject({ makespanMin: 25, proven: true, findings: [] });
  });

  it("is within 3 % of a planted optimum on sheets of 60 steps", () => {
    for (const seed of [1, 2, 3, 4, 5]) {
      const { of, optimumMin } = planted(seed);
      const result = scheduled(of);
      expect(broken(of, result)).toEqual([]);
      expect(result.makespanMin).toBeGreaterThanOrEqual(optimumMin - CLOSE_MIN);
      expect(result.makespanMin).toBeLessThanOrEqual(1.03 * optimumMin);
    }
  });

  it("is within 3 % of a planted plan for two technicians without a gap", () => {
    for (const seed of [2, 3, 4]) {
      const { of, plannedMin } = plantedForTwo(seed);
      const result = scheduled(of);
      expect(broken(of, result)).toEqual([]);
      expect(result.makespanMin).toBeLessThanOrEqual(1.03 * plannedMin);
    }
  });

  it("names the steps of a circle", () => {
    expect(
      schedule(
        request({
          steps: [
            { id: "x", place: "a", activeMin: 1, needs: ["y"] },
            { id: "y", place: "a", activeMin: 1, needs: ["x"] },
          ],
        }),
      ),
    ).toMatchObject({ kind: "cycle", steps: ["x", "y"] });
    expect(findCycle([[1], [2], [0]])).toEqual([0, 1, 2]);
    expect(topologicalOrder([[1], []])).toEqual([1, 0]);
  });

  it("gives the same for the same seed, shows its progress, and starts where the technicians are", () => {
    const { of } = planted(4);
    expect(scheduled(of)).toEqual(scheduled(of));
    const work = scheduleInSlices({
      ...of,
      steps: of.steps.map((step, at) => ({ ...step, place: ["a", "b", "c"][at % 3]! })),
    });
    expect(work.next()).toMatchObject({ done: false, value: expect.any(Number) as number });
    const late = request({ steps: [{ id: "x", place: "b", activeMin: 5 }], starts: [{ place: "a", freeMin: 30 }] });
    expect(scheduled(late).assignments[0]!.startMin).toBe(33);
  });

  it("tells the chain that the end hangs on", () => {
    const of = request({
      steps: [
        { id: "boot", place: "a", activeMin: 1, waitMin: 20 },
        { id: "other", place: "a", activeMin: 5 },
        { id: "after", place: "a", activeMin: 5, needs: ["boot"] },
      ],
    });
    expect(criticalPath(of, scheduled(of))).toEqual(["boot", "after"]);
  });

  it.each([
    [{ technicians: 0 }, "technicians"],
    [{ places: [{ id: "a" }, { id: "a" }] }, "places.1.id"],
    [{ walkMin: { "a|z": 1 } }, "walkMin.a|z"],
    [
      { steps: [{ id: "x", place: "q", activeMin: 1, needs: ["x"], window: { after: "nobody", withinMin: 1 } }] },
      "steps.0.place steps.0.needs.0 steps.0.window.after",
    ],
  ])("refuses %j with the path of each problem", (change, paths) => {
    const parsed = scheduleRequestSchema.safeParse({
      technicians: 1,
      places: [{ id: "a" }],
      steps: [{ id: "x", place: "a", activeMin: 1 }],
      ...change,
    });
    expect(parsed.error?.issues.map(({ path }) => path.join(".")).join(" ")).toBe(paths);
  });
});

/**
 * A sheet whose best is known: one technician without a gap, walking the shortest tour once; needs and waits fit that
 * plan.
 */
function planted(seed: number, count = 60): { readonly of: ScheduleRequest; readonly optimumMin: number } {
  const random = seededUniform(seed);
  const places = ["a", "b", "c"];
  const plan = Array.from({ length: count }, (_, at) => ({
    id: `s${at}`,
    place: places[Math.floor((3 * at) / count)]!,
    activeMin: 2 + Math.floor(random() * 9),
  }));
  const starts: number[] = [];
  let now = 0;
  plan.forEach((step, at) => {
    if (at > 0 && plan[at - 1]!.place !== step.place) now += 2.5;
    starts.push(now);
    now += step.activeMin;
  });
  const steps = plan.map((step, at) => {
    const needs = Array.from({ length: at < 3 ? 0 : 2 }, () => Math.floor(random() * (at - 1)));
    return { ...step, waitMin: 0, needs };
  });
  const waits = plan.map((step, at) => {
    const followers = steps.flatMap((other, which) => (other.needs.includes(at) ? [starts[which]!] : []));
    const slack = Math.min(now, ...followers) - (starts[at]! + step.activeMin);
    return random() < 0.4 ? Math.max(0, Math.floor(slack)) : 0;
  });
  const of = scheduleRequestSchema.parse({
    technicians: 1,
    places: places.map((id) => ({ id })),
    walkMin: { "a|b": 2.5, "b|c": 2.5, "a|c": 5 },
    seed,
    steps: steps
      .map((step, at) => ({ ...step, needs: [...new Set(step.needs)].map((need) => `s${need}`), waitMin: waits[at] }))
      .toReversed(),
  });
  return { of, optimumMin: now };
}

/**
 * A sheet with a plan for two: each works through three places, one behind the other, without a gap; needs and waits
 * fit that plan.
 */
function plantedForTwo(seed: number, count = 60): { readonly of: ScheduleRequest; readonly plannedMin: number } {
  const random = seededUniform(seed);
  const rounds = [
    ["a", "b", "c"],
    ["b", "c", "a"],
  ];
  const walkOf = (from: string | undefined, to: string) =>
    from === undefined || from === to ? 0 : `${from}${to}` === "ca" ? 5 : 2.5;
  const lanes = rounds.map((round, lane) => {
    let now = 0;
    return Array.from({ length: count / 2 }, (_, at) => {
      const [place, before] = [at, at - 1].map((which) => round[Math.floor((6 * which) / count)]);
      const startMin = now + walkOf(before, place!);
      const activeMin = 2 + Math.floor(random() * 9);
      now = startMin + activeMin;
      return { id: `t${lane}-${at}`, place: place!, startMin, activeMin };
    });
  });
  const endOf = (lane: (typeof lanes)[number]) => lane.at(-1)!.startMin + lane.at(-1)!.activeMin;
  const plannedMin = Math.max(...lanes.map(endOf));
  for (const lane of lanes) lane.at(-1)!.activeMin += plannedMin - endOf(lane);
  const plan = lanes.flat().toSorted((a, b) => a.startMin - b.startMin);
  const needs = plan.map(({ startMin }) => {
    const before = plan.filter((other) => other.startMin + other.activeMin <= startMin + CLOSE_MIN);
    return before.length < 3 ? [] : [...new Set([0, 1].map(() => before[Math.floor(random() * before.length)]!.id))];
  });
  const waits = plan.map(({ id, startMin, activeMin }) => {
    const next = Math.min(
      plannedMin,
      ...plan.flatMap((other, at) => (needs[at]!.includes(id) ? [other.startMin] : [])),
    );
    return random() < 0.4 ? Math.max(0, Math.floor(next - startMin - activeMin)) : 0;
  });
  const of = scheduleRequestSchema.parse({
    technicians: 2,
    places: ["a", "b", "c"].map((id) => ({ id })),
    walkMin: { "a|b": 2.5, "b|c": 2.5, "a|c": 5 },
    seed,
    steps: plan
      .map(({ id, place, activeMin }, at) => ({ id, place, activeMin, waitMin: waits[at], needs: needs[at] }))
      .toReversed(),
  });
  return { of, plannedMin };
}

/** Few steps with many windows and waits, for one or two. */
function windowed(seed: number): ScheduleRequest {
  const random = seededUniform(seed * 977);
  const whole = (below: number) => Math.floor(random() * below);
  return request({
    technicians: 1 + whole(2),
    steps: Array.from({ length: 3 + whole(4) }, (_, at) => ({
      id: `s${at}`,
      place: ["a", "b", "c"][whole(3)]!,
      activeMin: 1 + whole(12),
      waitMin: random() < 0.4 ? whole(25) : 0,
      needs: at === 0 ? [] : Array.from({ length: whole(2) }, () => `s${whole(at)}`),
      ...(at > 0 && random() < 0.45 ? { window: { after: `s${whole(at)}`, withinMin: whole(8) } } : {}),
    })),
  });
}
