import { mkdir, readFile, readlink, rm, writeFile } from "node:fs/promises";
import path from "node:path";
import { processIsThere } from "./cluster.mjs";
import { projectDir, stateDir } from "./project.mjs";
import { say, Stop } from "./say.mjs";

const FILE = path.join(stateDir, "demo.json");
const GONE_WITHIN_MS = 10_000;
const LOOK_EVERY_MS = 100;

/**
 * What a demo writes down of itself, so that the next one finds what it left.
 * @typedef {{ demo: number, app: number | undefined, address: string }} Running
 */

/**
 * Take over what a demo left that was killed: its app is ended (the database is used as it is). A demo that still runs
 * is left alone, and said.
 */
export async function takeOverRest() {
  const left = await readRunning();
  if (!left) return;
  if (processIsThere(left.demo) && (await isOurs(left.demo, "demo.mjs"))) {
    throw new Stop(`Gormit runs already, at ${left.address}. Stop that one first (Ctrl-C in its terminal), or use it.`);
  }
  if (left.app && processIsThere(left.app) && (await isOurs(left.app, "next"))) {
    say("A start before was killed and left its app running; it is ended and started anew.");
    process.kill(left.app, "SIGTERM");
    const until = Date.now() + GONE_WITHIN_MS;
    while (processIsThere(left.app) && Date.now() < until)
      await new Promise((resolve) => {
        setTimeout(resolve, LOOK_EVERY_MS);
      });
    if (processIsThere(left.app)) process.kill(left.app, "SIGKILL");
  }
  await forgetRunning();
}

/** @param {Running} running */
export async function writeRunning(running) {
  await mkdir(stateDir, { recursive: true });
  await writeFile(FILE, JSON.stringify(running));
}

export async function forgetRunning() {
  await rm(FILE, { force: true });
}

/** @returns {Promise<Running | undefined>} */
async function readRunning() {
  try {
    return JSON.parse(await readFile(FILE, "utf8"));
  } catch {
    return undefined;
  }
}

/**
 * Whether a process is one of this project: its number may be another program's by now.
 * @param {number} pid @param {string} program
 */
async function isOurs(pid, program) {
  const [command, folder] = await Promise.all([
    readFile(`/proc/${pid}/cmdline`, "utf8").catch(() => ""),
    readlink(`/proc/${pid}/cwd`).catch(() => ""),
  ]);
  return command.includes(program) && folder === projectDir;
}
