import { spawn } from "node:child_process";
import { once } from "node:events";
import { statSync } from "node:fs";
import path from "node:path";

const TRY_AGAIN_MS = 200;

/**
 * The server of a cluster that was made and stopped, as a child of whoever calls, so that its end is seen here; once it
 * takes connections. Tried again while helpers of one that was killed are still there.
 * @param {string} binaries @param {{ data: string, url: string }} cluster
 * @returns {Promise<import("node:child_process").ChildProcess>}
 */
export async function startServer(binaries, { data, url }) {
  const { uid, gid } = statSync(data);
  const settings = ["listen_addresses=127.0.0.1", `port=${new URL(url).port}`, "unix_socket_directories="];
  const options = settings.flatMap((setting) => ["-c", setting]);
  for (;;) {
    const server = spawn(path.join(binaries, "postgres"), ["-D", data, ...options], {
      cwd: "/",
      stdio: ["ignore", "ignore", "pipe"],
      ...(process.getuid?.() === 0 ? { uid, gid } : {}),
    });
    let said = "";
    for await (const part of server.stderr) {
      said += String(part);
      if (!said.includes("ready to accept connections")) continue;
      server.stderr.resume();
      return server;
    }
    await new Promise((resolve) => {
      setTimeout(resolve, TRY_AGAIN_MS);
    });
  }
}

/**
 * End a server that was started so. @param {import("node:child_process").ChildProcess} server @param {NodeJS.Signals}
 * signal
 */
export async function endServer(server, signal) {
  if (server.exitCode !== null || server.signalCode !== null) return;
  const exit = once(server, "exit");
  server.kill(signal);
  await exit;
}
