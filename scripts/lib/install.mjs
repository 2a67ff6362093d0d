import { access } from "node:fs/promises";
import { mkdir, readdir, writeFile } from "node:fs/promises";
import path from "node:path";
import { captured, exitCode, mustRun } from "./command.mjs";
import { projectDir } from "./project.mjs";
import { say, Stop } from "./say.mjs";
import { contentHash, isStamped, putStamp } from "./stamp.mjs";

/** PostgreSQL below this lacks what the migrations use (gen_random_uuid built in). */
const LEAST_POSTGRES = 13;
const DEBIAN_BINARIES = "/usr/lib/postgresql";
const CHROMIUM_PLACES = ["/usr/bin/chromium", "/usr/bin/chromium-browser"];

/** Install the npm packages when they are not there or not those of the lock file. */
export async function ensurePackages() {
  const wanted = await contentHash(["package-lock.json"]);
  const there = await access(path.join(projectDir, "node_modules", "next", "package.json")).then(
    () => true,
    () => false,
  );
  if (there && (await isStamped("packages", wanted))) return;
  say("Installing npm packages (a minute or two) …");
  await mustRun("npm", ["ci", "--no-audit", "--no-fund", "--loglevel=error"], {
    cwd: projectDir,
    failure: "Installing the npm packages failed. Check that the npm registry can be reached, then start again.",
  });
  await putStamp("packages", wanted);
}

/**
 * The folder of PostgreSQL's server programs, installed from Debian when missing.
 * @returns {Promise<string>}
 */
export async function ensurePostgres() {
  const found = await postgresBinaries();
  if (found) return found;
  // Else Debian would make and start a cluster of its own on the usual port.
  if (process.getuid?.() === 0) {
    await mkdir("/etc/postgresql-common", { recursive: true });
    await writeFile("/etc/postgresql-common/createcluster.conf", "create_main_cluster = false\n");
  }
  await installDebian("PostgreSQL's server", "postgresql", ["-o", "Dpkg::Options::=--force-confold"]);
  const installed = await postgresBinaries();
  if (!installed)
    throw new Stop(
      `PostgreSQL was installed, but no server of version ${LEAST_POSTGRES} or newer is under ${DEBIAN_BINARIES}.`,
    );
  return installed;
}

/** Chromium for the browser tests, installed from Debian when missing. */
export async function ensureChromium() {
  const find = async () => {
    for (const place of CHROMIUM_PLACES)
      if (
        await access(place).then(
          () => true,
          () => false,
        )
      )
        return place;
    return undefined;
  };
  const found = await find();
  if (found) return found;
  await installDebian("Chromium", "chromium");
  const installed = await find();
  if (!installed) throw new Stop("Chromium was installed but is not where Debian puts it.");
  return installed;
}

/** @returns {Promise<string | undefined>} */
async function postgresBinaries() {
  const versions = await readdir(DEBIAN_BINARIES).catch(() => []);
  const newest = versions
    .map(Number)
    .filter((version) => version >= LEAST_POSTGRES)
    .sort((a, b) => b - a);
  for (const version of newest) {
    const folder = path.join(DEBIAN_BINARIES, String(version), "bin");
    const complete = await Promise.all(
      ["initdb", "pg_ctl", "postgres"].map((name) =>
        access(path.join(folder, name)).then(
          () => true,
          () => false,
        ),
      ),
    );
    if (complete.every(Boolean)) return folder;
  }
  return undefined;
}

/** @param {string} what @param {string} packageName @param {readonly string[]} [options] */
async function installDebian(what, packageName, options = []) {
  if ((await exitCode("apt-get", ["--version"])) !== 0) {
    throw new Stop(
      `${what} is missing, and this is no Debian system that it could be installed on. Install the package ` +
        `"${packageName}" and start ` +
        `again${packageName === "postgresql" ? ", or set DATABASE_URL to a PostgreSQL" : ""}.`,
    );
  }
  const prefix = await rootPrefix();
  if (!prefix) {
    throw new Stop(
      `${what} is missing, and you have no right to install it. Ask for the Debian package "${packageName}" ` +
        `(sudo apt-get install ${packageName}) and start ` +
        `again${packageName === "postgresql" ? ", or set DATABASE_URL to a PostgreSQL" : ""}.`,
    );
  }
  say(`Installing ${what} (Debian package ${packageName}) …`);
  const environment = { ...process.env, DEBIAN_FRONTEND: "noninteractive" };
  const [command, ...before] = [...prefix, "apt-get"];
  await captured(command, [...before, "update", "-q"], { env: environment });
  const { code, output } = await captured(
    command,
    [...before, "install", "-y", "-q", "--no-install-recommends", ...options, packageName],
    { env: environment },
  );
  if (code !== 0)
    throw new Stop(
      `Installing ${what} failed:\n${output.split("\n").slice(-12).join("\n")}\nInstall the Debian package ` +
        `"${packageName}" by hand and start again.`,
    );
}

/** How to become root: not at all, by sudo without a password, or undefined when there is no way. */
async function rootPrefix() {
  if (process.getuid?.() === 0) return [];
  return (await exitCode("sudo", ["-n", "true"])) === 0 ? ["sudo", "-n"] : undefined;
}
