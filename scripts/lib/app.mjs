import { spawn } from "node:child_process";
import { access } from "node:fs/promises";
import path from "node:path";
import { mustRun } from "./command.mjs";
import { projectDir } from "./project.mjs";
import { say, Stop } from "./say.mjs";
import { contentHash, isStamped, putStamp } from "./stamp.mjs";

const BUILT_FROM = ["src", "public", "package-lock.json", "next.config.ts", "postcss.config.mjs", "tsconfig.json"];
const NEXT = "node_modules/next/dist/bin/next";
const READY_TIMEOUT_MS = 60_000;
const READY_PAUSE_MS = 100;

/** Build the app unless it was built from just these sources. */
export async function ensureBuilt() {
  const wanted = await contentHash(BUILT_FROM);
  const built = await access(path.join(projectDir, ".next", "BUILD_ID")).then(
    () => true,
    () => false,
  );
  if (built && (await isStamped("build", wanted))) return;
  say("Building the app (up to a minute) …");
  await mustRun(process.execPath, [NEXT, "build"], {
    cwd: projectDir,
    env: { ...process.env, NODE_ENV: "production", NEXT_TELEMETRY_DISABLED: "1" },
    failure: "Building the app failed; the reason stands above.",
  });
  await putStamp("build", wanted);
}

/**
 * Start the built app on loopback and wait until it and its database answer.
 * @param {{ port: number, databaseUrl: string, dataDir?: string | undefined, env?: Record<string, string> }} options
 *   dataDir: the private database's folder, whose disk is watched.
 */
export async function startApp({ port, databaseUrl, dataDir, env = {} }) {
  const child = spawn(process.execPath, [NEXT, "start", "-H", "127.0.0.1", "-p", String(port)], {
    cwd: projectDir,
    stdio: ["ignore", "ignore", "inherit"],
    detached: true,
    env: {
      ...process.env,
      NODE_ENV: "production",
      DATABASE_URL: databaseUrl,
      NEXT_TELEMETRY_DISABLED: "1",
      ...(dataDir ? { GORMIT_DATA_DIR: dataDir } : {}),
      ...env,
    },
  });
  /** @type {Promise<string>} How it ended, in words. */
  const ended = new Promise((resolve) =>
    child.on("exit", (code, signal) => resolve(signal ? `by the signal ${signal}` : `with code ${code}`)),
  );
  const address = `http://127.0.0.1:${port}`;
  await whenReady(`${address}/api/v1/health`, ended);
  return {
    address,
    ended,
    pid: child.pid,
    stop: async () => {
      child.kill("SIGTERM");
      await ended;
    },
  };
}

/** @param {string} url @param {Promise<unknown>} ended */
async function whenReady(url, ended) {
  let gone = false;
  void ended.then(() => {
    gone = true;
  });
  for (const started = Date.now(); Date.now() - started < READY_TIMEOUT_MS;) {
    if (gone) throw new Stop("The app ended while starting; the reason stands above.");
    const answer = await fetch(url).catch(() => undefined);
    if (answer?.ok) return;
    await new Promise((resolve) => setTimeout(resolve, READY_PAUSE_MS));
  }
  throw new Stop(`The app did not answer at ${url} within ${READY_TIMEOUT_MS / 1000} s.`);
}
