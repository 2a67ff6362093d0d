import { visitEntrySchema, type VisitEntry } from "@/core/visit/visitEntry";
import type { PlanChange } from "@/core/visit/visitLog";
import { sameJson } from "@/core/sameJson";
import type { Clock } from "@/ui/workspace/safekeeping/jobEditor";
import { WORKSPACE_WORDS } from "@/ui/words/workspaceWords";

const RETRY_FIRST_MS = 1_000;
const RETRY_MOST_MS = 15_000;
/** An entry at which the server fails as often as this is set aside, so that the next ones go on. */
const MOST_FAILURES = 4;

export type SendAnswer =
  | { readonly kind: "kept" }
  | { readonly kind: "refused"; readonly message: string }
  /** The server is there and fails at this very entry. */
  | { readonly kind: "failed"; readonly message: string };

/** A log as the server has it. */
export interface SeenLog {
  readonly entries: readonly VisitEntry[];
  readonly changes: readonly PlanChange[];
}

/** How the recorder reaches the server; each call throws when the server cannot be reached, or is busy. */
export interface VisitTransport {
  load(jobId: string): Promise<SeenLog>;
  send(jobId: string, entry: VisitEntry): Promise<SendAnswer>;
  sendPhoto(jobId: string, id: string, photo: Blob): Promise<SendAnswer>;
}

/** What happened to a stored entry in another tab of this browser. */
export interface StoreNews {
  readonly kind: "added" | "sent" | "let-go" | "set-aside";
  readonly waiting: WaitingEntry;
}

/** Where what is not acknowledged yet outlives the page: one record an entry, shared by the tabs of a browser. */
export interface VisitStore {
  /** All that lies here; undefined when it cannot be looked at. */
  all(
    jobId: string,
  ): Promise<{ readonly waiting: readonly WaitingEntry[]; readonly broken: readonly BrokenEntry[] } | undefined>;
  /** Keep one entry; false when this browser keeps nothing. */
  put(jobId: string, waiting: WaitingEntry): Promise<boolean>;
  drop(jobId: string, id: string): Promise<void>;
  /** The log as it came last, for where it cannot come again; nothing where there is none. */
  lastSeen(jobId: string): Promise<SeenLog | undefined>;
  see(jobId: string, log: SeenLog): Promise<void>;
  /** Let a record go that cannot be read. */
  dropBroken(jobId: string, key: string): Promise<void>;
  /** Run work that no other tab of this browser does at the same time. */
  alone<T>(jobId: string, work: () => Promise<T>): Promise<T>;
  tell(jobId: string, news: StoreNews): void;
  hear(jobId: string, listener: (news: StoreNews) => void): () => void;
}

/** An entry on its way, with its photo where it has one. */
export interface WaitingEntry {
  readonly entry: VisitEntry;
  readonly photo?: Blob | undefined;
  /** Why the server would not have it; it is kept here until somebody decides. */
  readonly refused?: string | undefined;
  /** How often the server failed at it. */
  readonly failures?: number | undefined;
}

/** A record that cannot be read as an entry; it stays as it is until somebody takes it away. */
export interface BrokenEntry {
  readonly key: string;
  readonly text: string;
}

export interface VisitSnapshot {
  /** Acknowledged and on their way, in order. */
  readonly entries: readonly VisitEntry[];
  readonly changes: readonly PlanChange[];
  readonly waiting: readonly WaitingEntry[];
  readonly broken: readonly BrokenEntry[];
  readonly isLoaded: boolean;
  /** The server cannot be reached; what is recorded waits in this browser. */
  readonly isAway: boolean;
  /** Whether this browser keeps what waits; else it is lost with the page. */
  readonly isKept: boolean;
}

/**
 * The log of one job as this browser has it: every entry is kept here first, then sent, once, by one tab at a time;
 * what is not acknowledged survives a reload and is sent when the connection is back. What the server refuses, or fails
 * at again and again, is set aside, not lost, and holds nothing else up.
 */
export class VisitRecorder {
  private snapshot: VisitSnapshot = {
    entries: [],
    changes: [],
    waiting: [],
    broken: [],
    isLoaded: false,
    isAway: false,
    isKept: true,
  };
  private acknowledged: readonly VisitEntry[] = [];
  private readonly listeners = new Set<() => void>();
  private sending = false;
  private retryMs = RETRY_FIRST_MS;
  private cancelTimer: (() => void) | undefined;
  private deafen: (() => void) | undefined;
  /** Not in the store, since this browser keeps nothing. */
  private readonly unkept = new Set<string>();
  /** Counts what was put into the store or taken out, here or in another tab. */
  private changes = 0;

  constructor(
    private readonly jobId: string,
    private readonly transport: VisitTransport,
    private readonly store: VisitStore,
    private readonly clock: Clock,
  ) {}

  subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };

  getSnapshot = (): VisitSnapshot => this.snapshot;

  /** Take up what earlier pages could not send, and look what others recorded. */
  async open(): Promise<void> {
    this.deafen?.();
    this.deafen = this.store.hear(this.jobId, (news) => this.heard(news));
    await this.readStore();
    await this.refresh();
    if (this.snapshot.isAway) await this.showLastSeen();
    void this.flush();
  }

  /** What is recorded on the server by now. What was acknowledged here is never forgotten, whatever comes back. */
  async refresh(): Promise<void> {
    try {
      const { entries, changes } = await this.transport.load(this.jobId);
      const there = new Set(entries.map(({ id }) => id));
      const { isLoaded, isAway, changes: known } = this.snapshot;
      const acknowledged = new Set(this.acknowledged.map(({ id }) => id));
      void this.store.see(this.jobId, { entries, changes });
      if (isLoaded && !isAway && sameJson(changes, known) && entries.every(({ id }) => acknowledged.has(id))) return;
      this.acknowledged = [...entries, ...this.acknowledged.filter(({ id }) => !there.has(id))];
      this.update({ changes, isLoaded: true, isAway: false });
      if (isAway && this.next()) void this.flush();
    } catch {
      this.update({ isLoaded: true, isAway: true });
    }
  }

  /** Without a connection: the log as this browser had it last. */
  private async showLastSeen(): Promise<void> {
    const last = await this.store.lastSeen(this.jobId);
    // The server may have answered meanwhile, and knows better.
    if (!last || !this.snapshot.isAway) return;
    const known = new Set(this.acknowledged.map(({ id }) => id));
    this.acknowledged = [...last.entries.filter(({ id }) => !known.has(id)), ...this.acknowledged];
    this.update({ changes: last.changes });
  }

  /** Record an entry: shown at once, kept in this browser, then sent. What no log could hold is set aside at once. */
  async add(entry: VisitEntry, photo?: Blob): Promise<void> {
    const problem = visitEntrySchema.safeParse(entry).error?.issues[0];
    const refused = problem && `${problem.path.join(".")}: ${problem.message}`;
    const waiting: WaitingEntry = { entry, ...(photo ? { photo } : {}), ...(refused === undefined ? {} : { refused }) };
    this.show(waiting);
    await this.keep(waiting);
    this.store.tell(this.jobId, { kind: "added", waiting });
    await this.flush();
  }

  /** Send what waits, in order. */
  async flush(): Promise<void> {
    if (this.sending || !this.next()) return;
    this.sending = true;
    this.cancelTimer?.();
    this.cancelTimer = undefined;
    try {
      await this.store.alone(this.jobId, async () => {
        // Another tab may have sent it while this one waited for its turn.
        await this.readStore();
        for (let next = this.next(); next; next = this.next()) await this.sendAndSettle(next);
      });
    } catch {
      this.update({ isAway: true });
      this.later();
    } finally {
      this.sending = false;
    }
    // One that came while the last answer was on its way.
    if (!this.cancelTimer && !this.snapshot.isAway && this.next()) void this.flush();
  }

  /** Send again what was refused, or let it go. */
  async settleRefused(id: string, how: "again" | "drop"): Promise<void> {
    const refused = this.snapshot.waiting.find(({ entry }) => entry.id === id);
    if (!refused) return;
    if (how === "drop") {
      await this.forget(refused, "let-go");
    } else {
      await this.replace({ entry: refused.entry, photo: refused.photo });
      this.store.tell(this.jobId, { kind: "added", waiting: { entry: refused.entry, photo: refused.photo } });
    }
    await this.flush();
  }

  /** Let a record go that cannot be read, once somebody has it elsewhere. */
  async dropBroken(key: string): Promise<void> {
    await this.store.dropBroken(this.jobId, key);
    this.update({ broken: this.snapshot.broken.filter((broken) => broken.key !== key) });
  }

  close(): void {
    this.cancelTimer?.();
    this.deafen?.();
    this.deafen = undefined;
  }

  private next(): WaitingEntry | undefined {
    return this.snapshot.waiting.find(({ refused }) => refused === undefined);
  }

  private async sendAndSettle(next: WaitingEntry): Promise<void> {
    const answer = await this.sendOne(next);
    switch (answer.kind) {
      case "kept":
        this.retryMs = RETRY_FIRST_MS;
        this.acknowledged = [...this.acknowledged, next.entry];
        await this.forget(next, "sent");
        break;
      case "refused":
        await this.setAside(next, answer.message);
        break;
      case "failed": {
        const failures = (next.failures ?? 0) + 1;
        if (failures >= MOST_FAILURES)
          return this.setAside(next, WORKSPACE_WORDS.theServerFailedAtItTimes(failures, answer.message));
        await this.replace({ ...next, failures });
        throw new Error(answer.message);
      }
    }
    this.update({ isAway: false });
  }

  private async sendOne({ entry, photo }: WaitingEntry): Promise<SendAnswer> {
    if (entry.kind === "photo" && photo) {
      const answer = await this.transport.sendPhoto(this.jobId, entry.photo, photo);
      if (answer.kind !== "kept") return answer;
    }
    return this.transport.send(this.jobId, entry);
  }

  private async setAside(waiting: WaitingEntry, refused: string): Promise<void> {
    const aside = { ...waiting, refused };
    await this.replace(aside);
    this.store.tell(this.jobId, { kind: "set-aside", waiting: aside });
  }

  /** The store says what waits; what it could not keep is known to this page only. */
  private async readStore(): Promise<void> {
    for (;;) {
      const before = this.changes;
      const stored = await this.store.all(this.jobId);
      if (!stored) return;
      // What came or went while it was read would come or go twice.
      if (before !== this.changes) continue;
      const own = this.snapshot.waiting.filter(({ entry }) => this.unkept.has(entry.id));
      this.update({ waiting: [...stored.waiting, ...own], broken: stored.broken });
      return;
    }
  }

  private async keep(waiting: WaitingEntry): Promise<void> {
    this.changes++;
    const isKept = await this.store.put(this.jobId, waiting);
    this.changes++;
    if (isKept) this.unkept.delete(waiting.entry.id);
    else this.unkept.add(waiting.entry.id);
    this.update({ isKept: this.unkept.size === 0 });
  }

  private async replace(by: WaitingEntry): Promise<void> {
    this.show(by);
    await this.keep(by);
  }

  private async forget({ entry }: WaitingEntry, kind: "sent" | "let-go"): Promise<void> {
    this.hide(entry.id);
    this.unkept.delete(entry.id);
    this.changes++;
    await this.store.drop(this.jobId, entry.id);
    this.changes++;
    this.store.tell(this.jobId, { kind, waiting: { entry } });
  }

  private heard({ kind, waiting }: StoreNews): void {
    const { entry } = waiting;
    this.changes++;
    switch (kind) {
      case "added":
      case "set-aside":
        // Its tab sends it; should that one go, this one does at its next turn.
        return this.show(waiting);
      case "sent":
        if (!this.acknowledged.some(({ id }) => id === entry.id)) this.acknowledged = [...this.acknowledged, entry];
        return this.hide(entry.id);
      case "let-go":
        return this.hide(entry.id);
    }
  }

  private show(waiting: WaitingEntry): void {
    const isThere = this.snapshot.waiting.some(({ entry }) => entry.id === waiting.entry.id);
    this.update({
      waiting: isThere
        ? this.snapshot.waiting.map((other) => (other.entry.id === waiting.entry.id ? waiting : other))
        : [...this.snapshot.waiting, waiting],
    });
  }

  private hide(id: string): void {
    this.update({ waiting: this.snapshot.waiting.filter(({ entry }) => entry.id !== id) });
  }

  private later(): void {
    const delay = this.retryMs;
    this.retryMs = Math.min(RETRY_MOST_MS, 2 * delay);
    this.cancelTimer = this.clock.after(delay, () => {
      this.cancelTimer = undefined;
      void this.flush();
    });
  }

  private update(part: Partial<VisitSnapshot>): void {
    const merged = { ...this.snapshot, ...part };
    const there = new Set(this.acknowledged.map(({ id }) => id));
    this.snapshot = {
      ...merged,
      entries: [...this.acknowledged, ...merged.waiting.flatMap(({ entry }) => (there.has(entry.id) ? [] : [entry]))],
    };
    for (const listener of this.listeners) listener();
  }
}
