import { mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import path from "node:path";
import type { ElementHandle } from "puppeteer-core";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { answersFor } from "../fixtures/shipped";
import { Desk, figure, openPart, partShows, PHONE, press, selectOf, shows, showsNot, type } from "./desk";

const POLLING = { polling: 50 };

/** What is imported on a day that is seen wrongly, kWh. */
const IMPORTED = /Imported\s+[\d.]+\s+([\d.]+)/;

describe("Limit and Divert", () => {
  let desk: Desk;
  const folder = mkdtempSync(path.join(tmpdir(), "gormit-control-"));
  beforeAll(async () => {
    desk = await Desk.open();
  });
  afterAll(async () => {
    expect(desk.faults).toEqual([]);
    rmSync(folder, { recursive: true, force: true });
    await desk.close();
  });

  it("works out the numbers to type from the operator's limit, on the safe side", async () => {
    const page = await desk.tab(`/jobs/${await site(desk, "export-controller", "Numbers")}/limit`);
    await type(page, "Export limit, W", "12000");
    const setPoint = await figure(page, /Set-point (\d+) W/);
    expect(setPoint).toBeGreaterThan(11_000);
    expect(setPoint).toBeLessThan(12_000);
    for (const text of ["Export limit", "Capacity, summed", "30 kW", "CT ratio of A1", "Fail-safe"])
      await shows(page, text);
    await shows(page, "by the margin");
    await type(page, "Dead band, W", "300");
    expect(await figure(page, /Set-point (\d+) W/, setPoint - 150)).toBeGreaterThan(11_000);
    await type(page, "Dead band, W", "lots");
    await shows(page, "is kept");
  });

  it("simulates what happens, follows a changed gain at once, and takes an own list", async () => {
    const page = await desk.tab(`/jobs/${await site(desk, "export-controller", "Gain")}/limit`);
    await type(page, "Export limit, W", "12000");
    await openPart(page, "Will it hold");
    await partShows(page, "Whether it holds", "It holds");
    await shows(page, "bus and radio");
    await type(page, "Gain, 1/s", "15");
    await partShows(page, "Whether it holds", "It hunts");
    await type(page, "Gain, 1/s", "0.6");
    await partShows(page, "Whether it holds", "It holds");
    await page.select(await selectOf(page, "What happens"), "meter-cut");
    await shows(page, "After the meter is lost");
    await page.select(await selectOf(page, "What happens"), "own");
    await press(page, "Add an event");
    await type(page, "Power of event 1 , W", "5000");
    await press(page, "Add an event");
    await page.select(await selectOf(page, "Event 2"), "grid-lost");
    await page.waitForFunction(() => document.querySelectorAll("[aria-label='Own list'] li").length === 2, POLLING);
  });

  it("judges a step test from a file or typed, remembers its columns, and keeps it", async () => {
    const page = await desk.tab(`/jobs/${await site(desk, "export-controller", "Proof")}/limit`);
    await type(page, "Export limit, W", "12000");
    await openPart(page, "Proof");
    await shows(page, "watch for 35 s");
    const calm = Array.from(
      { length: 40 },
      (_, at) => `10:00:${String(at).padStart(2, "0")};${at < 3 ? "-12,9 kW" : "-11,7 kW"}`,
    );
    writeFileSync(path.join(folder, "calm.csv"), `clock;net\n${calm.join("\n")}\n`);
    const file = (await page.waitForSelector(
      "[aria-label='New recording'] input[type=file]",
    )) as ElementHandle<HTMLInputElement>;
    await file.uploadFile(path.join(folder, "calm.csv"));
    await page.select(await selectOf(page, "Positive means"), "import");
    await partShows(page, "New recording", "It holds");
    await press(page, "Keep as proof");
    await partShows(page, "Proofs", "It holds");
    await shows(page, "proved");
    await page.focus("[aria-label='New recording'] textarea");
    await page.keyboard.sendCharacter("0 4200\n1 4300\n2 4250\n");
    await partShows(page, "New recording", "It proves nothing");
    await page.keyboard.sendCharacter("0 11700\n1 15000\nnonsense here\n");
    await shows(page, "is no time");
    await page.keyboard.press("Backspace");
    await file.dispose();
    const again = (await page.waitForSelector(
      "[aria-label='New recording'] input[type=file]",
    )) as ElementHandle<HTMLInputElement>;
    writeFileSync(
      path.join(folder, "high.csv"),
      `clock;net\n${calm.map((line) => line.replace("-11,7", "-13,5")).join("\n")}\n`,
    );
    await again.uploadFile(path.join(folder, "high.csv"));
    await partShows(page, "New recording", "It settles above the limit");
  });

  it("shows where a day's surplus goes, every order beside it, and takes an own sun", async () => {
    const page = await desk.tab(`/jobs/${await site(desk, "diverter-and-hub", "Day")}/divert`);
    await shows(page, "Every order, this day");
    await page.waitForFunction(
      () => document.querySelectorAll("[aria-label='Surplus orders'] tbody tr").length === 6,
      POLLING,
    );
    await page.locator("::-p-aria(Choose heater, then vehicle, then battery)").click();
    await shows(page, "in this order: heater, then vehicle, then battery");
    await page.locator("summary").click();
    writeFileSync(path.join(folder, "sun.csv"), `W\n${Array.from({ length: 24 }, () => "0").join("\n")}\n`);
    const file = (await page.waitForSelector("input[type=file]")) as ElementHandle<HTMLInputElement>;
    await file.uploadFile(path.join(folder, "sun.csv"));
    await shows(page, "Back to the simulated sun");
    await page.waitForFunction(
      () => document.querySelector("[aria-label='Surplus orders'] tbody tr td")?.textContent === "0",
      POLLING,
    );
  });

  it("simulates a year with its progress, stops when told, and sweeps 24 variants", async () => {
    const page = await desk.tab(`/jobs/${await site(desk, "diverter-and-hub", "Year")}/divert`);
    await openPart(page, "Year");
    await shows(page, "6 of 6, done");
    await shows(page, "Every order, a year");
    await page.waitForSelector('[aria-label="Sun by month, stacked"] svg');
    await press(page, "Sweep 24 variants: battery sizes and orders");
    await press(page, "Stop");
    await shows(page, "stopped");
    await press(page, "Sweep 24 variants: battery sizes and orders");
    await shows(page, "24 of 24, done");
    expect(await page.$$eval("[aria-label=Variants] tbody tr", (rows) => rows.length)).toBe(24);
  });

  it("says on the phone who sees what with the CTs as fitted, and what keeps two controllers apart", async () => {
    const page = await desk.tab(`/jobs/${await site(desk, "diverter-and-hub", "Sees")}/divert`, PHONE);
    await openPart(page, "Who sees what");
    await partShows(page, "Who sees what", "seen");
    await shows(page, "If the battery feeds the heater");
    await shows(page, "counts the sun twice");
    const twice = await figure(page, IMPORTED);
    await page.select(await selectOf(page, "as"), "-1");
    await shows(page, "sees the sun the wrong way");
    await page.waitForFunction(
      (source, before) => Number(new RegExp(source).exec(document.body.innerText)?.[1]) !== before,
      POLLING,
      IMPORTED.source,
      twice,
    );
    expect(await figure(page, IMPORTED)).toBeGreaterThan(0);
    await openPart(page, "Two controllers");
    await type(page, "Heater holds the grid at, W", "120");
    await shows(page, "The battery feeds the heater");
    await press(page, "Take these");
    await shows(page, "They stay apart");
    await showsNot(page, "go from one to the other");
  });
});

function site(desk: Desk, pattern: string, name: string): Promise<string> {
  return desk.fromPattern(answersFor(pattern, { name: `Control ${name}` }));
}
