import { randomUUID } from "node:crypto";
import pg from "pg";
import { afterAll, describe, expect, it } from "vitest";
import { checkChain, CHAIN_BEGIN } from "@/core/handover/logChain";
import type { VisitEntry } from "@/core/visit/visitEntry";
import { closeDatabase, query } from "@/db/client";
import { checkedLog, manyChainedLines, sha256Hex } from "@/db/visitChain";
import { addVisitEntries } from "@/db/visitEntry";
import { keptJob } from "../fixtures/keptJob";
import { jobFromPattern } from "../fixtures/shipped";
import { fromTestRun } from "../setup/environment";

const note = (text: string, at = "2026-05-04T10:00:00.000Z"): VisitEntry => ({
  id: randomUUID(),
  at,
  person: "Kim",
  kind: "note",
  text,
});
const document = jobFromPattern("two-ct-add-on");

describe("the chain of a log", () => {
  afterAll(() => closeDatabase());

  it("is whole from the first line, and its last hash changes with every line", async () => {
    const { id } = await keptJob(document);
    expect(await checkedLog(id)).toEqual({ lines: 0, head: CHAIN_BEGIN, broken: null });
    await addVisitEntries(id, [note("a"), note("b")]);
    const first = await checkedLog(id);
    expect(first).toMatchObject({ lines: 2, broken: null });
    await addVisitEntries(id, [note("c")]);
    const second = await checkedLog(id);
    expect(second).toMatchObject({ lines: 3, broken: null });
    expect(second.head).not.toBe(first.head);
  });

  it("takes what arrives late in the order of arrival, with its own time, and what is sent twice once", async () => {
    const { id } = await keptJob(document);
    const [now, late] = [note("now"), note("from this morning, offline", "2026-05-04T07:00:00.000Z")];
    await addVisitEntries(id, [now]);
    await addVisitEntries(id, [late, now]);
    const lines = await manyChainedLines(id);
    expect(lines.map(({ text }) => (JSON.parse(text) as { at: string }).at)).toEqual([now.at, late.at]);
    expect(await checkedLog(id)).toMatchObject({ lines: 2, broken: null });
  });

  it("has one end however many write at once", async () => {
    const { id } = await keptJob(document);
    await Promise.all(Array.from({ length: 12 }, (_, at) => addVisitEntries(id, [note(`${at} a`), note(`${at} b`)])));
    expect(await checkedLog(id)).toMatchObject({ lines: 24, broken: null });
  });

  it("names the line that was changed behind it, and the one that was slipped in", async () => {
    const { id } = await keptJob(document);
    await addVisitEntries(id, [note("one"), note("two"), note("three")]);
    const lines = await manyChainedLines(id);
    const client = new pg.Client({ connectionString: fromTestRun("DATABASE_URL") });
    await client.connect();
    try {
      // In a transaction that is never kept: whoever owns the database can change what the app does not let change.
      await client.query("begin");
      await client.query("alter table visit_entry disable trigger visit_entry_append_only");
      await client.query(
        `update visit_entry set body = jsonb_set(body, '{text}', '"2"') where job_id = $1 and body ->> 'text' = 'two'`,
        [id],
      );
      const { rows } = await client.query<{ text: string }>(
        "select body::text as text from visit_entry where job_id = $1 order by sequence",
        [id],
      );
      const changed = rows.map(({ text }, at) => ({ text, hash: lines[at]!.hash }));
      expect(checkChain(changed, sha256Hex)).toEqual({
        lines: 2,
        head: lines[0]!.hash,
        broken: { at: 2, why: "changed" },
      });
    } finally {
      await client.query("rollback");
      await client.end();
    }
    expect(checkChain([...lines, { text: "{}", hash: undefined }], sha256Hex).broken).toEqual({
      at: 4,
      why: "not-chained",
    });
    expect(checkChain(lines.toReversed(), sha256Hex).broken?.at).toBe(1);
    expect(await checkedLog(id)).toMatchObject({ lines: 3, broken: null });
  });

  it("lets nobody change or delete a link", async () => {
    const { id } = await keptJob(document);
    await addVisitEntries(id, [note("kept")]);
    await expect(query("update visit_chain set position = position + 1")).rejects.toThrow("append-only");
    await expect(query("delete from visit_chain")).rejects.toThrow("append-only");
  });
});
