import { describe, expect, it } from "vitest";
import { visitEntrySchema, type VisitEntry } from "@/core/visit/visitEntry";
import { VisitRecorder, type VisitTransport, type SendAnswer } from "@/ui/workspace/visit/visitRecorder";
import { HandClock, MemoryBrowser, settled } from "../../../../tests/fixtures/memoryBrowser";

/** A server in memory that can be away, lose its answers, or refuse. */
class Server implements VisitTransport {
  readonly kept: VisitEntry[] = [];
  readonly photos: string[] = [];
  isAway = false;
  losesAnswers = false;
  refuses: string | undefined;
  failsAt: string | undefined;
  sends = 0;

  async load() {
    if (this.isAway) throw new Error("away");
    return { entries: [...this.kept], changes: [] };
  }

  async send(_job: string, entry: VisitEntry): Promise<SendAnswer> {
    if (this.isAway) throw new Error("away");
    this.sends++;
    if (this.failsAt === entry.id) return { kind: "failed", message: "a defect" };
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

const note = (number: number) =>
  visitEntrySchema.parse({
    id: `00000000-0000-4000-8000-${String(number).padStart(12, "0")}`,
    at: "2026-11-26T08:00:00.000Z",
    person: "Robin",
    kind: "note",
    text: `note ${number}`,
  });
const ids = (entries: readonly VisitEntry[]) => entries.map(({ id }) => Number(id.slice(-12)));

function desk() {
  const [server, browser, clock] = [new Server(), new MemoryBrowser(), new HandClock()];
  const tab = () => {
    const page = browser.page();
    return { page, recorder: new VisitRecorder("job", server, page.outbox, clock) };
  };
  return { server, browser, clock, tab, ...tab() };
}

describe("VisitRecorder", () => {
  it("keeps an entry here first, sends it, and forgets it here once it is acknowledged", async () => {
    const { server, browser, recorder } = desk();
    await recorder.open();
    await recorder.add(note(1));
    expect(ids(server.kept)).toEqual([1]);
    expect(browser.records.size).toBe(0);
    expect(ids(recorder.getSnapshot().entries)).toEqual([1]);
  });

  it("shows what a mate recorded at the next look, and disturbs nobody when there is no news", async () => {
    const { server, recorder } = desk();
    const mate = new VisitRecorder("job", server, new MemoryBrowser().page().outbox, new HandClock());
    await Promise.all([recorder.open(), mate.open()]);
    await mate.add(note(1));
    await recorder.refresh();
    expect(ids(recorder.getSnapshot().entries)).toEqual([1]);
    let told = 0;
    recorder.subscribe(() => {
      told++;
    });
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
    const { server, browser, recorder, page, tab } = desk();
    await recorder.open();
    server.isAway = true;
    await recorder.add(note(1));
    await recorder.add(note(2));
    expect(recorder.getSnapshot()).toMatchObject({ isAway: true, waiting: [{}, {}] });
    page.die();
    const again = tab().recorder;
    await again.open();
    await settled();
    expect(ids(again.getSnapshot().entries)).toEqual([1, 2]);
    server.isAway = false;
    await again.flush();
    expect(ids(server.kept)).toEqual([1, 2]);
    expect(browser.records.size).toBe(0);
  });

  it("tries again by itself, later and later", async () => {
    const { server, clock, recorder } = desk();
    server.isAway = true;
    await recorder.add(note(1));
    expect(clock.waiting).toBe(1);
    server.isAway = false;
    await clock.pass(1_000);
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
    const { server, browser, recorder } = desk();
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
    expect(browser.records.size).toBe(0);
  });

  it("sets an entry aside at which the server fails again and again, and goes on with the next", async () => {
    const { server, clock, recorder } = desk();
    await recorder.open();
    server.failsAt = note(1).id;
    await recorder.add(note(1));
    await recorder.add(note(2));
    expect(ids(server.kept)).toEqual([]);
    await clock.pass(60_000);
    expect(ids(server.kept)).toEqual([2]);
    expect(recorder.getSnapshot().waiting).toMatchObject([
      { entry: { id: note(1).id }, refused: expect.stringContaining("failed at it 4 times") as string },
    ]);
  });

  it("sets aside at once what no log could hold, and keeps and sends the rest", async () => {
    const { server, browser, recorder, page, tab } = desk();
    await recorder.open();
    await recorder.add({ ...note(1), text: "x".repeat(5_000) } as VisitEntry);
    await recorder.add(note(2));
    expect(ids(server.kept)).toEqual([2]);
    expect(recorder.getSnapshot().waiting).toMatchObject([{ refused: "text: at most 4000 characters" }]);
    page.die();
    const again = tab().recorder;
    await again.open();
    expect(again.getSnapshot().waiting).toHaveLength(1);
    expect(browser.records.size).toBe(1);
  });

  it("shows a record that cannot be read, writes nothing over it, and lets it go only when told to", async () => {
    const { browser, recorder } = desk();
    browser.broken.push({ key: "unread-0", text: "{}" });
    await recorder.open();
    await recorder.add(note(1));
    expect(recorder.getSnapshot().broken).toEqual([{ key: "unread-0", text: "{}" }]);
    await recorder.dropBroken("unread-0");
    expect(recorder.getSnapshot().broken).toEqual([]);
    expect(browser.broken).toEqual([]);
  });

  it("sends what two tabs of one browser record once each, and shows it in both", async () => {
    const { server, browser, recorder, tab } = desk();
    const other = tab().recorder;
    await Promise.all([recorder.open(), other.open()]);
    server.isAway = true;
    await Promise.all([1, 2, 3, 4, 5].flatMap((number) => [recorder.add(note(number)), other.add(note(10 + number))]));
    expect(browser.records.size).toBe(10);
    expect(recorder.getSnapshot().entries).toHaveLength(10);
    server.isAway = false;
    await Promise.all([recorder.flush(), other.flush()]);
    expect(server.sends).toBe(10);
    for (const each of [recorder, other])
      expect(new Set(ids(each.getSnapshot().entries))).toEqual(new Set(ids(server.kept)));
    expect(recorder.getSnapshot().waiting).toEqual([]);
    expect(other.getSnapshot().waiting).toEqual([]);
  });

  it("still sends from a browser that keeps nothing, and says that it does not", async () => {
    const { server, browser, recorder } = desk();
    await recorder.open();
    browser.isFull = true;
    server.isAway = true;
    await recorder.add(note(1));
    expect(recorder.getSnapshot()).toMatchObject({ isKept: false, waiting: [{}] });
    server.isAway = false;
    await recorder.flush();
    expect(ids(server.kept)).toEqual([1]);
    expect(recorder.getSnapshot().waiting).toEqual([]);
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
    const photo = visitEntrySchema.parse({
      id: note(4).id,
      at: note(4).at,
      person: "Robin",
      kind: "photo",
      photo: note(9).id,
    });
    await recorder.add(photo, new Blob(["x"]));
    expect(server.photos).toEqual([note(9).id]);
    expect(ids(server.kept)).toEqual([4]);
  });

  it("tells listeners of each change until they leave", async () => {
    const { recorder } = desk();
    let told = 0;
    const leave = recorder.subscribe(() => {
      told++;
    });
    await recorder.add(note(1));
    const before = told;
    leave();
    await recorder.add(note(2));
    expect(before).toBeGreaterThan(0);
    expect(told).toBe(before);
    recorder.close();
  });
});
