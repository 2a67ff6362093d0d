import { z } from "zod";
import { asking } from "@/app/api/asking";
import { answerBy, answered, errorResponse, fromThread, jsonResponse, readBytesOf } from "@/app/api/respond";
import { kitLibrary, shippedKits } from "@/app/library/kitLibrary";
import { savedKitSchema } from "@/core/answers/kitAnswers";
import type { LineProblem } from "@/core/kits/readYaml";
import { pathText, problemsOf } from "@/core/problem";
import { saveKit } from "@/db/kit";
import { kitRead } from "@/workers/serverThreads";

const MAX_KIT_BYTES = 400_000;
const YAML_TYPES = ["application/yaml", "application/x-yaml", "text/yaml"];

/** Which own kit is meant to be replaced, and the revision that the new text was made from. */
const querySchema = z.object({
  replace: z.string().max(64).optional(),
  revision: z.coerce.number().int().min(0).max(1e9).default(0),
});

export function GET(): Promise<Response> {
  return answered(async () => {
    const { kits, broken } = await kitLibrary();
    return jsonResponse({ kits: kits.map(({ kit, origin }) => ({ kit, origin })), broken });
  });
}

/**
 * Bring in a kit file (YAML). `?replace=<id>&revision=<n>` says that the own kit of this id is replaced, as it stood at
 * that revision.
 */
export function POST(request: Request): Promise<Response> {
  return answered(async () => {
    const query = querySchema.safeParse(Object.fromEntries(new URL(request.url).searchParams));
    if (!query.success)
      return errorResponse("invalid", "A kit cannot be kept like this.", problemsOf(query.error).problems);
    const body = await readBytesOf(request, YAML_TYPES, MAX_KIT_BYTES);
    if (body.kind === "refused") return body.response;
    const text = body.value.toString("utf8");
    const read = fromThread(await kitRead(body.value, asking(request)));
    if (read.kind === "refused") return read.response;
    if (read.value.kind === "bad-file")
      return errorResponse("invalid", "Nothing was kept: the kit file has problems.", read.value.problems.map(atLine));
    const { kit } = read.value;
    if ((await shippedKits()).some(({ kit: { id } }) => id === kit.id)) {
      return errorResponse("invalid", "Nothing was kept: a kit of this id ships with the program.", [
        { path: ["id"], message: `"${kit.id}" is taken; give your copy another id` },
      ]);
    }
    const { replace, revision } = query.data;
    const outcome = await saveKit(kit, text, replace === kit.id ? revision : 0);
    if (outcome.kind === "saved")
      return answerBy(savedKitSchema, { id: kit.id, revision: outcome.revision }, { status: 201 });
    return replace === kit.id
      ? errorResponse(
          "conflict",
          "Nothing was kept: this kit was changed elsewhere since.",
          [{ path: ["revision"], message: `it is at revision ${outcome.revision} by now` }],
          { current: { revision: outcome.revision, text: outcome.text } },
        )
      : errorResponse("conflict", "Nothing was kept: you have a kit of this id already.", [
          { path: ["id"], message: `"${kit.id}" is taken; give it another id, or edit the one that is there` },
        ]);
  });
}

function atLine({ line, path, message }: LineProblem) {
  return { path: [path.length === 0 ? `line ${line}` : `line ${line}: ${pathText(path)}`], message };
}
