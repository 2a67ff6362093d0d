import { randomUUID } from "node:crypto";
import { beforeAll, describe, expect, it } from "vitest";
import { handoversSchema, type Handovers } from "@/core/handover/version/handoverVersion";
import { demoDocument } from "../fixtures/demoDocument";
import { flat, readPdf } from "../fixtures/readPdf";
import { fromTestRun } from "../setup/environment";

const document = demoDocument("tollgate-cottage");
const strokes = [
  [
    [100, 100],
    [400, 200],
  ],
];

describe("handing a job over", () => {
  let job = "";
  const at = (path: string) => `${fromTestRun("GORMIT_TEST_APP")}/api/v1/jobs${path}`;
  const send = (method: string, path: string, body: object) =>
    fetch(at(path), { method, headers: { "content-type": "application/json" }, body: JSON.stringify(body) });
  const handovers = async (): Promise<Handovers> =>
    handoversSchema.parse(await (await fetch(at(`/${job}/handovers`))).json());
  const pdf = async (number: number | string) => fetch(at(`/${job}/handovers/${number}/report.pdf`));
  beforeAll(async () => {
    const made = await send("POST", "/import", { ...document, job: { ...document.job, name: "Handed over" } });
    job = ((await made.json()) as { id: string }).id;
  });

  it("keeps the report that was looked at, signed; a change is named, and makes a new version beside it", async () => {
    const before = await handovers();
    expect(before).toMatchObject({ versions: [], current: { changed: [], newLogLines: 0 } });
    const asked = {
      id: randomUUID(),
      person: "Kim",
      sha256: before.current.sha256,
      signatures: [{ role: "owner", name: "Robin of the cottage", strokes }],
    };
    const first = await send("POST", `/${job}/handovers`, asked);
    expect(first.status).toBe(201);
    expect(await handovers()).toMatchObject({ versions: [{ number: 1 }], current: { changed: [], newLogLines: 0 } });
    expect((await send("POST", `/${job}/handovers`, asked)).status).toBe(201);

    const saved = (await (await fetch(at(`/${job}`))).json()) as { revision: number; document: typeof document };
    const [ct, ...others] = saved.document.site.cts;
    const site = { ...saved.document.site, cts: [{ ...ct!, arrow: "to-grid" as const }, ...others] };
    const put = await send("PUT", `/${job}`, { revision: saved.revision, document: { ...saved.document, site } });
    expect(put.status).toBe(200);
    const after = await handovers();
    expect(after.versions).toHaveLength(1);
    const [cts] = after.current.changed.filter(({ section }) => section === "cts");
    expect([cts?.added.length, cts?.gone.length]).toEqual([1, 1]);

    const stale = await send("POST", `/${job}/handovers`, { ...asked, id: randomUUID() });
    expect(stale.status).toBe(409);
    const again = { id: randomUUID(), person: "Kim", sha256: after.current.sha256 };
    expect((await send("POST", `/${job}/handovers`, again)).status).toBe(201);
    expect((await handovers()).versions.map(({ number }) => number)).toEqual([2, 1]);

    const old = await readPdf(new Uint8Array(await (await pdf(1)).arrayBuffer()));
    expect(old.text).toContain(flat("Owner: Robin of the cottage"));
    expect(old.text).toContain(flat("Hand over, version 1"));
    expect(old.text).toContain(before.current.sha256);
    for (const line of cts!.gone[0]!.split(" · ")) expect(old.text).toContain(flat(line));
    const newer = await readPdf(new Uint8Array(await (await pdf(2)).arrayBuffer()));
    expect(newer.text).not.toContain(flat("Robin of the cottage: "));
  });

  it("keeps the report in the language that was looked at, and says what changed since in that one", async () => {
    const { current } = await handovers();
    expect(current.languages.en).not.toBe(current.languages.de);
    const signatures = [{ role: "owner", name: "Robin", strokes }];
    const asked = { id: randomUUID(), person: "Kim", sha256: current.languages.de, signatures };
    expect((await send("POST", `/${job}/handovers`, asked)).status).toBe(201);
    const after = await handovers();
    expect(after.current).toMatchObject({ language: "de", changed: [], newLogLines: 0 });
    expect(after.versions[0]!.state).toMatch(/^\d+ missing$/);
    const [newest] = after.versions;
    const { text, title } = await readPdf(new Uint8Array(await (await pdf(newest!.number)).arrayBuffer()));
    expect(title).toBe("Bericht über Handed over");
    expect(text).toContain(flat(`Übergabe, Fassung ${newest!.number}`));
    expect(text).toContain(flat("Eigentümer: Robin"));
    const saved = (await (await fetch(at(`/${job}`))).json()) as { revision: number; document: typeof document };
    const place = { ...saved.document, job: { ...saved.document.job, notes: "Neuer Zähler" } };
    expect((await send("PUT", `/${job}`, { revision: saved.revision, document: place })).status).toBe(200);
    const changed = (await handovers()).current.changed;
    expect(changed).toMatchObject([{ section: "site", title: "Anlage und Netzanschluss", added: ["Neuer Zähler"] }]);
  });

  it("says what is wrong with what was sent, and keeps nothing of it", async () => {
    const { current, versions } = await handovers();
    const good = { id: randomUUID(), person: "Kim", sha256: current.sha256 };
    const bad = [
      [{ ...good, person: " " }, "person"],
      [{ ...good, sha256: "12" }, "sha256"],
      [{ ...good, signatures: [{ role: "owner", name: "Robin", strokes: [] }] }, "signatures[0].strokes"],
      [{ ...good, colour: "blue" }, ""],
    ] as const;
    for (const [body, path] of bad) {
      const answer = await send("POST", `/${job}/handovers`, body);
      expect(answer.status).toBe(400);
      const { error } = (await answer.json()) as { error: { issues: { path: string }[] } };
      expect(error.issues.map((issue) => issue.path)).toContain(path);
    }
    expect((await handovers()).versions).toHaveLength(versions.length);
    for (const number of [99, "x", -1, "1e99"]) expect((await pdf(number)).status).toBe(404);
    expect((await fetch(at(`/${job}/handovers/1/report.pdf?paper=a3`))).status).toBe(400);
    expect((await fetch(at(`/${randomUUID()}/handovers`))).status).toBe(404);
  });
});
