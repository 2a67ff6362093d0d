import { describe, expect, it } from "vitest";
import { runEntrySchema, type RunEntry } from "@/core/procedure/runEntry";
import { RunRecorder, type RunStore, type RunTransport, type SendAnswer, type Waiting } from "@/ui/workspace/runRecorder";

/** A server in memory that can be away, lose its answers, or refuse. */
class Server implements RunTransport {
  readonly kept: RunEntry[] = [];
  readonly photos: string[] = [];
  isAway = false;
  losesAnswers = false;
  refuses: string | undefined;

  async load() {
    if (this.isAway) throw new Error("away");
    return { entries: [...this.kept], changes: [] };
  }

  async send(_job: string, entry: RunEntry): Promise<SendAnswer> {
    if (this.isAway) throw new Error("away");
    if (this.refuses === entry.id) return { kind: "refused", message: "text: too long" };
    if (!this.kept.some(({ id }) => id === entry.id)) this.kept.push(entry);
    if (this.losesAnswers) throw new Error("the answer is lost");
    return { kind: "kept" };
  }

  async sendPhoto(_job: string, id: string): Promise<SendAnswer> {
    if (this.isAway) throw new Error("away");
    this.photos.push(id);
    return { kind: "kept" };
  }
}

class Store implements RunStore {
  kept: readonly Waiting[] = [];
  async get() { return this.kept; }
  async put(_job: string, waiting: readonly Waiting[]) { this.kept = waiting; }
}

/** A clock whose timers run when they are told to. */
class HandClock {
  readonly timers: (() => void)[] = [];
  now() { return 0; }
  after(_delay: number, run: () => void) {
    this.timers.push(run);
    return () => { this.timers.splice(this.timers.indexOf(run), 1); };
  }
}

const note = (number: number) => runEntrySchema.parse({ id: `00000000-0000-4000-8000-${String(number).padStart(12, "0")}`, at: "2026-11-26T08:00:00.000Z", person: "Robin", kind: "note", text: `note ${number}` });
const ids = (entries: readonly RunEntry[]) => entries.map(({ id }) => Number(id.slice(-12)));

function desk() {
  const [server, store, clock] = [new Server(), new Store(), new HandClock()];
  return { server, store, clock, recorder: new RunRecorder("job", server, store, clock) };
}

describe("RunRecorder", () => {
  it("keeps an entry here first, sends it, and forgets it here once it is acknowledged", async () => {
    const { server, store, recorder } = desk();
    await recorder.open();
    await recorder.add(note(1));
    expect(ids(server.kept)).toEqual([1]);
    expect(store.kept).toEqual([]);
    expect(ids(recorder.getSnapshot().entries)).toEqual([1]);
  });

  it("shows what a mate recorded at the next look, and disturbs nobody when there is no news", async () => {
    const { server, recorder } = desk();
    const mate = new RunRecorder("job", server, new Store(), new HandClock());
    await Promise.all([recorder.open(), mate.open()]);
    await mate.add(note(1));
    await recorder.refresh();
    expect(ids(recorder.getSnapshot().entries)).toEqual([1]);
    let told = 0;
    recorder.subscribe(() => { told++; });
    await recorder.refresh();
    expect(told).toBe(0);
    server.isAway = true;
    await recorder.refresh();
    expect(recorder.getSnapshot()).toMatchObject({ isAway: true, entries: [{}] });
    server.isAway = false;
    await recorder.refresh();
    expect(recorder.getSnapshot().isAway).toBe(false);
  });

  it("keeps what is recorded without a connection over a reload, and sends it in order when it is back", async () => {
    const { server, store, recorder } = desk();
    await recorder.open();
    server.isAway = true;
    await recorder.add(note(1));
    await recorder.add(note(2));
    expect(recorder.getSnapshot()).toMatchObject({ isAway: true, waiting: [{}, {}] });
    const again = new RunRecorder("job", server, store, new HandClock());
    await again.open();
    await settled();
    expect(ids(again.getSnapshot().entries)).toEqual([1, 2]);
    server.isAway = false;
    await again.flush();
    expect(ids(server.kept)).toEqual([1, 2]);
    expect(store.kept).toEqual([]);
  });

  it("tries again by itself, later and later", async () => {
    const { server, clock, recorder } = desk();
    server.isAway = true;
    await recorder.add(note(1));
    expect(clock.timers).toHaveLength(1);
    server.isAway = false;
    clock.timers[0]!();
    await settled();
    expect(ids(server.kept)).toEqual([1]);
  });

  it("sends an entry whose answer was lost again, and it stays one", async () => {
    const { server, recorder } = desk();
    await recorder.open();
    server.losesAnswers = true;
    await recorder.add(note(1));
    server.losesAnswers = false;
    await recorder.flush();
    await recorder.refresh();
    expect(ids(server.kept)).toEqual([1]);
    expect(ids(recorder.getSnapshot().entries)).toEqual([1]);
  });

  it("sets aside what the server refuses, goes on with the rest, and lets it be sent again or dropped", async () => {
    const { server, store, recorder } = desk();
    await recorder.open();
    server.refuses = note(1).id;
    await recorder.add(note(1));
    await recorder.add(note(2));
    expect(ids(server.kept)).toEqual([2]);
    expect(recorder.getSnapshot().waiting).toMatchObject([{ refused: "text: too long" }]);
    server.refuses = undefined;
    await recorder.settleRefused(note(1).id, "again");
    expect(ids(server.kept)).toEqual([2, 1]);
    server.refuses = note(3).id;
    await recorder.add(note(3));
    await recorder.settleRefused(note(3).id, "drop");
    expect(store.kept).toEqual([]);
  });

  it("never forgets what was acknowledged, though the server's list comes from before it", async () => {
    const { server, recorder } = desk();
    await recorder.open();
    await recorder.add(note(1));
    server.kept.length = 0;
    await recorder.refresh();
    expect(ids(recorder.getSnapshot().entries)).toEqual([1]);
  });

  it("sends a photo before the line that shows it", async () => {
    const { server, recorder } = desk();
    const photo = runEntrySchema.parse({ id: note(4).id, at: note(4).at, person: "Robin", kind: "photo", photo: note(9).id });
    await recorder.add(photo, new Blob(["x"]));
    expect(server.photos).toEqual([note(9).id]);
    expect(ids(server.kept)).toEqual([4]);
  });

  it("tells listeners of each change until they leave", async () => {
    const { recorder } = desk();
    let told = 0;
    const leave = recorder.subscribe(() => { told++; });
    await recorder.add(note(1));
    const before = told;
    leave();
    await recorder.add(note(2));
    expect(before).toBeGreaterThan(0);
    expect(told).toBe(before);
    recorder.close();
  });
});

/** Let what was begun without waiting come to its end. */
async function settled(): Promise<void> {
  for (let turn = 0; turn < 10; turn++) await Promise.resolve();
}
