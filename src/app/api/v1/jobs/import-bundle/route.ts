import { randomUUID } from "node:crypto";
import { allowedHosts } from "@/app/api/allowedHosts";
import { asking } from "@/app/api/asking";
import { wantedId } from "@/app/api/createdJob";
import { originProblem } from "@/app/api/originProblem";
import { answerBy, answered, errorResponse, fromThread, refusal } from "@/app/api/respond";
import { bringBundle, checkedBundle } from "@/app/library/bundle/bringBundle";
import { withReceivedFile, type ReceivedFile } from "@/app/library/bundle/receivedFile";
import { broughtJobSchema } from "@/core/answers/jobAnswers";
import { admission } from "@/workers/pool/admission";
import { importRead } from "@/workers/serverThreads";

const MAX_BUNDLE_BYTES = 400 * 1024 * 1024;
/** Each one that is received takes its place on the disk until it is read: no more than this at once. */
const DESK = { threads: 3, perPerson: 1, waitingPerPerson: 4, waiting: 8 };
const OK = 200;
const CREATED = 201;

const gate = admission(DESK);

/**
 * Bring in a bundle: the job with its log, photographs and hand overs, or nothing. What is not as it was made is named
 * by its path.
 */
export function POST(request: Request): Promise<Response> {
  return answered(async () => {
    const problem = originProblem(request.headers, request.method, allowedHosts());
    if (problem) return errorResponse(problem.code, problem.message);
    const type = request.headers.get("content-type")?.split(";")[0]?.trim().toLowerCase();
    if (type !== "application/zip")
      return errorResponse("wrong-type", "The body must be application/zip.", [
        { path: ["content-type"], message: "must be application/zip" },
      ]);
    const { person, signal } = asking(request);
    const turn = await gate.enter(person, signal);
    if (turn.kind !== "entered") return refusal(turn);
    try {
      return await withReceivedFile(request, MAX_BUNDLE_BYTES, (file) => answerFor(request, file));
    } finally {
      turn.leave();
    }
  });
}

async function answerFor(request: Request, file: ReceivedFile): Promise<Response> {
  if (file.kind === "too-large")
    return errorResponse("too-large", `A bundle has at most ${MAX_BUNDLE_BYTES} bytes.`, [
      { path: [], message: "too large" },
    ]);
  const wanted = wantedId(request);
  if (wanted.kind === "refused") return wanted.response;
  const bundle = await checkedBundle(file.path);
  if (bundle.kind === "bad-file") return badFile(bundle.problems);
  const { entries, handovers } = bundle;
  const at = new Date().toISOString();
  const read = fromThread(await importRead({ body: Buffer.from(bundle.job), at, entries }, asking(request)));
  if (read.kind === "refused") return read.response;
  if (read.value.kind === "bad-file")
    return badFile(read.value.problems.map((own) => ({ ...own, path: ["job.gormit-job.json", ...own.path] })));
  const outcome = await bringBundle({
    file: file.path,
    bundle,
    written: read.value.job,
    id: wanted.id ?? randomUUID(),
    request: wanted.id === undefined ? undefined : file.sha256,
  });
  if (outcome.kind === "taken")
    return errorResponse("conflict", "Nothing was brought in: this id stands for another job, or for a deleted one.", [
      { path: ["id"], message: "is taken; send the request with an id of its own" },
    ]);
  const brought = {
    entries: entries.length,
    photographs: bundle.manifest.files.filter(({ path }) => path.startsWith("photos/")).length,
    handovers: handovers.length,
    isRenumbered: outcome.isRenumbered,
  };
  return answerBy(broughtJobSchema, { ...outcome.job, brought }, { status: outcome.kind === "created" ? CREATED : OK });
}

function badFile(problems: Parameters<typeof errorResponse>[2]): Response {
  return errorResponse("invalid", "Nothing was brought in: the bundle is not as it was made.", problems?.slice(0, 100));
}
