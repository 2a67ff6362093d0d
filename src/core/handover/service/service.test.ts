import { describe, expect, it } from "vitest";
import { beginService, WRONGS } from "@/core/handover/service/wrongs";
import { thenAndNow } from "@/core/handover/service/thenAndNow";
import type { JobDocument } from "@/core/job/jobDocument";
import { SERVICE_REASON_WORDS, VISIT_KIND_WORDS } from "@/core/visit/visitKinds";
import { visitSheet } from "@/core/visit/visitSheet";
import { demoDocument } from "../../../../tests/fixtures/demoDocument";

const AT = "2026-11-02T08:00:00.000Z";
const handed = demoDocument("fennel-court");
const begun = { id: "second", at: AT, isKept: true };

/** The same readings, each changed. */
function read(document: JobDocument, change: (powerW: number) => number): JobDocument {
  const steps = document.tests.steps.map((step) => ({
    ...step,
    readings: step.readings.map((own) => ({ ...own, powerW: change(own.powerW) })),
  }));
  return { ...document, tests: { ...document.tests, steps } };
}

describe("a visit for what is wrong", () => {
  it("is of its kind, keeps the one before, and has steps of its own", () => {
    for (const wrong of WRONGS) {
      const { visit } = beginService(handed, wrong, begun);
      expect(visit).toMatchObject({ id: "second", kind: wrong.kind });
      expect(visit.reason).toBe(wrong.reason);
      expect(visit.earlier.at(-1)).toMatchObject({ id: handed.visit.id, endedAt: AT });
      expect(VISIT_KIND_WORDS[wrong.kind]).toBeTruthy();
      if (wrong.reason) expect(SERVICE_REASON_WORDS[wrong.reason]).toBeTruthy();
      expect(visitSheet({ ...handed, visit }).steps.length).toBeGreaterThan(0);
    }
  });

  it("takes out what was read only where it tells nothing any more and a hand over keeps it", () => {
    const count = ({ tests }: JobDocument) => tests.steps.flatMap(({ readings }) => readings).length;
    for (const wrong of WRONGS) {
      expect(count(beginService(handed, wrong, { ...begun, isKept: false }))).toBe(count(handed));
      const after = beginService(handed, wrong, begun);
      expect(count(after)).toBe(wrong.readsAgain ? 0 : count(handed));
      expect(after.tests.steps.map(({ devices }) => devices)).toEqual(handed.tests.steps.map(({ devices }) => devices));
    }
  });
});

describe("then and now", () => {
  it("has each reading once, and none of what was not read now", () => {
    const rows = thenAndNow(handed, handed);
    expect(rows.length).toBe(handed.tests.steps.flatMap(({ readings }) => readings).length);
    expect(rows.every(({ thenW, nowW }) => thenW === nowW)).toBe(true);
    expect(rows.every(({ kind }) => kind === "as-then" || kind === "wrong-as-then")).toBe(true);
    expect(thenAndNow(handed, beginService(handed, WRONGS[0]!, begun))).toEqual([]);
    expect(thenAndNow(beginService(handed, WRONGS[0]!, begun), handed)).toEqual([]);
  });

  it("says what reads the other way since, what reads another size, and what is right by now", () => {
    const right = thenAndNow(handed, handed).filter(
      ({ kind, nowExpectedW }) => kind === "as-then" && nowExpectedW > 1500,
    );
    expect(right.length).toBeGreaterThan(0);
    const kinds = (then: JobDocument, now: JobDocument) =>
      right.map(({ step, tag }) => thenAndNow(then, now).find((row) => row.step === step && row.tag === tag)?.kind);
    expect(
      new Set(
        kinds(
          handed,
          read(handed, (powerW) => -powerW),
        ),
      ),
    ).toEqual(new Set(["turned-since"]));
    expect(
      new Set(
        kinds(
          handed,
          read(handed, (powerW) => powerW * 4),
        ),
      ),
    ).toEqual(new Set(["other-since"]));
    expect(
      new Set(
        kinds(
          read(handed, (powerW) => powerW * 4),
          handed,
        ),
      ),
    ).toEqual(new Set(["right-now"]));
  });

  it("finds a step of another id by its name", () => {
    const renamed = {
      ...handed,
      tests: { ...handed.tests, steps: handed.tests.steps.map((step, at) => ({ ...step, id: `later-${at}` })) },
    };
    expect(thenAndNow(handed, renamed).length).toBe(thenAndNow(handed, handed).length);
  });
});
