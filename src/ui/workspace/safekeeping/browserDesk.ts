import { callApi, isPassing } from "@/ui/parts/server/apiClient";
import { readPerson } from "@/ui/parts/browser/usePerson";
import type { Clock, JobTransport, ServerJob } from "@/ui/workspace/safekeeping/jobEditor";

/** The editor's server: this app's job routes. */
export const serverTransport: JobTransport = {
  async save(id, revision, document) {
    const answer = await callApi<ServerJob>(
      "PUT",
      `/api/v1/jobs/${id}`,
      JSON.stringify({ revision, document, person: readPerson() }),
    );
    if (answer.kind === "ok") return { kind: "saved", job: answer.value };
    if (answer.status === 409 && isConflict(answer.body)) return { kind: "conflict", current: answer.body.current };
    // The server or its database is away or busy: thrown, so that the editor keeps the draft and tries again.
    if (isPassing(answer.status)) throw new Error(answer.problem.message);
    const [first] = answer.problem.issues;
    return { kind: "refused", message: first ? `${first.path}: ${first.message}` : answer.problem.message };
  },
  async load(id) {
    const answer = await callApi<ServerJob>("GET", `/api/v1/jobs/${id}`);
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

function isConflict(body: unknown): body is { current: ServerJob } {
  return typeof body === "object" && body !== null && "current" in body;
}
