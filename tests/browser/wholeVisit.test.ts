import { mkdtempSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import path from "node:path";
import fc from "fast-check";
import type { ElementHandle, Page } from "puppeteer-core";
import sharp from "sharp";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { visitSheet } from "@/core/visit/visitSheet";
import type { ValueField, VisitStep } from "@/core/visit/visitStep";
import { answersFor, jobFromPattern } from "../fixtures/shipped";
import { allSent, Desk, openPart, press, shows, type } from "./desk";

const POLLING = { polling: 50 };
const PATTERN = "two-ct-add-on";
const PEOPLE = ["Kim Rowan", "Robin Ash"] as const;
/** A camera's picture, bytes. */
const PHOTO_BYTES = 8e6;

interface Entry {
  readonly id: string;
  readonly kind: string;
  readonly person: string;
  readonly step?: string;
  readonly text?: string;
  readonly photo?: string;
}

interface Turn {
  readonly who: 0 | 1;
  readonly isConnected: boolean;
  readonly isPhoto: boolean;
}

const turns = fc.array(
  fc.record<Turn>({
    who: fc.constantFrom(0 as const, 1 as const),
    isConnected: fc.boolean(),
    isPhoto: fc.nat(5).map((one) => one === 0),
  }),
  { minLength: 14, maxLength: 14 },
);

describe("A whole visit", () => {
  const desks: Desk[] = [];
  beforeAll(async () => {
    for (const _ of PEOPLE) desks.push(await Desk.open());
  });
  afterAll(async () => {
    for (const desk of desks) {
      expect(desk.faults).toEqual([]);
      await desk.close();
    }
  });

  it("of two people with the connection cut at every step by turns loses nothing and has nothing twice", async () => {
    const steps = visitSheet(jobFromPattern(PATTERN, { name: "Whole visit" })).steps;
    const job = await desks[0]!.fromPattern(answersFor(PATTERN, { name: "Whole visit" }));
    const photo = await bigPhoto();
    const pages = await Promise.all(desks.map((desk) => desk.tab(`/jobs/${job}/visit`)));
    const hands = pages.map((page, who) => new Hand(page, desks[who]!, PEOPLE[who]!, job, steps, who === 1));
    for (const hand of hands) await hand.begin();
    const [wanted] = fc.sample(turns, { numRuns: 1, seed: 20_261_129 });
    for (const turn of wanted!) {
      const hand = hands[turn.who]!;
      await hand.connect(turn.isConnected);
      await hand.doTurn();
      if (turn.isPhoto) await hand.takePhoto(photo);
    }
    // Whatever the turns say, one of each is taken without a connection: that is what weighs.
    for (const hand of hands) {
      await hand.connect(false);
      await hand.takePhoto(photo);
    }
    for (const hand of hands) await hand.connect(true);
    for (const page of pages) await allSent(page);
    const log = await entriesOf(desks[0]!, job);
    expect(new Set(log.map(({ id }) => id)).size).toBe(log.length);
    for (const hand of hands) {
      const own = log.filter(({ person }) => person === hand.person);
      expect(own.filter(({ kind }) => kind === "result").map(({ step }) => step)).toEqual(hand.results);
      expect(own.filter(({ kind }) => kind === "note").map(({ text }) => text)).toEqual(hand.notes);
      const photos = own.filter(({ kind }) => kind === "photo");
      expect(photos).toHaveLength(hand.photos);
      for (const { photo: id } of photos)
        expect((await fetch(`${desks[0]!.app}/api/v1/jobs/${job}/photos/${id}`)).status).toBe(200);
    }
    expect(hands.reduce((sum, { results }) => sum + results.length, 0)).toBeGreaterThan(3);
    expect(hands.reduce((sum, { photos }) => sum + photos, 0)).toBeGreaterThan(1);
  });

  it("on a browser that has no room left says so, and sends what it holds when the connection is back", async () => {
    const job = await desks[0]!.fromPattern(answersFor(PATTERN, { name: "No room" }));
    const desk = desks[0]!;
    const page = await desk.tab(`/jobs/${job}/visit`);
    await type(page, "You are", PEOPLE[0]);
    await desk.kept(page, job);
    // As a browser answers whose disk is full.
    await page.evaluate(() => {
      IDBObjectStore.prototype.put = () => {
        throw new DOMException("no room", "QuotaExceededError");
      };
    });
    await desk.connect(page, false);
    await openPart(page, "Log");
    await type(page, "Note", "Written where nothing can be kept");
    await press(page, "Save note");
    await shows(page, "Not sent yet: 1, and this browser keeps nothing: leave this page open");
    await desk.connect(page, true);
    await page.evaluate(() => window.dispatchEvent(new Event("online")));
    await allSent(page);
    expect((await entriesOf(desk, job)).filter(({ kind }) => kind === "note")).toHaveLength(1);
  });
});

/** One person at work, and what they think that they recorded. */
class Hand {
  readonly results: string[] = [];
  readonly notes: string[] = [];
  photos = 0;
  private isConnected = true;

  constructor(
    private readonly page: Page,
    private readonly desk: Desk,
    readonly person: string,
    private readonly job: string,
    private readonly steps: readonly VisitStep[],
    /** One does the steps, the other records beside it: nobody does the same step by accident. */
    private readonly isHelper: boolean,
  ) {}

  async begin(): Promise<void> {
    await type(this.page, "You are", this.person);
    await this.desk.kept(this.page, this.job);
    if (this.isHelper) await openPart(this.page, "Log");
  }

  async connect(isConnected: boolean): Promise<void> {
    await this.page.bringToFront();
    if (isConnected === this.isConnected) return;
    this.isConnected = isConnected;
    await this.desk.connect(this.page, isConnected);
    if (!isConnected) return;
    await this.page.evaluate(() => window.dispatchEvent(new Event("online")));
    await allSent(this.page);
  }

  /** Do the step that is due, or write a note on it where something else comes first; a helper writes into the log. */
  async doTurn(): Promise<void> {
    if (this.isHelper) return this.note();
    const id = await this.due();
    const step = this.steps.find((own) => own.id === id)!;
    const isPlain = !step.waiting && (step.evidence.kind === "tick" || step.evidence.kind === "values");
    if (!isPlain || (await this.page.$("article[data-step] [role=alert]"))) return this.note();
    for (const field of step.evidence.kind === "values" ? step.evidence.fields : [])
      await type(this.page, `${field.label}, ${field.unit}`, String(goodValue(field)));
    await press(this.page, step.evidence.kind === "tick" ? "Done" : "Record");
    this.results.push(id);
    await this.page.waitForFunction(
      (before) => document.querySelector<HTMLElement>("article[data-step]")?.dataset.step !== before,
      POLLING,
      id,
    );
  }

  async takePhoto(file: string): Promise<void> {
    const before = await this.page.$$eval("main img", (all) => all.length);
    const field = (await this.page.waitForSelector("input[type=file]")) as ElementHandle<HTMLInputElement>;
    await field.uploadFile(file);
    this.photos++;
    await this.page.waitForFunction((count) => document.querySelectorAll("main img").length > count, POLLING, before);
  }

  private async note(): Promise<void> {
    const text = `${this.person} note ${this.notes.length + 1}`;
    await type(this.page, this.isHelper ? "Note" : "Note on this step", text);
    await press(this.page, "Save note");
    this.notes.push(text);
    await shows(this.page, text);
  }

  private async due(): Promise<string> {
    const shown = await this.page.waitForSelector("article[data-step]");
    return shown!.evaluate((own) => (own as HTMLElement).dataset.step!);
  }
}

/** In the middle of what is good, or what a socket shows. */
function goodValue({ least = 230, most = least }: ValueField): number {
  return Math.round((least + most) / 2);
}

async function entriesOf(desk: Desk, job: string): Promise<readonly Entry[]> {
  const log = (await (await fetch(`${desk.app}/api/v1/jobs/${job}/visit`)).json()) as { entries: Entry[] };
  return log.entries;
}

/** Noise packs badly: a picture as large as a camera's. */
async function bigPhoto(): Promise<string> {
  const file = path.join(mkdtempSync(path.join(tmpdir(), "gormit-photo-")), "photo.jpg");
  const [width, height] = [2000, 1500];
  const noise = sharp({
    create: { width, height, channels: 3, background: "grey", noise: { type: "gaussian", mean: 128, sigma: 60 } },
  });
  const bytes = await noise.jpeg({ quality: 100, chromaSubsampling: "4:4:4" }).toBuffer();
  expect(bytes.length).toBeGreaterThan(PHOTO_BYTES);
  expect(bytes.length).toBeLessThan(12 * 1024 * 1024);
  writeFileSync(file, bytes);
  return file;
}
