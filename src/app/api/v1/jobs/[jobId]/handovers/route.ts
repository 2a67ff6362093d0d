import { currentReports, type CurrentReport } from "@/app/api/report";
import { answerBy, errorResponse, parseBody, type Parsed } from "@/app/api/respond";
import { withJob, type JobContext } from "@/app/api/v1/jobs/withJob";
import { REPORT_LANGUAGE_IDS, type ReportLanguage } from "@/core/handover/report/words/reportLanguages";
import { reportSchema } from "@/core/handover/report/reportSchema";
import { handoverAskedSchema, handoversSchema } from "@/core/handover/version/handoverVersion";
import { logLength, reportChanges } from "@/core/handover/version/reportChanges";
import { makeHandover, manyHandovers, maybeHandover } from "@/db/handover";
import { maybeJob, type Job } from "@/db/job";

/** The hand overs of a job, newest first, and what its report says now that the newest did not. */
export function GET(request: Request, context: JobContext): Promise<Response> {
  return withJob(context, (job) => answerWith(job, () => currentReports(request, job)));
}

/**
 * Hand over: the report is kept word for word with its signatures. It must be the one that was looked at: where
 * something was changed since, nothing is kept.
 */
export function POST(request: Request, context: JobContext): Promise<Response> {
  return withJob(context, async (job) => {
    const parsed = await parseBody(request, handoverAskedSchema);
    if (parsed.kind === "refused") return parsed.response;
    const { sha256, ...asked } = parsed.value;
    const there = (await manyHandovers(job.id)).some(({ id }) => id === asked.id);
    if (!there) {
      const current = await currentReports(request, job);
      if (current.kind === "refused") return current.response;
      // Whoever signs has looked at it in one of its languages.
      const seen = Object.values(current.value).find((own) => own.sha256 === sha256);
      if (!seen)
        return errorResponse(
          "conflict",
          "The job was changed since this report was made. Nothing was handed over; look again, then sign.",
          [{ path: ["sha256"], message: "is of another report" }],
        );
      // How it stands is for this program; the report is for whoever signs it.
      const { state } = current.value.en.report;
      const made = { ...asked, state, report: seen.text };
      if (!(await makeHandover(job, made)))
        return errorResponse("conflict", "Nothing was handed over: the id is of another job's hand over.", [
          { path: ["id"], message: "is taken; give each hand over an id of its own" },
        ]);
    }
    const after = (await maybeJob(job.id)) ?? job;
    return answerWith(after, () => currentReports(request, after), 201);
  });
}

type Reports = Readonly<Record<ReportLanguage, CurrentReport>>;

async function answerWith(job: Job, now: () => Promise<Parsed<Reports>>, status = 200): Promise<Response> {
  const [versions, newest, current] = await Promise.all([manyHandovers(job.id), maybeHandover(job.id), now()]);
  if (current.kind === "refused") return current.response;
  const before = newest && reportSchema.parse(JSON.parse(newest.report));
  // Beside one in another language everything would have changed.
  const { sha256, report } = current.value[before?.language ?? "en"];
  return answerBy(
    handoversSchema,
    {
      versions: [...versions],
      current: {
        sha256,
        languages: fingerprintsOf(current.value),
        language: report.language,
        state: current.value.en.report.state,
        changed: before
          ? reportChanges(before, report).map((own) => ({ ...own, added: [...own.added], gone: [...own.gone] }))
          : [],
        // The line of the hand over itself is not news.
        newLogLines: before ? Math.max(0, logLength(report) - logLength(before) - 1) : 0,
      },
    },
    { status },
  );
}

function fingerprintsOf(reports: Reports): Record<ReportLanguage, string> {
  const all = REPORT_LANGUAGE_IDS.map((language) => [language, reports[language].sha256]);
  return Object.fromEntries(all) as Record<ReportLanguage, string>;
}
