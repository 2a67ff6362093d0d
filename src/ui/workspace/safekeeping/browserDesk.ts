import { jobAnswerSchema, jobConflictSchema, savedJobSchema } from "@/core/answers/jobAnswers";
import { callApi, isPassing } from "@/ui/parts/server/apiClient";
import { readPerson } from "@/ui/parts/browser/usePerson";
import type { Clock, JobTransport } from "@/ui/workspace/safekeeping/jobEditor";

const CONFLICT = 409;

/** The editor's server: this app's job routes. */
export const serverTransport: JobTransport = {
  async save(id, revision, document) {
    const answer = await callApi(
      "PUT",
      `/api/v1/jobs/${id}`,
      savedJobSchema,
      JSON.stringify({ revision, document, person: readPerson() }),
    );
    if (answer.kind === "ok") return { kind: "saved", job: { ...answer.value, document } };
    const conflict = answer.status === CONFLICT ? jobConflictSchema.safeParse(answer.body) : undefined;
    if (conflict?.success) return { kind: "conflict", current: conflict.data.current };
    // The server or its database is away or busy: thrown, so that the editor keeps the draft and tries again.
    if (isPassing(answer.status)) throw new Error(answer.problem.message);
    const [first] = answer.problem.issues;
    return { kind: "refused", message: first ? `${first.path}: ${first.message}` : answer.problem.message };
  },
  async load(id) {
    const answer = await callApi("GET", `/api/v1/jobs/${id}`, jobAnswerSchema);
    return answer.kind === "ok" ? answer.value : undefined;
  },
};

export const browserClock: Clock = {
  now: () => performance.now(),
  after(delayMs, run) {
    const timer = setTimeout(run, delayMs);
    return () => clearTimeout(timer);
  },
};
