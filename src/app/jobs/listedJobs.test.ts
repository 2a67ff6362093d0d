import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { listedJobs } from "@/app/jobs/listedJobs";
import { timeAllowance } from "@/app/jobs/timeAllowance";
import { log } from "@/app/log";
import { jobSummary } from "@/core/jobSummary";
import { jobSearchSchema, onePageOfJobs, type JobPage } from "@/db/job";
import { keepSummary, manyDueSummaries, maybeSummaryGround, type DueSummary } from "@/db/summaryDue";
import { jobSummarised } from "@/workers/serverThreads";
import { jobFromPattern } from "../../../tests/fixtures/shipped";

vi.mock("@/db/summaryDue");
vi.mock("@/workers/serverThreads");
vi.mock("@/db/job", async (original) => ({ ...(await original<object>()), onePageOfJobs: vi.fn() }));

const PAGE: JobPage = { jobs: [], total: 0, page: 1, pages: 1, places: [] };
const ALL = jobSearchSchema.parse({});
const document = jobFromPattern("two-ct-add-on");
const summary = jobSummary(document);
const [first, second]: readonly DueSummary[] = [
  { jobId: "first", mark: "1" },
  { jobId: "second", mark: "2" },
];

describe("the list of jobs, where summaries are due", () => {
  beforeEach(() => {
    vi.mocked(onePageOfJobs).mockResolvedValue(PAGE);
    vi.mocked(manyDueSummaries).mockResolvedValue([first!, second!]);
    vi.mocked(maybeSummaryGround).mockResolvedValue({ revision: 3, document, entries: [] });
    vi.mocked(jobSummarised).mockResolvedValue({ kind: "done", value: { name: "", text: "", summary } });
    vi.mocked(keepSummary).mockResolvedValue();
    vi.spyOn(log, "error").mockReturnValue();
  });
  afterEach(() => {
    vi.useRealTimers();
    vi.resetAllMocks();
  });

  it("makes each of them once, for everybody who looks at that moment", async () => {
    const looks = await Promise.all([listedJobs(ALL), listedJobs(ALL), listedJobs(ALL)]);
    expect(looks).toEqual([PAGE, PAGE, PAGE]);
    expect(vi.mocked(keepSummary).mock.calls).toEqual([
      [first, { revision: 3, summary }],
      [second, { revision: 3, summary }],
    ]);
  });

  it("is shown, and goes on with the next, where one cannot be kept", async () => {
    vi.mocked(keepSummary).mockRejectedValueOnce(new Error("the disk is full"));
    expect(await listedJobs(ALL)).toBe(PAGE);
    expect(keepSummary).toHaveBeenLastCalledWith(second, { revision: 3, summary });
    expect(log.error).toHaveBeenCalledOnce();
  });

  it("lets go what would take too long at every look, and leaves due what there was no room for", async () => {
    vi.mocked(jobSummarised)
      .mockResolvedValueOnce({ kind: "too-long", limitMs: 8000 })
      .mockResolvedValueOnce({ kind: "busy", whose: "everybody", retryAfterS: 1 });
    await listedJobs(ALL);
    expect(vi.mocked(keepSummary).mock.calls).toEqual([[first, undefined]]);
  });

  it("lets go a job that is gone or cannot be read", async () => {
    vi.mocked(maybeSummaryGround).mockResolvedValueOnce(undefined);
    await listedJobs(ALL);
    expect(keepSummary).toHaveBeenCalledWith(first, undefined);
    expect(jobSummarised).toHaveBeenCalledOnce();
  });

  it("makes none when the time for it is used up, and is shown at once", async () => {
    const none = timeAllowance(0, 0);
    expect(await listedJobs(ALL, none)).toBe(PAGE);
    expect(jobSummarised).not.toHaveBeenCalled();
  });

  it("stops before the next when one used the time up", async () => {
    let left = 1;
    await listedJobs(ALL, { isLeft: () => left > 0, spend: () => void left-- });
    expect(vi.mocked(keepSummary).mock.calls).toEqual([[first, { revision: 3, summary }]]);
  });

  it("waits so long and no longer, and the summary is kept all the same", async () => {
    vi.useFakeTimers();
    vi.mocked(manyDueSummaries).mockResolvedValue([first!]);
    let finish = (_made: Awaited<ReturnType<typeof jobSummarised>>): void => undefined;
    vi.mocked(jobSummarised).mockReturnValue(new Promise((resolve) => (finish = resolve)));
    const look = listedJobs(ALL);
    await vi.advanceTimersByTimeAsync(2_000);
    expect(await look).toBe(PAGE);
    expect(keepSummary).not.toHaveBeenCalled();
    finish({ kind: "done", value: { name: "", text: "", summary } });
    await vi.waitFor(() => expect(keepSummary).toHaveBeenCalledWith(first, { revision: 3, summary }));
  });
});
