import { createHash } from "node:crypto";
import { mkdir, readdir, readFile, stat, writeFile } from "node:fs/promises";
import path from "node:path";
import { projectDir, stateDir } from "./project.mjs";

/**
 * A hash over the contents of files and folders of the project, to tell whether work was done for just these.
 * @param {readonly string[]} names
 */
export async function contentHash(names) {
  const hash = createHash("sha256");
  for (const name of names) await addTo(hash, path.join(projectDir, name));
  return hash.digest("hex");
}

/** @param {string} name @param {string} value */
export async function isStamped(name, value) {
  try {
    return (await readFile(path.join(stateDir, `${name}.stamp`), "utf8")) === value;
  } catch {
    return false;
  }
}

/** @param {string} name @param {string} value */
export async function putStamp(name, value) {
  await mkdir(stateDir, { recursive: true });
  await writeFile(path.join(stateDir, `${name}.stamp`), value);
}

/** @param {import("node:crypto").Hash} hash @param {string} file */
async function addTo(hash, file) {
  const info = await stat(file).catch(() => undefined);
  if (!info) return;
  hash.update(path.relative(projectDir, file));
  if (!info.isDirectory()) {
    hash.update(await readFile(file));
    return;
  }
  for (const entry of (await readdir(file)).sort()) await addTo(hash, path.join(file, entry));
}
