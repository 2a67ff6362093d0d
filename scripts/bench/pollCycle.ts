import { RunningBench } from "@/bench/process/runningBench";
import type { BenchSpec } from "@/bench/message";
import { benchOfJob } from "@/core/bench/benchOfJob";
import { benchRequestSchema } from "@/core/bench/benchSchema";
import { isMeasured, registerBlocks } from "@/core/kits/registersOf";
import type { LiveLink } from "@/core/live/liveSchema";
import type { ReadableLine } from "@/core/live/readableLines";
import { cycleMs, pollCosts } from "@/core/links/bus/pollCycle";
import { USUAL_BUS_DEVICE } from "@/core/links/bus/rs485Schema";
import { LinkReader } from "@/reader/linkReader";
import { jobFromPattern } from "../../tests/fixtures/shipped";

const ROUNDS = 3;

type SerialLine = ReadableLine & { readonly serial: NonNullable<ReadableLine["serial"]> };

/** The cycle of a serial line as it is read, over what the plan computes for it: 1 would be exact. */
export async function pollCycles(): Promise<void> {
  for (const [count, dead] of [
    [1, 0],
    [8, 0],
    [32, 0],
    [8, 1],
    [32, 2],
  ] as const) {
    const line = lineOf(count, 9600);
    const [measured] = await cyclesOf([line], dead);
    const computed = computedMs(line, dead);
    say(`9600 Bd, ${count} devices, ${dead} dead`, measured!, computed);
  }
  const fast = lineOf(32, 115_200);
  const [alone] = await cyclesOf([fast], 0);
  say("115200 Bd, 32 devices, 0 dead", alone!, computedMs(fast, 0));
  const four = [0, 1, 2, 3].map((at) => ({ ...lineOf(8, 9600), link: `line-${at}` }));
  const together = await cyclesOf(four, 0);
  say("9600 Bd, four lines of 8 devices at once, the slowest", Math.max(...together), computedMs(four[0]!, 0));
}

function say(what: string, measuredMs: number, computedMs: number): void {
  console.log(
    `poll cycle, ${what}: ${measuredMs.toFixed(0)} ms, computed ${computedMs.toFixed(0)} ms, ` +
      `ratio ${(measuredMs / computedMs).toFixed(3)}`,
  );
}

/**
 * A line of equal meters, each with an address of its own. They have one block: of a device that says nothing the
 * reader asks no second one, which the plan's formula counts.
 */
function lineOf(count: number, baud: number): SerialLine {
  const document = jobFromPattern("three-phase-storage");
  const own = benchOfJob(document).lines.find(({ serial, units }) => serial && units.some(({ meter }) => meter))!;
  const found = own.units.find((unit) => unit.meter)!;
  const meter = { ...found, registers: found.registers.filter(({ table }) => table === "input") };
  return {
    ...own,
    serial: { ...own.serial!, baud },
    units: Array.from({ length: count }, (_, at) => ({ ...meter, unit: at + 1, device: `meter-${at + 1}` })),
  };
}

function computedMs({ serial, units }: SerialLine, dead: number): number {
  const devices = units.map(({ device, turnaroundMs, registers }) => ({
    ...USUAL_BUS_DEVICE,
    id: device,
    role: "server" as const,
    distanceM: 0,
    turnaroundMs,
    poll: registerBlocks(registers.filter(isMeasured)).map((block) => ({ registers: block.count })),
  }));
  return cycleMs(pollCosts({ ...serial, devices }), dead);
}

/** Middle of some rounds of every line, ms, read at once. */
async function cyclesOf(lines: readonly SerialLine[], dead: number): Promise<readonly number[]> {
  const document = jobFromPattern("three-phase-storage");
  const spec: BenchSpec = {
    id: "bench",
    jobRevision: 1,
    site: document.site,
    request: benchRequestSchema.parse({ fitting: "planned" }),
    noise: document.tests.noise,
    limitW: undefined,
    lines,
    kinds: {},
    online: [],
    subnet: undefined,
    limiter: undefined,
    acts: [],
    can: [],
  };
  const bench = await RunningBench.start(spec);
  const faults = Array.from({ length: dead }, (_, at) => ({ kind: "device-dead" as const, device: `meter-${at + 1}` }));
  await bench.change({ faults });
  const cycles = await Promise.all(lines.map((line) => roundsOf(bench, line)));
  await bench.close();
  return cycles;
}

async function roundsOf(bench: RunningBench, line: SerialLine): Promise<number> {
  const { host, port } = bench.bench().lines.find((own) => own.link === line.link && own.protocol === "rtu-over-tcp")!;
  const rounds: number[] = [];
  let told = (_: LiveLink) => {};
  const reader = new LinkReader(line, { kind: "rtu-over-tcp", host, port }, [], (link) => told(link));
  await new Promise<void>((enough) => {
    let last: number | undefined;
    told = ({ cycleMs: now }) => {
      if (now === undefined || now === last) return;
      last = now;
      rounds.push(now);
      if (rounds.length > ROUNDS) enough();
    };
  });
  await reader.stop();
  // The first round opens the line.
  return rounds.slice(1).toSorted((a, b) => a - b)[Math.floor(ROUNDS / 2)]!;
}
