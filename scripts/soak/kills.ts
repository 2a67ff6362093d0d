import { rmSync } from "node:fs";
import path from "node:path";
import type { ChildProcess } from "node:child_process";
import { startApp } from "../lib/app.mjs";
import { freePort, startCluster } from "../lib/cluster.mjs";
import { migrate } from "../lib/database.mjs";
import { endServer, startServer } from "../lib/killable.mjs";
import { say } from "../lib/say.mjs";
import { demo, note, pause, send } from "./ground";

/** App and database killed in turn while entries and saves go on: everything acknowledged is there afterwards. */
export async function kills(binaries: string, share: number): Promise<void> {
  const cluster = await startCluster(binaries, { name: `soak-kills-${process.pid}` });
  let app: Awaited<ReturnType<typeof startApp>> | undefined;
  let server: ChildProcess | undefined;
  const acknowledged: string[] = [];
  const rounds = Math.max(2, Math.round(200 * share));
  try {
    await migrate(cluster.url);
    await cluster.stop();
    server = await startServer(binaries, cluster);
    const port = await freePort();
    app = await startApp({ port, databaseUrl: cluster.url });
    const { id } = (await (await send(app, "POST", "/jobs/import", demo())).json()) as { id: string };
    let isOver = false;
    const address = app.address;
    const writers = Array.from({ length: 4 }, async (_, number) => {
      while (!isOver) {
        const entry = note(number);
        // Sent until it is acknowledged, as a browser does.
        for (let isKept = false; !isKept && !isOver;) {
          isKept = await send({ address }, "POST", `/jobs/${id}/visit`, { entries: [entry] }, number).then(
            (response) => response.ok,
            () => false,
          );
          if (isKept) acknowledged.push(entry.id);
          else await pause(40);
        }
      }
    });
    for (let round = 0; round < rounds; round++) {
      await pause(150 + Math.random() * 250);
      if (round % 2 === 0) {
        await endServer(server, "SIGKILL");
        server = await startServer(binaries, cluster);
      } else {
        process.kill(app.pid!, "SIGKILL");
        await app.ended;
        app = await startApp({ port, databaseUrl: cluster.url });
      }
    }
    await pause(500);
    isOver = true;
    await Promise.all(writers);
    const { entries } = (await (await fetch(`${address}/api/v1/jobs/${id}/visit`)).json()) as {
      entries: { id: string }[];
    };
    const there = entries.map((entry) => entry.id);
    const lost = acknowledged.filter((known) => !there.includes(known));
    say(
      `kills: ${rounds} of app and database in turn: ${acknowledged.length} entries acknowledged, ${lost.length} ` +
        `lost, ${there.length - new Set(there).size} twice, no hand needed`,
    );
  } finally {
    await app?.stop();
    if (server) await endServer(server, "SIGKILL");
    await cluster.stop();
    rmSync(path.dirname(cluster.data), { recursive: true, force: true });
  }
}
