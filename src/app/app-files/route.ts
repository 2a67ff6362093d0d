import { readdir } from "node:fs/promises";
import path from "node:path";
import { buildId } from "@/app/buildId";

const STATIC_DIR = path.join(process.cwd(), ".next", "static");

/**
 * Which version this is, and every file of it that a browser may ask for, so that it can keep them for where there is
 * no connection.
 */
export async function GET(): Promise<Response> {
  const entries = await readdir(STATIC_DIR, { recursive: true, withFileTypes: true }).catch(() => []);
  const files = entries
    .filter((entry) => entry.isFile())
    .map((entry) => path.relative(STATIC_DIR, path.join(entry.parentPath, entry.name)).split(path.sep).join("/"))
    .map((file) => `/_next/static/${file.split("/").map(encodeURIComponent).join("/")}`);
  return Response.json({ build: await buildId(), files }, { headers: { "cache-control": "no-store" } });
}
