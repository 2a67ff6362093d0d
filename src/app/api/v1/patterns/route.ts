import { answerBy, answered } from "@/app/api/respond";
import { patternLibrary } from "@/app/library/patternLibrary";
import { patternListSchema } from "@/core/patterns/patternRequests";

/** The site patterns that a job can begin with. */
export function GET(): Promise<Response> {
  return answered(async () =>
    answerBy(patternListSchema, {
      patterns: (await patternLibrary()).map(({ id, title, summary, supply, visit }) => ({
        id,
        title,
        summary,
        systems: supply.systems,
        visit: visit ?? { kind: "first-installation" },
      })),
    }),
  );
}
