import { answered, errorResponse, parseBody } from "@/app/api/respond";
import { predict, predictRequestSchema } from "@/core/flows/predict";

export function POST(request: Request): Promise<Response> {
  return answered(async () => {
    const parsed = await parseBody(request, predictRequestSchema);
    if (parsed.kind === "refused") return parsed.response;
    const { site, as, state } = parsed.value;
    const { findings, ...prediction } = predict(site, as, state);
    if (findings.length === 0) return Response.json(prediction);
    const problems = findings.map((finding) => ({
      path: finding.subject.kind === "ct" ? ["site", "cts", site.cts.findIndex((ct) => "id" in finding.subject && ct.id === finding.subject.id), "secondary", "unit"] : [],
      message: finding.detail,
    }));
    return errorResponse("cannot-compute", "A clamp gives another kind of signal than its input takes.", problems, { findings });
  });
}
