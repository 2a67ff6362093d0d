import { describe, expect, it } from "vitest";
import type { JobDocument } from "@/core/job/jobDocument";
import { starterPlan } from "@/core/job/starterPlan";
import { JobEditor, type Clock, type Draft, type DraftStore, type JobTransport, type SaveAnswer, type ServerJob } from "@/ui/workspace/jobEditor";

const base = starterPlan({ name: "Test job", place: "", system: "single-phase", solarKw: 4, batteryKw: 0, solarMeter: false, arrow: "to-load" });

describe("JobEditor", () => {
  it("saves a change with the revision that it was made on", async () => {
    const desk = new Desk();
    desk.editor.edit(named("New name"));
    await desk.pass(300);
    expect(desk.server.document.job.name).toBe("New name");
    expect(desk.editor.getSnapshot()).toMatchObject({ revision: 2, status: { kind: "saved" } });
    expect(desk.drafts.size).toBe(0);
  });

  it("undoes and redoes, and saves each", async () => {
    const desk = new Desk();
    desk.editor.edit(named("A"));
    desk.editor.edit(named("B"));
    desk.editor.undo();
    await desk.pass(300);
    expect(desk.server.document.job.name).toBe("A");
    desk.editor.redo();
    await desk.pass(300);
    expect(desk.server.document.job.name).toBe("B");
    expect(desk.editor.getSnapshot().canRedo).toBe(false);
  });

  it("undoes the keystrokes of one field together, but not those of another", () => {
    const desk = new Desk();
    for (const text of ["K", "Ke", "Kettle"]) desk.editor.edit(named(text), "name");
    desk.editor.edit(named("Other"), "place");
    desk.editor.undo();
    expect(desk.editor.getSnapshot().document.job.name).toBe("Kettle");
    desk.editor.undo();
    expect(desk.editor.getSnapshot().document.job.name).toBe("Test job");
  });

  it("overwrites nothing when the job was changed elsewhere, and keeps both versions", async () => {
    const desk = new Desk();
    desk.changeElsewhere("Theirs");
    desk.editor.edit(named("Mine"));
    await desk.pass(300);
    expect(desk.server.document.job.name).toBe("Theirs");
    expect(desk.editor.getSnapshot()).toMatchObject({ document: { job: { name: "Mine" } }, status: { kind: "conflict", theirs: { document: { job: { name: "Theirs" } } } } });
  });

  it("keeps mine on top of theirs when told to", async () => {
    const desk = await conflicting();
    desk.editor.resolve("mine");
    await desk.pass(300);
    expect(desk.server).toMatchObject({ revision: 3, document: { job: { name: "Mine" } } });
    expect(desk.editor.getSnapshot().status.kind).toBe("saved");
  });

  it("takes theirs when told to, and undo brings mine back", async () => {
    const desk = await conflicting();
    desk.editor.resolve("theirs");
    expect(desk.editor.getSnapshot()).toMatchObject({ revision: 2, document: { job: { name: "Theirs" } } });
    expect(desk.drafts.size).toBe(0);
    desk.editor.undo();
    expect(desk.editor.getSnapshot().document.job.name).toBe("Mine");
  });

  it("waits while the server is away, keeps a draft, and saves once it is back", async () => {
    const desk = new Desk();
    desk.away = true;
    desk.editor.edit(named("Typed offline"));
    await desk.pass(300);
    expect(desk.editor.getSnapshot().status.kind).toBe("waiting");
    expect(desk.drafts.get("job")?.document.job.name).toBe("Typed offline");
    desk.away = false;
    await desk.pass(2_000);
    expect(desk.server.document.job.name).toBe("Typed offline");
    expect(desk.editor.getSnapshot().status.kind).toBe("saved");
  });

  it("takes up a draft of the same revision after the page was closed", async () => {
    const desk = new Desk({ revision: 1, document: named("Left behind")(base) });
    desk.editor.takeUpDraft();
    await desk.pass(300);
    expect(desk.server.document.job.name).toBe("Left behind");
  });

  it("shows a draft of an older revision as a conflict", () => {
    const desk = new Desk({ revision: 1, document: named("Left behind")(base) }, 4);
    desk.editor.takeUpDraft();
    expect(desk.editor.getSnapshot()).toMatchObject({ document: { job: { name: "Left behind" } }, status: { kind: "conflict" } });
  });

  it("saves what was typed while a save was under way", async () => {
    const desk = new Desk();
    desk.editor.edit(named("First"));
    const answer = desk.hold();
    const passing = desk.pass(300);
    desk.editor.edit(named("Second"));
    answer();
    await passing;
    await desk.pass(600);
    expect(desk.server).toMatchObject({ revision: 3, document: { job: { name: "Second" } } });
  });

  it("shows what was saved elsewhere when looked at again, unless something here waits", async () => {
    const desk = new Desk();
    desk.changeElsewhere("Theirs");
    await desk.editor.refresh();
    expect(desk.editor.getSnapshot()).toMatchObject({ revision: 2, document: { job: { name: "Theirs" } } });
  });

  it("says why the server refused", async () => {
    const desk = new Desk();
    desk.refuse = "The job was deleted.";
    desk.editor.edit(named("Late"));
    await desk.pass(300);
    expect(desk.editor.getSnapshot().status).toEqual({ kind: "refused", message: "The job was deleted." });
    expect(desk.drafts.size).toBe(1);
  });
});

/** An editor with a server, drafts and a clock in memory. */
class Desk implements JobTransport, Clock {
  server: ServerJob;
  away = false;
  refuse: string | undefined;
  readonly drafts = new Map<string, Draft>();
  readonly editor: JobEditor;
  private timeMs = 0;
  private timers: { at: number; run: () => void }[] = [];
  private held: Promise<void> | undefined;

  constructor(draft?: Draft, revision = 1) {
    this.server = { id: "job", document: base, revision, savedAt: "2026-01-01T00:00:00Z" };
    if (draft) this.drafts.set("job", draft);
    const store: DraftStore = {
      get: (id) => this.drafts.get(id), put: (id, kept) => void this.drafts.set(id, kept), drop: (id) => void this.drafts.delete(id),
    };
    this.editor = new JobEditor(this.server, this, store, this);
  }

  changeElsewhere(name: string): void {
    this.server = { ...this.server, revision: this.server.revision + 1, document: named(name)(this.server.document) };
  }

  /** The next save is answered only when the returned function is called. */
  hold(): () => void {
    let release = (): void => undefined;
    this.held = new Promise((resolve) => { release = resolve; });
    return release;
  }

  async save(_: string, revision: number, document: JobDocument): Promise<SaveAnswer> {
    await this.held;
    if (this.away) throw new Error("away");
    if (this.refuse) return { kind: "refused", message: this.refuse };
    if (revision !== this.server.revision) return { kind: "conflict", current: this.server };
    this.server = { ...this.server, revision: revision + 1, document };
    return { kind: "saved", job: this.server };
  }

  async load(): Promise<ServerJob> {
    return this.server;
  }

  now(): number {
    return this.timeMs;
  }

  after(delayMs: number, run: () => void): () => void {
    const timer = { at: this.timeMs + delayMs, run };
    this.timers.push(timer);
    return () => { this.timers = this.timers.filter((other) => other !== timer); };
  }

  /** Let time pass, with every timer and every promise that falls due. */
  async pass(delayMs: number): Promise<void> {
    const end = this.timeMs + delayMs;
    for (;;) {
      const next = this.timers.filter((timer) => timer.at <= end).sort((a, b) => a.at - b.at)[0];
      if (!next) break;
      this.timers = this.timers.filter((timer) => timer !== next);
      this.timeMs = next.at;
      next.run();
      await settled();
    }
    this.timeMs = end;
  }
}

async function conflicting(): Promise<Desk> {
  const desk = new Desk();
  desk.changeElsewhere("Theirs");
  desk.editor.edit(named("Mine"));
  await desk.pass(300);
  return desk;
}

function named(name: string): (document: JobDocument) => JobDocument {
  return (document) => ({ ...document, job: { ...document.job, name } });
}

async function settled(): Promise<void> {
  for (let turn = 0; turn < 20; turn++) await Promise.resolve();
}
