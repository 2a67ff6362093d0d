import fc from "fast-check";
import { describe, expect, it } from "vitest";
import type { JobDocument } from "@/core/job/jobDocument";
import { starterPlan } from "@/core/job/starterPlan";
import type { VisitEntry } from "@/core/visit/visitEntry";
import { sameJson } from "@/core/sameJson";
import { JobEditor, type SaveAnswer, type ServerJob } from "@/ui/workspace/safekeeping/jobEditor";
import { VisitRecorder, type SendAnswer } from "@/ui/workspace/visit/visitRecorder";
import { HandClock, MemoryBrowser, settled, type PageDrafts } from "../../../../tests/fixtures/memoryBrowser";

const base = starterPlan({
  name: "Model",
  place: "",
  system: "single-phase",
  solarKw: 4,
  batteryKw: 0,
  solarMeter: false,
  arrow: "to-load",
});
const RUNS = 2500;
const CHOICES = ["mine", "theirs", "fields"] as const;

/** What may happen, to whichever page or message is there by then. */
const anyStep = fc.record({
  kind: fc.constantFrom(
    "work",
    "work",
    "work",
    "work",
    "edit",
    "edit",
    "write",
    "write",
    "note",
    "note",
    "undo",
    "undo",
    "redo",
    "refresh",
    "refresh",
    "look",
    "flush",
    "choose",
    "pass",
    "serve",
    "serve",
    "answer",
    "answer",
    "lose",
    "arrive",
    "arrive",
    "arrive",
    "offline",
    "online",
    "online",
    "open",
    "open",
    "reload",
    "close",
    "die",
  ),
  at: fc.nat({ max: 20 }),
  much: fc.nat({ max: 20 }),
});

describe("Whatever several people do in several tabs, with a connection that comes and goes", () => {
  it(
    "loses nothing acknowledged without a conflict that was shown, and every page that settles " +
      "agrees with the server",
    async () => {
      await fc.assert(
        fc.asyncProperty(fc.array(anyStep, { minLength: 5, maxLength: 70 }), async (steps) => {
          const world = new World();
          for (const step of steps) {
            await world.take(step);
            await settled();
          }
          await world.settle();
          world.expectSettled();
        }),
        { numRuns: RUNS },
      );
    },
  );

  it("would notice an editor that saves an old draft on top of what it never saw", async () => {
    const world = new World();
    const page = world.pages[0]!;
    world.server = { ...world.server, revision: 2, document: packed(base, ["seen by nobody"]) };
    void page.save(2, packed(base, ["mine"]));
    world.messages.at(-1)!.serve();
    expect(() => world.expectNothingLost()).toThrow(/seen by nobody/);
  });
});

/** A message under way: served by the server first, answered to the page then; lost before or after. */
interface Message {
  readonly of: Tab;
  readonly serve: () => void;
  readonly answer: () => void;
  readonly lose: () => void;
  isServed: boolean;
}

/** One job on one server; browsers with pages; messages that arrive when they are told to. */
class World {
  server: ServerJob = { id: "job", document: base, revision: 1, savedAt: "2026-01-01T00:00:00Z" };
  readonly log: VisitEntry[] = [];
  readonly messages: Message[] = [];
  readonly clock = new HandClock();
  readonly browsers = [new MemoryBrowser(), new MemoryBrowser()];
  pages: Tab[] = [];
  isOnline = true;
  /** What was typed, and what somebody took back or gave up in a conflict that was shown to them. */
  readonly typed = new Set<string>();
  readonly excused = new Set<string>();
  /** What each browser may take away: what was typed in it, and what a conflict in it was decided about. */
  readonly known = new Map<MemoryBrowser, Set<string>>();
  readonly noted = new Set<string>();
  /** What went from the server though nobody whose save took it had ever been asked. */
  readonly lost: string[] = [];
  private count = 0;

  constructor() {
    this.open(0);
    this.open(1);
  }

  open(browser: number): void {
    this.pages.push(new Tab(this, this.browsers[browser % 2]!));
  }

  async take({ kind, at, much }: { readonly kind: string; readonly at: number; readonly much: number }): Promise<void> {
    const page = this.pages[at % Math.max(1, this.pages.length)];
    switch (kind) {
      case "edit":
        return page?.edit(`t${this.count++}`);
      case "write":
        return page?.write(`w${this.count++}`);
      case "note":
        return page?.note(this.count++);
      case "undo":
        return page?.act(() => page.editor.undo());
      case "redo":
        return page?.act(() => page.editor.redo());
      case "choose":
        return page?.choose(CHOICES[much % 3]!);
      case "refresh":
        void page?.editor.refresh();
        return this.isOnline && much % 2 === 0 ? this.arrive() : undefined;
      case "look":
        return void page?.recorder.refresh();
      case "flush":
        return void Promise.all([page?.editor.flush(), page?.recorder.flush()]);
      case "pass":
        return this.clock.pass(much * 60);
      case "serve":
        return this.message(much, false)?.serve();
      case "answer":
        return this.message(much, true)?.answer();
      // As most of a day goes: somebody looks, changes something, and it is saved before anybody else does.
      case "work":
        void page?.editor.refresh();
        await this.arrive();
        page?.edit(`t${this.count++}`);
        await this.clock.pass(300);
        return this.arrive();
      case "arrive":
        await this.clock.pass(300);
        return this.arrive();
      case "lose":
        return this.message(much, much % 2 === 0)?.lose();
      case "offline":
        this.isOnline = false;
        return;
      case "online":
        this.isOnline = true;
        return;
      case "open":
        if (this.pages.length < 5) this.open(much);
        return;
      case "reload":
        if (page) {
          page.die(much % 2 === 0);
          this.pages.push(new Tab(this, page.browser));
        }
        return;
      case "close":
        if (page) void page.close();
        return;
      case "die":
        page?.die(much % 2 === 0);
        return;
    }
  }

  /** The connection is back; everything arrives; whoever is asked chooses; everybody looks. */
  async settle(): Promise<void> {
    this.isOnline = true;
    for (const at of [0, 1]) this.open(at);
    for (let round = 0; round < 60; round++) {
      await this.arrive();
      for (const page of this.pages) page.choose(CHOICES[round % 3]!);
      await this.clock.pass(20_000);
      for (const page of this.pages) {
        void page.editor.takeUpDrafts();
        void page.editor.refresh();
        void page.recorder.refresh();
      }
    }
    await this.arrive();
  }

  expectSettled(): void {
    this.expectNothingLost();
    for (const page of this.pages) {
      const { document, status, revision } = page.editor.getSnapshot();
      expect(status).toEqual({ kind: "saved" });
      expect(revision).toBe(this.server.revision);
      expect(sameJson(document, this.server.document)).toBe(true);
      expect(page.recorder.getSnapshot().waiting).toEqual([]);
      expect(new Set(page.recorder.getSnapshot().entries.map(({ id }) => id))).toEqual(this.noted);
    }
    const there = new Set(tokensOf(this.server.document));
    expect([...this.typed].filter((token) => !there.has(token) && !this.excused.has(token))).toEqual([]);
    expect(this.log.map(({ id }) => id).sort()).toEqual([...this.noted].sort());
    for (const browser of this.browsers) expect([browser.drafts.size, browser.records.size]).toEqual([0, 0]);
  }

  expectNothingLost(): void {
    expect(this.lost).toEqual([]);
  }

  /** A request that can be served now and answered later. */
  request<T>(of: Tab, work: () => T): Promise<T> {
    if (!this.isOnline || of.isGone) return Promise.reject(new Error("away"));
    return new Promise<T>((resolve, reject) => {
      let answer: T;
      const message: Message = {
        of,
        isServed: false,
        serve: () => {
          if (message.isServed) return;
          message.isServed = true;
          answer = work();
        },
        answer: () => {
          this.forget(message);
          resolve(answer);
        },
        lose: () => {
          this.forget(message);
          reject(new Error("lost"));
        },
      };
      this.messages.push(message);
    });
  }

  private message(which: number, isServed: boolean): Message | undefined {
    const some = this.messages.filter((message) => message.isServed === isServed);
    return some[which % Math.max(1, some.length)];
  }

  private forget(message: Message): void {
    this.messages.splice(this.messages.indexOf(message), 1);
  }

  private async arrive(): Promise<void> {
    for (let most = 0; most < 500 && this.messages.length > 0; most++) {
      const message = this.messages[0]!;
      message.serve();
      message.answer();
      await settled();
    }
  }
}

/** One tab with an editor and a recorder. */
class Tab {
  readonly editor: JobEditor;
  readonly recorder: VisitRecorder;
  isGone = false;
  private readonly page: PageDrafts;

  constructor(
    private readonly world: World,
    readonly browser: MemoryBrowser,
  ) {
    this.page = browser.page();
    // The page is made from what the server has when it is asked; it may be old by the time it is shown.
    this.editor = new JobEditor(
      world.server,
      {
        save: (_id, revision, document) => this.save(revision, document),
        load: () => world.request(this, () => world.server),
      },
      this.page,
      world.clock,
    );
    this.recorder = new VisitRecorder(
      "job",
      {
        load: () => world.request(this, () => ({ entries: [...world.log], changes: [] })),
        send: (_job, entry) =>
          world.request(this, (): SendAnswer => {
            if (!world.log.some(({ id }) => id === entry.id)) world.log.push(entry);
            return { kind: "kept" };
          }),
        sendPhoto: () => world.request(this, (): SendAnswer => ({ kind: "kept" })),
      },
      this.page.outbox,
      world.clock,
    );
    void this.editor.open();
    void this.recorder.open();
  }

  /** The server's compare-and-set, as the database does it. */
  save(revision: number, document: JobDocument): Promise<SaveAnswer> {
    const { world } = this;
    const work = (): SaveAnswer => {
      if (sameJson(document, world.server.document)) return { kind: "saved", job: world.server };
      if (revision !== world.server.revision) return { kind: "conflict", current: world.server };
      const kept = new Set(tokensOf(document));
      world.lost.push(...tokensOf(world.server.document).filter((token) => !kept.has(token) && !this.mayTake(token)));
      world.server = { ...world.server, revision: revision + 1, document };
      return { kind: "saved", job: world.server };
    };
    return world.request(this, work);
  }

  edit(token: string): void {
    this.world.typed.add(token);
    this.browserKnows(token);
    this.editor.edit((document) => packed(document, [...document.packed, token]));
  }

  /** Type over a field that holds one thing: what stood there was seen, and goes. */
  write(token: string): void {
    const { place } = this.editor.getSnapshot().document.job;
    this.browserKnows(place);
    this.world.excused.add(place);
    this.world.typed.add(token);
    this.browserKnows(token);
    this.editor.edit((document) => ({ ...document, job: { ...document.job, place: token } }));
  }

  async note(number: number): Promise<void> {
    const id = `00000000-0000-4000-8000-${String(number).padStart(12, "0")}`;
    this.world.noted.add(id);
    void this.recorder.add({
      id,
      at: "2026-11-26T08:00:00.000Z",
      person: "Robin",
      visit: "first",
      kind: "note",
      text: `note ${number}`,
    });
  }

  /** Something a person does that takes things away or brings them back, with their eyes on it. */
  act(work: () => void): void {
    const before = new Set(tokensOf(this.editor.getSnapshot().document));
    work();
    const after = new Set(tokensOf(this.editor.getSnapshot().document));
    for (const token of before) if (!after.has(token)) this.world.excused.add(token);
    // A field that is back at what it was is a field that nobody changed: whoever wrote over that goes on.
    const { packed: list } = this.editor.getSnapshot().document;
    for (const token of list) if (!before.has(token) && this.mayTake(token)) this.world.excused.delete(token);
  }

  choose(choice: (typeof CHOICES)[number]): void {
    const { status, document } = this.editor.getSnapshot();
    if (status.kind !== "conflict") return;
    const [mine, theirs] = [tokensOf(document), tokensOf(status.theirs.document)];
    // The decision lies in the draft, and is carried out by whichever page of this browser takes that up.
    for (const token of [...theirs, ...mine]) this.browserKnows(token);
    if (choice === "fields") this.editor.resolveBy(() => "theirs");
    else this.editor.resolve(choice);
    // Whoever takes the other version gives up their own; what stands in both is from then on guarded as the server's.
    const kept = new Set(choice === "theirs" ? [] : tokensOf(this.editor.getSnapshot().document));
    for (const token of [...mine, ...(choice === "theirs" ? [] : theirs)])
      if (!kept.has(token)) this.world.excused.add(token);
  }

  async close(): Promise<void> {
    this.leave();
    await this.editor.close();
    this.recorder.close();
    this.page.die();
  }

  /** The tab is gone, and with it its requests: what the server heard of them by then is done, the rest never was. */
  die(wereHeard: boolean): void {
    this.leave();
    void this.editor.flush();
    void this.editor.close();
    this.recorder.close();
    this.page.die();
    this.isGone = true;
    for (const message of this.world.messages.filter(({ of }) => of === this)) {
      if (wereHeard) message.serve();
      message.lose();
    }
  }

  private browserKnows(token: string): void {
    this.world.known.set(this.browser, (this.world.known.get(this.browser) ?? new Set()).add(token));
  }

  private mayTake(token: string): boolean {
    return this.world.known.get(this.browser)?.has(token) === true;
  }

  private leave(): void {
    this.world.pages = this.world.pages.filter((page) => page !== this);
  }
}

function packed(document: JobDocument, tokens: readonly string[]): JobDocument {
  return { ...document, packed: [...tokens] };
}

/** Everything typed that stands in a document: in a list that grows, and in a field that holds one thing. */
function tokensOf({ packed: list, job }: JobDocument): readonly string[] {
  return [...list, job.place];
}
