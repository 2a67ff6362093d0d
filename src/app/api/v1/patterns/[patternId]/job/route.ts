import { answered, errorResponse, jsonResponse, parseBody } from "@/app/api/respond";
import { kitLibrary } from "@/app/library/kitLibrary";
import { patternLibrary } from "@/app/library/patternLibrary";
import { patternJobRequestSchema } from "@/core/patterns/patternRequests";
import { usualAnswers } from "@/core/patterns/patternAnswers";
import { planFromPattern } from "@/core/patterns/planFromPattern";
import { visitOf } from "@/core/plan/askedVisit";
import { withoutEmpty } from "@/core/withoutEmpty";

interface Context {
  readonly params: Promise<{ patternId: string }>;
}

/** A pattern's job as a document, with other answers than the usual ones where some are given. Nothing is stored. */
export function POST(request: Request, { params }: Context): Promise<Response> {
  return answered(async () => {
    const { patternId } = await params;
    const pattern = (await patternLibrary()).find(({ id }) => id === patternId);
    if (!pattern) return errorResponse("not-found", "There is no such pattern.");
    const parsed = await parseBody(request, patternJobRequestSchema);
    if (parsed.kind === "refused") return parsed.response;
    const { answers, visit } = parsed.value;
    const kits = (await kitLibrary()).kits.map(({ kit }) => kit);
    const outcome = planFromPattern(pattern, { ...usualAnswers(pattern), ...withoutEmpty(answers ?? {}) }, kits);
    if (outcome.kind === "not-possible")
      return errorResponse("invalid", "No plan comes of these answers.", outcome.problems);
    const { document } = outcome;
    return jsonResponse(
      visit === undefined ? document : { ...document, visit: withoutEmpty({ ...document.visit, ...visitOf(visit) }) },
    );
  });
}
