import { RunningBench } from "@/bench/process/runningBench";
import type { FromBench, ToBench } from "@/bench/message";

/** The process of one bench: it ends with the app that started it. */
let bench: RunningBench | undefined;

process.on("disconnect", () => process.exit(0));
process.on("message", (message: ToBench) => void hear(message));
// One line that fails takes no other with it.
process.on("uncaughtException", (error) => process.stderr.write(`bench: ${String(error)}\n`));

async function hear(message: ToBench): Promise<void> {
  switch (message.kind) {
    case "start":
      try {
        bench = await RunningBench.start(message.spec);
        say({ kind: "started", bench: bench.bench() });
      } catch (error) {
        say({ kind: "failed", message: error instanceof Error ? error.message : String(error) });
      }
      return;
    case "change":
      if (!(await bench?.change(message.change)) || !bench) return say({ kind: "impossible", ask: message.ask });
      return say({ kind: "status", ask: message.ask, status: bench.status() });
    case "status":
      if (bench) say({ kind: "status", ask: message.ask, status: bench.status() });
  }
}

function say(message: FromBench): void {
  process.send?.(message);
}
