import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import path from "node:path";
import { afterEach, describe, expect, it, vi } from "vitest";

describe("freeSpaceProblem", () => {
  const folder = mkdtempSync(path.join(tmpdir(), "gormit-space-"));
  afterEach(() => {
    vi.unstubAllEnvs();
    vi.resetModules();
  });

  it("has none where there is room, nor where no folder is watched", async () => {
    vi.stubEnv("GORMIT_DATA_DIR", "");
    expect(await (await import("@/db/freeSpace")).freeSpaceProblem()).toBeUndefined();
    vi.resetModules();
    vi.stubEnv("GORMIT_DATA_DIR", folder);
    vi.stubEnv("GORMIT_LEAST_FREE_BYTES", "1");
    expect(await (await import("@/db/freeSpace")).freeSpaceProblem()).toBeUndefined();
  });

  it("says how much is free and how much must be, and looks again after a while", async () => {
    vi.stubEnv("GORMIT_DATA_DIR", folder);
    vi.stubEnv("GORMIT_LEAST_FREE_BYTES", "1e30");
    const { freeSpaceProblem } = await import("@/db/freeSpace");
    expect(await freeSpaceProblem(0)).toMatch(/^\d+ bytes are free, 1e\+30 must stay free$/);
    vi.stubEnv("GORMIT_LEAST_FREE_BYTES", "1");
    expect(await freeSpaceProblem(1_000)).toBeDefined();
    expect(await freeSpaceProblem(10_000)).toBeUndefined();
    rmSync(folder, { recursive: true });
    // A folder that is gone says nothing of the disk.
    expect(await freeSpaceProblem(20_000)).toBeUndefined();
  });
});
