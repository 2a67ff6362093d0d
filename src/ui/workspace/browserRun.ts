import { get, set } from "idb-keyval";
import { z } from "zod";
import { runEntrySchema, type RunEntry } from "@/core/procedure/runEntry";
import type { PlanChange } from "@/core/procedure/visitLog";
import { callApi } from "@/ui/parts/apiClient";
import type { RunStore, RunTransport, SendAnswer, Waiting } from "@/ui/workspace/runRecorder";

const KEY_PREFIX = "gormit-run:";

const waitingSchema = z.array(z.object({ entry: runEntrySchema, photo: z.instanceof(Blob).optional(), refused: z.string().optional() }));

/** The recorder's server: this app's run routes. */
export const serverRun: RunTransport = {
  async load(jobId) {
    const answer = await callApi<{ entries: readonly RunEntry[]; changes: readonly PlanChange[] }>("GET", `/api/v1/jobs/${jobId}/run`);
    if (answer.kind === "ok") return answer.value;
    throw new Error(answer.problem.message);
  },
  async send(jobId, entry) {
    return sent(await callApi("POST", `/api/v1/jobs/${jobId}/run`, JSON.stringify({ entries: [entry] })));
  },
  async sendPhoto(jobId, id, photo) {
    const response = await fetch(`/api/v1/jobs/${jobId}/photos/${id}`, { method: "PUT", body: photo, headers: { "content-type": photo.type || "application/octet-stream" } });
    if (response.ok) return { kind: "kept" };
    if (response.status >= 500) throw new Error("The server cannot be reached.");
    return { kind: "refused", message: response.status === 413 ? "The photo is larger than 12 MB." : "The server keeps JPEG, PNG and WebP pictures only." };
  },
};

/** What waits in this browser, photos included. */
export const browserRun: RunStore = {
  async get(jobId) {
    try {
      const parsed = waitingSchema.safeParse(await get(KEY_PREFIX + jobId));
      return parsed.success ? parsed.data.map(({ entry, photo, refused }): Waiting => ({ entry, ...(photo ? { photo } : {}), ...(refused === undefined ? {} : { refused }) })) : [];
    } catch {
      return [];
    }
  },
  async put(jobId, waiting) {
    try {
      await set(KEY_PREFIX + jobId, waiting);
    } catch {
      // A browser that keeps nothing (private mode, full disk) still sends.
      return;
    }
  },
};

function sent(answer: Awaited<ReturnType<typeof callApi>>): SendAnswer {
  if (answer.kind === "ok") return { kind: "kept" };
  if (answer.status >= 500) throw new Error(answer.problem.message);
  const [first] = answer.problem.issues;
  return { kind: "refused", message: first ? `${first.path}: ${first.message}` : answer.problem.message };
}
