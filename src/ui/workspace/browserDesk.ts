import { jobDocumentSchema } from "@/core/job/jobDocument";
import { callApi } from "@/ui/parts/apiClient";
import type { Clock, DraftStore, JobTransport, ServerJob } from "@/ui/workspace/jobEditor";
import { z } from "zod";

const DRAFT_PREFIX = "gormit-draft:";

const draftSchema = z.object({ revision: z.int(), document: jobDocumentSchema });

/** The editor's server: this app's job routes. */
export const serverTransport: JobTransport = {
  async save(id, revision, document) {
    const answer = await callApi<ServerJob>("PUT", `/api/v1/jobs/${id}`, JSON.stringify({ revision, document }));
    if (answer.kind === "ok") return { kind: "saved", job: answer.value };
    if (answer.status === 409 && isConflict(answer.body)) return { kind: "conflict", current: answer.body.current };
    // The server or its database is away: thrown, so that the editor keeps the draft and tries again.
    if (answer.status >= 500) throw new Error(answer.problem.message);
    const [first] = answer.problem.issues;
    return { kind: "refused", message: first ? `${first.path}: ${first.message}` : answer.problem.message };
  },
  async load(id) {
    const answer = await callApi<ServerJob>("GET", `/api/v1/jobs/${id}`);
    return answer.kind === "ok" ? answer.value : undefined;
  },
};

/** Drafts in this browser. A browser that keeps nothing (private mode, full disk) costs the draft, not the page. */
export const browserDrafts: DraftStore = {
  get(id) {
    const text = localStorage.getItem(DRAFT_PREFIX + id);
    if (text === null) return undefined;
    const parsed = draftSchema.safeParse(safeJson(text));
    return parsed.success ? parsed.data : undefined;
  },
  put(id, draft) {
    try {
      localStorage.setItem(DRAFT_PREFIX + id, JSON.stringify(draft));
    } catch {
      return;
    }
  },
  drop(id) {
    localStorage.removeItem(DRAFT_PREFIX + id);
  },
};

export const browserClock: Clock = {
  now: () => performance.now(),
  after(delayMs, run) {
    const timer = setTimeout(run, delayMs);
    return () => clearTimeout(timer);
  },
};

function safeJson(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    return undefined;
  }
}

function isConflict(body: unknown): body is { current: ServerJob } {
  return typeof body === "object" && body !== null && "current" in body;
}
