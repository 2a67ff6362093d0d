import { afterAll, describe, expect, it } from "vitest";
import { closeDatabase, query } from "@/db/client";
import { archiveJob } from "@/db/job";
import { forgetPassphrase, keepPassphrase, maybePassphrase, maybePassphraseTime } from "@/db/passphrase";
import { NotOpened, seal, unseal } from "@/db/sealed";
import { keptJob } from "../fixtures/keptJob";
import { jobFromPattern } from "../fixtures/shipped";

const SECRET = { name: "Harbour Lane", passphrase: "ferry timetable 7" };

describe("a kept passphrase", () => {
  afterAll(() => closeDatabase());

  it("comes back as it was kept, one a job, and goes when it is forgotten", async () => {
    const { id } = await keptJob(jobFromPattern("split-phase-backup"));
    expect(await maybePassphrase(id)).toBeUndefined();
    await keepPassphrase(id, SECRET);
    await keepPassphrase(id, { ...SECRET, name: "Harbour Lane 2" });
    expect(await maybePassphrase(id)).toEqual({ ...SECRET, name: "Harbour Lane 2" });
    expect(await forgetPassphrase(id)).toBe(true);
    expect(await maybePassphraseTime(id)).toBeUndefined();
  });

  it("stands nowhere in the database as it is", async () => {
    const { id } = await keptJob(jobFromPattern("split-phase-backup"));
    await keepPassphrase(id, SECRET);
    const tables = await query<{ table_name: string }>(
      "select table_name from information_schema.tables where table_schema = 'public'",
    );
    for (const { table_name } of tables) {
      const rows = await query<{ row: string }>(`select t::text as row from "${table_name}" t`);
      expect(rows.filter(({ row }) => row.includes(SECRET.passphrase) || row.includes(SECRET.name))).toEqual([]);
      // Bytes are written as digits there.
      const bytes = Buffer.from(SECRET.passphrase).toString("hex");
      expect(rows.filter(({ row }) => row.includes(bytes))).toEqual([]);
    }
  });

  it("goes with the archive", async () => {
    const { id } = await keptJob(jobFromPattern("split-phase-backup"));
    await keepPassphrase(id, SECRET);
    await archiveJob(id, true);
    expect(await maybePassphrase(id)).toBeUndefined();
  });

  it("is opened by its own key and for its own job alone", async () => {
    const sealed = await seal("secret", "one");
    expect(await unseal(sealed, "one")).toBe("secret");
    expect(Buffer.compare(sealed, await seal("secret", "one"))).not.toBe(0);
    await expect(unseal(sealed, "another")).rejects.toThrow(NotOpened);
    const changed = Buffer.from(sealed);
    changed[changed.length - 1]! ^= 1;
    await expect(unseal(changed, "one")).rejects.toThrow(NotOpened);
    process.env.GORMIT_SECRET_KEY = "another key";
    try {
      await expect(unseal(sealed, "one")).rejects.toThrow(NotOpened);
    } finally {
      delete process.env.GORMIT_SECRET_KEY;
    }
  });
});
