import type { JobDocument } from "@/core/job/jobDocument";

const SAVE_AFTER_MS = 250;
const RETRY_FIRST_MS = 1_000;
const RETRY_MOST_MS = 15_000;
const MOST_UNDO = 200;
/** Changes of one field that come closer together than this are undone as one. */
const SAME_CHANGE_WITHIN_MS = 1_500;

/** A job as the server has it. */
export interface ServerJob {
  readonly id: string;
  readonly document: JobDocument;
  readonly revision: number;
  readonly savedAt: string;
}

export type SaveAnswer =
  | { readonly kind: "saved"; readonly job: ServerJob }
  | { readonly kind: "conflict"; readonly current: ServerJob }
  | { readonly kind: "refused"; readonly message: string };

/** How the editor reaches the server; each call throws when the server cannot be reached. */
export interface JobTransport {
  save(id: string, revision: number, document: JobDocument): Promise<SaveAnswer>;
  load(id: string): Promise<ServerJob | undefined>;
}

/** Where what is not saved yet outlives the page. */
export interface DraftStore {
  get(id: string): Draft | undefined;
  put(id: string, draft: Draft): void;
  drop(id: string): void;
}

export interface Draft {
  readonly revision: number;
  readonly document: JobDocument;
}

export type SaveStatus =
  | { readonly kind: "saved" }
  | { readonly kind: "saving" }
  /** The server cannot be reached; what was typed is kept in this browser and sent when it can. */
  | { readonly kind: "waiting" }
  | { readonly kind: "conflict"; readonly theirs: ServerJob }
  | { readonly kind: "refused"; readonly message: string };

export interface EditorSnapshot {
  readonly id: string;
  readonly document: JobDocument;
  readonly revision: number;
  readonly savedAt: string;
  readonly status: SaveStatus;
  readonly canUndo: boolean;
  readonly canRedo: boolean;
}

/** Timers and clock, so that tests can pass time by hand. */
export interface Clock {
  now(): number;
  after(delayMs: number, run: () => void): () => void;
}

/**
 * One open job: its document with undo and redo, saved at once with compare-and-set on the revision.
 *
 * At most one save is under way; a change made meanwhile is saved after it. A conflict stops saving until
 * somebody chooses; edits go on meanwhile. Until a save is acknowledged the document also lies in the draft
 * store, and is taken up from there when the page is opened again.
 */
export class JobEditor {
  private snapshot: EditorSnapshot;
  private past: JobDocument[] = [];
  private future: JobDocument[] = [];
  private acknowledged: JobDocument;
  private lastChange = { field: "", at: -Infinity };
  private readonly listeners = new Set<() => void>();
  private cancelTimer: (() => void) | undefined;
  private saving = false;
  private retryMs = RETRY_FIRST_MS;

  constructor(
    job: ServerJob, private readonly transport: JobTransport, private readonly drafts: DraftStore, private readonly clock: Clock,
  ) {
    this.acknowledged = job.document;
    this.snapshot = {
      id: job.id, document: job.document, revision: job.revision, savedAt: job.savedAt,
      status: { kind: "saved" }, canUndo: false, canRedo: false,
    };
  }

  subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };

  getSnapshot = (): EditorSnapshot => this.snapshot;

  /** Take up a draft that an earlier page could not save: at the same revision it is saved, else it is a conflict. */
  takeUpDraft(): void {
    const draft = this.drafts.get(this.snapshot.id);
    if (!draft) return;
    if (isSame(draft.document, this.snapshot.document)) {
      this.drafts.drop(this.snapshot.id);
    } else if (draft.revision === this.snapshot.revision) {
      this.edit(() => draft.document);
    } else {
      const { id, document, revision, savedAt } = this.snapshot;
      this.past.push(document);
      this.update({ document: draft.document, status: { kind: "conflict", theirs: { id, document, revision, savedAt } } });
    }
  }

  /** Change the document; `field` names what is typed into, so that its keystrokes are undone together. */
  edit(change: (document: JobDocument) => JobDocument, field = ""): void {
    const before = this.snapshot.document;
    const after = change(before);
    if (after === before) return;
    const now = this.clock.now();
    const continues = field !== "" && field === this.lastChange.field && now - this.lastChange.at < SAME_CHANGE_WITHIN_MS;
    if (!continues) this.past = [...this.past, before].slice(-MOST_UNDO);
    this.lastChange = { field, at: now };
    this.future = [];
    this.changed(after);
  }

  undo(): void {
    const before = this.past.pop();
    if (!before) return;
    this.future.push(this.snapshot.document);
    this.lastChange = { field: "", at: -Infinity };
    this.changed(before);
  }

  redo(): void {
    const after = this.future.pop();
    if (!after) return;
    this.past.push(this.snapshot.document);
    this.lastChange = { field: "", at: -Infinity };
    this.changed(after);
  }

  /** End a conflict: keep mine on top of theirs, or take theirs (undo brings mine back). */
  resolve(choice: "mine" | "theirs"): void {
    const { status, document } = this.snapshot;
    if (status.kind !== "conflict") return;
    const { theirs } = status;
    if (choice === "theirs") {
      this.past.push(document);
      this.future = [];
      this.acknowledge(theirs);
      this.update({ document: theirs.document, status: { kind: "saved" } });
      return;
    }
    this.acknowledged = theirs.document;
    this.update({ revision: theirs.revision, savedAt: theirs.savedAt, status: { kind: "saving" } });
    this.changed(document);
  }

  /** Show what was saved elsewhere, as long as nothing here waits to be saved. */
  async refresh(): Promise<void> {
    const loaded = await this.transport.load(this.snapshot.id).catch(() => undefined);
    if (!loaded || this.hasUnsaved() || this.snapshot.status.kind === "conflict") return;
    if (loaded.revision <= this.snapshot.revision) return;
    this.past.push(this.snapshot.document);
    this.acknowledge(loaded);
    this.update({ document: loaded.document, status: { kind: "saved" } });
  }

  /** Save now what still waits: before the page goes, or when the connection is back. */
  async flush(): Promise<void> {
    this.cancelTimer?.();
    this.cancelTimer = undefined;
    if (this.saving || this.snapshot.status.kind === "conflict" || !this.hasUnsaved()) return;
    const { id, revision, document } = this.snapshot;
    this.saving = true;
    this.update({ status: { kind: "saving" } });
    try {
      this.receive(document, await this.transport.save(id, revision, document));
      this.retryMs = RETRY_FIRST_MS;
    } catch {
      this.update({ status: { kind: "waiting" } });
      this.later(this.retryMs);
      this.retryMs = Math.min(2 * this.retryMs, RETRY_MOST_MS);
    } finally {
      this.saving = false;
    }
    if (this.snapshot.status.kind === "saving") this.later(0);
  }

  private receive(sent: JobDocument, answer: SaveAnswer): void {
    switch (answer.kind) {
      case "saved":
        this.acknowledge({ ...answer.job, document: sent });
        this.update({ status: this.hasUnsaved() ? { kind: "saving" } : { kind: "saved" } });
        return;
      case "conflict":
        this.update({ status: { kind: "conflict", theirs: answer.current } });
        return;
      case "refused":
        this.update({ status: { kind: "refused", message: answer.message } });
    }
  }

  private changed(document: JobDocument): void {
    this.drafts.put(this.snapshot.id, { revision: this.snapshot.revision, document });
    const inConflict = this.snapshot.status.kind === "conflict";
    this.update({ document, status: inConflict ? this.snapshot.status : { kind: "saving" } });
    if (!inConflict) this.later(SAVE_AFTER_MS);
  }

  private acknowledge(job: ServerJob): void {
    this.acknowledged = job.document;
    const unsaved = this.snapshot.document !== job.document && this.snapshot.status.kind !== "conflict";
    if (unsaved) this.drafts.put(job.id, { revision: job.revision, document: this.snapshot.document });
    else this.drafts.drop(job.id);
    this.update({ revision: job.revision, savedAt: job.savedAt });
  }

  private hasUnsaved(): boolean {
    return this.snapshot.document !== this.acknowledged;
  }

  private later(delayMs: number): void {
    this.cancelTimer?.();
    this.cancelTimer = this.clock.after(delayMs, () => void this.flush());
  }

  private update(change: Partial<EditorSnapshot>): void {
    this.snapshot = { ...this.snapshot, ...change, canUndo: this.past.length > 0, canRedo: this.future.length > 0 };
    for (const listener of this.listeners) listener();
  }
}

function isSame(a: JobDocument, b: JobDocument): boolean {
  return JSON.stringify(a) === JSON.stringify(b);
}
