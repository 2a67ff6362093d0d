import fc from "fast-check";
import { describe, expect, it } from "vitest";
import type { Report } from "@/core/handover/report/reportSchema";
import { section, table } from "@/core/handover/report/section";
import { handoverAskedSchema } from "@/core/handover/version/handoverVersion";
import { logLength, reportChanges } from "@/core/handover/version/reportChanges";
import { SIGNATURE_BOX, signatureSchema, strokePath } from "@/core/handover/version/signature";

const reportOf = (cts: readonly string[], log: readonly string[] = [], lines: readonly string[] = []): Report => ({
  language: "en",
  job: "Barn",
  place: "",
  printed: "2026-05-04",
  state: "done",
  logHead: "0",
  sections: [
    section("cts", "CTs as fitted", {
      lines,
      tables: [
        table(
          "",
          ["CT"],
          cts.map((own) => [own]),
        ),
      ],
    }),
    section("log", "The log", {
      tables: [
        table(
          "",
          ["What"],
          log.map((own) => [own]),
        ),
      ],
    }),
  ],
});
const words = fc.uniqueArray(fc.string({ minLength: 1, maxLength: 8 }), { maxLength: 6 });
const signature = { role: "owner", name: "Robin", strokes: [[[1, 2] as [number, number], [3, 4] as [number, number]]] };

describe("what has changed since a hand over", () => {
  it("is what a part says now and did not, and the other way round", () => {
    expect(reportChanges(reportOf(["A1 round L1", "A2"]), reportOf(["A1 round L2", "A2"]))).toEqual([
      { section: "cts", title: "CTs as fitted", added: ["A1 round L2"], gone: ["A1 round L1"] },
    ]);
  });

  it("is nothing for the same report, whatever the log says by now, and turns round with time", () => {
    fc.assert(
      fc.property(words, words, words, words, (before, after, log, later) => {
        expect(reportChanges(reportOf(before, log), reportOf(before, later))).toEqual([]);
        const forth = reportChanges(reportOf(before), reportOf(after));
        const back = reportChanges(reportOf(after), reportOf(before));
        expect(back).toEqual(forth.map(({ added, gone, ...own }) => ({ ...own, added: gone, gone: added })));
      }),
    );
  });

  it("is a part that was not there, and one that is not there any more", () => {
    const whole = reportOf(["A1"], [], ["seen"]);
    const without = { ...whole, sections: [] };
    expect(reportChanges(without, whole)).toMatchObject([{ section: "cts", added: ["seen", "A1"], gone: [] }]);
    expect(reportChanges(whole, without)).toMatchObject([{ section: "cts", added: [], gone: ["seen", "A1"] }]);
    expect([logLength(without), logLength(reportOf([], ["a", "b"]))]).toEqual([0, 2]);
  });
});

describe("a signature", () => {
  it("has a name, and at least a line in its box", () => {
    expect(signatureSchema.safeParse(signature).success).toBe(true);
    const bad = [
      { ...signature, name: "  " },
      { ...signature, strokes: [] },
      { ...signature, strokes: [[[1, 2]]] },
      {
        ...signature,
        strokes: [
          [
            [1, 2],
            [SIGNATURE_BOX.width + 1, 4],
          ],
        ],
      },
      { ...signature, strokes: [Array.from({ length: 4001 }, () => [1, 1])] },
      {
        ...signature,
        strokes: Array.from({ length: 201 }, () => [
          [1, 1],
          [2, 2],
        ]),
      },
      { ...signature, role: "neighbour" },
    ];
    for (const own of bad) expect(signatureSchema.safeParse(own).success).toBe(false);
  });

  it("is drawn stroke by stroke, a dot as a short line", () => {
    expect(
      strokePath([
        [1, 2],
        [3, 4],
        [5, 6],
      ]),
    ).toBe("M1 2L3 4L5 6");
    expect(strokePath([[7, 8]])).toBe("M7 8L9 8");
  });

  it("is given once by each", () => {
    const asked = { id: crypto.randomUUID(), person: "Kim", sha256: "a".repeat(64) };
    expect(handoverAskedSchema.parse(asked).signatures).toEqual([]);
    expect(handoverAskedSchema.safeParse({ ...asked, signatures: [signature, signature] }).success).toBe(false);
    const both = [signature, { ...signature, role: "technician" }];
    expect(handoverAskedSchema.safeParse({ ...asked, signatures: both }).success).toBe(true);
  });
});
