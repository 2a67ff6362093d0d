import type { ElementHandle, Page } from "puppeteer-core";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { visitSheet } from "@/core/visit/visitSheet";
import type { ValueField } from "@/core/visit/visitStep";
import { answersFor, jobFromPattern } from "../fixtures/shipped";
import { Desk, allSent, PHONE, partShows, shows } from "./desk";

const POLLING = { polling: 50 };

/** A thumb on a phone: it touches only what is in sight, and counts how often. */
class Thumb {
  taps = 0;

  constructor(private readonly page: Page) {}

  /** Tap what has this accessible name; no hunt for it by scrolling. */
  async tap(name: string): Promise<void> {
    const there = (await this.page.waitForSelector(`::-p-aria(${name})`)) as ElementHandle<HTMLElement>;
    // What has just come may still move, and may not hear yet; a thumb waits for both.
    await this.page.waitForFunction(
      (own) => {
        const { left, top, width, height } = own.getBoundingClientRect();
        const hit = document.elementFromPoint(left + width / 2, top + height / 2);
        const place = `${left} ${top} ${width} ${height}`;
        const isStill = own.dataset.wasAt === place;
        own.dataset.wasAt = place;
        const isHeard = Object.keys(own).some((key) => key.startsWith("__reactProps"));
        return isHeard && isStill && hit !== null && (own === hit || own.contains(hit) || hit.contains(own));
      },
      { polling: 100 },
      there,
    );
    this.taps++;
    await there.tap();
  }

  /** Tap a field and type into it, in place of what is there. */
  async type(name: string, text: string): Promise<void> {
    await this.tap(name);
    await this.write(text);
  }

  /** Type where the hand is already. */
  async write(text: string): Promise<void> {
    await this.page.evaluate(() => (document.activeElement as HTMLInputElement).select());
    await this.page.keyboard.type(text);
  }
}

describe("A newcomer with a phone", () => {
  let desk: Desk;
  beforeAll(async () => {
    desk = await Desk.open();
  });
  afterAll(async () => {
    expect(desk.faults).toEqual([]);
    await desk.close();
  });

  it("has the first verdict on a site that reads wrong in 14 taps, the first box in 6, at most", async () => {
    const page = await desk.tab("/jobs", PHONE);
    const thumb = new Thumb(page);
    await thumb.tap("A site reads wrong");
    await thumb.tap("Single phase");
    await thumb.tap("Solar");
    await thumb.tap("The supply alone");
    await page.waitForFunction(
      () => document.activeElement?.getAttribute("aria-label") === "Step 1, Solar inverter shows, generating",
      POLLING,
    );
    expect(thumb.taps).toBeLessThanOrEqual(6);
    await thumb.write("2,4 kW");
    // The house takes a little: a grid CT the right way round would show about 2.1 kW going out.
    await thumb.type("Step 1, measured at A1", "2100");
    await partShows(page, "Verdict", "A1");
    expect(thumb.taps).toBeLessThanOrEqual(14);
  });

  it("names the CT that is wrong, and has it cured, in at most 10 taps", async () => {
    await desk.demoJob("tollgate-cottage", "Newcomer's cottage");
    const page = await desk.tab("/jobs?search=newcomer", PHONE);
    const thumb = new Thumb(page);
    await thumb.tap("Open Newcomer's cottage");
    await page.waitForFunction(() => location.pathname.endsWith("/place"), POLLING);
    // Until the readings are weighed the same words lead to Place, where the CT is turned; then to the verdict.
    await page.waitForFunction(
      () => document.querySelector('nav a[href$="/prove"]')?.textContent.includes("faults found"),
      POLLING,
    );
    await thumb.tap("Next Turn A2 round, or swap its two leads");
    await partShows(page, "Verdict", "A2 is the wrong way round");
    await thumb.tap("It is put right: read again");
    await shows(page, "Next Read again, since A2 changed");
    await page.waitForFunction(() => !document.querySelector("header")?.innerText.includes("1 to fix"), POLLING);
    expect(thumb.taps).toBeLessThanOrEqual(10);
  });

  it("does the first ten steps of a visit without a hunt for what is next", async () => {
    const job = await desk.fromPattern(answersFor("two-ct-add-on", { name: "Ten steps" }));
    const steps = visitSheet(jobFromPattern("two-ct-add-on", { name: "Ten steps" })).steps;
    const page = await desk.tab(`/jobs/${job}/visit`, PHONE);
    const thumb = new Thumb(page);
    await thumb.type("You are", "Kim");
    const done = new Set<string>();
    const begun: string[] = [];
    while (done.size < 10) {
      const id = await stepAfter(page, [...done, ...begun]);
      const { evidence, waiting } = steps.find((step) => step.id === id)!;
      if (waiting) {
        await thumb.tap("Go on");
        await thumb.tap(`Start: ${waiting.label}`);
        begun.push(id);
        continue;
      }
      for (const field of evidence.kind === "values" ? evidence.fields : []) {
        await thumb.tap("Go on");
        await thumb.write(String(goodValue(field)));
      }
      if (evidence.kind === "serial") {
        await thumb.tap("Go on");
        await thumb.write("GKH4711003");
      }
      await thumb.tap("Go on");
      await thumb.tap(evidence.kind === "tick" ? "Done" : "Record");
      done.add(id);
    }
    await allSent(page);
    const log = (await (await fetch(`${desk.app}/api/v1/jobs/${job}/visit`)).json()) as {
      entries: { kind: string; step: string }[];
    };
    expect(new Set(log.entries.filter(({ kind }) => kind === "result").map(({ step }) => step))).toEqual(done);
  });
});

/** The step that is shown once those that are done are not. */
async function stepAfter(page: Page, done: readonly string[]): Promise<string> {
  const shown = await page.waitForFunction(
    (over) => {
      const id = document.querySelector<HTMLElement>("article[data-step]")?.dataset.step;
      return id !== undefined && !over.includes(id) ? id : false;
    },
    POLLING,
    done,
  );
  return String(await shown.jsonValue());
}

/** In the middle of what is good, or what a socket shows. */
function goodValue({ least = 230, most = least }: ValueField): number {
  return Math.round((least + most) / 2);
}
