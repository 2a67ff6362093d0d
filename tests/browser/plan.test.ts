import type { Page } from "puppeteer-core";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { usualAnswers } from "@/core/patterns/patternAnswers";
import { answersFor, shippedPatterns } from "../fixtures/shipped";
import { Desk, PHONE, goTo, press, reload, savedAt, shows, showsNot, type } from "./desk";

describe("Plan", () => {
  let desk: Desk;
  beforeAll(async () => {
    desk = await Desk.open();
  });
  afterAll(async () => {
    expect(desk.faults).toEqual([]);
    await desk.close();
  });

  it("starts from an add-on meter, answers fuse and distance, and puts a CT right that became too small", async () => {
    const page = await fromPattern(desk, "add-on", "Add-on meter with two CTs");
    await type(page, "Name of the job", "Harbour cottage");
    await type(page, "Main fuse, A", "80");
    await type(page, "Cable, m", "21,5");
    await makePlan(page, "Harbour cottage");
    await shows(page, "holds together");
    await openPart(page, "Site");
    await page.locator("summary ::-p-text(Supply: single phase, 80 A)").click();
    await type(page, "Main fuse, A", "100");
    await shows(page, "Choose the primary 100 A");
    await openPart(page, "Meters");
    await page.locator('[data-input="A1"]').click();
    await chooseIn(page, "Primary", "100");
    await shows(page, "100 A (100 A : 0.333 V); the kit takes primary amperes from 5 to 1000 in steps of 5");
    await showsNot(page, "to fix");
    await openPart(page, "Bring");
    await shows(page, "Split-core CT, 333 mV, 16 mm window, 100 A : 0.333 V, class 1");
    await page.locator("label ::-p-text(Lock-off kit with tag)").click();
    await shows(page, "1 of");
    await reload(page);
    await openPart(page, "Bring");
    await shows(page, "1 of");
    await openPart(page, "Labels");
    await shows(page, "CT round L1 of Consumer unit");
    const pdf = await page.$eval("a ::-p-text(PDF)", (link) => (link.closest("a") as HTMLAnchorElement).href);
    expect((await fetch(pdf)).headers.get("content-type")).toBe("application/pdf");
  });

  it(
    "starts from a three-phase storage system, sees what a wrong run would miss, overrides a method, and " +
      "accepts a finding with a reason",
    async () => {
      const page = await fromPattern(desk, "separate backup", "Three-phase storage with external meter");
      await type(page, "Name of the job", "Quay offices");
      await makePlan(page, "Quay offices");
      await openPart(page, "Meters");
      await page.locator('[data-input="A2"]').click();
      await shows(page, "L2 of Hybrid inverter: would miss the House, the Heat pump and the Kettle L2");
      await page.locator("[aria-label='Role and circuit'] button ::-p-text(L2 of Hybrid inverter)").click();
      await shows(
        page,
        "Measured here, the grid of Grid meter would miss the House, the Heat pump and the Kettle L2 on L2.",
      );
      await page.locator("[aria-label='Role and circuit'] button ::-p-text(L2 of Main board)").click();
      await showsNot(page, "Measured here");
      await chooseIn(page, "Printed arrow", "to-load");
      await shows(page, "overridden for this input");
      await shows(page, "against the kit");
      await press(page, "Undo");
      await showsNot(page, "overridden for this input");
      await page.locator("header button[title=Findings]").click();
      const notes = () => page.$eval("header", (header) => Number(/(\d+) note/.exec(header.innerText)?.[1] ?? 0));
      const before = await notes();
      const noted = (count: number) =>
        page.waitForFunction(
          (wanted) => Number(/(\d+) note/.exec(document.querySelector("header")?.innerText ?? "")?.[1] ?? 0) === wanted,
          {},
          count,
        );
      await press(page, "Accept … Night load below what the class promises");
      await type(page, "Why may it stand?", "Only large loads matter here");
      await press(page, "Accept");
      await shows(page, "“Only large loads matter here”");
      await noted(before - 1);
      await press(page, "Take it back Night load below what the class promises");
      await noted(before);
    },
  );

  it("starts from a split-phase backup without its generator, adds a device and a meter, and places them", async () => {
    const page = await fromPattern(desk, "split phase", "Split-phase backup with generator");
    await type(page, "Name of the job", "Weir house");
    await page.locator("form label ::-p-text(on site)").click();
    await makePlan(page, "Weir house");
    await showsNot(page, "Generator meter");
    await chooseIn(page, "Add", "charger-hub-7k");
    await page.locator("section[aria-label='Devices and boards'] button ::-p-text(Add)").click();
    await page.waitForSelector('[data-device="car-charger"]');
    await type(page, "Rating, kW", "9,9");
    await shows(page, "Car charger is planned with 9900 W; Car charger 7.4 kW, hub has 7400 W.");
    await type(page, "Rating, kW", "7,4");
    await showsNot(page, "is planned with 9900 W");
    await openPart(page, "Meters");
    await chooseIn(page, "Kit", "meter-split-two-ct");
    await chooseIn(page, "Role", "vehicle");
    await chooseIn(page, "Circuit", "car-charger");
    await page.locator("section[aria-label='Add a meter'] button ::-p-text(Add)").click();
    await shows(page, "L1 of Car charger: holds exactly what it should");
    await press(page, "Show in Place");
    await page.waitForFunction(() => location.pathname.endsWith("/place"));
    await page.waitForSelector('[data-socket="B1"]');
    await shows(page, "L1 of Car charger");
  });

  it("keeps an input that makes no sense in its field, says what is wrong, and saves what made sense", async () => {
    const id = await desk.fromPattern(answersFor("diverter-and-hub", { name: "Nonsense" }));
    const page = await desk.tab(`/jobs/${id}/plan?device=solar`);
    await type(page, "Rating, kW", "4,2");
    await savedAt(page, 2);
    await page.keyboard.type("x");
    await shows(page, "type it in kW, not in x; 4.2 is kept");
    await type(page, "Name", "   ");
    await shows(page, "give a name; “Roof inverter” is kept");
    await reload(page);
    expect(await page.$eval("::-p-aria(Rating, kW)", (field) => (field as HTMLInputElement).value)).toBe("4.2");
  });

  it(
    "keeps a pattern at an address of its own, also under its name of before, and " + "comes back to the list",
    async () => {
      const page = await fromPattern(desk, "several inverters", "Export controller over several inverters");
      expect(new URL(page.url()).pathname).toBe("/jobs/new/export-controller");
      await page.goBack();
      await shows(page, "What kind of site is it?");
      await goTo(page, `${desk.app}/jobs/new/S15`);
      expect(new URL(page.url()).pathname).toBe("/jobs/new/router-changed");
      await shows(page, "Service visit after a router change");
      await goTo(page, `${desk.app}/kits/energy-manager-63a`);
      expect(new URL(page.url()).pathname).toBe("/kits/energy-manager-80a");
      expect((await page.goto(`${desk.app}/jobs/new/no-such-site`))?.status()).toBe(404);
      desk.faults.splice(0, desk.faults.length, ...desk.faults.filter((fault) => !fault.includes("404")));
    },
  );

  it("opens all nineteen patterns, on the plan's board and in Place", { timeout: 240_000 }, async () => {
    const page = await desk.tab("/jobs/new");
    expect(await page.$$eval("article h2", (titles) => titles.length)).toBe(19);
    for (const pattern of shippedPatterns()) {
      const id = await desk.fromPattern({ ...usualAnswers(pattern), name: `All ${pattern.id}` });
      await page.goto(`${desk.app}/jobs/${id}/plan`, { waitUntil: "domcontentloaded" });
      await page.waitForSelector(`[data-node="${pattern.nodes[0]!.id}"]`);
      await shows(page, "holds together");
      await page.locator('nav[aria-label=Stages] a[href$="/place"]').click();
      await page.waitForSelector('[data-socket="A1"]');
      await shows(page, "as planned");
      expect(await page.evaluate(() => document.querySelector("header")!.innerText)).not.toMatch(/\d (stop|fix)/);
    }
  });

  it(
    "finds a device by its name, changes the decimal sign and the conductor colours from the palette, and " +
      "shows the shortcuts",
    async () => {
      const id = await desk.fromPattern(answersFor("three-phase-storage", { name: "Palette" }));
      const page = await desk.tab(`/jobs/${id}/place`);
      await palette(page, "heat pump");
      await page.waitForSelector('[data-device="heat"][aria-expanded="true"]');
      await palette(page, "decimal comma");
      await shows(page, "10,00 kW");
      await palette(page, "older uk");
      await page.locator("summary ::-p-text(Supply)").click();
      await shows(page, "L1 red, L2 yellow, L3 blue, N black; BS 7671 before 2004");
      await palette(page, "decimal point");
      await page.keyboard.press("Escape");
      await page.evaluate(() => (document.activeElement as HTMLElement | null)?.blur());
      await page.keyboard.type("?");
      await shows(page, "commands: find a device, a stage, a setting");
      await page.keyboard.press("Escape");
      await page.keyboard.press("g");
      await page.keyboard.press("p");
      await page.waitForFunction(() => location.pathname.endsWith("/prove"));
    },
  );

  it("edits a plan on a phone", async () => {
    const id = await desk.fromPattern(answersFor("diverter-and-hub", { name: "Phone" }));
    const page = await desk.tab(`/jobs/${id}/plan`, PHONE);
    await page.locator('[data-device="heater"]').click();
    await type(page, "Name", "Immersion diverter");
    await page.waitForFunction(() =>
      (document.querySelector('[data-device="heater"]') as HTMLElement | null)?.innerText.includes(
        "Immersion diverter",
      ),
    );
    await press(page, "Show the rail board");
    await page.locator('[data-node="heater"] ::-p-text(Immersion diverter)').wait();
    expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
  });
});

async function fromPattern(desk: Desk, sought: string, title: string): Promise<Page> {
  const page = await desk.tab("/jobs/new");
  await type(page, "Search the patterns", sought);
  await page.locator(`h2 a ::-p-text(${title})`).click();
  await page.waitForSelector("form[aria-label='Questions']");
  return page;
}

async function makePlan(page: Page, name: string): Promise<void> {
  await press(page, "Make the plan");
  await page.waitForFunction(() => location.pathname.endsWith("/plan"));
  await page.waitForFunction((wanted) => document.querySelector("h1")?.textContent === wanted, { polling: 50 }, name);
}

async function openPart(page: Page, name: string): Promise<void> {
  await page.locator(`[role=tab] ::-p-text(${name})`).click();
}

/** Choose in the list with this label; a person sees the words, the test names the value. */
async function chooseIn(page: Page, label: string, value: string): Promise<void> {
  const list = await page.waitForSelector(`::-p-aria([name="${label}"][role="combobox"])`);
  await list!.select(value);
}

async function palette(page: Page, words: string): Promise<void> {
  await page.keyboard.down("Control");
  await page.keyboard.press("k");
  await page.keyboard.up("Control");
  await page.waitForSelector("[cmdk-input]");
  await page.type("[cmdk-input]", words);
  await page.waitForSelector("[cmdk-item][data-selected=true]");
  await page.keyboard.press("Enter");
}
