import { createStore, del, entries as allRecords, get, update, type UseStore } from "idb-keyval";
import { z } from "zod";
import { visitEntrySchema } from "@/core/visit/visitEntry";
import { keptEntriesSchema, keptPhotoSchema, visitLogSchema } from "@/core/answers/jobAnswers";
import { fetchFromServer } from "@/ui/parts/browser/useConnected";
import { callApi, isPassing, sendApi, type ApiAnswer } from "@/ui/parts/server/apiClient";
import { keepLog, keptLog } from "@/ui/workspace/safekeeping/keptJobs";
import type { BrokenEntry, VisitStore, VisitTransport, SendAnswer } from "@/ui/workspace/visit/visitRecorder";
import { WORKSPACE_WORDS } from "@/ui/words/workspaceWords";

const CHANNEL = "gormit-outbox:";
/** Where the program's first version kept all entries of a job in one record. */
const FIRST_KEY = "gormit-run:";
/** The server failed at what it was asked, and did not say that it is away or busy. */
const DEFECT = 500;
const PHOTO_TIMEOUT_MS = 180_000;
const LOAD_TIMEOUT_MS = 30_000;
const NOT_MODIFIED = 304;

const waitingShape = {
  entry: visitEntrySchema,
  photo: z.instanceof(Blob).optional(),
  refused: z.string().optional(),
  failures: z.int().optional(),
};
const recordSchema = z.object({ ...waitingShape, order: z.number() });
const newsSchema = z.object({
  kind: z.enum(["added", "sent", "let-go", "set-aside"]),
  waiting: z.object(waitingShape),
});

/** The last log of each job that this page got: whoever asks without news gets an empty answer. */
const seen = new Map<string, { readonly etag: string; readonly log: z.output<typeof visitLogSchema> }>();

/** The recorder's server: this app's routes of a visit. */
export const serverVisit: VisitTransport = {
  async load(jobId) {
    const known = seen.get(jobId);
    const response = await fetchFromServer(`/api/v1/jobs/${jobId}/visit`, {
      cache: "no-store",
      headers: known ? { "if-none-match": known.etag } : {},
      signal: AbortSignal.timeout(LOAD_TIMEOUT_MS),
    });
    if (response.status === NOT_MODIFIED && known) return known.log;
    if (!response.ok) throw new Error(WORKSPACE_WORDS.theLogCannotBeHad(response.status));
    const log = visitLogSchema.parse(await response.json());
    seen.set(jobId, { etag: response.headers.get("etag") ?? "", log });
    return log;
  },
  async send(jobId, entry) {
    return sent(
      await callApi("POST", `/api/v1/jobs/${jobId}/visit`, keptEntriesSchema, JSON.stringify({ entries: [entry] })),
    );
  },
  async sendPhoto(jobId, id, photo) {
    const type = photo.type || "application/octet-stream";
    return sent(
      await sendApi("PUT", `/api/v1/jobs/${jobId}/photos/${id}`, keptPhotoSchema, photo, type, PHOTO_TIMEOUT_MS),
    );
  },
};

/** What waits in this browser, photos included: one record an entry, so that a bad one costs no other. */
export const browserVisit: VisitStore = {
  async all(jobId) {
    try {
      await takeOverFirst(jobId);
      const own = (await allRecords<string, unknown>(outbox())).filter(([key]) => key.startsWith(`${jobId}/`));
      const read = own.map(([key, value]) => ({ key, value, record: recordSchema.safeParse(value) }));
      const good = read.flatMap(({ record }) => (record.success ? [record.data] : []));
      return {
        waiting: good.sort((a, b) => a.order - b.order).map(({ order: _order, ...waiting }) => waiting),
        broken: read.flatMap(({ key, value, record }): BrokenEntry[] =>
          record.success ? [] : [{ key, text: JSON.stringify(value, null, 2) ?? "" }],
        ),
      };
    } catch {
      return undefined;
    }
  },
  async put(jobId, waiting) {
    try {
      // An entry that is put again keeps its place in the row.
      await update<unknown>(
        `${jobId}/${waiting.entry.id}`,
        (old) => ({ ...waiting, order: orderOf(old) ?? Date.now() }),
        outbox(),
      );
      return true;
    } catch {
      return false;
    }
  },
  async drop(jobId, id) {
    await del(`${jobId}/${id}`, outbox()).catch(() => undefined);
  },
  lastSeen: keptLog,
  see: keepLog,
  async dropBroken(_jobId, key) {
    await del(key, outbox()).catch(() => undefined);
  },
  async alone(jobId, work) {
    const locks = navigator.locks as LockManager | undefined;
    return locks ? locks.request(`${CHANNEL}${jobId}`, work) : work();
  },
  tell(jobId, news) {
    const channel = new BroadcastChannel(CHANNEL + jobId);
    channel.postMessage(news);
    channel.close();
  },
  hear(jobId, listener) {
    const channel = new BroadcastChannel(CHANNEL + jobId);
    channel.onmessage = ({ data }: MessageEvent<unknown>) => {
      const news = newsSchema.safeParse(data);
      if (news.success) listener(news.data);
    };
    return () => channel.close();
  },
};

let store: UseStore | undefined;

/** Opened at the first use: a server that renders the page has no such store. */
function outbox(): UseStore {
  store ??= createStore("gormit-outbox", "entries");
  return store;
}

/** Records of the first version, each under a key of its own from now on; what cannot be read comes along as it is. */
async function takeOverFirst(jobId: string): Promise<void> {
  const kept = await get<unknown>(FIRST_KEY + jobId);
  if (kept === undefined) return;
  for (const [at, value] of (Array.isArray(kept) ? kept : [kept]).entries()) {
    const record = z.object(waitingShape).safeParse(value);
    const key = record.success ? record.data.entry.id : `unread-${at}`;
    await update<unknown>(`${jobId}/${key}`, () => (record.success ? { ...record.data, order: at } : value), outbox());
  }
  await del(FIRST_KEY + jobId);
}

function orderOf(record: unknown): number | undefined {
  const parsed = z.object({ order: z.number() }).safeParse(record);
  return parsed.success ? parsed.data.order : undefined;
}

function sent(answer: ApiAnswer<unknown>): SendAnswer {
  if (answer.kind === "ok") return { kind: "kept" };
  if (answer.status === DEFECT) return { kind: "failed", message: answer.problem.message };
  if (isPassing(answer.status)) throw new Error(answer.problem.message);
  const [first] = answer.problem.issues;
  return { kind: "refused", message: first ? `${first.path}: ${first.message}` : answer.problem.message };
}
