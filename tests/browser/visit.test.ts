import { randomUUID } from "node:crypto";
import { mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import path from "node:path";
import type { ElementHandle, Page } from "puppeteer-core";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { answersFor } from "../fixtures/shipped";
import { Desk, allSent, figure, openPart, PHONE, press, reload, selectOf, shows, type } from "./desk";

/** The smallest picture that is a PNG. */
const PICTURE = Buffer.from(
  "iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNkYPhfDwAChwGA60e6kgAAAABJRU5ErkJggg==",
  "base64",
);
const POLLING = { polling: 50 };

/** How long the visit takes. */
const HOURS = /(?:(\d+) h )?(\d+) min for \d+ steps/;

describe("Run", () => {
  let desk: Desk;
  const folder = mkdtempSync(path.join(tmpdir(), "gormit-run-"));
  beforeAll(async () => {
    desk = await Desk.open();
  });
  afterAll(async () => {
    expect(desk.faults).toEqual([]);
    rmSync(folder, { recursive: true, force: true });
    await desk.close();
  });

  it(
    "goes through a small visit: gates hold, values outside stop, a skip needs its reason, " + "all of it in the log",
    async () => {
      const id = await visit(desk, "Visit");
      const page = await desk.tab(`/jobs/${id}/visit?step=ct-leads:meter`);
      await shows(page, "Say who works here before anything is recorded");
      await type(page, "You are", "Robin Ash");
      await shows(page, "Nothing behind a safety gate is recorded before it.");
      expect(await isDisabled(page, "Done")).toBe(true);
      for (const step of ["survey", "unload", "isolate:board"]) {
        await due(page, step);
        await press(page, "Done");
      }
      await openStep(page, "Prove dead at Meter cupboard");
      await type(page, "Tester on a known source, before, V", "230");
      await type(page, "Tester on a known source, after, V", "230");
      await type(page, "Highest of all pairs, V", "228");
      await press(page, "Record");
      await shows(page, "Outside its limits. Stop here.");
      await shows(page, "Find the source that still feeds it");
      await page.waitForFunction(() => document.querySelector("header")?.innerText.includes("1 stop"), POLLING);
      // What was measured with it stays in its fields: one value is typed anew, and Enter records all of them.
      await type(page, "Highest of all pairs, V", "0.4");
      await page.keyboard.press("Enter");
      await page.waitForFunction(() => !document.querySelector("header")?.innerText.includes("stop"), POLLING);
      await openStep(page, "Prove dead at Loft");
      await tap(page, "Skip …");
      await type(
        page,
        "This is a safety gate. Why is it skipped? The report shows it.",
        "loft is fed from elsewhere, cover stays on",
      );
      await tap(page, "Skip it");
      await page.waitForFunction(() => document.querySelector("header")?.innerText.includes("fix"), POLLING);
      await openPart(page, "Log");
      await shows(page, "outside: Highest of all pairs 228 V, expected 0 to 10 V");
      await shows(page, "loft is fed from elsewhere, cover stays on");
      await page.locator("ol[aria-label=Log] li button").click();
      await type(page, "What is right", "fed from the garage");
      await page.locator("form ::-p-text(Correct)").click();
      await shows(page, "corrected later");
      await type(page, "Search", "garage");
      await shows(page, "1 of ");
      const csv = await (await fetch(`${desk.app}/api/v1/jobs/${id}/log.csv`)).text();
      expect(csv).toContain("fed from the garage");
      const { lines } = (await (await fetch(`${desk.app}/api/v1/jobs/${id}/log.json`)).json()) as {
        lines: { person: string; kind: string }[];
      };
      expect(lines.filter(({ kind }) => kind === "result").map(({ person }) => person)).toEqual(
        Array<string>(5).fill("Robin Ash"),
      );
    },
  );

  it("takes Enter in a reason for the skip that it is of, never for the step above it", async () => {
    const id = await visit(desk, "Enter");
    const page = await desk.tab(`/jobs/${id}/visit?step=survey`);
    await type(page, "You are", "Robin Ash");
    await press(page, "Skip …");
    await press(page, "Skip it");
    await shows(page, "say why");
    await type(page, "Why is it skipped?", "Seen last week");
    await page.keyboard.press("Enter");
    await due(page, "unload");
    await openPart(page, "Log");
    await shows(page, "Seen last week");
    const kinds = await page.waitForFunction(
      async (job) => {
        const answer = await fetch(`/api/v1/jobs/${job}/log.json`);
        const { lines } = (await answer.json()) as { lines: { kind: string }[] };
        return lines.length > 0 && lines.map(({ kind }) => kind);
      },
      POLLING,
      id,
    );
    expect(await kinds.jsonValue()).toEqual(["skip"]);
  });

  it("puts a router visit through on the phone without opening a board, and begins another", async () => {
    const id = await desk.fromPattern({ ...answersFor("router-changed"), name: "Router" });
    const page = await desk.tab(`/jobs/${id}/visit`, PHONE);
    await type(page, "You are", "Robin Ash");
    await openPart(page, "Sheet");
    await shows(page, "Service: router or passphrase changed");
    const titles = await page.$$eval("main li button", (buttons) => buttons.map((button) => button.textContent ?? ""));
    expect(titles.length).toBeGreaterThan(3);
    expect(titles.length).toBeLessThan(15);
    expect(titles.filter((title) => /Isolate|Prove dead|Covers/.test(title))).toEqual([]);
    await openPart(page, "Now");
    for (const step of ["reach:module", "enter-network:module"]) {
      await due(page, step);
      await tap(page, "Done");
    }
    await due(page, "online:module");
    await page.locator("label ::-p-text((Online))").click();
    await tap(page, "Record");
    await due(page, "compare");
    await tap(page, "Done");
    await shows(page, "Every step is over.");
    await openPart(page, "Sheet");
    await page.locator("summary").click();
    await press(page, "Begin another visit");
    await shows(page, "its lines stay in the log");
    await openPart(page, "Now");
    await due(page, "ask");
    await openPart(page, "Log");
    await shows(page, "visit 1, Service: router or passphrase changed");
    await press(page, "Undo");
    await openPart(page, "Now");
    await shows(page, "Every step is over.");
  });

  it("runs timers together on the phone, shows what to do meanwhile, and keeps a photo", async () => {
    const id = await visit(desk, "Phone");
    const page = await desk.tab(`/jobs/${id}/visit?step=survey`, PHONE);
    await type(page, "You are", "Kim");
    writeFileSync(path.join(folder, "wall.png"), PICTURE);
    // The handle is of an input: what the page has there.
    const input = (await page.waitForSelector("input[type=file]")) as ElementHandle<HTMLInputElement>;
    await input.uploadFile(path.join(folder, "wall.png"));
    await shows(page, "1 photo");
    for (const step of ["survey", "unload", "isolate:board"]) {
      await due(page, step);
      await press(page, "Done");
    }
    await openStep(page, "DC off and bled at Roof inverter");
    await page.locator("::-p-aria(Start: DC of Roof inverter bleeds down)").click();
    await page.waitForFunction(
      () =>
        /DC of Roof inverter bleeds down\s*\d:\d\d/.test(
          document.querySelector("[aria-label=Timers]")?.textContent ?? "",
        ),
      POLLING,
    );
    await shows(page, "Meanwhile");
    await openPart(page, "Log");
    await page.waitForFunction(
      () => [...document.images].some((image) => image.src.includes("/photos/") && image.naturalWidth > 0),
      POLLING,
    );
  });

  it("shows what a mate records on another device, without a reload", async () => {
    const id = await visit(desk, "Mate");
    const page = await desk.tab(`/jobs/${id}/visit`);
    await openPart(page, "Log");
    await shows(page, "Nothing was recorded yet");
    const entry = {
      id: randomUUID(),
      at: new Date().toISOString(),
      person: "Kim",
      kind: "note",
      text: "Array lead is in the loft",
    };
    const answer = await fetch(`${desk.app}/api/v1/jobs/${id}/visit`, {
      method: "POST",
      headers: { "content-type": "application/json" },
      body: JSON.stringify({ entries: [entry] }),
    });
    expect(answer.status).toBe(200);
    await shows(page, "Array lead is in the loft");
  });

  it("keeps what is recorded without a connection over a reload, and sends it once", async () => {
    const id = await visit(desk, "Offline");
    const page = await desk.tab(`/jobs/${id}/visit?step=survey`);
    await type(page, "You are", "Robin Ash");
    await page.setRequestInterception(true);
    let isAway = true;
    page.on(
      "request",
      (request) =>
        void (isAway && request.method() === "POST" ? request.abort("internetdisconnected") : request.continue()),
    );
    await press(page, "Done");
    await shows(page, "Not sent yet: 1");
    await reload(page);
    await shows(page, "Not sent yet: 1");
    isAway = false;
    await page.evaluate(() => window.dispatchEvent(new Event("online")));
    await allSent(page);
    const { entries } = (await (await fetch(`${desk.app}/api/v1/jobs/${id}/visit`)).json()) as {
      entries: { step: string }[];
    };
    expect(entries.map(({ step }) => step)).toEqual(["survey"]);
  });

  it("plans the visit for one and for two, with its bound, and marks a step whose content changed", async () => {
    const id = await visit(desk, "Plan");
    const page = await desk.tab(`/jobs/${id}/visit`);
    await type(page, "You are", "Robin Ash");
    await openPart(page, "Schedule");
    const alone = await figure(page, HOURS);
    await shows(page, "Start these early: they run unattended");
    await page.select(await selectOf(page, "Technicians"), "2");
    expect(await figure(page, HOURS, alone)).toBeGreaterThan(0);
    await openPart(page, "Now");
    await due(page, "survey");
    await press(page, "Done");
    await allSent(page);
    const job = (await (await fetch(`${desk.app}/api/v1/jobs/${id}`)).json()) as {
      revision: number;
      document: { site: { nodes: { id: string; name: string }[] } };
    };
    for (const node of job.document.site.nodes) if (node.id === "solar") node.name = "Old inverter";
    expect(
      (
        await fetch(`${desk.app}/api/v1/jobs/${id}`, {
          method: "PUT",
          headers: { "content-type": "application/json" },
          body: JSON.stringify({ revision: job.revision, document: job.document }),
        })
      ).status,
    ).toBe(200);
    await reload(page);
    await openPart(page, "Sheet");
    await shows(page, "look again");
    await shows(page, "1 of 31 steps done or skipped");
  });
});

function visit(desk: Desk, name: string): Promise<string> {
  return desk.fromPattern(answersFor("two-ct-add-on", { name: `Run ${name}` }));
}

/** Wait for a step to be the one that is shown; through what is due where it is not. */
async function due(page: Page, step: string): Promise<void> {
  await page.waitForFunction(() => document.querySelector("[data-step]"), POLLING);
  if (await page.$(`[data-step="${step}"]`)) return;
  await page.evaluate(() =>
    [...document.querySelectorAll("button")].find((button) => button.textContent === "What is due")?.click(),
  );
  await page.waitForSelector(`[data-step="${step}"]`);
}

/** Press what may be behind the bar of Back and Next, as a thumb does: scrolled up first. */
async function tap(page: Page, name: string): Promise<void> {
  const button = await page.waitForSelector(`::-p-aria(${name})`);
  await button!.evaluate((element) => element.scrollIntoView({ block: "center" }));
  await button!.click();
}

async function openStep(page: Page, title: string): Promise<void> {
  await openPart(page, "Sheet");
  await page.locator(`li button ::-p-text(${title})`).click();
  await page.waitForFunction(
    (wanted) => document.querySelector("[data-step] h3")?.textContent === wanted,
    POLLING,
    title,
  );
}

async function isDisabled(page: Page, name: string): Promise<boolean> {
  const button = await page.waitForSelector(`::-p-aria(${name})`);
  return button!.evaluate((element) => (element as HTMLButtonElement).disabled);
}
