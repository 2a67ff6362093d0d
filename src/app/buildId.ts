import { readFile } from "node:fs/promises";
import path from "node:path";

/** Which version of the app this is; nothing while it is developed, when no version is kept. */
export async function buildId(): Promise<string | undefined> {
  if (process.env.NODE_ENV !== "production") return undefined;
  return readFile(path.join(process.cwd(), ".next", "BUILD_ID"), "utf8").catch(() => undefined);
}
