import path from "node:path";
import { fileURLToPath } from "node:url";
import { Stop } from "./say.mjs";

export const projectDir = fileURLToPath(new URL("../../", import.meta.url)).replace(/[\\/]$/, "");

/** Everything that Gormit keeps on this machine: the database cluster, stamps of what was installed and built. */
export const stateDir = path.join(projectDir, ".gormit");

/** Ends with a clear message on a Node.js that is too old. */
export function checkNode() {
  const [major, minor] = process.versions.node.split(".").map(Number);
  if ((major ?? 0) < 20 || (major === 20 && (minor ?? 0) < 19)) {
    throw new Stop(
      `Gormit needs Node.js 20.19 or newer; this is ${process.versions.node}. Install a newer Node.js and start again.`,
    );
  }
}
