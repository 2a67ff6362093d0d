import type { JobDocument } from "@/core/job/jobDocument";
import { mergeJobs, type JobMerge, type MergeSide } from "@/core/job/mergeJobs";
import { sameJson } from "@/core/sameJson";

const SAVE_AFTER_MS = 250;
const RETRY_FIRST_MS = 1_000;
const RETRY_MOST_MS = 15_000;
const MOST_UNDO = 200;
/**
 * Each lies in the draft as a whole document; a longer row of lost answers than this ends in a conflict, not in a loss.
 */
const MOST_UNANSWERED = 5;
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

/** A version of a job that the server acknowledged. */
export interface Base {
  readonly document: JobDocument;
  readonly revision: number;
}

/**
 * What is not saved yet, and what it was made from: without that nobody could tell what changed here and what
 * elsewhere.
 */
export interface Draft {
  /** Drafts of the program's first version kept the revision only. */
  readonly base: { readonly revision: number; readonly document?: JobDocument | undefined };
  readonly document: JobDocument;
  /** Sent, and never answered: the server may have them or not. */
  readonly unanswered: readonly JobDocument[];
}

/** Where what one page could not save yet outlives it. Every page has a draft of its own. */
export interface DraftStore {
  /** A draft that a page which is gone left behind, oldest first; it is this page's from now on, until `release`. */
  adopt(): Promise<{ readonly key: string; readonly draft: Draft } | undefined>;
  /** Let an adopted draft go: it is saved, or lies in this page's own. */
  release(key: string): void;
  /** Keep this page's own draft. False when this browser keeps nothing. */
  put(draft: Draft): boolean;
  drop(): void;
}

/** A document with the steps back from it, the last one last, and forth again. */
export interface Steps {
  readonly document: JobDocument;
  readonly past: readonly JobDocument[];
  readonly future: readonly JobDocument[];
}

/** Where the steps of a page outlive its reload. */
export interface StepStore {
  take(): Steps | undefined;
  put(steps: Steps): void;
}

export type SaveStatus =
  | { readonly kind: "saved" }
  | { readonly kind: "saving" }
  /**
   * The server cannot be reached; what was typed is kept in this browser, if it keeps anything, and sent when it can.
   */
  | { readonly kind: "waiting"; readonly isKept: boolean }
  | {
      readonly kind: "conflict";
      readonly theirs: ServerJob;
      /** What both grew from, as far as it is known. */
      readonly base: JobDocument | undefined;
      /** The other version went on while somebody was choosing. */
      readonly hasMovedOn: boolean;
    }
  | { readonly kind: "refused"; readonly message: string };

export interface EditorSnapshot {
  /** What came in from elsewhere and was put together with what was typed here, in words, until it was seen. */
  readonly merged: readonly string[];
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
 * `base` is what the server acknowledged last, and is set as a whole: document, revision and time together. Whatever
 * differs from it is unsaved, and lies in the draft store with the base that it was made from. At most one save is
 * under way; a change made meanwhile is saved after it. A conflict stops saving until somebody chooses; edits go on
 * meanwhile, still from the same base.
 */
export class JobEditor {
  private snapshot: EditorSnapshot;
  private base: Base;
  private past: JobDocument[] = [];
  private future: JobDocument[] = [];
  /** Sent without an answer, oldest first. What the server has by then is ours, and no conflict. */
  private unanswered: readonly JobDocument[] = [];
  private isDraftKept = true;
  private lastChange = { field: "", at: -Infinity };
  private readonly listeners = new Set<() => void>();
  private cancelTimer: (() => void) | undefined;
  private saving = false;
  private underWay: Promise<void> = Promise.resolve();
  private adopting = false;
  private isClosed = false;
  private retryMs = RETRY_FIRST_MS;

  constructor(
    job: ServerJob,
    private readonly transport: JobTransport,
    private readonly drafts: DraftStore,
    private readonly clock: Clock,
    private readonly steps?: StepStore,
  ) {
    this.base = { document: job.document, revision: job.revision };
    this.snapshot = {
      id: job.id,
      document: job.document,
      revision: job.revision,
      savedAt: job.savedAt,
      status: { kind: "saved" },
      canUndo: false,
      canRedo: false,
      merged: [],
    };
  }

  subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };

  getSnapshot = (): EditorSnapshot => this.snapshot;

  /**
   * Take up the drafts that pages which are gone could not save, one after the other, each decided by what it was made
   * from: nothing changed in it, or the server has it already: let go. The server still has its base: saved on top.
   * Both changed: a conflict with both versions, and the draft keeps its old base until somebody chooses.
   */
  async takeUpDrafts(): Promise<void> {
    if (this.adopting) return;
    this.adopting = true;
    try {
      while (!this.hasUnsaved() && this.snapshot.status.kind !== "conflict") {
        const adopted = await this.drafts.adopt();
        // Somebody may have typed meanwhile; the draft stays this page's and is looked at once that is saved.
        if (!adopted || this.hasUnsaved()) return;
        this.takeUp(adopted.draft);
        // Where this browser keeps nothing more, the adopted one is all there is until it is saved.
        if (this.isDraftKept || !this.hasUnsaved()) this.drafts.release(adopted.key);
      }
    } finally {
      this.adopting = false;
    }
  }

  /** Change the document; `field` names what is typed into, so that its keystrokes are undone together. */
  edit(change: (document: JobDocument) => JobDocument, field = ""): void {
    const before = this.snapshot.document;
    const after = change(before);
    if (after === before) return;
    const now = this.clock.now();
    const continues =
      field !== "" && field === this.lastChange.field && now - this.lastChange.at < SAME_CHANGE_WITHIN_MS;
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

  /** Somebody saw what was put together. */
  noted(): void {
    this.update({ merged: [] });
  }

  /**
   * End a conflict field by field: whose value goes on where both changed it; all else of both goes on. False where
   * what was chosen cannot stand in one job.
   */
  resolveBy(choose: (id: string) => MergeSide): boolean {
    const { status, document } = this.snapshot;
    if (status.kind !== "conflict" || !status.base) return false;
    const merge = mergeJobs(status.base, document, status.theirs.document, choose);
    if (merge) this.takeIn(status.theirs, merge, []);
    return merge !== undefined;
  }

  /** End a conflict: keep mine on top of theirs, or take theirs (undo brings mine back). */
  resolve(choice: "mine" | "theirs"): void {
    const { status, document } = this.snapshot;
    if (status.kind !== "conflict") return;
    const { theirs } = status;
    this.base = { document: theirs.document, revision: theirs.revision };
    this.unanswered = [];
    const saved = { revision: theirs.revision, savedAt: theirs.savedAt };
    if (choice === "mine") {
      this.update({ ...saved, status: { kind: "saving" } });
      this.changed(document);
      return;
    }
    this.past.push(document);
    this.future = [];
    this.drafts.drop();
    this.update({ ...saved, document: theirs.document, status: { kind: "saved" } });
    void this.takeUpDrafts();
  }

  /**
   * Show what was saved elsewhere, as long as nothing here waits to be saved. What was undone by whole documents before
   * would now undo what somebody else saved, so the steps back end here.
   */
  async refresh(): Promise<void> {
    const loaded = await this.transport.load(this.snapshot.id).catch(() => undefined);
    if (loaded && this.snapshot.status.kind === "conflict") return this.showMovedOn(this.snapshot.status, loaded);
    if (!loaded || this.saving || this.hasUnsaved() || this.snapshot.status.kind === "conflict") return;
    if (loaded.revision <= this.base.revision) return;
    const isNews = !sameJson(loaded.document, this.base.document);
    const document = isNews ? loaded.document : this.base.document;
    if (isNews) [this.past, this.future] = [[], []];
    this.base = { document, revision: loaded.revision };
    this.update({ document, revision: loaded.revision, savedAt: loaded.savedAt, status: { kind: "saved" } });
  }

  /** The other version of a conflict went on: what is chosen from is what there is by now. */
  private showMovedOn(status: Extract<SaveStatus, { kind: "conflict" }>, loaded: ServerJob): void {
    if (loaded.revision <= status.theirs.revision) return;
    if (!this.putTogether(status.base, this.snapshot.document, loaded))
      this.update({ status: { ...status, theirs: loaded, hasMovedOn: true } });
  }

  /** Save now what still waits: before the page goes, or when the connection is back. */
  async flush(): Promise<void> {
    this.cancelTimer?.();
    this.cancelTimer = undefined;
    if (this.saving || this.snapshot.status.kind === "conflict") return;
    if (!this.hasUnsaved()) return this.settle();
    this.underWay = this.save();
    await this.underWay;
  }

  private async save(): Promise<void> {
    const { id, document } = this.snapshot;
    this.saving = true;
    this.unanswered = [...this.unanswered, document].slice(-MOST_UNANSWERED);
    this.keepDraft();
    this.update({ status: { kind: "saving" } });
    try {
      const answer = await this.transport.save(id, this.base.revision, document);
      this.retryMs = RETRY_FIRST_MS;
      this.receive(document, answer);
    } catch {
      this.update({ status: { kind: "waiting", isKept: this.isDraftKept } });
      this.later(this.retryMs);
      this.retryMs = Math.min(2 * this.retryMs, RETRY_MOST_MS);
    } finally {
      this.saving = false;
    }
    if (this.snapshot.status.kind === "saving") this.later(0);
    else if (this.snapshot.status.kind === "saved" && !this.isClosed) void this.takeUpDrafts();
  }

  /**
   * The page goes: what is under way comes to its end, and one last try to save. What waits then lies in the draft
   * store; whoever takes it up must not do so before a save that is under way has arrived.
   */
  async close(): Promise<void> {
    this.isClosed = true;
    await this.underWay;
    await this.flush();
  }

  /** Let go of all that is not saved; for a page that cannot be shown with it and is about to be loaded anew. */
  letGo(): void {
    this.isClosed = true;
    this.cancelTimer?.();
    this.unanswered = [];
    this.snapshot = { ...this.snapshot, document: this.base.document, status: { kind: "saved" } };
    this.drafts.drop();
  }

  /** The page is shown (again). */
  async open(): Promise<void> {
    this.isClosed = false;
    await this.takeUpDrafts();
    await this.refresh();
    this.takeSteps();
  }

  /** The page goes, and may come back in the same tab: what was done can be undone then too. */
  keepSteps(): void {
    this.steps?.put({ document: this.snapshot.document, past: this.past, future: this.future });
  }

  /** Steps that lead to another document than the one that is there would undo what somebody else did. */
  private takeSteps(): void {
    const steps = this.steps?.take();
    if (!steps || !sameJson(steps.document, this.snapshot.document)) return;
    [this.past, this.future] = [[...steps.past], [...steps.future]];
    this.update({});
  }

  private receive(sent: JobDocument, answer: SaveAnswer): void {
    switch (answer.kind) {
      case "saved":
        this.accept({ ...answer.job, document: sent });
        return;
      case "conflict": {
        const { current } = answer;
        // Ours, saved by a send whose answer was lost: what was typed since then goes on top of it.
        const ours = this.unanswered.find((document) => sameJson(document, current.document));
        if (ours) return this.accept({ ...current, document: ours });
        this.unanswered = [];
        const { document: base } = this.base;
        if (this.putTogether(base, this.snapshot.document, current)) return;
        this.keepDraft();
        this.update({ status: { kind: "conflict", theirs: current, base, hasMovedOn: false } });
        return;
      }
      case "refused":
        this.unanswered = this.unanswered.filter((document) => document !== sent);
        this.keepDraft();
        this.update({ status: { kind: "refused", message: answer.message } });
    }
  }

  /** The server has this version, and it is ours. */
  private accept(job: ServerJob): void {
    this.base = { document: job.document, revision: job.revision };
    this.unanswered = [];
    const isOver = !this.hasUnsaved();
    if (isOver) this.drafts.drop();
    else this.keepDraft();
    this.update({ revision: job.revision, savedAt: job.savedAt, status: { kind: isOver ? "saved" : "saving" } });
  }

  private takeUp({ base, document, unanswered }: Draft): void {
    const server = this.base;
    const before = base.document ?? (base.revision === server.revision ? server.document : undefined);
    if (sameJson(document, server.document) || (sameJson(document, before) && unanswered.length === 0)) return;
    if ([before, ...unanswered].some((version) => sameJson(version, server.document))) return this.edit(() => document);
    const { id, revision, savedAt } = this.snapshot;
    const theirs = { id, document: server.document, revision, savedAt };
    if (this.putTogether(before, document, theirs)) return;
    this.past.push(server.document);
    this.base = { revision: base.revision, document: before ?? server.document };
    this.update({ document, status: { kind: "conflict", theirs, base: before, hasMovedOn: false } });
    this.keepDraft();
  }

  /** Put both versions together where no field was changed by both; false where somebody has to choose. */
  private putTogether(base: JobDocument | undefined, mine: JobDocument, theirs: ServerJob): boolean {
    const merge = base && mergeJobs(base, mine, theirs.document);
    if (!merge || merge.conflicts.length > 0) return false;
    this.takeIn(theirs, merge, merge.taken);
    return true;
  }

  /** Both versions in one go on from theirs. Undoing whole documents would now undo theirs: the steps back end here. */
  private takeIn({ document: theirs, revision, savedAt }: ServerJob, { document }: JobMerge, told: readonly string[]) {
    this.base = { document: theirs, revision };
    this.unanswered = [];
    [this.past, this.future] = [[], []];
    this.update({ revision, savedAt, status: { kind: "saving" }, merged: [...this.snapshot.merged, ...told] });
    this.changed(document);
  }

  private changed(document: JobDocument): void {
    const inConflict = this.snapshot.status.kind === "conflict";
    this.update({ document, status: inConflict ? this.snapshot.status : { kind: "saving" } });
    this.keepDraft();
    if (!inConflict) this.later(SAVE_AFTER_MS);
  }

  /** Nothing waits: what was typed was taken back before it was sent. */
  private settle(): void {
    this.drafts.drop();
    this.unanswered = [];
    if (this.snapshot.status.kind !== "saved") this.update({ status: { kind: "saved" } });
  }

  private keepDraft(): void {
    this.isDraftKept = this.drafts.put({
      base: this.base,
      document: this.snapshot.document,
      unanswered: this.unanswered,
    });
  }

  /** What was sent without an answer may be on the server, though it was taken back here: that too must be saved. */
  private hasUnsaved(): boolean {
    return this.snapshot.document !== this.base.document || this.unanswered.length > 0;
  }

  private later(delayMs: number): void {
    this.cancelTimer?.();
    if (this.isClosed) return;
    this.cancelTimer = this.clock.after(delayMs, () => void this.flush());
  }

  private update(change: Partial<EditorSnapshot>): void {
    this.snapshot = { ...this.snapshot, ...change, canUndo: this.past.length > 0, canRedo: this.future.length > 0 };
    for (const listener of this.listeners) listener();
  }
}
