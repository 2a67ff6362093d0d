import { describe, expect, it } from "vitest";
import { handoverItems, handoverState, type HandoverGround } from "@/core/handover/handoverItems";
import { markedCopy } from "@/core/job/copyMark";
import type { JobDocument } from "@/core/job/jobDocument";
import { sortFindings } from "@/core/job/openFindings";
import { quickDiagnosis } from "@/core/jobSummary";
import { rememberedFindings } from "@/core/stages";
import { visitSheet } from "@/core/visit/visitSheet";
import type { VisitEntry } from "@/core/visit/visitEntry";
import { contentMark, visitState } from "@/core/visit/visitState";
import { provedJob } from "../../../tests/fixtures/provedJob";
import { jobFromPattern, shippedPatterns } from "../../../tests/fixtures/shipped";

const AT = "2026-05-04T10:00:00.000Z";

function groundOf(document: JobDocument, entries: readonly VisitEntry[] = [], isJudged = false): HandoverGround {
  const sheet = visitSheet(document);
  const visit = visitState(sheet, entries, document.visit.id);
  const diagnosis = isJudged ? quickDiagnosis(document) : undefined;
  const findings = rememberedFindings()({ document, sheet, visit, diagnosis });
  return {
    document,
    sheet,
    visit,
    diagnosis,
    findings: sortFindings(findings, document.accepted),
    entries,
    today: "2026-05-05",
  };
}
const idsOf = (ground: HandoverGround, state: string) =>
  handoverItems(ground)
    .filter((item) => item.state === state)
    .map(({ id }) => id);
let made = 0;
const ofStep = (ground: HandoverGround, at: number) => {
  const step = ground.sheet.steps[at]!;
  made++;
  return {
    id: `00000000-0000-4000-8000-${String(made).padStart(12, "0")}`,
    at: AT,
    person: "Kim",
    visit: ground.document.visit.id,
    step: step.id,
    title: step.title,
    content: contentMark(step),
  };
};

describe("the hand over", () => {
  it("is never done before anything was read, of any pattern, and says where to fill what is missing", () => {
    for (const { id } of shippedPatterns()) {
      const items = handoverItems(groundOf(jobFromPattern(id)));
      const missing = items.filter(({ state }) => state === "missing");
      expect(missing.map((item) => item.id)).toContain("readings");
      expect(missing.map((item) => item.id)).toContain("steps");
      expect(new Set(items.map((item) => item.id)).size).toBe(items.length);
      expect(handoverState(items)).toBe(`${missing.length} missing`);
    }
  });

  it("has what is dangerous before what is wrong, before what is not proved, before what is open", () => {
    const document = jobFromPattern("three-phase-storage");
    document.limit.powerW = 3000;
    const ids = idsOf(groundOf(document), "missing");
    const at = (id: string) => ids.findIndex((own) => own.startsWith(id));
    expect(at("readings")).toBeLessThan(at("limit"));
    expect(at("limit")).toBeLessThan(at("online"));
    expect(at("online")).toBeLessThan(at("steps"));
    if (at("finding") >= 0) expect(at("finding")).toBeLessThan(at("readings"));
  });

  it("takes no simulated reading for a proof", () => {
    const document = jobFromPattern("three-phase-storage");
    const input = { meter: document.site.meters[0]!.id, input: 1 };
    document.tests.steps = [
      { label: "Sources off", devices: [], readings: [{ ...input, powerW: 100 }], source: "simulated" },
    ];
    const items = handoverItems(groundOf(document, [], true));
    expect(items.find(({ id }) => id === "readings")).toMatchObject({
      state: "missing",
      why: expect.stringContaining("simulated") as string,
    });
  });

  it("counts the limit as proved only by a test on site, and the fail-safe by its own", () => {
    const document = jobFromPattern("three-phase-storage");
    document.limit.powerW = 3000;
    const proof = {
      id: "00000000-0000-4000-8000-000000000001",
      at: AT,
      person: "Kim",
      label: "Kettle off",
      limitW: 3000,
      secondsAllowed: document.limit.secondsAllowed,
      basis: document.limit.basis,
      tS: [0, 1, 2],
      exportW: [2900, 2950, 2900],
      verdict: "holds" as const,
      maxExportW: 2950,
      longestOverS: 0,
      settledExportW: 2900,
    };
    document.limit.proofs = [{ ...proof, onBench: true }];
    expect(idsOf(groundOf(document), "missing")).toContain("limit");
    document.limit.proofs = [proof];
    expect(idsOf(groundOf(document), "proved")).toContain("limit");
    expect(idsOf(groundOf(document), "missing")).toContain("fallback");
    document.limit.fallbackTests = [
      {
        ...proof,
        plannedS: 60,
        latestS: 70,
        seconds: 61,
        fallbackW: 0,
        beforeW: 3000,
        afterW: 0,
        verdict: "falls-back",
      },
    ];
    expect(idsOf(groundOf(document), "proved")).toContain("fallback");
  });

  it("has the owner's own phone as the last word of each device", () => {
    const document = jobFromPattern("split-phase-backup");
    const [open] = idsOf(groundOf(document), "missing").filter((id) => id.startsWith("online"));
    expect(open).toBeDefined();
    document.online = [{ id: open!.replace("online ", ""), observed: [], ownerSeesAt: AT }];
    expect(idsOf(groundOf(document), "proved")).toContain(open);
  });

  it("lets stand what somebody accepted or skipped with a reason, under their name", () => {
    const document = jobFromPattern("two-ct-add-on");
    const bare = groundOf(document);
    const skip: VisitEntry = { ...ofStep(bare, 0), kind: "skip", reason: "done by the electrician" };
    const finding = bare.findings.open.find(({ severity }) => severity !== "stop");
    document.accepted = finding
      ? [{ finding: finding.id, title: finding.title, person: "Kim", reason: "agreed", at: AT }]
      : [];
    const items = handoverItems(groundOf(document, [skip])).filter(({ state }) => state === "accepted");
    expect(items.map(({ why }) => why)).toContain("Kim: done by the electrician");
    if (finding) expect(items.map(({ why }) => why)).toContain("Kim: agreed");
  });

  it("names a step that was stopped by itself, before those that are open", () => {
    const document = jobFromPattern("two-ct-add-on");
    const stopped: VisitEntry = { ...ofStep(groundOf(document), 1), kind: "result", said: "", outside: ["too high"] };
    const ids = idsOf(groundOf(document, [stopped]), "missing");
    expect(ids.indexOf(`step ${stopped.step}`)).toBeGreaterThanOrEqual(0);
    expect(ids.indexOf(`step ${stopped.step}`)).toBeLessThan(ids.indexOf("steps"));
  });

  it("does not take for proved what was read, tested or seen before the job was copied", () => {
    const proved = provedJob(AT);
    const [device] = proved.online;
    const seen = { ...proved, online: device ? [{ ...device, ownerSeesAt: AT }] : [] };
    const before = idsOf(groundOf(seen, [], true), "proved");
    expect(before).toContain("readings");
    const copy = markedCopy(seen, "file", "2026-06-01T00:00:00.000Z");
    const after = idsOf(groundOf(copy, [], true), "proved");
    expect(after.filter((id) => id === "readings" || id.startsWith("online"))).toEqual([]);
  });
});
