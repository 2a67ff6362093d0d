import { describe, expect, it } from "vitest";
import { buildReport, type ReportGround } from "@/core/handover/report/buildReport";
import { reportSchema, type Report, type ReportSection } from "@/core/handover/report/reportSchema";
import { REPORT_LANGUAGES } from "@/core/handover/report/words/reportLanguages";
import { handoverItems } from "@/core/handover/handoverItems";
import { CHAIN_BEGIN } from "@/core/handover/logChain";
import type { JobDocument } from "@/core/job/jobDocument";
import { sortFindings } from "@/core/job/openFindings";
import { quickDiagnosis } from "@/core/jobSummary";
import { rememberedFindings } from "@/core/stages";
import type { VisitEntry } from "@/core/visit/visitEntry";
import { visitLog } from "@/core/visit/visitLog";
import { visitSheet } from "@/core/visit/visitSheet";
import { visitState } from "@/core/visit/visitState";
import { demoDocument } from "../../../../tests/fixtures/demoDocument";
import { jobFromPattern, shippedPatterns } from "../../../../tests/fixtures/shipped";

function groundOf(document: JobDocument, entries: readonly VisitEntry[] = [], isJudged = false): ReportGround {
  const sheet = visitSheet(document);
  const visit = visitState(sheet, entries, document.visit.id);
  const diagnosis = isJudged ? quickDiagnosis(document) : undefined;
  const findings = sortFindings(rememberedFindings()({ document, sheet, visit, diagnosis }), document.accepted);
  const log = visitLog(entries, [], document.accepted);
  return { document, sheet, visit, diagnosis, findings, entries, log, logHead: CHAIN_BEGIN, today: "2026-05-04" };
}
const textOf = (sections: readonly ReportSection[]) =>
  sections
    .flatMap(({ title, lines, tables }) => [
      title,
      ...lines,
      ...tables.flatMap(({ heads, rows }) => [heads, ...rows].flat()),
    ])
    .join("\n");

describe("the report of a job", () => {
  it("is whole for every pattern: each row as wide as its heads, and each part named once", () => {
    for (const { id } of shippedPatterns()) {
      const report = reportSchema.parse(buildReport(groundOf(jobFromPattern(id)), "full"));
      const ids = report.sections.map((section) => section.id);
      expect(new Set(ids).size).toBe(ids.length);
      for (const { tables } of report.sections)
        for (const { heads, rows } of tables) for (const row of rows) expect(row).toHaveLength(heads.length);
      expect(report.state).toMatch(/missing$/);
    }
  });

  it("holds every reading, with what was expected and whether it was inside", () => {
    const document = demoDocument("tollgate-cottage");
    const { sections } = buildReport(groundOf(document, [], true), "full");
    const readings = sections.find(({ id }) => id === "readings")!;
    const rows = readings.tables.flatMap((own) => own.rows);
    expect(rows).toHaveLength(document.tests.steps.reduce((sum, step) => sum + step.readings.length, 0));
    expect(rows.length).toBeGreaterThan(3);
    expect(rows.every(([, expected, , inside]) => expected!.includes("±") && /^(yes|no)$/.test(inside!))).toBe(true);
    expect(readings.lines[0]).toBe("Verdict: faults found.");
    expect(readings.lines[1]).toContain("A2 is the wrong way round");
    expect(readings.lines.join()).not.toMatch(/e-\d/);
  });

  it("says what was accepted, and the serial that was read, and nothing of a passphrase", () => {
    const document = demoDocument("larkspur-house");
    const ground = groundOf(document);
    const step = ground.sheet.steps.find(({ id }) => id.startsWith("serial:"))!;
    const read: VisitEntry = {
      id: "00000000-0000-4000-8000-000000000001",
      at: "2026-05-04T10:00:00.000Z",
      person: "Kim",
      kind: "result",
      step: step.id,
      title: step.title,
      content: "",
      serial: "GKF1234567",
      said: "GKF1234567",
      outside: [],
    };
    const text = textOf(buildReport(groundOf(document, [read]), "full").sections);
    expect(text).toContain("GKF1234567");
    expect(text).toContain("Network there");
    expect(text.toLowerCase()).not.toContain("passphrase:");
  });

  it("has, in its short form, what is proved and by what, and no log", () => {
    const short = buildReport(groundOf(demoDocument("tollgate-cottage")), "short").sections.map(({ id }) => id);
    expect(short).toEqual(["state", "site", "cts", "readings", "limit"]);
  });

  it("draws the last step tests, and tells those of a bench from those of the site", () => {
    const document = jobFromPattern("three-phase-storage");
    document.limit.powerW = 3000;
    document.limit.proofs = [
      {
        id: "00000000-0000-4000-8000-000000000002",
        at: "2026-05-04T10:00:00.000Z",
        person: "Kim",
        label: "Kettle off",
        onBench: true,
        limitW: 3000,
        secondsAllowed: 5,
        basis: "sum",
        tS: [0, 1, 2],
        exportW: [1000, 3400, 2900],
        verdict: "holds",
        maxExportW: 3400,
        longestOverS: 1,
        settledExportW: 2900,
      },
    ];
    const limit = buildReport(groundOf(document), "short").sections.find(({ id }) => id === "limit")!;
    expect(limit.courses[0]).toMatchObject({ values: [1000, 3400, 2900], mark: { value: 3000 } });
    expect(textOf([limit])).toContain("on the bench: proves nothing");
  });

  it("says of a CT how many turns go through it", () => {
    const document = jobFromPattern("split-phase-backup");
    const turned = {
      ...document,
      site: { ...document.site, cts: document.site.cts.map((ct) => ({ ...ct, turns: 3 })) },
    };
    expect(textOf(buildReport(groundOf(turned), "full").sections)).toContain(", 3 turns, typed ");
    expect(textOf(buildReport(groundOf(document), "full").sections)).not.toContain("turns");
  });

  it("has what was registered and how far it is the owner's, and never where the owner is invited", () => {
    const document = jobFromPattern("split-phase-backup");
    const items = [{ id: "hybrid grid-notice", has: [], sentOn: "2026-11-10", reference: "GN 12" }];
    const told = {
      ...document,
      registration: { installedOn: "2026-11-02", items },
      transfer: { ...document.transfer, siteMadeOn: "2026-11-03", ownerContact: "robin at home" },
    };
    const text = textOf(buildReport(groundOf(told), "full").sections);
    for (const word of ["Installed on: 2026-11-02", "sent, 2026-11-10", "GN 12", "done, 2026-11-03"])
      expect(text).toContain(word);
    expect(text).not.toContain("robin at home");
    expect(textOf(buildReport(groundOf(told), "short").sections)).not.toContain("GN 12");
  });

  it("says the same in every language: as many parts, rows and cells, and the same names and numbers", () => {
    for (const { id } of shippedPatterns()) {
      const ground = groundOf(jobFromPattern(id), [], true);
      const [english, german] = [buildReport(ground, "full"), buildReport(ground, "full", "de")];
      expect(german.language).toBe("de");
      expect(reportSchema.parse(german)).toEqual(german);
      expect(german.sections.map(shapeOf)).toEqual(english.sections.map(shapeOf));
      const numbers = (report: Report) => textOf(report.sections).match(/\d+ (?:W|A|m|s)\b/g);
      expect(numbers(german)).toEqual(numbers(english));
    }
  });

  it("leaves no English behind in its own words of another language", () => {
    const document = { ...demoDocument("tollgate-cottage") };
    document.limit = { ...document.limit, powerW: 3000 };
    for (const told of [document, jobFromPattern("three-phase-storage")]) {
      const ground = groundOf({ ...told, job: { ...told.job, notes: "" } }, [], true);
      const { state, sections } = buildReport(ground, "full", "de");
      const own = sections.flatMap(({ title, lines, tables }) => [
        title,
        // What is wrong with the fitting is said by findings, which are in English only.
        ...lines.filter((line) => !/^(?:Am wahrscheinlichsten|Andere Erklärungen):/.test(line)),
        ...tables.flatMap(({ heads }) => heads),
      ]);
      expect([state, ...own].join("\n")).not.toMatch(ENGLISH);
      const items = handoverItems(ground, REPORT_LANGUAGES.de.words.items);
      const said = items.filter(({ id: item }) => /^(?:readings|limit|fallback|online|steps)/.test(item));
      expect(said.length).toBeGreaterThanOrEqual(3);
      for (const { id: item, what, why } of said) {
        expect(what).not.toMatch(ENGLISH);
        if (item !== "steps") expect(why).not.toMatch(ENGLISH);
      }
    }
  });

  it("has every word and every sentence of each language, none empty, none the same for two different things", () => {
    for (const { words } of Object.values(REPORT_LANGUAGES))
      for (const [group, own] of Object.entries({ ...words, ...words.items })) {
        if (typeof own !== "object" || group === "items") continue;
        const all = Object.values(own).flat();
        for (const one of all) expect(one, group).not.toBe("");
        if (group !== "heads") expect(new Set(all).size, group).toBe(all.length);
      }
  });
});

const ENGLISH = /\b(?:[Tt]he|and|of|[Nn]ot|is|yet|[Nn]othing|[Ee]very|[Pp]roved|step|readings)\b/;

function shapeOf({ id, lines, tables, courses, drawings, pictures }: ReportSection) {
  const sizes = tables.map(({ heads, rows }) => [heads.length, ...rows.map((row) => row.length)]);
  // The first part says besides what stands in another language.
  return { id, lines: id === "state" ? 1 : lines.length, sizes, courses: courses.length, drawings, pictures };
}
