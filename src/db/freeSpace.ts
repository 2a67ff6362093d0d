import { statfs } from "node:fs/promises";

const LOOK_EVERY_MS = 5_000;
/** Enough for the database to finish what it has begun, and to be started again. */
const LEAST_FREE_BYTES = 200 * 1024 * 1024;

let seen: { readonly atMs: number; readonly problem: string | undefined } | undefined;

/**
 * Why nothing more should be written, in words; undefined where there is room. The folder that is watched is the
 * private cluster's, GORMIT_DATA_DIR; a database elsewhere says for itself when its disk is full.
 * GORMIT_LEAST_FREE_BYTES changes how much must stay free.
 */
export async function freeSpaceProblem(nowMs = Date.now()): Promise<string | undefined> {
  const folder = process.env.GORMIT_DATA_DIR;
  if (!folder) return undefined;
  if (seen && nowMs - seen.atMs < LOOK_EVERY_MS) return seen.problem;
  const least = Number(process.env.GORMIT_LEAST_FREE_BYTES ?? LEAST_FREE_BYTES);
  const { bavail, bsize } = await statfs(folder).catch(() => ({ bavail: Infinity, bsize: 1 }));
  seen = {
    atMs: nowMs,
    problem: bavail * bsize < least ? `${bavail * bsize} bytes are free, ${least} must stay free` : undefined,
  };
  return seen.problem;
}
