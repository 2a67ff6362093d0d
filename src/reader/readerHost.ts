import { lookup } from "node:dns/promises";
import { adapters } from "@/reader/adapters";
import { LinkReader, type SettingName, type WriteOutcome } from "@/reader/linkReader";
import { listenTo } from "@/reader/listenTo";
import { MqttReader } from "@/reader/mqttReader";
import type { Kit } from "@/core/kits/kitSchema";
import type { LiveLink, LiveSample, LiveValue, LiveWay } from "@/core/live/liveSchema";
import { readableLines } from "@/core/live/readableLines";
import { targetProblem } from "@/core/live/target";
import type { ResolvedPlan } from "@/core/plan/resolvedPlan";

const IDLE_MS = 600_000;
/** Of all jobs: each is a connection and a round of questions without end. */
const MOST_LINKS = 60;
const LOOK_EVERY_MS = 30_000;

type Reader = LinkReader | MqttReader;
type Watcher = (link: LiveLink | { readonly gone: string }) => void;

interface JobLive {
  readonly readers: Map<string, Reader>;
  readonly watchers: Set<Watcher>;
  askedAtMs: number;
}

/** Why a link is not read. */
export type ConnectProblem = { readonly path: readonly string[]; readonly message: string };

/** What is read of all jobs: one connection a link, however many pages look; ended when nobody looked for a while. */
class ReaderHost {
  private readonly jobs = new Map<string, JobLive>();

  constructor() {
    setInterval(() => this.endIdle(), LOOK_EVERY_MS).unref();
  }

  /** Read a link of a job, in place of how it was read before. */
  async connect(
    jobId: string,
    plan: ResolvedPlan,
    kits: readonly Kit[],
    { link, way }: { readonly link: string; readonly way: LiveWay },
  ): Promise<LiveLink | ConnectProblem> {
    const line = readableLines(plan).find((own) => own.link === link);
    if (!line) return { path: ["link"], message: "no device of this link has a register list" };
    const to = way.kind === "serial" ? await plugged(way) : await resolved(way, plan);
    if ("message" in to) return to;
    const live = this.liveOf(jobId);
    const count = [...this.jobs.values()].reduce((sum, { readers }) => sum + readers.size, 0);
    if (count >= MOST_LINKS && !live.readers.has(link))
      return { path: ["link"], message: `${MOST_LINKS} links are read already: disconnect one of them first` };
    // While one stops another tab may put its own there: none is forgotten.
    for (let old = live.readers.get(link); old; old = live.readers.get(link)) {
      live.readers.delete(link);
      await old.stop();
    }
    const changed = (state: LiveLink) => live.watchers.forEach((watch) => watch(state));
    const speeds = kits.flatMap(({ serial }) => (serial ? [serial] : []));
    const reader = to.kind === "mqtt" ? new MqttReader(line, to, changed) : new LinkReader(line, to, speeds, changed);
    live.readers.set(link, reader);
    return reader.state;
  }

  /** @returns Whether it was read. */
  async disconnect(jobId: string, link: string): Promise<boolean> {
    const live = this.jobs.get(jobId);
    const reader = live?.readers.get(link);
    if (!live || !reader) return false;
    live.readers.delete(link);
    await reader.stop();
    live.watchers.forEach((watch) => watch({ gone: link }));
    return true;
  }

  links(jobId: string): readonly LiveLink[] {
    const live = this.jobs.get(jobId);
    if (live) live.askedAtMs = Date.now();
    return [...(live?.readers.values() ?? [])].map(({ state }) => state);
  }

  /** Be told of every change; the answer takes the watcher away. */
  watch(jobId: string, watcher: Watcher): () => void {
    const live = this.liveOf(jobId);
    live.watchers.add(watcher);
    return () => {
      live.watchers.delete(watcher);
      live.askedAtMs = Date.now();
    };
  }

  /** The powers of a link since a moment; undefined where it is not read. */
  samples(jobId: string, link: string, sinceMs: number): readonly LiveSample[] | undefined {
    return this.jobs
      .get(jobId)
      ?.readers.get(link)
      ?.samples.filter(({ atMs }) => atMs >= sinceMs);
  }

  /** Write one armed setting of a device, and read it back. */
  async write(
    jobId: string,
    link: string,
    { device, of, input, value }: { readonly device: string; readonly value: number } & SettingName,
  ): Promise<WriteOutcome> {
    const reader = this.jobs.get(jobId)?.readers.get(link);
    if (!(reader instanceof LinkReader)) return { kind: "refused", message: "This link is not read by Modbus." };
    return reader.write(device, { of, input }, value);
  }

  /** The bytes of a line for some seconds; a problem where it is not reached. */
  async listen(
    plan: ResolvedPlan,
    link: string,
    { way, seconds }: { readonly way: Extract<LiveWay, { kind: "serial" | "rtu-over-tcp" }>; readonly seconds: number },
  ): Promise<string | ConnectProblem> {
    const line = readableLines(plan).find((own) => own.link === link);
    const to = way.kind === "serial" ? await plugged(way) : await resolved(way, plan);
    if ("message" in to) return to;
    try {
      return await listenTo(to, line?.serial, seconds);
    } catch (error) {
      return { path: ["way"], message: `not connected: ${error instanceof Error ? error.message : "unknown reason"}` };
    }
  }

  /** Search the settings of a link; `false` where it is not read, or not by Modbus. */
  find(jobId: string, link: string): boolean {
    const reader = this.jobs.get(jobId)?.readers.get(link);
    if (!(reader instanceof LinkReader)) return false;
    reader.find();
    return true;
  }

  /** How a device is set; undefined where its link is not read by Modbus, or it says nothing. */
  async settings(jobId: string, device: string): Promise<readonly LiveValue[] | undefined> {
    for (const reader of this.jobs.get(jobId)?.readers.values() ?? []) {
      if (!(reader instanceof LinkReader) || !reader.state.devices.some((own) => own.device === device)) continue;
      const answer = await reader.settings(device);
      return answer.kind === "values" ? answer.values : undefined;
    }
    return undefined;
  }

  private liveOf(jobId: string): JobLive {
    const live = this.jobs.get(jobId) ?? { readers: new Map(), watchers: new Set(), askedAtMs: Date.now() };
    this.jobs.set(jobId, live);
    return live;
  }

  private endIdle(): void {
    for (const [jobId, { readers, watchers, askedAtMs }] of this.jobs) {
      if (watchers.size > 0 || Date.now() - askedAtMs < IDLE_MS) continue;
      this.jobs.delete(jobId);
      for (const reader of readers.values()) void reader.stop();
    }
  }
}

/** An adapter of those that the system names, and no other file. */
async function plugged<W extends Extract<LiveWay, { kind: "serial" }>>(way: W): Promise<W | ConnectProblem> {
  const there = (await adapters()).some(({ path }) => path === way.path);
  return there ? way : { path: ["way", "path"], message: `the system names no adapter ${way.path}` };
}

/** The way with the address that its name stands for, when all that it stands for may be asked. */
async function resolved<W extends Exclude<LiveWay, { kind: "serial" }>>(
  way: W,
  plan: ResolvedPlan,
): Promise<W | ConnectProblem> {
  const path = ["way", "host"];
  const found = await lookup(way.host, { all: true }).catch(() => []);
  if (found.length === 0) return { path, message: `nobody knows the name ${way.host}` };
  for (const { address } of found) {
    const problem = targetProblem(address, plan);
    if (problem) return { path, message: problem };
  }
  return { ...way, host: found[0]!.address };
}

/** Routes are bundled each by itself; what is read is the app's. */
const shared = globalThis as { gormitReaders?: ReaderHost };

export function readerHost(): ReaderHost {
  return (shared.gormitReaders ??= new ReaderHost());
}
