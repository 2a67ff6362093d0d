import { timeAllowance, type TimeAllowance } from "@/app/jobs/timeAllowance";
import { log } from "@/app/log";
import { onePageOfJobs, type JobPage, type JobSearch } from "@/db/job";
import { keepSummary, manyDueSummaries, maybeSummaryGround, type DueSummary } from "@/db/summaryDue";
import { jobSummarised } from "@/workers/serverThreads";

/** As many as a page of the list has: those that it does not show can wait for the next look. */
const MOST_AT_ONCE = 50;
/** A list waits no longer than this for summaries; they are made to their end all the same. */
const LONGEST_MS = 2_000;
/** One line before the threads for all lists: they ask for the same. */
const ASKED_BY = "the list of jobs";

/**
 * What summaries may take of the one thread that saves are read in, ms and share of the time: with fifty people at
 * work a list would never be through with them, and everybody would wait. What is over waits for a later look.
 */
const SPENT_AT_ONCE_MS = 2_000;
const SHARE_OF_TIME = 0.1;

const shared = timeAllowance(SPENT_AT_ONCE_MS, SHARE_OF_TIME);
const underWay = new Map<string, Promise<void>>();

/**
 * One page of the jobs; each counts what its log finds too, as the open job does. Where a great many people are at
 * work, what the log finds may come a look later.
 */
export async function listedJobs(search: JobSearch, allowance = shared): Promise<JobPage> {
  if (allowance.isLeft()) {
    const due = await manyDueSummaries(MOST_AT_ONCE);
    if (due.length > 0) await withinMs(LONGEST_MS, allSummedUp(due, allowance));
  }
  return onePageOfJobs(search);
}

/** Waits until work is done, or no longer than so long; the work goes on. */
async function withinMs(mostMs: number, work: Promise<void>): Promise<void> {
  let timer: NodeJS.Timeout | undefined;
  const over = new Promise<void>((resolve) => {
    timer = setTimeout(resolve, mostMs);
  });
  await Promise.race([work, over]);
  clearTimeout(timer);
}

async function allSummedUp(all: readonly DueSummary[], allowance: TimeAllowance): Promise<void> {
  for (const due of all) {
    if (!allowance.isLeft()) return;
    const began = performance.now();
    await once(due);
    // What was waited for counts too: it says how busy the thread is.
    allowance.spend(performance.now() - began);
  }
}

/** Lists that are asked for at the same moment wait for one summary of a job, not for one each. */
function once(due: DueSummary): Promise<void> {
  const key = `${due.jobId} ${due.mark}`;
  const known = underWay.get(key);
  if (known) return known;
  const own = sumUp(due)
    // A full disk or a busy database is no reason to show no list: the job stays due.
    .catch((error: unknown) => log.error({ err: error, job: due.jobId }, "job not summed up"))
    .finally(() => underWay.delete(key));
  underWay.set(key, own);
  return own;
}

async function sumUp(due: DueSummary): Promise<void> {
  const ground = await maybeSummaryGround(due.jobId);
  if (!ground) return keepSummary(due, undefined);
  // Nobody calls it off: a thread that is ended half way would keep those who save waiting for a new one.
  const outcome = await jobSummarised(ground, { person: ASKED_BY, signal: new AbortController().signal });
  switch (outcome.kind) {
    case "done":
      return keepSummary(due, { revision: ground.revision, summary: outcome.value.summary });
    case "too-long":
    case "too-large":
      // It would be so at every look; its last summary stays.
      return keepSummary(due, undefined);
    case "busy":
    case "aborted":
      return;
  }
}
