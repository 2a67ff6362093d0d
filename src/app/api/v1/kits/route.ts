import { answered, errorResponse, readText } from "@/app/api/respond";
import { kitLibrary, shippedKits } from "@/app/library/kitLibrary";
import { kitSchema } from "@/core/kits/kitSchema";
import { readYaml, type LineProblem } from "@/core/kits/readYaml";
import { pathText } from "@/core/problem";
import { maybeKit, saveKit } from "@/db/kit";

const MAX_KIT_BYTES = 400_000;

export function GET(): Promise<Response> {
  return answered(async () => Response.json({ kits: (await kitLibrary()).map(({ kit, origin }) => ({ kit, origin })) }));
}

/** Bring in a kit file (YAML). `?replace=<id>` says that the own kit of this id is meant to be replaced. */
export function POST(request: Request): Promise<Response> {
  return answered(async () => {
    const text = await readText(request, MAX_KIT_BYTES);
    if (text.kind === "refused") return text.response;
    const outcome = readYaml(text.value, kitSchema);
    if (outcome.kind === "bad-file") return errorResponse("invalid", "Nothing was kept: the kit file has problems.", outcome.problems.map(atLine));
    const { id } = outcome.value;
    if ((await shippedKits()).some(({ kit }) => kit.id === id)) {
      return errorResponse("invalid", "Nothing was kept: a kit of this id ships with the program.", [{ path: ["id"], message: `"${id}" is taken; give your copy another id` }]);
    }
    if (await maybeKit(id) && new URL(request.url).searchParams.get("replace") !== id) {
      return errorResponse("conflict", "Nothing was kept: you have a kit of this id already.", [{ path: ["id"], message: `"${id}" is taken; give it another id, or edit the one that is there` }]);
    }
    await saveKit(outcome.value, text.value);
    return Response.json({ id }, { status: 201 });
  });
}

function atLine({ line, path, message }: LineProblem) {
  return { path: [path.length === 0 ? `line ${line}` : `line ${line}: ${pathText(path)}`], message };
}
