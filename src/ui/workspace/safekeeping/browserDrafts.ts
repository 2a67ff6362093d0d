import { z } from "zod";
import type { JobDocument } from "@/core/job/jobDocument";
import { storedJobSchema } from "@/core/job/storedJob";
import type { Draft, DraftStore } from "@/ui/workspace/safekeeping/jobEditor";

const PREFIX = "gormit-draft:";
/** Whoever moves drafts from one page to another holds this lock. */
const MOVING = "gormit-drafts-moving";
const OWN_SLOT = "now";

/** A draft that cannot be read; it stays as it is until somebody takes it away as a file. */
export interface UnreadableDraft {
  readonly key: string;
  readonly text: string;
}

const draftSchema = z.object({
  base: z.object({ revision: z.int(), document: storedJobSchema.optional() }),
  document: storedJobSchema,
  unanswered: z.array(storedJobSchema).default([]),
  at: z.number().default(0),
});

/** The program's first version kept one draft a job, with the revision it was made on. */
const firstDraftSchema = z
  .object({ revision: z.int(), document: storedJobSchema })
  .transform(({ revision, document }) => ({ base: { revision }, document, unanswered: [], at: 0 }));

const anyDraftSchema = z.union([draftSchema, firstDraftSchema]);

/**
 * The drafts of one job in this browser. Each page keeps its own; a lock that lives as long as the page tells whether a
 * draft's page is still there. A browser without locks (no secure connection) takes up all it finds: the worst that
 * comes of it is a conflict that is shown.
 */
export class BrowserDrafts implements DraftStore {
  private readonly page = crypto.randomUUID();
  private adopted = 0;
  private latest: { readonly document: JobDocument | undefined; readonly at: number } = { document: undefined, at: 0 };
  /** Drafts of other pages that there was no room to move. */
  private readonly claimed = new Set<string>();

  constructor(private readonly jobId: string) {}

  /** Hold this page's drafts until the function that comes back is called. */
  hold(): () => void {
    let release = (): void => undefined;
    const held = new Promise<void>((resolve) => {
      release = resolve;
    });
    void locks()?.request(this.lockOf(this.page), { mode: "shared" }, () => held);
    return release;
  }

  async adopt(): Promise<{ readonly key: string; readonly draft: Draft } | undefined> {
    const move = async () => {
      const alive = new Set((await locks()?.query())?.held?.map(({ name }) => name));
      for (const { key, page, slot } of this.keys()) {
        if (page === this.page ? slot === OWN_SLOT : alive.has(this.lockOf(page))) continue;
        if (page !== this.page && readDraft(key)) this.claim(key);
      }
      return this.keys()
        .filter(({ key, page, slot }) => this.claimed.has(key) || (page === this.page && slot !== OWN_SLOT))
        .flatMap(({ key }) => {
          const draft = readDraft(key);
          return draft ? [{ key, draft }] : [];
        })
        .sort((a, b) => a.draft.at - b.draft.at)[0];
    };
    return locks()?.request(MOVING, move) ?? move();
  }

  release(key: string): void {
    localStorage.removeItem(key);
  }

  put(draft: Draft): boolean {
    // A draft is as old as what was typed last, however often it is tried to be sent.
    if (this.latest.document !== draft.document) this.latest = { document: draft.document, at: Date.now() };
    try {
      localStorage.setItem(this.key(OWN_SLOT), JSON.stringify({ ...draft, at: this.latest.at }));
      return true;
    } catch {
      // Private mode, a full disk: said in the header, and still sent.
      return false;
    }
  }

  drop(): void {
    localStorage.removeItem(this.key(OWN_SLOT));
  }

  unreadable(): readonly UnreadableDraft[] {
    return this.everything().filter(({ key }) => !readDraft(key));
  }

  /** All that lies here of this job, as text, to be put aside when a page cannot be shown with it. */
  everything(): readonly UnreadableDraft[] {
    return this.keys().flatMap(({ key }) => {
      const text = localStorage.getItem(key);
      return text === null ? [] : [{ key, text }];
    });
  }

  /** Let everything go that lies here of this job, other pages' drafts too. */
  forget(): void {
    for (const { key } of this.keys()) localStorage.removeItem(key);
  }

  /** Move a draft under this page's name. The new one is written before the old one goes: never none. */
  private claim(key: string): void {
    const text = localStorage.getItem(key);
    if (text === null) return;
    try {
      localStorage.setItem(this.key(`adopted-${this.adopted++}`), text);
      localStorage.removeItem(key);
    } catch {
      this.claimed.add(key);
    }
  }

  private key(slot: string): string {
    return `${PREFIX}${this.jobId}:${this.page}:${slot}`;
  }

  private lockOf(page: string): string {
    return `${PREFIX}${this.jobId}:${page}`;
  }

  /** The keys of this job's drafts; the first version's has neither page nor slot. */
  private keys(): readonly { readonly key: string; readonly page: string; readonly slot: string }[] {
    const own = `${PREFIX}${this.jobId}`;
    return Object.keys(localStorage)
      .filter((key) => key === own || key.startsWith(`${own}:`))
      .map((key) => {
        const [page = "", slot = ""] = key.slice(own.length + 1).split(":");
        return { key, page, slot };
      });
  }
}

function locks(): LockManager | undefined {
  return navigator.locks as LockManager | undefined;
}

function readDraft(key: string): z.output<typeof anyDraftSchema> | undefined {
  try {
    const parsed = anyDraftSchema.safeParse(JSON.parse(localStorage.getItem(key) ?? ""));
    return parsed.success ? parsed.data : undefined;
  } catch {
    return undefined;
  }
}
