import { checkNode } from "./lib/project.mjs";
import { ensurePackages } from "./lib/install.mjs";
import { ensureBuilt, startApp } from "./lib/app.mjs";
import { freePort, portIsFree } from "./lib/cluster.mjs";
import { loadDemo, migrate, openDatabase } from "./lib/database.mjs";
import { forgetRunning, takeOverRest, writeRunning } from "./lib/running.mjs";
import { run, say, Stop } from "./lib/say.mjs";
import { supervise } from "./lib/supervise.mjs";
import { warmPages } from "./lib/warm.mjs";

const USUAL_PORT = 3000;

await run(async () => {
  checkNode();
  await takeOverRest();
  // From here on Ctrl-C ends what is being done and then comes to the clean-up below.
  let isStopping = false;
  const stop = stopWanted().then(() => {
    isStopping = true;
  });
  const port = await choosePort();
  await ensurePackages();
  const { url, stop: stopDatabase, cluster } = await openDatabase({ name: "cluster" });
  try {
    await migrate(url);
    await loadDemo(url);
    await ensureBuilt();
    const start = async () => {
      const app = await startApp({ port, databaseUrl: url, dataDir: cluster?.data });
      void warmPages(app.address);
      return app;
    };
    const hold = { app: await start() };
    const noteDown = () => writeRunning({ demo: process.pid, app: hold.app.pid, address: hold.app.address });
    try {
      await noteDown();
      say(`\nGormit is at ${hold.app.address}\nStop it with Ctrl-C; your jobs are kept.`);
      await supervise({ hold, cluster, start, stop, onApp: noteDown });
      say("\nStopping …");
    } finally {
      await hold.app.stop();
    }
  } catch (error) {
    // What Ctrl-C ended half way has not failed.
    if (!isStopping) throw error;
  } finally {
    await stopDatabase();
    await forgetRunning();
  }
  say("Stopped.");
});
// The signal handlers would otherwise keep a finished start alive.
process.exit();

/** @returns {Promise<void>} */
function stopWanted() {
  return new Promise((resolve) => {
    for (const signal of /** @type {const} */ (["SIGINT", "SIGTERM", "SIGHUP"])) process.on(signal, () => resolve());
  });
}

/** PORT when it is set; else the usual one, or a free one when that is taken. @returns {Promise<number>} */
async function choosePort() {
  const given = process.env.PORT;
  if (given !== undefined) {
    const port = Number(given);
    if (!Number.isInteger(port) || port < 1 || port > 65_535)
      throw new Stop(`PORT is "${given}", which is no port number (1 to 65535).`);
    if (!(await portIsFree(port)))
      throw new Stop(
        `Port ${port} is taken by another program. End that one, or choose another: PORT=${port + 1} npm run demo`,
      );
    return port;
  }
  if (await portIsFree(USUAL_PORT)) return USUAL_PORT;
  const other = await freePort();
  say(
    `Port ${USUAL_PORT} is taken by another program, so Gormit uses ${other}. Choose one yourself with ` +
      "PORT=… npm run demo.",
  );
  return other;
}
