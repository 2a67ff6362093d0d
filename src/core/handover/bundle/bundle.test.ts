import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { bundlePart, LOG_PATH, MANIFEST_PATH, REPORT_PATH, SUMS_PATH } from "@/core/handover/bundle/bundleParts";
import { checkBundle } from "@/core/handover/bundle/checkBundle";
import { manifestProblems, sumsText } from "@/core/handover/bundle/manifest";
import { renumbered } from "@/core/handover/bundle/renumbered";
import type { VisitEntry } from "@/core/visit/visitEntry";
import { bundleFiles, sha256 } from "../../../../tests/fixtures/bundleFiles";

const note = (text: string): VisitEntry => ({
  id: crypto.randomUUID(),
  at: "2026-05-04T10:00:00.000Z",
  person: "Kim",
  kind: "note",
  text,
});
const whole = bundleFiles([note("one"), note("two ± Ω")]);
const unpacked = (files: ReadonlyMap<string, string>) =>
  [...files].map(([path, text]) => ({ path, bytes: Buffer.byteLength(text), sha256: sha256(text), text }));
const pathsOf = (files: ReadonlyMap<string, string>) => {
  const outcome = checkBundle(unpacked(files), sha256);
  return outcome.kind === "whole" ? [] : outcome.problems.map(({ path }) => String(path[0]));
};

describe("a bundle", () => {
  it("that is as it was made gives its job, its log and its hand overs", () => {
    const outcome = checkBundle(unpacked(whole), sha256);
    expect(outcome).toMatchObject({ kind: "whole", entries: [{ text: "one" }, { text: "two ± Ω" }] });
    if (outcome.kind === "whole") expect(outcome.handovers.map(({ number }) => number)).toEqual([1]);
  });

  it("of which any byte was changed, or any file taken out or put in, is named by that file's path", () => {
    const paths = [...whole.keys()];
    fc.assert(
      fc.property(fc.constantFrom(...paths), fc.nat(), (path, at) => {
        const text = whole.get(path)!;
        const changed = [...text];
        changed[at % changed.length] = changed[at % changed.length] === "x" ? "y" : "x";
        const told = pathsOf(new Map(whole).set(path, changed.join("")));
        // Where the list of fingerprints itself was changed, the list is what is not right.
        expect(told.some((own) => own === path || (path === MANIFEST_PATH && own === SUMS_PATH))).toBe(true);
        const without = new Map(whole);
        without.delete(path);
        expect(pathsOf(without)).toContain(path);
      }),
    );
    expect(pathsOf(new Map(whole).set("labels.pdf", "%PDF"))).toContain("labels.pdf");
  });

  it("whose fingerprints were made anew after a change is still told by its log and its signed reports", () => {
    const log = whole.get(LOG_PATH)!;
    const forged = bundleFiles([], new Map(whole).set(LOG_PATH, log.replace("one", "won")));
    expect(checkBundle(unpacked(forged), sha256)).toMatchObject({
      problems: [{ path: [LOG_PATH], message: "line 1 was changed" }],
    });
    const cut = bundleFiles([], new Map(whole).set(LOG_PATH, log.split("\n").slice(0, 1).join("\n")));
    expect(checkBundle(unpacked(cut), sha256)).toMatchObject({ problems: [{ path: [LOG_PATH] }] });
    const report = "handovers/1.report.json";
    const other = bundleFiles([], new Map(whole).set(report, whole.get(report)!.replace("Barn", "Born")));
    expect(pathsOf(other)).toContain("handovers/1.json");
    const odd = bundleFiles([], new Map(whole).set(REPORT_PATH, "{}"));
    expect(pathsOf(odd)).toContain(REPORT_PATH);
  });

  it("has no file but those that a bundle has, whatever a path is made to look like", () => {
    for (const path of [...whole.keys()]) expect(bundlePart(path)).toBeDefined();
    const outside = [
      "../job.gormit-job.json",
      "/etc/passwd",
      "photos/../x.jpg",
      "photos/a.jpg",
      "C:\\x",
      "",
      "toString",
    ];
    for (const path of outside) expect(bundlePart(path), path).toBeUndefined();
    fc.assert(fc.property(fc.string(), (path) => bundlePart(`../${path}`) === undefined));
    const manifest = {
      format: "gormit-handover",
      version: 1,
      job: "",
      made: "",
      gormit: "",
      logHead: "",
      leavesOut: [],
    };
    const files = [{ path: "../x", bytes: 1, sha256: "a", what: "" }];
    const told = manifestProblems({ ...manifest, format: "gormit-handover", version: 1, files }, []);
    expect(told.map(({ message }) => message)).toContain("no bundle has such a file");
  });

  it("lists its fingerprints as standard tools read them", () => {
    expect(sumsText([{ path: "report.pdf", sha256: "12ab" }])).toBe("12ab  report.pdf\n");
  });
});

describe("lines of a log under other ids", () => {
  it("name each other by them", () => {
    const [first, photo] = [crypto.randomUUID(), crypto.randomUUID()];
    const base = { id: first, at: "2026-05-04T10:00:00.000Z", person: "Kim" };
    const idOf = (id: string) => `new ${id}`;
    expect(renumbered({ ...base, kind: "photo", photo, text: "" }, idOf)).toMatchObject({ photo: `new ${photo}` });
    expect(renumbered({ ...base, kind: "correction", corrects: first, text: "a" }, idOf)).toMatchObject({
      id: `new ${first}`,
      corrects: `new ${first}`,
    });
    const start = { ...base, kind: "start" as const, step: "s", title: "t", content: "c" };
    expect(renumbered(start, idOf)).toEqual({ ...start, id: `new ${first}` });
  });
});
