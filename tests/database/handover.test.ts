import { createHash, randomUUID } from "node:crypto";
import { afterAll, describe, expect, it } from "vitest";
import type { NewHandover } from "@/db/handover";
import { makeHandover, manyHandovers, maybeHandover } from "@/db/handover";
import { closeDatabase, query } from "@/db/client";
import { keepPassphrase, maybePassphraseTime } from "@/db/passphrase";
import { checkedLog } from "@/db/visitChain";
import { manyVisitEntries } from "@/db/visitEntry";
import { keptJob } from "../fixtures/keptJob";
import { jobFromPattern } from "../fixtures/shipped";

const made = (change: Partial<NewHandover> = {}): NewHandover => ({
  id: randomUUID(),
  person: "Kim",
  state: "2 missing",
  report: JSON.stringify({ b: 1, a: "±" }),
  signatures: [
    {
      role: "owner",
      name: "Robin",
      strokes: [
        [
          [1, 2],
          [30, 40],
        ],
      ],
    },
  ],
  ...change,
});

describe("the hand overs of a job", () => {
  afterAll(() => closeDatabase());

  it("are kept word for word, numbered, with who signed and a line in the log", async () => {
    const job = await keptJob(jobFromPattern("split-phase-backup"));
    const first = made();
    expect(await makeHandover(job, first)).toBe(true);
    expect(await makeHandover(job, made({ report: "{}", signatures: [], state: "done" }))).toBe(true);
    const versions = await manyHandovers(job.id);
    expect(versions.map(({ number, state }) => [number, state])).toEqual([
      [2, "done"],
      [1, "2 missing"],
    ]);
    const kept = await maybeHandover(job.id, 1);
    expect(kept).toMatchObject({ report: first.report, signatures: first.signatures, document: job.document });
    expect(kept?.sha256).toBe(createHash("sha256").update(first.report).digest("hex"));
    expect((await maybeHandover(job.id))?.number).toBe(2);
    expect(await maybeHandover(job.id, 3)).toBeUndefined();
    const notes = (await manyVisitEntries(job.id)).map((entry) => entry.kind === "note" && entry.text);
    expect(notes).toEqual(["Handed over, version 1, 2 missing, signed by Robin", "Handed over, version 2, done"]);
    expect(await checkedLog(job.id)).toMatchObject({ lines: 2, broken: null });
  });

  it("are made once where the same is sent again, and not under another job's id", async () => {
    const [job, other] = [
      await keptJob(jobFromPattern("two-ct-add-on")),
      await keptJob(jobFromPattern("two-ct-add-on")),
    ];
    const own = made();
    const sent = await Promise.all([makeHandover(job, own), makeHandover(job, own), makeHandover(job, own)]);
    expect(sent).toEqual([true, true, true]);
    expect(await makeHandover(other, own)).toBe(false);
    expect(await manyHandovers(job.id)).toHaveLength(1);
    expect(await manyHandovers(other.id)).toEqual([]);
    expect(await manyVisitEntries(job.id)).toHaveLength(1);
  });

  it("have numbers of their own however many are made at once", async () => {
    const job = await keptJob(jobFromPattern("two-ct-add-on"));
    await Promise.all(Array.from({ length: 6 }, () => makeHandover(job, made())));
    expect((await manyHandovers(job.id)).map(({ number }) => number)).toEqual([6, 5, 4, 3, 2, 1]);
  });

  it("end the passphrase that was kept until then", async () => {
    const job = await keptJob(jobFromPattern("split-phase-backup"));
    await keepPassphrase(job.id, { name: "Quay", passphrase: "seven ferries" });
    await makeHandover(job, made());
    expect(await maybePassphraseTime(job.id)).toBeUndefined();
  });

  it("cannot be changed or taken away, nor can what was signed", async () => {
    const job = await keptJob(jobFromPattern("two-ct-add-on"));
    await makeHandover(job, made());
    for (const table of ["handover", "handover_signature"]) {
      await expect(query(`delete from ${table}`)).rejects.toThrow();
      await expect(query(`update ${table} set ${table === "handover" ? "state" : "name"} = 'x'`)).rejects.toThrow();
    }
  });
});
