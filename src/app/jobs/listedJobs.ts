import { onePageOfJobs, type JobPage, type JobSearch } from "@/db/job";
import { keepSummary, manyDueSummaries, maybeSummaryGround, type DueSummary } from "@/db/summaryDue";
import { jobSummarised } from "@/workers/serverThreads";

/** As many as a page of the list has: those that it does not show can wait for the next look. */
const MOST_AT_ONCE = 50;
/** A list waits no longer than this for summaries; what is left stays due. */
const LONGEST_MS = 2_000;
/** One line before the threads for all lists: they ask for the same. */
const ASKED_BY = "the list of jobs";

const underWay = new Map<string, Promise<void>>();

/** One page of the jobs; each counts what its log finds too, as the open job does. */
export async function listedJobs(search: JobSearch): Promise<JobPage> {
  const signal = AbortSignal.timeout(LONGEST_MS);
  for (const due of await manyDueSummaries(MOST_AT_ONCE)) {
    if (signal.aborted) break;
    await once(due, () => sumUp(due, signal));
  }
  return onePageOfJobs(search);
}

async function sumUp(due: DueSummary, signal: AbortSignal): Promise<void> {
  const ground = await maybeSummaryGround(due.jobId);
  if (!ground) return keepSummary(due, undefined);
  const outcome = await jobSummarised(ground, { person: ASKED_BY, signal });
  // Too much to do, or too long: the job stays due, and the list shows what is known.
  if (outcome.kind === "done") await keepSummary(due, { revision: ground.revision, summary: outcome.value.summary });
}

/** Lists that are asked for at the same moment wait for one summary of a job, not for one each. */
function once({ jobId, mark }: DueSummary, work: () => Promise<void>): Promise<void> {
  const key = `${jobId} ${mark}`;
  const known = underWay.get(key);
  if (known) return known;
  const own = work().finally(() => underWay.delete(key));
  underWay.set(key, own);
  return own;
}
