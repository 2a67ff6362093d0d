import { ensureBuilt, startApp } from "./lib/app.mjs";
import { freePort, startCluster } from "./lib/cluster.mjs";
import { migrate } from "./lib/database.mjs";
import { ensurePackages, ensurePostgres } from "./lib/install.mjs";
import { run } from "./lib/say.mjs";
import { warmPages } from "./lib/warm.mjs";
import { demo, send } from "./soak/ground";
import { heavy } from "./soak/heavy";
import { kills } from "./soak/kills";
import { much } from "./soak/much";
import { nonsense } from "./soak/nonsense";
import { people } from "./soak/people";
import { typing } from "./soak/typing";

// Bounded, on loopback: what many people, much data, nonsense and kills do to the app, in figures. `npm run soak` takes
// all parts; `npm run soak -- people` some of them. SOAK_SHARE=0.1 takes a tenth of the time and of the counts.

const PARTS = { people, heavy, much, nonsense, typing };

const share = Number(process.env.SOAK_SHARE ?? 1);
const wanted = process.argv.slice(2);

await run(async () => {
  await ensurePackages();
  const binaries = await ensurePostgres();
  await ensureBuilt();
  const parts = Object.entries(PARTS).filter(([name]) => isWanted(name));
  if (parts.length > 0)
    await onOneGround(
      binaries,
      parts.map(([, part]) => part),
    );
  if (isWanted("kills")) await kills(binaries, share);
});

/** The parts that leave app and database running, one after the other. */
async function onOneGround(binaries: string, parts: readonly (typeof PARTS)[keyof typeof PARTS][]): Promise<void> {
  const cluster = await startCluster(binaries, { name: "soak-cluster", throwAway: true });
  try {
    await migrate(cluster.url);
    const app = await startApp({ port: await freePort(), databaseUrl: cluster.url });
    try {
      // As after a start of the demo, which has jobs.
      await (await send(app, "POST", "/jobs/import", demo())).arrayBuffer();
      await warmPages(app.address);
      for (const part of parts) await part({ app, url: cluster.url, share });
    } finally {
      await app.stop();
    }
  } finally {
    await cluster.stop();
  }
}

function isWanted(part: string): boolean {
  return wanted.length === 0 || wanted.includes(part);
}
