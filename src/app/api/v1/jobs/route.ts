import { answered, errorResponse, parseBody } from "@/app/api/respond";
import { kitLibrary } from "@/app/library/kitLibrary";
import { patternLibrary } from "@/app/library/patternLibrary";
import { starterPlan, starterSchema } from "@/core/job/starterPlan";
import { patternAnswersSchema, type PatternAnswers } from "@/core/patterns/patternAnswers";
import { planFromPattern } from "@/core/patterns/planFromPattern";
import { createJob, manyJobs } from "@/db/job";


export function GET(): Promise<Response> {
  return answered(async () => Response.json({ jobs: await manyJobs() }));
}

export function POST(request: Request): Promise<Response> {
  return answered(async () => {
    const isPattern = new URL(request.url).searchParams.get("from") === "pattern";
    const parsed = await parseBody(request, isPattern ? patternAnswersSchema : starterSchema);
    if (parsed.kind === "refused") return parsed.response;
    return "pattern" in parsed.value ? fromPattern(parsed.value) : created(starterPlan(parsed.value));
  });
}

async function fromPattern(answers: PatternAnswers): Promise<Response> {
  const pattern = (await patternLibrary()).find(({ id }) => id === answers.pattern);
  if (!pattern) return errorResponse("invalid", "There is no such pattern.", [{ path: ["pattern"], message: `there is no pattern "${answers.pattern}"` }]);
  const outcome = planFromPattern(pattern, answers, (await kitLibrary()).map(({ kit }) => kit));
  if (outcome.kind === "not-possible") return errorResponse("invalid", "No plan comes of these answers.", outcome.problems);
  return created(outcome.document);
}

async function created(document: Parameters<typeof createJob>[0]): Promise<Response> {
  return Response.json(await createJob(document), { status: 201 });
}
