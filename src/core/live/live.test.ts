import { describe, expect, it } from "vitest";
import { besideDisplay } from "@/core/live/besideDisplay";
import type { LiveLink } from "@/core/live/liveSchema";
import { liveRecording, recordingGaps } from "@/core/live/liveRecording";
import { mqttValue, topicFor } from "@/core/live/mqttValue";
import { jobDocumentSchema } from "@/core/job/jobDocument";
import { readBackFindings } from "@/core/live/readBackFindings";
import { plainText } from "@/core/sentence";
import { readBack } from "@/core/live/readBack";
import { roundOfSamples } from "@/core/live/roundOfSamples";
import { takenStep } from "@/core/live/takenStep";
import { isOnBench } from "@/core/bench/isOnBench";
import { readableLines } from "@/core/live/readableLines";
import { switchings } from "@/core/live/switchings";
import { hasChanged, takeReading, type TimedPower } from "@/core/live/takeReading";
import { targetProblem } from "@/core/live/target";
import { resolve } from "@/core/plan/resolve";
import { seededNormal } from "@/core/random";
import { jobFromPattern, shippedPatterns } from "../../../tests/fixtures/shipped";

const NOISE = { absoluteW: 8, relative: 0.01 };

function drawn(count: number, powerAt: (at: number) => number, seed = 1): readonly TimedPower[] {
  const normal = seededNormal(seed);
  return Array.from({ length: count }, (_, at) => {
    const powerW = powerAt(at);
    return { powerW: powerW + normal() * Math.hypot(NOISE.absoluteW, NOISE.relative * powerW), atMs: at * 250 };
  });
}

const taken = (readings: readonly TimedPower[]) => takeReading(readings, { nowMs: 5000, windowS: 4, noise: NOISE });

describe("a reading that is taken from live values", () => {
  it("is the mean of those that stand still, with count, spread and age", () => {
    const readings = [2400, 2410, 2395, 2405].map((powerW, at) => ({ powerW, atMs: 2000 + at * 1000 }));
    expect(taken(readings)).toMatchObject({ kind: "steady", powerW: 2402.5, count: 4, ageS: 0 });
  });

  it("is refused hardly ever while only noise moves it, and nearly always in a ramp or a step", () => {
    const refused = (powerAt: (at: number) => number) =>
      Array.from({ length: 300 }, (_, seed) => taken(drawn(20, powerAt, seed + 1)).kind).filter(
        (kind) => kind === "moving",
      ).length;
    expect(refused(() => 1500)).toBeLessThanOrEqual(6);
    expect(refused((at) => 1000 + at * 40)).toBeGreaterThanOrEqual(295);
    expect(refused((at) => (at < 12 ? 300 : 2300))).toBe(300);
  });

  it("is not there where too little was read in time", () => {
    expect(taken([{ powerW: 1, atMs: 100 }])).toEqual({ kind: "too-few", count: 0 });
  });

  it("knows a switching from noise", () => {
    expect(hasChanged(310, 2290, 2000, NOISE)).toBe(true);
    expect(hasChanged(310, 340, 2000, NOISE)).toBe(false);
  });
});

describe("a step that is taken from live values", () => {
  it("has the readings, what a device says of its own power, and says where it was read from a bench", () => {
    const document = jobFromPattern("three-phase-storage");
    const meter = document.site.meters[0]!;
    const inverter = document.site.nodes.find(({ kind }) => kind === "hybrid-inverter")!;
    const known = (node: string, powerW: number) => ({ node, powerW, reactiveVar: 0, toleranceW: 50 });
    const step = { label: "Sun", devices: [known(inverter.id, -3000)], readings: [], source: "seen" as const };
    const sheet = { ...document.tests, steps: [step] };
    const round = {
      kind: "taken" as const,
      readings: [{ meter: meter.id, input: meter.inputs[0]!.n, powerW: 812 }],
      own: new Map([[inverter.id, 3170]]),
      spreadW: 4,
      count: 12,
    };
    const at = "2026-11-29T08:00:00.000Z";
    const of = { sheet, site: document.site, kits: document.kits };
    expect(takenStep(of, 0, round, at, "simulated").steps[0]).toMatchObject({
      source: "simulated",
      devices: [{ node: inverter.id, powerW: -3170 }],
      readings: [{ powerW: 812, readAt: at }],
    });
    expect(takenStep(of, 0, round, at, "seen").steps[0]!.source).toBe("seen");
    expect(takenStep(of, 5, round, at, "seen")).toBe(sheet);
  });

  it("waits until every input stands still, and says which one does not", () => {
    const { site } = jobFromPattern("three-phase-storage");
    const [meter] = site.meters;
    const [first, second] = meter!.inputs;
    const of = (input: number, readings: readonly TimedPower[]) =>
      readings.map((own) => ({ ...own, device: meter!.id, meter: meter!.id, input }));
    const at = { sinceMs: 0, nowMs: 5000, windowS: 4, noise: NOISE };
    const tag = (_: string, input: number) => `A${input}`;
    const still = of(
      first!.n,
      drawn(20, () => 1500),
    );
    const moving = of(
      second!.n,
      drawn(20, (step) => 1000 + 60 * step),
    );
    expect(roundOfSamples(site, [...still, ...moving], at, tag)).toMatchObject({
      kind: "not-yet",
      why: expect.stringMatching(/^A2 moves by/) as string,
    });
    expect(roundOfSamples(site, still, at, tag)).toMatchObject({ kind: "taken", readings: [{ input: first!.n }] });
    expect(roundOfSamples(site, [], at, tag)).toMatchObject({ why: "waiting for the first reading" });
  });
});

describe("a link on a bench", () => {
  it("is known by its host and port, and nothing else is", () => {
    const bench = { lines: [], mqtt: { host: "127.0.0.1", port: 47_010, topics: [] } };
    expect(isOnBench({ kind: "mqtt", host: "127.0.0.1", port: 47_010, topic: "{of}" }, bench)).toBe(true);
    expect(isOnBench({ kind: "modbus-tcp", host: "127.0.0.1", port: 47_011 }, bench)).toBe(false);
    expect(isOnBench({ kind: "serial", path: "/dev/ttyUSB0" }, bench)).toBe(false);
    expect(isOnBench({ kind: "modbus-tcp", host: "127.0.0.1", port: 47_010 }, undefined)).toBe(false);
  });
});

describe("what is switched between two steps", () => {
  it("is every device whose power is another, summed over its phases", () => {
    const known = (node: string, powerW: number) => ({ node, powerW, reactiveVar: 0, toleranceW: 0 });
    const before = [known("kettle", 2000), known("roof", -3000)];
    const after = [known("roof", -3000), { ...known("heater", 0), perPhase: { L1: { powerW: 900, reactiveVar: 0 } } }];
    expect(switchings(before, after)).toEqual([
      { node: "kettle", fromW: 2000, toW: 0 },
      { node: "heater", fromW: 0, toW: 900 },
    ]);
  });
});

describe("what is read back", () => {
  const document = jobFromPattern("three-phase-storage");
  const meter = document.site.meters.find(({ partOf }) => !partOf)!;
  const value = (of: "ratio" | "direction" | "address" | "serial", own: number, input?: number) => ({
    of,
    ...(input === undefined ? {} : { input }),
    what: of,
    value: own,
    unit: of === "ratio" ? "A" : "number",
    atMs: 0,
  });

  it("differs where the device says another primary, direction, address or serial number", () => {
    const input = meter.inputs[0]!;
    const address = document.links.flatMap(({ members }) => members).find(({ item }) => item === meter.id)!.address!;
    const told = (values: ReturnType<typeof value>[]) =>
      readBack(document, meter.id, values, "GKX1234567").map(({ isDifferent }) => isDifferent);
    const right = [
      value("ratio", input.primaryA, 1),
      value("direction", input.invert ? 1 : 0, 1),
      value("address", address),
      value("serial", 1_234_567),
    ];
    expect(told(right)).toEqual([false, false, false, false]);
    expect(told(right.map((own) => ({ ...own, value: own.value + 1 })))).toEqual([true, true, true, true]);
  });

  it("is a finding while the plan and the device differ, and none once they are alike or the device is gone", () => {
    const input = meter.inputs[0]!;
    const said = (own: number) => ({
      ...document,
      readBacks: [
        { id: meter.id, at: "2026-11-29T08:00:00.000Z", values: [{ ...value("ratio", own, 1), what: "Primary" }] },
        { id: "gone", at: "2026-11-29T08:00:00.000Z", values: [{ ...value("ratio", own, 1), what: "Primary" }] },
      ],
    });
    expect(readBackFindings(said(input.primaryA))).toEqual([]);
    const [finding, ...others] = readBackFindings(said(77));
    expect(others).toEqual([]);
    expect(finding).toMatchObject({ id: `read-back:${meter.id}:ratio/1`, severity: "fix", stage: "wire" });
    expect(plainText(finding!.detail)).toContain(`is 77 A, planned is ${input.primaryA} A`);
    expect(jobDocumentSchema.safeParse(said(77)).success).toBe(true);
  });

  it("has a cure where the device takes another value, and none for its address or its serial number", () => {
    const told = readBack(
      document,
      meter.id,
      [value("ratio", 7, 1), value("address", 99), value("serial", 5)],
      "GKX1234567",
    );
    expect(told.map(({ cure }) => cure)).toEqual([
      { of: "ratio", input: 1, value: meter.inputs[0]!.primaryA },
      undefined,
      undefined,
    ]);
  });

  it("says nothing of what nobody planned or typed", () => {
    expect(readBack(document, meter.id, [value("serial", 5)], undefined)[0]).toMatchObject({
      planned: undefined,
      isDifferent: false,
    });
  });
});

describe("a recording of live values", () => {
  it("is the export of every whole round, by the input's own sign", () => {
    const document = jobFromPattern("three-phase-storage");
    const meter = document.site.meters.find(({ inputs }) => inputs.length === 3)!;
    const samples = [0, 1, 2].flatMap((round) =>
      meter.inputs.map(({ n, positive }) => ({
        input: n,
        powerW: positive === "to-load" ? -500 : 500,
        atMs: 1000 + round * 500 + n,
      })),
    );
    const recording = liveRecording(meter, samples.toSpliced(4, 1), 1000);
    expect(recording.exportW).toEqual([1500, 1500]);
    expect(recording.phaseW?.L2).toEqual([500, 500]);
  });

  it("shows where nothing came for more than three rounds", () => {
    expect(recordingGaps([0, 1, 2, 9, 10])).toEqual([[2, 9]]);
    expect(recordingGaps([0, 1, 2, 3])).toEqual([]);
  });
});

describe("an MQTT message", () => {
  it.each([
    ["2470", 2470],
    ['{"value": 2.47, "unit": "kW"}', 2470],
    ['{"value": -12}', -12],
    ['{"value": 3, "unit": "V"}', undefined],
    ['{"value": "3"}', undefined],
    ["on", undefined],
    ["null", undefined],
    ['{"value": 1, "unit": "toString"}', undefined],
  ])("%s is %s W", (payload, watts) => {
    expect(mqttValue(payload, "W")).toBe(watts);
  });

  it("comes under a topic of the form that was given", () => {
    expect(topicFor("site/{device}/{of}/{input}", "meter", { of: "power" })).toBe("site/meter/power");
    expect(topicFor("{of}", "meter", { of: "voltage", input: 1 })).toBe("voltage");
  });
});

describe("where Gormit reads", () => {
  const plan = resolve(jobFromPattern("three-phase-storage"));
  it.each([
    ["127.0.0.1", true],
    ["::1", true],
    ["192.168.7.99", false],
    ["8.8.8.8", false],
    ["192.168.7.300", false],
    ["fe80::1", false],
  ])("at %s: %s", (address, isAllowed) => {
    expect(targetProblem(address, plan) === undefined).toBe(isAllowed);
  });

  it("at addresses that a link of the job names", () => {
    const [link] = plan.links;
    const named = { ...plan, links: [{ ...link!, members: [{ ...link!.members[0]!, ipv4: "192.168.7.99" }] }] };
    expect(targetProblem("192.168.7.99", named)).toBeUndefined();
  });

  it.each(shippedPatterns().map(({ id }) => id))(
    "every input of %s stands on one line, under an address of its own",
    (id) => {
      const document = jobFromPattern(id);
      const lines = readableLines(resolve(document));
      const meters = lines.flatMap(({ units }) => units.flatMap(({ meter }) => meter ?? []));
      expect(meters.toSorted()).toEqual(document.site.meters.map((meter) => meter.id).toSorted());
      for (const { units } of lines) expect(new Set(units.map(({ unit }) => unit)).size).toBe(units.length);
    },
  );
});

describe("a display and its bus, side by side", () => {
  const at = { meter: "m1", input: 2 };
  const noise = { absoluteW: 8, relative: 0.01 };
  const link = (value: number, state: "connected" | "lost" = "connected"): LiveLink => ({
    link: "bus",
    way: { kind: "modbus-tcp", host: "127.0.0.1", port: 40_211 },
    state,
    devices: [
      {
        device: "meter",
        name: "Grid meter",
        unit: 21,
        meter: "m1",
        state: "answers",
        asked: 9,
        missed: 0,
        values: [{ of: "power", input: 2, what: "Power", value, unit: "W", atMs: Date.parse("2026-05-04T10:00:30Z") }],
      },
    ],
  });
  const typed = (powerW: number, readAt = "2026-05-04T10:00:00Z") => ({ powerW, readAt });

  it("shows the bus beside a step that is being read, and how far they differ", () => {
    expect(besideDisplay([link(1010)], at, undefined, noise, true)).toEqual({ busW: 1010 });
    expect(besideDisplay([link(1010)], at, typed(1020), noise, false)).toEqual({ busW: 1010 });
    expect(besideDisplay([link(1010)], at, typed(1200), noise, false)).toEqual({ busW: 1010, differsW: 190 });
    expect(besideDisplay([link(-1010)], at, typed(1010), noise, false)?.differsW).toBe(2020);
  });

  it("shows nothing beside a step of another moment, another input, or a line that is lost", () => {
    expect(besideDisplay([link(1010)], at, undefined, noise, false)).toBeUndefined();
    expect(besideDisplay([link(1010)], at, typed(1020, "2026-05-04T09:40:00Z"), noise, true)).toBeUndefined();
    expect(besideDisplay([link(1010)], { ...at, input: 1 }, undefined, noise, true)).toBeUndefined();
    expect(besideDisplay([link(1010, "lost")], at, undefined, noise, true)).toBeUndefined();
  });
});
