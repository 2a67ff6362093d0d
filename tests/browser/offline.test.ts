import type { Page } from "puppeteer-core";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { Desk, PHONE, goTo, goToStage, partShows, press, savedAt, shows, type } from "./desk";

describe("Without a connection", () => {
  let desk: Desk;
  beforeAll(async () => {
    desk = await Desk.open();
  });
  afterAll(async () => {
    expect(desk.faults).toEqual([]);
    await desk.close();
  });

  it("a job that was opened reloads, changes stage, computes and records, and sends everything once", async () => {
    const id = await desk.demoJob("fennel-court", "No signal");
    const page = await desk.tab(`/jobs/${id}/prove`, PHONE);
    await partShows(page, "Verdict", "As planned");
    await desk.kept(page, id);
    await type(page, "Step 1, measured at A1", "-209");
    await savedAt(page, 2);
    await desk.connect(page, false);

    await page.reload({ waitUntil: "domcontentloaded" });
    // What was saved after the page was kept is there, and the verdict is worked out here.
    await partShows(page, "Verdict", "As planned");
    expect(await valueOf(page, "Step 1, measured at A1")).toBe("−209");
    await shows(page, "no connection");
    await type(page, "Step 2, measured at A1", "-1905");
    await shows(page, "Not sent yet: 1, safe on this phone");
    await partShows(page, "Verdict", "Read it again");

    await page.goto(`${desk.app}/jobs/${id}/visit`, { waitUntil: "domcontentloaded" });
    await type(page, "You are", "Robin Ash");
    await page.locator("[role=tab] ::-p-text(Log)").click();
    await type(page, "Note", "No bars in the coach house");
    await press(page, "Save note");
    await shows(page, "Not sent yet: 2, safe on this phone");
    await page.locator("header [data-revision]").click();
    await partShows(page, "What is not sent yet", "“No bars in the coach house”");
    await partShows(page, "What is not sent yet", "Changes of the plan");
    await press(page, "Close");
    for (const stage of ["Plan", "Place", "Wire", "Limit", "Divert"]) {
      await goToStage(page, stage);
      await page.waitForFunction((name) => document.querySelector("main h2")?.textContent === name, {}, stage);
    }

    await desk.connect(page, true);
    await page.evaluate(() => window.dispatchEvent(new Event("online")));
    await page.waitForFunction(() => document.querySelector("[data-revision]")?.textContent === "Saved");
    const job = (await (await fetch(`${desk.app}/api/v1/jobs/${id}`)).json()) as {
      document: { tests: { steps: { readings: { powerW: number }[] }[] } };
    };
    const [first, second] = job.document.tests.steps.map(({ readings }) => readings.map(({ powerW }) => powerW));
    expect(first).toContain(-209);
    expect(second).toContain(-1905);
    const log = (await (await fetch(`${desk.app}/api/v1/jobs/${id}/visit`)).json()) as { entries: { text?: string }[] };
    expect(log.entries.filter(({ text }) => text === "No bars in the coach house")).toHaveLength(1);
  });

  it("the list of jobs is there as it was last, and a job that was never opened says so", async () => {
    const [opened, other, third] = [
      await desk.demoJob("fennel-court", "Opened"),
      await desk.demoJob("fennel-court", "Other"),
      await desk.demoJob("fennel-court", "Packed"),
    ];
    const page = await desk.tab(`/jobs/${opened}/plan`);
    await desk.kept(page, opened);
    await goTo(page, `${desk.app}/jobs?search=packed`);
    await press(page, "Take Packed along");
    await page.waitForSelector('[title="Opens without a connection"]');
    await desk.connect(page, false);
    await page.goto(`${desk.app}/jobs/${third}/wire`, { waitUntil: "domcontentloaded" });
    await page.locator("[role=tab] ::-p-text(Wiring)").click();
    // What only the server can make says so where it stands.
    await shows(page, "needs a connection");
    await page.goto(`${desk.app}/jobs`, { waitUntil: "domcontentloaded" });
    await shows(page, "Opened");
    await page.goto(`${desk.app}/jobs/${other}/plan`, { waitUntil: "domcontentloaded" });
    await shows(page, "No connection, and this page is not kept on this device");
    await desk.connect(page, true);
  });

  it("tells an open page of a new version when somebody comes back to it, and takes it when asked", async () => {
    const first = await Desk.open();
    const page = await first.tab("/jobs");
    // Also where it is the first page of this browser, which was there before the app was kept.
    await page.waitForFunction(() => navigator.serviceWorker.controller !== null);
    await page.setRequestInterception(true);
    let asked = 0;
    page.on("request", (request) => {
      if (!request.url().endsWith("/app-files")) return void request.continue();
      asked++;
      return void request.respond({
        contentType: "application/json",
        body: JSON.stringify({ build: "newer", files: [] }),
      });
    });
    const comeBack = () => page.evaluate(() => document.dispatchEvent(new Event("visibilitychange")));
    await comeBack();
    expect(asked).toBe(0);
    await page.evaluate(() => {
      const hourLater = Date.now() + 3_600_000;
      Date.now = () => hourLater;
      document.body.dataset.isOld = "true";
    });
    await comeBack();
    await shows(page, "A new version of Gormit is ready");
    await press(page, "Use it now");
    await page.waitForFunction(() => document.readyState === "complete" && !document.body.dataset.isOld);
    expect(first.faults).toEqual([]);
    await first.close();
  });
});

async function valueOf(page: Page, label: string): Promise<string> {
  return page.$eval(`[aria-label="${label}"]`, (field) => (field as HTMLInputElement).value);
}
