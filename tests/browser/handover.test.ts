import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { jobFromPattern } from "../fixtures/shipped";
import { Desk, partShows, PHONE, press, shows, showsNot } from "./desk";

describe("Hand over", () => {
  let desk: Desk;
  beforeAll(async () => {
    desk = await Desk.open();
  });
  afterAll(async () => {
    expect(desk.faults).toEqual([]);
    await desk.close();
  });

  it("shows what is missing, worst first, and leads to the place that fills it, on a phone", async () => {
    const job = await desk.imported(jobFromPattern("split-phase-backup", { name: "To hand over" }));
    const page = await desk.tab(`/jobs/${job}/handover`, PHONE);
    await shows(page, "things are missing");
    await partShows(page, "Missing, the worst first", "Not every reading is proved");
    await partShows(page, "Missing, the worst first", "The owner does not see Hybrid inverter yet");
    const line = await page.waitForSelector('[aria-label="Missing, the worst first"] ::-p-text(Online)');
    await line!.click();
    await press(page, "The owner sees its data");
    await shows(page, "The owner saw its data at");
    await shows(page, "Saved");
    await page.goto(`${desk.app}/jobs/${job}/handover`, { waitUntil: "networkidle2" });
    await partShows(page, "Proved", "The owner sees Hybrid inverter");
  });

  it("gives the owner a page by a private link that opens on a phone without an account, and ends it", async () => {
    const job = await desk.demoJob("tollgate-cottage", "For the owner");
    const page = await desk.tab(`/jobs/${job}/handover`);
    await press(page, "Make the owner’s link");
    const link = await page.waitForSelector('[aria-label="The owner’s page"] a');
    const address = new URL(await link!.evaluate((own) => own.getAttribute("href")!));
    const owner = await desk.tab(address.pathname, PHONE);
    await shows(owner, "A hot tank takes nothing");
    await shows(owner, "a plus is importing");
    expect(await owner.evaluate(() => document.body.innerText)).not.toContain("For the owner");
    expect(await owner.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
    await page.bringToFront();
    await (await page.waitForSelector("button ::-p-text(End the link)"))!.click();
    await showsNot(page, "End the link");
    expect((await fetch(address)).status).toBe(404);
    expect((await fetch(new URL("/owner/nonsense", address))).status).toBe(404);
  });

  it("keeps deadlines with how many days are left, and refuses one without a day", async () => {
    const job = await desk.demoJob("tollgate-cottage", "With a deadline");
    const page = await desk.tab(`/jobs/${job}/handover`, PHONE);
    // The findings are there, and the page stands.
    await partShows(page, "Missing, the worst first", "the readings show a fault");
    const field = await page.waitForSelector('input[name="what"]');
    await field!.type("Notice to the grid operator");
    await field!.press("Enter");
    await partShows(page, "Deadlines", "a date is written");
    await page.$eval('input[type="date"]', (day) => {
      const set = Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, "value")!.set!;
      set.call(day, "2020-01-31");
      day.dispatchEvent(new Event("input", { bubbles: true }));
    });
    await field!.press("Enter");
    await partShows(page, "Deadlines", "days late");
    const done = await page.waitForSelector('[aria-label="Deadlines"] li button');
    await done!.evaluate((own) => own.click());
    await partShows(page, "Deadlines", "done");
    await shows(page, "Saved");
    await page.reload({ waitUntil: "networkidle2" });
    await partShows(page, "Deadlines", "Notice to the grid operator");
  });

  it("checks the log, and gives the report as a PDF", async () => {
    const job = await desk.demoJob("tollgate-cottage", "Checked");
    const page = await desk.tab(`/jobs/${job}/handover`);
    await press(page, "Check the log");
    await partShows(page, "The log", "Nothing was written yet");
    const href = await page.$eval("a ::-p-text(Full, A4)", (link) => link.closest("a")!.href);
    const report = await fetch(href);
    expect(report.headers.get("content-type")).toBe("application/pdf");
  });
});
