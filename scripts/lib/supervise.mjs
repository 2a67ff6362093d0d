import { say, Stop } from "./say.mjs";

const LOOK_EVERY_MS = 1_000;
/** What ends more often than this within the time below does not come back by being started again. */
const MOST_RESTARTS = 4;
const WITHIN_MS = 300_000;
/** A killed server's helpers need a moment to notice that they are alone. */
const TRIES = 6;
const TRY_AGAIN_MS = 1_000;

/**
 * Keep app and private database running until somebody wants to stop: what ends by itself is said, with why, and
 * started again at the same address. What ends again and again ends all of it, with the reason.
 *
 * @param {{ hold: { app: Awaited<ReturnType<typeof import("./app.mjs").startApp>> }, cluster:
 *   import("./cluster.mjs").Cluster | undefined, start: () => ReturnType<typeof import("./app.mjs").startApp>, stop:
 *   Promise<unknown>, onApp?: () => Promise<void> }} options
 * hold: the app that runs by now, for whoever has to end it.
 */
export async function supervise({ hold, cluster, start, stop, onApp }) {
  /** @type {number[]} */
  const restarts = [];
  const mayRestart = (/** @type {string} */ what) => {
    const now = Date.now();
    restarts.push(now);
    if (restarts.filter((at) => now - at < WITHIN_MS).length > MOST_RESTARTS)
      throw new Stop(
        `${what} Started again ${MOST_RESTARTS} times within five minutes, it ended each time; the ` +
          "reason stands above.",
      );
  };
  let isStopping = false;
  void stop.then(() => {
    isStopping = true;
  });
  for (;;) {
    const event = await Promise.race([stop.then(() => "stop"), hold.app.ended.then((how) => `app ${how}`), nextLook()]);
    if (isStopping) return;
    if (cluster && !(await cluster.isRunning())) {
      say(`\nThe database ended by itself. The end of its log:\n${await cluster.lastWords()}`);
      mayRestart("The database ended again.");
      await again(() => cluster.startAgain());
      say("The database runs again; nothing that was saved is lost.");
    }
    if (event.startsWith("app ")) {
      say(`\nThe app ended ${event.slice("app ".length)}.`);
      mayRestart("The app ended again.");
      hold.app = await again(start);
      await onApp?.();
      say(`The app runs again at ${hold.app.address}`);
    }
  }
}

/** @returns {Promise<string>} */
function nextLook() {
  return new Promise((resolve) => {
    setTimeout(() => resolve("look"), LOOK_EVERY_MS).unref();
  });
}

/** @template T @param {() => Promise<T>} work @returns {Promise<T>} */
async function again(work) {
  for (let attempt = 1; ; attempt++) {
    try {
      return await work();
    } catch (error) {
      if (attempt === TRIES) throw error;
      await new Promise((resolve) => {
        setTimeout(resolve, TRY_AGAIN_MS);
      });
    }
  }
}
