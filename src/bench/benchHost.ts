import { spawn, type ChildProcess } from "node:child_process";
import type { BenchSpec, FromBench, ToBench } from "@/bench/message";
import type { Bench, BenchChange, BenchStatus } from "@/core/bench/benchSchema";

/** Run from its source: the bundle of a route cannot hold a process of its own. */
const MAIN = "src/bench/process/main.ts";
const MOST_BENCHES = 4;
const IDLE_MS = 3_600_000;
const LOOK_EVERY_MS = 60_000;
const START_WITHIN_MS = 30_000;

type Told = (message: FromBench) => void;
/** A message before it has the number that its answer is known by. */
type Asked = Omit<Extract<ToBench, { kind: "change" }>, "ask"> | Omit<Extract<ToBench, { kind: "status" }>, "ask">;

interface Hosted {
  readonly jobId: string;
  readonly child: ChildProcess;
  bench: Bench;
  askedAtMs: number;
}

/** Why there is no bench to be had. */
export type NoBench = { readonly kind: "too-many" } | { readonly kind: "failed"; readonly message: string };

/** The benches of this app, each a process of its own: one a job, at most four, ended when nobody asks for an hour. */
class BenchHost {
  private readonly hosted = new Map<string, Hosted>();
  private readonly waiting = new Map<number, Told>();
  private asks = 0;

  constructor() {
    setInterval(() => this.endIdle(), LOOK_EVERY_MS).unref();
  }

  /** Start a job's bench, in place of the one it had. */
  async start(jobId: string, spec: BenchSpec): Promise<{ readonly kind: "started"; readonly bench: Bench } | NoBench> {
    this.end(jobId);
    if (this.hosted.size >= MOST_BENCHES) return { kind: "too-many" };
    const child = spawn(process.execPath, ["--import", "tsx", MAIN], {
      cwd: process.cwd(),
      stdio: ["ignore", "ignore", "inherit", "ipc"],
    });
    const started = await new Promise<FromBench>((resolve) => {
      const late = setTimeout(
        () => resolve({ kind: "failed", message: "The bench did not start in time." }),
        START_WITHIN_MS,
      );
      const first = (message: FromBench) => {
        clearTimeout(late);
        resolve(message);
      };
      child.once("message", first);
      child.once("exit", () => first({ kind: "failed", message: "The bench ended while it was started." }));
      child.send({ kind: "start", spec } satisfies ToBench);
    });
    if (started.kind !== "started") {
      child.kill();
      return { kind: "failed", message: started.kind === "failed" ? started.message : "The bench did not start." };
    }
    // Another tab may have started one meanwhile: a job has one, and no process is forgotten.
    this.end(jobId);
    const hosted: Hosted = { jobId, child, bench: started.bench, askedAtMs: Date.now() };
    this.hosted.set(jobId, hosted);
    child.on("message", (message: FromBench) => "ask" in message && this.waiting.get(message.ask)?.(message));
    child.once("exit", () => {
      if (this.hosted.get(jobId) === hosted) this.hosted.delete(jobId);
    });
    return { kind: "started", bench: started.bench };
  }

  /** The bench of a job; undefined while there is none, or after its process ended. */
  benchOf(jobId: string): Bench | undefined {
    return this.hosted.get(jobId)?.bench;
  }

  /** Where a bench stands; undefined where it is gone. */
  async status(jobId: string): Promise<BenchStatus | undefined> {
    const answer = await this.ask(jobId, { kind: "status" });
    return answer?.kind === "status" ? answer.status : undefined;
  }

  /** Change a bench; `impossible` where the faults cannot be fitted together, undefined where it is gone. */
  async change(jobId: string, change: BenchChange): Promise<BenchStatus | "impossible" | undefined> {
    const answer = await this.ask(jobId, { kind: "change", change });
    if (answer?.kind === "impossible") return "impossible";
    return answer?.kind === "status" ? answer.status : undefined;
  }

  /** @returns Whether there was one. */
  end(jobId: string): boolean {
    const hosted = this.hosted.get(jobId);
    hosted?.child.kill();
    return this.hosted.delete(jobId);
  }

  private ask(jobId: string, message: Asked): Promise<FromBench | undefined> {
    const hosted = this.hosted.get(jobId);
    if (!hosted) return Promise.resolve(undefined);
    hosted.askedAtMs = Date.now();
    const ask = this.asks++;
    return new Promise((resolve) => {
      const done = (answer: FromBench | undefined) => {
        this.waiting.delete(ask);
        hosted.child.off("exit", gone);
        resolve(answer);
      };
      const gone = () => done(undefined);
      this.waiting.set(ask, done);
      hosted.child.once("exit", gone);
      hosted.child.send({ ...message, ask }, (error) => error && done(undefined));
    });
  }

  private endIdle(): void {
    for (const { jobId, askedAtMs } of this.hosted.values()) if (Date.now() - askedAtMs > IDLE_MS) this.end(jobId);
  }
}

/** Routes are bundled each by itself; the benches are the app's. */
const shared = globalThis as { gormitBenches?: BenchHost };

export function benchHost(): BenchHost {
  return (shared.gormitBenches ??= new BenchHost());
}
