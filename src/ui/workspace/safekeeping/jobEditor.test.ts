import { describe, expect, it } from "vitest";
import type { JobDocument } from "@/core/job/jobDocument";
import { starterPlan } from "@/core/job/starterPlan";
import {
  JobEditor,
  type Draft,
  type JobTransport,
  type SaveAnswer,
  type ServerJob,
  type Steps,
  type StepStore,
} from "@/ui/workspace/safekeeping/jobEditor";
import { HandClock, MemoryBrowser, type PageDrafts } from "../../../../tests/fixtures/memoryBrowser";

const base = starterPlan({
  name: "Test job",
  place: "",
  system: "single-phase",
  solarKw: 4,
  batteryKw: 0,
  solarMeter: false,
  arrow: "to-load",
});

describe("JobEditor", () => {
  it("saves a change with the revision that it was made on", async () => {
    const desk = new Desk();
    desk.editor.edit(named("New name"));
    await desk.pass(300);
    expect(desk.server.document.job.name).toBe("New name");
    expect(desk.editor.getSnapshot()).toMatchObject({ revision: 2, status: { kind: "saved" } });
    expect(desk.browser.drafts.size).toBe(0);
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
    expect(desk.editor.getSnapshot()).toMatchObject({
      document: { job: { name: "Mine" } },
      status: { kind: "conflict", theirs: { document: { job: { name: "Theirs" } } } },
    });
  });

  it("puts together what two changed in different fields, and tells what came in until it is seen", async () => {
    const desk = new Desk();
    desk.changeElsewhere("Theirs");
    desk.editor.edit((document) => ({ ...document, packed: ["tape"] }));
    await desk.pass(300);
    await desk.pass(300);
    expect(desk.server).toMatchObject({ revision: 3, document: { job: { name: "Theirs" }, packed: ["tape"] } });
    expect(desk.editor.getSnapshot()).toMatchObject({ status: { kind: "saved" }, merged: ["Job: Its name"] });
    desk.editor.noted();
    expect(desk.editor.getSnapshot().merged).toEqual([]);
  });

  it("shows that the other version went on during the choice, and chooses from what there is by then", async () => {
    const desk = await conflicting();
    desk.changeElsewhere("Theirs, later");
    await desk.editor.refresh();
    expect(desk.editor.getSnapshot().status).toMatchObject({
      hasMovedOn: true,
      theirs: { document: { job: { name: "Theirs, later" } } },
    });
    desk.editor.resolveBy(() => "theirs");
    await desk.pass(300);
    expect(desk.server.document.job.name).toBe("Theirs, later");
    expect(desk.editor.getSnapshot().status.kind).toBe("saved");
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
    expect(desk.browser.drafts.size).toBe(0);
    desk.editor.undo();
    expect(desk.editor.getSnapshot().document.job.name).toBe("Mine");
  });

  it("waits while the server is away, keeps a draft, and saves once it is back", async () => {
    const desk = new Desk();
    desk.away = true;
    desk.editor.edit(named("Typed offline"));
    await desk.pass(300);
    expect(desk.editor.getSnapshot().status.kind).toBe("waiting");
    expect(desk.draft()?.document.job.name).toBe("Typed offline");
    desk.away = false;
    await desk.pass(2_000);
    expect(desk.server.document.job.name).toBe("Typed offline");
    expect(desk.editor.getSnapshot().status.kind).toBe("saved");
  });

  it("takes up a draft of the same revision after the page was closed", async () => {
    const desk = new Desk({
      base: { revision: 1, document: base },
      document: named("Left behind")(base),
      unanswered: [],
    });
    await desk.editor.takeUpDrafts();
    await desk.pass(300);
    expect(desk.server.document.job.name).toBe("Left behind");
    expect(desk.browser.drafts.size).toBe(0);
  });

  it("takes up a draft of the program's first version, which kept its revision only", async () => {
    const same = new Desk({ base: { revision: 4 }, document: named("Left behind")(base), unanswered: [] }, 4);
    await same.editor.takeUpDrafts();
    await same.pass(300);
    expect(same.server.document.job.name).toBe("Left behind");
    const other = new Desk({ base: { revision: 1 }, document: named("Left behind")(base), unanswered: [] }, 4);
    await other.editor.takeUpDrafts();
    expect(other.editor.getSnapshot().status.kind).toBe("conflict");
  });

  it("saves a draft on top of a later revision that says the same as what the draft was made from", async () => {
    const desk = new Desk(
      { base: { revision: 1, document: base }, document: named("Left behind")(base), unanswered: [] },
      4,
    );
    await desk.editor.takeUpDrafts();
    await desk.pass(300);
    expect(desk.server).toMatchObject({ revision: 5, document: { job: { name: "Left behind" } } });
  });

  it(
    "shows a draft as a conflict when what it was made from changed, and keeps it so through further " +
      "keystrokes and a reload",
    async () => {
      const desk = new Desk(
        {
          base: { revision: 1, document: named("Before")(base) },
          document: named("Left behind")(base),
          unanswered: [],
        },
        4,
      );
      await desk.editor.takeUpDrafts();
      expect(desk.editor.getSnapshot()).toMatchObject({
        document: { job: { name: "Left behind" } },
        status: { kind: "conflict" },
      });
      desk.editor.edit(named("Left behind, and more"));
      await desk.pass(300);
      expect(desk.server.document.job.name).toBe("Test job");
      await desk.reload();
      expect(desk.editor.getSnapshot()).toMatchObject({
        document: { job: { name: "Left behind, and more" } },
        status: { kind: "conflict", theirs: { revision: 4 } },
      });
      expect(desk.server).toMatchObject({ revision: 4, document: { job: { name: "Test job" } } });
    },
  );

  it("keeps no draft of what a refresh replaced: a reload shows what a mate saved", async () => {
    const desk = new Desk();
    desk.changeElsewhere("Theirs");
    await desk.editor.refresh();
    expect(desk.browser.drafts.size).toBe(0);
    await desk.reload();
    await desk.pass(1_000);
    expect(desk.server).toMatchObject({ revision: 2, document: { job: { name: "Theirs" } } });
    expect(desk.editor.getSnapshot()).toMatchObject({
      revision: 2,
      document: { job: { name: "Theirs" } },
      status: { kind: "saved" },
    });
  });

  it("undoes nothing that a mate saved", async () => {
    const desk = new Desk();
    desk.editor.edit(named("Mine"));
    await desk.pass(300);
    desk.changeElsewhere("Theirs");
    await desk.editor.refresh();
    desk.editor.undo();
    await desk.pass(300);
    expect(desk.server.document.job.name).toBe("Theirs");
  });

  it("is saved at once when an edit is taken back before it was sent", async () => {
    const desk = new Desk();
    desk.editor.edit(named("A slip"));
    desk.editor.undo();
    await desk.pass(300);
    expect(desk.editor.getSnapshot()).toMatchObject({ revision: 1, status: { kind: "saved" } });
    expect(desk.browser.drafts.size).toBe(0);
  });

  it("takes what it saved itself, and never heard of, for no conflict", async () => {
    const desk = new Desk();
    desk.losesAnswers = true;
    desk.editor.edit(named("First"));
    await desk.pass(300);
    desk.editor.edit(named("Second"));
    desk.losesAnswers = false;
    await desk.pass(3_000);
    expect(desk.server).toMatchObject({ revision: 3, document: { job: { name: "Second" } } });
    expect(desk.editor.getSnapshot().status.kind).toBe("saved");
  });

  it("keeps an adopted draft until it is saved, where this browser has no room for another", async () => {
    const desk = new Desk({
      base: { revision: 1, document: base },
      document: named("Left behind")(base),
      unanswered: [],
    });
    desk.browser.isFull = true;
    desk.away = true;
    await desk.editor.open();
    await desk.pass(300);
    await desk.reload();
    expect(desk.editor.getSnapshot()).toMatchObject({
      document: { job: { name: "Left behind" } },
      status: { kind: "saving" },
    });
    desk.away = false;
    await desk.pass(3_000);
    expect(desk.server).toMatchObject({ revision: 2, document: { job: { name: "Left behind" } } });
    await desk.reload();
    expect(desk.browser.drafts.size).toBe(0);
  });

  it("says when this browser keeps nothing", async () => {
    const desk = new Desk();
    desk.browser.isFull = true;
    desk.away = true;
    desk.editor.edit(named("Only here"));
    await desk.pass(300);
    expect(desk.editor.getSnapshot().status).toEqual({ kind: "waiting", isKept: false });
  });

  it("lets go of what cannot be shown, and sends none of it", async () => {
    const desk = new Desk();
    desk.editor.edit(named("Breaks the page"));
    desk.editor.letGo();
    await desk.editor.flush();
    await desk.pass(1_000);
    expect(desk.server.revision).toBe(1);
    expect(desk.browser.drafts.size).toBe(0);
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

  it("undoes over a reload of its tab what was done before it, saved or not, and redoes it", async () => {
    const desk = new Desk();
    desk.editor.edit(named("A"));
    desk.editor.edit(named("B"));
    await desk.pass(300);
    desk.away = true;
    desk.editor.edit(named("C"));
    desk.editor.undo();
    desk.editor.edit(named("D"));
    desk.editor.undo();
    await desk.reloadTab();
    const name = () => desk.editor.getSnapshot().document.job.name;
    expect(desk.editor.getSnapshot()).toMatchObject({ canUndo: true, canRedo: true });
    desk.editor.redo();
    expect(name()).toBe("D");
    for (let steps = 0; steps < 3; steps++) desk.editor.undo();
    expect(name()).toBe(base.job.name);
  });

  it("has no steps after a reload that shows what somebody else saved", async () => {
    const desk = new Desk();
    desk.editor.edit(named("Mine"));
    await desk.pass(300);
    desk.editor.keepSteps();
    desk.changeElsewhere("Theirs");
    await desk.reloadTab();
    expect(desk.editor.getSnapshot()).toMatchObject({ canUndo: false, document: { job: { name: "Theirs" } } });
  });

  it("says why the server refused", async () => {
    const desk = new Desk();
    desk.refuse = "The job was deleted.";
    desk.editor.edit(named("Late"));
    await desk.pass(300);
    expect(desk.editor.getSnapshot().status).toEqual({ kind: "refused", message: "The job was deleted." });
    expect(desk.browser.drafts.size).toBe(1);
  });
});

/** What a tab remembers of the steps, as text. */
class TabSteps implements StepStore {
  private text: string | undefined;

  take(): Steps | undefined {
    const { text } = this;
    this.text = undefined;
    return text === undefined ? undefined : (JSON.parse(text) as Steps);
  }

  put(steps: Steps): void {
    this.text = JSON.stringify(steps);
  }
}

/** An editor with a server, a browser and a clock in memory. */
class Desk implements JobTransport {
  server: ServerJob;
  away = false;
  losesAnswers = false;
  refuse: string | undefined;
  readonly browser = new MemoryBrowser();
  readonly clock = new HandClock();
  editor: JobEditor;
  private readonly steps: StepStore = new TabSteps();
  private page: PageDrafts;
  private held: Promise<void> | undefined;

  constructor(draft?: Draft, revision = 1) {
    this.server = { id: "job", document: base, revision, savedAt: "2026-01-01T00:00:00Z" };
    if (draft) this.browser.leave(draft);
    this.page = this.browser.page();
    this.editor = new JobEditor(this.server, this, this.page, this.clock, this.steps);
  }

  /** The page goes without a word, and comes back with what the server has. */
  async reload(): Promise<void> {
    this.page.die();
    this.page = this.browser.page();
    this.editor = new JobEditor(this.server, this, this.page, this.clock);
    await this.editor.open();
  }

  /** The page is loaded anew in the same tab. */
  async reloadTab(): Promise<void> {
    this.editor.keepSteps();
    this.page.die();
    this.page = this.browser.page();
    this.editor = new JobEditor(this.server, this, this.page, this.clock, this.steps);
    await this.editor.open();
  }

  draft(): Draft | undefined {
    return [...this.browser.drafts.values()][0]?.draft;
  }

  changeElsewhere(name: string): void {
    this.server = { ...this.server, revision: this.server.revision + 1, document: named(name)(this.server.document) };
  }

  /** The next save is answered only when the returned function is called. */
  hold(): () => void {
    let release = (): void => undefined;
    this.held = new Promise((resolve) => {
      release = resolve;
    });
    return release;
  }

  async save(_: string, revision: number, document: JobDocument): Promise<SaveAnswer> {
    await this.held;
    if (this.away) throw new Error("away");
    if (this.refuse) return { kind: "refused", message: this.refuse };
    if (revision !== this.server.revision) return { kind: "conflict", current: this.server };
    this.server = { ...this.server, revision: revision + 1, document };
    if (this.losesAnswers) throw new Error("the answer is lost");
    return { kind: "saved", job: this.server };
  }

  async load(): Promise<ServerJob> {
    return this.server;
  }

  pass(delayMs: number): Promise<void> {
    return this.clock.pass(delayMs);
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
