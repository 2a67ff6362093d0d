import type { RunEntry } from "@/core/procedure/runEntry";
import type { PlanChange } from "@/core/procedure/visitLog";
import type { Clock } from "@/ui/workspace/jobEditor";

const RETRY_FIRST_MS = 1_000;
const RETRY_MOST_MS = 15_000;

export type SendAnswer = { readonly kind: "kept" } | { readonly kind: "refused"; readonly message: string };

/** How the recorder reaches the server; each call throws when the server cannot be reached. */
export interface RunTransport {
  load(jobId: string): Promise<{ readonly entries: readonly RunEntry[]; readonly changes: readonly PlanChange[] }>;
  send(jobId: string, entry: RunEntry): Promise<SendAnswer>;
  sendPhoto(jobId: string, id: string, photo: Blob): Promise<SendAnswer>;
}

/** Where what is not acknowledged yet outlives the page. */
export interface RunStore {
  get(jobId: string): Promise<readonly Waiting[]>;
  put(jobId: string, waiting: readonly Waiting[]): Promise<void>;
}

/** An entry on its way, with its photo where it has one. */
export interface Waiting {
  readonly entry: RunEntry;
  readonly photo?: Blob;
  /** Why the server would not have it; it is kept here until somebody decides. */
  readonly refused?: string;
}

export interface RunSnapshot {
  /** Acknowledged and on their way, in order. */
  readonly entries: readonly RunEntry[];
  readonly changes: readonly PlanChange[];
  readonly waiting: readonly Waiting[];
  readonly isLoaded: boolean;
  /** The server cannot be reached; what is recorded waits in this browser. */
  readonly isAway: boolean;
}

/**
 * The log of one job as this browser has it: every entry is kept here first, then sent, once; what is not acknowledged
 * survives a reload and is sent when the connection is back. What the server refuses is set aside, not lost, and holds
 * nothing else up.
 */
export class RunRecorder {
  private snapshot: RunSnapshot = { entries: [], changes: [], waiting: [], isLoaded: false, isAway: false };
  private acknowledged: readonly RunEntry[] = [];
  private readonly listeners = new Set<() => void>();
  private sending = false;
  private retryMs = RETRY_FIRST_MS;
  private cancelTimer: (() => void) | undefined;

  constructor(private readonly jobId: string, private readonly transport: RunTransport, private readonly store: RunStore, private readonly clock: Clock) {}

  subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };

  getSnapshot = (): RunSnapshot => this.snapshot;

  /** Take up what an earlier page could not send, and look what others recorded. */
  async open(): Promise<void> {
    const kept = await this.store.get(this.jobId);
    const known = new Set(this.snapshot.waiting.map(({ entry }) => entry.id));
    this.update({ waiting: [...kept.filter(({ entry }) => !known.has(entry.id)), ...this.snapshot.waiting] });
    await this.refresh();
    void this.flush();
  }

  /** What is recorded on the server by now. What was acknowledged here is never forgotten, whatever comes back. */
  async refresh(): Promise<void> {
    try {
      const { entries, changes } = await this.transport.load(this.jobId);
      const there = new Set(entries.map(({ id }) => id));
      const { isLoaded, isAway, changes: known } = this.snapshot;
      // A log only grows: as many lines are the same lines.
      if (isLoaded && !isAway && changes.length === known.length && entries.length === this.acknowledged.length) return;
      this.acknowledged = [...entries, ...this.acknowledged.filter(({ id }) => !there.has(id))];
      this.update({ changes, isLoaded: true, isAway: false });
      if (isAway && this.next()) void this.flush();
    } catch {
      this.update({ isLoaded: true, isAway: true });
    }
  }

  /** Record an entry: shown at once, kept in this browser, then sent. */
  async add(entry: RunEntry, photo?: Blob): Promise<void> {
    this.update({ waiting: [...this.snapshot.waiting, { entry, ...(photo ? { photo } : {}) }] });
    await this.store.put(this.jobId, this.snapshot.waiting);
    await this.flush();
  }

  /** Send what waits, in order. */
  async flush(): Promise<void> {
    if (this.sending) return;
    this.sending = true;
    this.cancelTimer?.();
    this.cancelTimer = undefined;
    try {
      for (let next = this.next(); next; next = this.next()) {
        const answer = await this.sendOne(next);
        this.retryMs = RETRY_FIRST_MS;
        if (answer.kind === "kept") {
          this.acknowledged = [...this.acknowledged, next.entry];
          await this.replace(next, undefined);
        } else {
          await this.replace(next, { ...next, refused: answer.message });
        }
        this.update({ isAway: false });
      }
    } catch {
      this.update({ isAway: true });
      const delay = this.retryMs;
      this.retryMs = Math.min(RETRY_MOST_MS, 2 * delay);
      this.cancelTimer = this.clock.after(delay, () => void this.flush());
    } finally {
      this.sending = false;
    }
    // One that came while the last answer was on its way.
    if (!this.snapshot.isAway && this.next()) void this.flush();
  }

  /** Send again what was refused, or let it go. */
  async settleRefused(id: string, how: "again" | "drop"): Promise<void> {
    const refused = this.snapshot.waiting.find(({ entry }) => entry.id === id);
    if (!refused) return;
    const { refused: _why, ...rest } = refused;
    await this.replace(refused, how === "again" ? rest : undefined);
    await this.flush();
  }

  close(): void {
    this.cancelTimer?.();
  }

  private next(): Waiting | undefined {
    return this.snapshot.waiting.find(({ refused }) => refused === undefined);
  }

  private async sendOne({ entry, photo }: Waiting): Promise<SendAnswer> {
    if (entry.kind === "photo" && photo) {
      const answer = await this.transport.sendPhoto(this.jobId, entry.photo, photo);
      if (answer.kind === "refused") return answer;
    }
    return this.transport.send(this.jobId, entry);
  }

  private async replace(old: Waiting, by: Waiting | undefined): Promise<void> {
    this.update({ waiting: this.snapshot.waiting.flatMap((waiting) => (waiting.entry.id === old.entry.id ? (by ? [by] : []) : [waiting])) });
    await this.store.put(this.jobId, this.snapshot.waiting);
  }

  private update(part: Partial<RunSnapshot>): void {
    const merged = { ...this.snapshot, ...part };
    const there = new Set(this.acknowledged.map(({ id }) => id));
    this.snapshot = { ...merged, entries: [...this.acknowledged, ...merged.waiting.flatMap(({ entry }) => (there.has(entry.id) ? [] : [entry]))] };
    for (const listener of this.listeners) listener();
  }
}
