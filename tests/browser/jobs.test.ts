import { mkdtempSync, readFileSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import path from "node:path";
import { fileURLToPath } from "node:url";
import type { ElementHandle, Page } from "puppeteer-core";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { Desk, press, reload, shows, showsNot, type } from "./desk";

const TOLLGATE = fileURLToPath(new URL("../../demo/tollgate-cottage.json", import.meta.url));

describe("Jobs", () => {
  let desk: Desk;
  beforeAll(async () => {
    desk = await Desk.open();
  });
  afterAll(async () => {
    expect(desk.faults).toEqual([]);
    await desk.close();
  });

  it("imports a job file and opens it", async () => {
    const page = await desk.tab("/jobs");
    await press(page, "Import");
    await choose(page, TOLLGATE);
    await shows(page, "Tollgate Cottage");
    await page.waitForFunction(() => location.pathname.endsWith("/place"));
    await shows(page, "Turn A2 round");
  });

  it("lists every problem of a bad file with its path, and imports nothing", async () => {
    const text = readFileSync(TOLLGATE, "utf8")
      .replace('"fedFrom": "board"', '"fedFrom": "attic"')
      .replace('"name": "Tollgate Cottage"', '"name": "Never imported"');
    const file = path.join(mkdtempSync(path.join(tmpdir(), "gormit-file-")), "bad.json");
    writeFileSync(file, text);
    const page = await desk.tab("/jobs");
    await press(page, "Import");
    await choose(page, file);
    await shows(page, "Nothing was imported");
    await shows(page, "site.nodes[2].fedFrom");
    await reload(page);
    await showsNot(page, "Never imported");
  });

  it("makes a job from a short form, and says at each field what is wrong", async () => {
    const page = await desk.tab("/jobs");
    await press(page, "New job");
    await type(page, "Solar inverter, kW", "many");
    await press(page, "Make the job");
    await shows(page, "give the job a name");
    await shows(page, "give the rating in kW, 0 for none");
    await type(page, "Name of the job", "Harbour workshop");
    await type(page, "Solar inverter, kW", "4,5");
    await page.select("#system", "split-phase");
    await press(page, "Make the job");
    await page.waitForFunction(() => location.pathname.endsWith("/place"));
    await shows(page, "Split phase, 120/240 V 60 Hz");
    await shows(page, "4.50 kW");
  });

  it("duplicates, finds by search, deletes and brings back", async () => {
    await desk.newJob({ name: "Saltmarsh barn", system: "single-phase" });
    const page = await desk.tab("/jobs");
    await press(page, "Duplicate Saltmarsh barn");
    await shows(page, "Saltmarsh barn (copy)");
    await type(page, "Search", "saltmarsh barn (copy");
    await page.waitForFunction(() => document.querySelectorAll("[data-job]").length === 1);
    await press(page, "Delete Saltmarsh barn (copy)");
    await page.waitForFunction(() => document.querySelectorAll("[data-job]").length === 0);
    await press(page, "Undo");
    await page.waitForFunction(() => document.querySelectorAll("[data-job]").length === 1);
  });

  it("brings back each of two that were deleted, and keeps what is archived apart", async () => {
    for (const name of ["Osier shed one", "Osier shed two"]) await desk.newJob({ name, system: "single-phase" });
    const page = await desk.tab("/jobs?search=osier");
    const rows = (count: number) =>
      page.waitForFunction((n) => document.querySelectorAll("[data-job]").length === n, { polling: 50 }, count);
    await rows(2);
    await press(page, "Delete Osier shed one");
    await rows(1);
    await press(page, "Delete Osier shed two");
    await shows(page, "No job is like this");
    await shows(page, "“Osier shed one” is deleted.");
    for (const count of [1, 2]) {
      await page.locator("main [role=status] button").click();
      await rows(count);
    }
    await press(page, "Put Osier shed two into the archive");
    await rows(1);
    await press(page, "Archive");
    await shows(page, "One job with “osier” in the archive");
    await press(page, "Take Osier shed two out of the archive");
    await shows(page, "No job like this in the archive.");
    await press(page, "Show all jobs");
    await shows(page, "Osier shed two");
  });
});

async function choose(page: Page, file: string): Promise<void> {
  const input = (await page.waitForSelector("input[type=file]")) as ElementHandle<HTMLInputElement>;
  await input.uploadFile(file);
}
