import { mkdtemp, rm, writeFile } from "node:fs/promises";
import { tmpdir } from "node:os";
import path from "node:path";
import type { ElementHandle, Page } from "puppeteer-core";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { reportAnswerSchema } from "@/core/handover/report/reportSchema";
import type { JobDocument } from "@/core/job/jobDocument";
import { bundleFiles, zipped } from "../fixtures/bundleFiles";
import { flat, readPdf } from "../fixtures/readPdf";
import { jobFromPattern } from "../fixtures/shipped";
import { Desk, goTo, openPart, partShows, PHONE, press, reload, selectOf, shows, showsNot } from "./desk";

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
    await goTo(page, `${desk.app}/jobs/${job}/handover`);
    await partShows(page, "Proved", "The owner sees Hybrid inverter");
  });

  it("gives the owner a page by a private link that opens on a phone without an account, and ends it", async () => {
    const job = await desk.demoJob("tollgate-cottage", "For the owner");
    const page = await desk.tab(`/jobs/${job}/handover?part=transfer`);
    await press(page, "Make the owner’s link");
    const link = await page.waitForSelector('[aria-label="The owner’s page"] a[href*="/owner/"]');
    const address = new URL(await link!.evaluate((own) => own.getAttribute("href")!));
    const owner = await desk.tab(address.pathname, PHONE);
    await shows(owner, "A hot tank takes nothing");
    await shows(owner, "a plus is importing");
    expect(await owner.evaluate(() => document.body.innerText)).not.toContain("For the owner");
    expect(await owner.evaluate(() => document.querySelectorAll("main svg rect").length)).toBeGreaterThan(3);
    await (await owner.waitForSelector("a ::-p-text(Deutsch)"))!.click();
    await shows(owner, "Öffnen Sie keine Abdeckung");
    expect(await owner.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
    await page.bringToFront();
    await (await page.waitForSelector("button ::-p-text(End the link)"))!.click();
    await showsNot(page, "End the link");
    expect((await fetch(address)).status).toBe(404);
    expect((await fetch(new URL("/owner/nonsense", address))).status).toBe(404);
  });

  it("is handed over with a finger on a phone, and says by the next change what is not as it was signed", async () => {
    const job = await desk.demoJob("tollgate-cottage", "Signed on a phone");
    const page = await desk.tab(`/jobs/${job}/handover`, PHONE);
    await press(page, "Hand over and sign");
    await press(page, "Hand over now");
    await partShows(page, "Hand overs", "say who works");
    await page.type('input[name="hands-over"]', "Kim");
    const box = await page.waitForSelector('canvas[aria-label="Signs here: Owner"]');
    await box!.scrollIntoView();
    const { x, y } = (await box!.boundingBox())!;
    await page.touchscreen.touchStart(x + 20, y + 20);
    for (const at of [40, 60, 80, 100]) await page.touchscreen.touchMove(x + at, y + 10 + (at % 40));
    await page.touchscreen.touchEnd();
    await press(page, "Hand over now");
    await partShows(page, "Hand overs", "say who signs");
    await page.type('input[name="signer-owner"]', "Robin");
    await press(page, "Hand over now");
    await partShows(page, "Hand overs", "Nothing has changed since version 1");
    await page.waitForSelector('svg[aria-label="Signature of Robin"] path');
    const { revision, document } = (await (await fetch(`${desk.app}/api/v1/jobs/${job}`)).json()) as {
      revision: number;
      document: JobDocument;
    };
    const cts = document.site.cts.map((ct) => ({ ...ct, turns: 2 }));
    await fetch(`${desk.app}/api/v1/jobs/${job}`, {
      method: "PUT",
      headers: { "content-type": "application/json" },
      body: JSON.stringify({ revision, document: { ...document, site: { ...document.site, cts } } }),
    });
    await reload(page);
    await partShows(page, "Hand overs", "Changed since version 1: hand over again");
    await partShows(page, "Hand overs", "CTs as fitted");
    const log = await (await fetch(`${desk.app}/api/v1/jobs/${job}/log.json`)).text();
    expect(log).toContain("Handed over, version 1");
    expect(log).toContain("signed by Robin");
  });

  it("is opened again by what is wrong, and holds what is read now against what was handed over", async () => {
    const job = await desk.demoJob("fennel-court", "Back after a year");
    const page = await desk.tab(`/jobs/${job}/handover`);
    await page.evaluate(() => localStorage.setItem("gormit-person", JSON.stringify("Kim")));
    await reload(page);
    await press(page, "Hand over and sign");
    await press(page, "Hand over now");
    await partShows(page, "Hand overs", "Nothing has changed since version 1");
    await press(page, "A reading looks wrong");
    await partShows(page, "Verdict", "Nothing read yet");
    await partShows(page, "Then and now", "switch the same again");
    const box = await page.waitForSelector("[data-step] input[inputmode]");
    await box!.type("2,47 kW");
    await box!.press("Tab");
    await partShows(page, "Then and now", "Now");
    await shows(page, "Saved");
    await goTo(page, `${desk.app}/jobs/${job}/handover`);
    await partShows(page, "Hand overs", "Changed since version 1");
  });

  it("keeps deadlines with how many days are left, and refuses one without a day", async () => {
    const job = await desk.demoJob("tollgate-cottage", "With a deadline");
    const page = await desk.tab(`/jobs/${job}/handover`, PHONE);
    // The findings are there, and the page stands.
    await partShows(page, "Missing, the worst first", "The readings show a fault");
    await openPart(page, "Deadlines");
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
    await reload(page);
    await partShows(page, "Deadlines", "Notice to the grid operator");
  });

  it("registers on a phone: the day, what was sent and confirmed, and what is due over all jobs", async () => {
    const job = await desk.imported(jobFromPattern("split-phase-backup", { name: "To be registered" }));
    const page = await desk.tab(`/jobs/${job}/handover?part=register`, PHONE);
    await partShows(page, "Grid operator", "Still needs");
    await day(page, "Installed on", "2020-01-02");
    await partShows(page, "Grid operator", "lost when it is late");
    await shows(page, "Saved");
    await goTo(page, `${desk.app}/jobs`);
    await (await page.waitForSelector("a ::-p-text(late)"))!.click();
    await shows(page, "To be registered");
    await shows(page, "days late");
    await press(page, "Make the calendar’s link");
    const address = await page.waitForSelector('[aria-label="Calendar"] a');
    const calendar = await fetch(await address!.evaluate((link) => (link as HTMLAnchorElement).href));
    expect(await calendar.text()).toContain("BEGIN:VEVENT");
    await (await page.waitForSelector("a ::-p-text(Notice of connection)"))!.click();
    await day(page, "Sent on", "2020-01-10", "Grid operator");
    await partShows(page, "Grid operator", "Sent, not confirmed yet");
    await day(page, "Confirmed on", "2020-01-20", "Grid operator");
    await partShows(page, "Grid operator", "Confirmed");
    await openPart(page, "Proof");
    await partShows(page, "Proved", "Notice of connection");
  });

  it("leads to the owner stage by stage, and names what keeps the two accounts apart", async () => {
    const job = await desk.imported(jobFromPattern("split-phase-backup", { name: "Into other hands" }));
    const page = await desk.tab(`/jobs/${job}/handover?part=transfer`);
    await partShows(page, "Stages of the transfer", "Next: site made");
    await day(page, "Site made on", "2026-11-02");
    await partShows(page, "Stages of the transfer", "Next: devices in it");
    await page.type("::-p-aria(Country of your account)", "Northland");
    await page.type("::-p-aria(Country of the owner’s account)", "Southland");
    await partShows(page, "Stages of the transfer", "The accounts are of two countries");
    await shows(page, "Saved");
    await reload(page);
    await partShows(page, "Stages of the transfer", "The accounts are of two countries");
  });

  it("names what was changed in a bundle that is brought in, and brings in the one that is whole", async () => {
    const folder = await mkdtemp(path.join(tmpdir(), "gormit-test-"));
    const whole = bundleFiles([]);
    const changed = new Map(whole).set("report.json", whole.get("report.json")!.replace("Barn", "Born"));
    await writeFile(path.join(folder, "changed.zip"), await zipped(changed));
    await writeFile(path.join(folder, "whole.zip"), await zipped(whole));
    const page = await desk.tab("/jobs");
    await press(page, "Import");
    const choose = async (name: string) => {
      const input = (await page.waitForSelector('input[type="file"]')) as ElementHandle<HTMLInputElement>;
      await input.uploadFile(path.join(folder, name));
    };
    await choose("changed.zip");
    await partShows(page, "Import a job", "report.json");
    await partShows(page, "Import a job", "was changed");
    await choose("whole.zip");
    await shows(page, "Barn");
    await page.waitForFunction(() => location.pathname.endsWith("/place"));
    await goTo(page, page.url().replace("/place", "/handover"));
    await shows(page, "from a bundle, with its log");
    await partShows(page, "Hand overs", "Version 1");
    await rm(folder, { recursive: true });
  });

  it("checks the log, and shows the report as a page in two languages, with all that its data hold", async () => {
    const job = await desk.demoJob("tollgate-cottage", "Checked");
    const page = await desk.tab(`/jobs/${job}/handover`);
    await press(page, "Check the log");
    await partShows(page, "The log", "Nothing was written yet");
    await openPart(page, "Report");
    await partShows(page, "Report of Checked", "What is proved, and what is not");
    await page.select(await selectOf(page, "Language of the report"), "de");
    await partShows(page, "Bericht über Checked", "Was nachgewiesen ist, und was nicht");
    const href = (name: string) => page.$eval(`a ::-p-text(${name})`, (link) => link.closest("a")!.href);
    const { report, sha256 } = reportAnswerSchema.parse(await (await fetch(await href("Its data"))).json());
    const shown = flat(await page.$eval("article", (sheet) => sheet.textContent ?? ""));
    for (const { title, lines, tables } of report.sections)
      for (const words of [title, ...lines, ...tables.flatMap(({ heads, rows }) => [...heads, ...rows.flat()])])
        expect(shown).toContain(flat(words));
    await shows(page, sha256);
    const pdf = await fetch(await href("PDF, A4"));
    expect((await readPdf(new Uint8Array(await pdf.arrayBuffer()))).text).toContain(sha256);
  });
});

/** Say a day in a field of the page, or of one of its parts. */
async function day(page: Page, label: string, value: string, part?: string): Promise<void> {
  const within = part === undefined ? "" : `[aria-label="${part}"] `;
  const field = await page.waitForSelector(`${within}::-p-aria([name="${label}"])`);
  await field!.evaluate((own, date) => {
    const set = Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, "value")!.set!;
    set.call(own, date);
    own.dispatchEvent(new Event("input", { bubbles: true }));
  }, value);
}
