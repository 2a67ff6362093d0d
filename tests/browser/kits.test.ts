import { mkdtempSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import path from "node:path";
import type { ElementHandle, Page } from "puppeteer-core";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { kitText } from "../fixtures/shipped";
import { Desk, goTo, press, reload, shows, showsNot, type } from "./desk";

describe("Kits", () => {
  let desk: Desk;
  beforeAll(async () => {
    desk = await Desk.open();
  });
  afterAll(async () => {
    expect(desk.faults).toEqual([]);
    await desk.close();
  });

  it(
    "finds a kit, shows what each value is used for and where it came from, and edits a copy with its " +
      "mistakes shown by line",
    async () => {
      const page = await desk.tab("/kits");
      await type(page, "Search the kits", "three phase 5 A");
      await page.locator("h2 a ::-p-text(DIN-rail meter, three phase, 5 A CTs)").click();
      await page.waitForSelector('ol[aria-label="Terminals of RS485"]');
      await shows(page, "data, non-inverting (+)");
      await page.locator("summary").click();
      await shows(page, "Plan, Place: which way the printed arrow must point");
      await shows(page, "Invented for Gormit");
      await press(page, "Edit a copy");
      await page.waitForSelector(".cm-content");
      await shows(page, "The file is good");
      await addLine(page, "weight: 3");
      await shows(page, "One problem");
      await shows(page, 'Unrecognized key: "weight"');
      expect(await page.$eval("::-p-aria(Save the kit)", (button) => (button as HTMLButtonElement).disabled)).toBe(
        true,
      );
      await reload(page);
      await shows(page, "One problem");
      await press(page, "Back to the start");
      await shows(page, "The file is good");
      await addLine(page, "# checked on the roof");
      await press(page, "Save the kit");
      // The form names the copy before it is kept; its own page comes after.
      await page.waitForFunction(() => location.pathname === "/kits/meter-three-5a-copy", { polling: 50 });
      await shows(page, "DIN-rail meter, three phase, 5 A CTs (copy)");
    },
  );

  it("is edited in a form with units, its text beside it; a mistake stands at its field with its line", async () => {
    const page = await desk.tab("/kits/meter-three-5a/edit");
    await type(page, "Weight, kg", "0,35");
    const text = () => page.$eval(".cm-content", (own) => (own as HTMLElement).innerText);
    await page.waitForFunction(() => document.querySelector(".cm-content")?.textContent?.includes("weightKg: 0.35"), {
      polling: 50,
    });
    expect(await text()).toContain("temperatureC: {min: -25, max: 55}");
    await type(page, "Address", "300");
    await shows(page, "an address is from 1 to 247 (line 22)");
    await shows(page, "The form shows the last good values");
    await type(page, "Address", "12");
    await shows(page, "The file is good");
    await type(page, "Name", "DIN-rail meter of the yard");
    await press(page, "Save the kit");
    await shows(page, "Where it may hang");
    await shows(page, "0.35 kg");
  });

  it("imports a kit file, lists every problem of a bad one by line, deletes and brings back", async () => {
    const page = await desk.tab("/kits");
    await choose(
      page,
      kitText("ct-split-1a-20mm").replace("id: ct-split-1a-20mm", "id: my clamp").replace('class: "3"', 'class: "9"'),
    );
    await shows(page, "Nothing was kept: the kit file has problems.");
    await shows(page, "line 3: id");
    await shows(page, "line 8: clamp.class");
    await choose(
      page,
      kitText("ct-split-1a-20mm")
        .replace("id: ct-split-1a-20mm", "id: my-clamp")
        .replace("name: Split", "name: My split"),
    );
    await shows(page, "My split-core CT, 1 A, 20 mm window");
    await goTo(page, `${desk.app}/kits`);
    await press(page, "Delete My split-core CT, 1 A, 20 mm window");
    await shows(page, "is deleted. Jobs that use it keep it.");
    await page.waitForFunction(
      () => ![...document.querySelectorAll("h2")].some((title) => title.textContent?.startsWith("My split")),
    );
    await press(page, "Undo");
    await showsNot(page, "is deleted");
    await page.waitForFunction(() =>
      [...document.querySelectorAll("h2")].some((title) => title.textContent?.startsWith("My split")),
    );
  });
});

async function addLine(page: Page, line: string): Promise<void> {
  await page.click(".cm-content");
  await page.keyboard.down("Control");
  await page.keyboard.press("End");
  await page.keyboard.up("Control");
  await page.keyboard.type(line);
}

async function choose(page: Page, text: string): Promise<void> {
  const file = path.join(mkdtempSync(path.join(tmpdir(), "gormit-kit-")), "kit.yaml");
  writeFileSync(file, text);
  const field = (await page.waitForSelector("input[type=file]")) as ElementHandle<HTMLInputElement>;
  await field.uploadFile(file);
}
