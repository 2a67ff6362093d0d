import { spawn } from "node:child_process";
import { Stop } from "./say.mjs";

/**
 * Run a command to its end with the terminal's output; throws a Stop when it fails.
 * @param {string} command
 * @param {readonly string[]} args
 * @param {import("node:child_process").SpawnOptions & { failure?: string }} [options]
 */
export async function mustRun(command, args, { failure, ...options } = {}) {
  const code = await exitCode(command, args, { stdio: "inherit", ...options });
  if (code !== 0) throw new Stop(failure ?? `"${[command, ...args].join(" ")}" failed (exit ${code}).`);
}

/**
 * @param {string} command
 * @param {readonly string[]} args
 * @param {import("node:child_process").SpawnOptions} [options]
 * @returns {Promise<number>} 127 when there is no such command
 */
export function exitCode(command, args, options = {}) {
  return new Promise((resolve) => {
    const child = spawn(command, args, { stdio: "ignore", ...options });
    child.on("error", () => resolve(127));
    child.on("exit", (code, signal) => resolve(code ?? (signal ? 128 : 1)));
  });
}

/**
 * Run a command and return what it prints.
 * @param {string} command
 * @param {readonly string[]} args
 * @param {import("node:child_process").SpawnOptions} [options]
 * @returns {Promise<{ code: number, output: string }>}
 */
export function captured(command, args, options = {}) {
  return new Promise((resolve) => {
    const child = spawn(command, args, { ...options, stdio: ["ignore", "pipe", "pipe"] });
    let output = "";
    child.stdout?.on("data", (chunk) => {
      output += chunk;
    });
    child.stderr?.on("data", (chunk) => {
      output += chunk;
    });
    child.on("error", (error) => resolve({ code: 127, output: error.message }));
    child.on("close", (code) => resolve({ code: code ?? 1, output }));
  });
}
