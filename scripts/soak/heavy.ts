import { say } from "../lib/say.mjs";
import { quantile, send, type Ground } from "./ground";

/** The list of jobs while eight heavy requests run. */
export async function heavy({ app }: Ground): Promise<void> {
  const inverter = (at: number) => ({
    id: `i${at}`,
    ratedW: 5000,
    availableW: 5000,
    phases: ["L1"],
    deadTimeMs: 600_000,
    tauMs: 600_000,
  });
  const limit = {
    system: "single-phase",
    limit: { powerW: 5000 },
    durationS: 3_000,
    stepMs: 20,
    inverters: Array.from({ length: 20 }, (_, at) => inverter(at)),
    meter: { samplePeriodMs: 200, delayMs: 600_000 },
    controller: { kind: "integral", gainPerS: 0.5, setPointW: 4900, periodMs: 600_000 },
  };
  const heavies = Array.from({ length: 8 }, (_, number) =>
    send(app, "POST", "/compute/export-limit", limit, 100 + number).then(
      async (response) => {
        await response.arrayBuffer();
        return response.status;
      },
      () => 0,
    ),
  );
  let isOver = false;
  void Promise.all(heavies).then(() => {
    isOver = true;
  });
  const times: number[] = [];
  while (!isOver && times.length < 400) {
    const began = performance.now();
    await (await fetch(`${app.address}/api/v1/jobs`)).arrayBuffer();
    times.push(performance.now() - began);
  }
  const statuses = await Promise.all(heavies);
  say(
    `heavy: GET /api/v1/jobs while eight export limits run: ${times.length} requests, median ${quantile(times, 0.5)} ` +
      `ms, p99 ${quantile(times, 0.99)} ms; the eight answered ${statuses.join(" ")}`,
  );
}
