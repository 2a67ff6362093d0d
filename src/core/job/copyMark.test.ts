import { describe, expect, it } from "vitest";
import { copyWords, isBeforeCopy, LEFT_OUT, markedCopy } from "@/core/job/copyMark";
import { importJob } from "@/core/job/importJob";
import { jobDocumentSchema } from "@/core/job/jobDocument";
import { jobSummary } from "@/core/jobSummary";
import { jobFromPattern } from "../../../tests/fixtures/shipped";
import { provedJob } from "../../../tests/fixtures/provedJob";

const AT = "2026-11-02T09:10:00.000Z";
const EARLIER = "2026-11-01T09:10:00.000Z";
const LATER = "2026-11-03T09:10:00.000Z";

describe("a copy of a job", () => {
  it("is marked with when, how and what it lacks, and stays a job", () => {
    const copy = markedCopy(jobFromPattern("split-phase-backup"), "file", AT);
    expect(jobDocumentSchema.parse(copy)).toEqual(copy);
    expect(copyWords(copy)).toBe(
      "A copy, made 2026-11-02 09:10 UTC from a file, without its log, photographs, hand overs and passphrase: what " +
        "was read, tested or seen before proves nothing here.",
    );
    expect(copyWords(jobFromPattern("split-phase-backup"))).toBeUndefined();
  });

  it("counts what was recorded since, and nothing from before or without a time", () => {
    const copy = markedCopy(jobFromPattern("split-phase-backup"), "duplicate", AT);
    expect([EARLIER, LATER, AT, undefined].map((at) => isBeforeCopy(copy, at))).toEqual([true, false, false, true]);
    expect(isBeforeCopy({}, EARLIER)).toBe(false);
  });

  it("is not proved by what was read on the first one's site; read again, it is", () => {
    const proved = provedJob(EARLIER);
    expect(jobSummary(proved).state).toBe("proved");
    const copy = markedCopy(proved, "duplicate", AT);
    expect(jobSummary(copy)).toMatchObject({
      state: "proving",
      next: expect.stringContaining("on the site") as string,
    });
    expect(jobSummary(markedCopy(provedJob(LATER), "duplicate", AT)).state).toBe("proved");
  });

  it("comes from a file that says what it leaves out, which is no part of the job", () => {
    const document = jobFromPattern("split-phase-backup");
    const outcome = importJob(JSON.stringify({ ...document, leavesOut: LEFT_OUT }));
    expect(outcome).toMatchObject({ kind: "job", document });
    expect(importJob(JSON.stringify({ ...document, leavesOut: "all" }))).toMatchObject({ kind: "bad-file" });
  });
});
