import { createdFrom } from "@/app/api/createdJob";
import { answerBy, answered, errorResponse, parseBody } from "@/app/api/respond";
import { listedJobs } from "@/app/jobs/listedJobs";
import { kitLibrary } from "@/app/library/kitLibrary";
import { patternLibrary } from "@/app/library/patternLibrary";
import { jobPageSchema } from "@/core/answers/jobAnswers";
import { doubtedSite, doubtedSiteSchema } from "@/core/job/doubtedSite";
import { starterPlan, starterSchema } from "@/core/job/starterPlan";
import { patternAnswersSchema, type PatternAnswers } from "@/core/patterns/patternAnswers";
import { planFromPattern } from "@/core/patterns/planFromPattern";
import { problemsOf } from "@/core/problem";
import { jobSearchSchema } from "@/db/job";

/** One page of the jobs: `search`, `shelf`, `state`, `place`, `sort`, `order`, `page`, `size`. */
export function GET(request: Request): Promise<Response> {
  return answered(async () => {
    const query = jobSearchSchema.safeParse(Object.fromEntries(new URL(request.url).searchParams));
    if (!query.success)
      return errorResponse("invalid", "The jobs cannot be listed like this.", problemsOf(query.error).problems);
    const page = await listedJobs(query.data);
    return answerBy(jobPageSchema, { ...page, jobs: [...page.jobs], places: [...page.places] });
  });
}

export function POST(request: Request): Promise<Response> {
  return answered(async () => {
    switch (new URL(request.url).searchParams.get("from")) {
      case "pattern": {
        const parsed = await parseBody(request, patternAnswersSchema);
        return parsed.kind === "refused" ? parsed.response : fromPattern(request, parsed.value);
      }
      case "reads-wrong": {
        const parsed = await parseBody(request, doubtedSiteSchema);
        if (parsed.kind === "refused") return parsed.response;
        return createdFrom(request, doubtedSite(parsed.value), JSON.stringify(parsed.value));
      }
      default: {
        const parsed = await parseBody(request, starterSchema);
        if (parsed.kind === "refused") return parsed.response;
        return createdFrom(request, starterPlan(parsed.value), JSON.stringify(parsed.value));
      }
    }
  });
}

async function fromPattern(request: Request, answers: PatternAnswers): Promise<Response> {
  const pattern = (await patternLibrary()).find(({ id }) => id === answers.pattern);
  if (!pattern)
    return errorResponse("invalid", "There is no such pattern.", [
      { path: ["pattern"], message: `there is no pattern "${answers.pattern}"` },
    ]);
  const outcome = planFromPattern(
    pattern,
    answers,
    (await kitLibrary()).kits.map(({ kit }) => kit),
  );
  if (outcome.kind === "not-possible")
    return errorResponse("invalid", "No plan comes of these answers.", outcome.problems);
  return createdFrom(request, outcome.document, JSON.stringify(answers));
}
