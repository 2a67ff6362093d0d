import type { Page } from "puppeteer-core";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { usualAnswers } from "@/core/patterns/patternAnswers";
import { shippedPatterns } from "../fixtures/shipped";
import { Desk, PHONE, press, shows, showsNot, type } from "./desk";

describe("Wire", () => {
  let desk: Desk;
  beforeAll(async () => { desk = await Desk.open(); });
  afterAll(async () => {
    expect(desk.faults).toEqual([]);
    await desk.close();
  });

  it("proposes the links of a plan, follows a new order, and finds an address given twice", async () => {
    const page = await desk.tab(`/jobs/${await farm(desk, "Chain")}/wire`);
    await shows(page, "Export controller, PORT I");
    await press(page, "Remove Export controller, PORT M");
    await press(page, "Remove Export controller, PORT I");
    await shows(page, "The kits of this plan ask for 2 links.");
    await press(page, "Take what is proposed");
    await shows(page, "54 m of 1200 m at 9600 Bd");
    await press(page, "Move Inverter 3 up the line");
    await page.waitForFunction(() => [...document.querySelectorAll("ol li b")].map((name) => name.textContent).join(" ").includes("Inverter 1 Inverter 3 Inverter 2"));
    await type(page, "Address of Inverter 2", "1");
    await shows(page, "both have address 1 and answer at once");
    await page.waitForFunction(() => document.querySelector("header")?.innerText.includes("1 stop"));
    await press(page, "Undo");
    await showsNot(page, "answer at once");
  });

  it("ticks off cores one at a time, and keeps the ticks", async () => {
    const page = await desk.tab(`/jobs/${await farm(desk, "Ladder")}/wire`, PHONE);
    await openPart(page, "Wiring");
    await shows(page, "0 of 16 cores terminated");
    await press(page, "One at a time");
    await shows(page, "the letters mean the opposite here: A goes to B");
    await press(page, "Terminated");
    await shows(page, "the letters mean the opposite here: B goes to A");
    await press(page, "Terminated");
    await shows(page, "2 of 16 cores terminated");
    await page.waitForFunction(() => document.querySelector("header")?.innerText.includes("Saved"));
    await page.reload({ waitUntil: "networkidle2" });
    await openPart(page, "Wiring");
    await shows(page, "2 of 16 cores terminated");
  });

  it("shows how old a reading is, with dead devices too", async () => {
    const page = await desk.tab(`/jobs/${await farm(desk, "Cycle")}/wire`);
    await openPart(page, "Timing");
    await shows(page, "a reading is up to 126 ms old");
    await shows(page, "With one device dead 1093 ms");
  });

  it("reads a missing terminator from a multimeter and says where to measure next", async () => {
    const page = await desk.tab(`/jobs/${await farm(desk, "Ohms")}/wire`);
    await openPart(page, "Multimeter");
    await type(page, "A to B at Export controller, Ω", "119");
    await shows(page, "Not certain yet");
    await shows(page, "Measure next: A to B at Inverter 3");
    await type(page, "A to B at Inverter 3, Ω", "124");
    await shows(page, "The terminator at Inverter 3 is missing or off.");
  });

  it("tells a split pair from a straight lead by the colours in both plugs", async () => {
    const page = await desk.tab(`/jobs/${await farm(desk, "Lead")}/wire`);
    await openPart(page, "Network lead");
    await page.waitForSelector('[data-lead-verdict="straight"]');
    for (const end of [0, 1]) {
      const pins = await page.$$("[aria-label='Network lead'] select");
      for (const [pin, colour] of [[3, "green"], [5, "blue"]] as const) await pins[end * 8 + pin]!.select(colour);
    }
    await page.waitForSelector('[data-lead-verdict="split-pair"]');
    await shows(page, "pins 3 and 6 hold white-green and blue, which are not twisted together");
  });

  it("names the frames that a battery stopped sending in a CAN log", async () => {
    const id = await desk.fromPattern({ ...usualAnswers(shippedPatterns().find((pattern) => pattern.id === "S05")!), name: "Log" });
    const page = await desk.tab(`/jobs/${id}/wire`);
    await openPart(page, "CAN log");
    const lines = Array.from({ length: 21 }, (_, second) => `(${second}.0) can0 311#0000000000000000${second < 8 ? `\n(${second}.3) can0 351#0000000000000000` : ""}`);
    await page.focus("textarea");
    await page.keyboard.sendCharacter(`${lines.join("\n")}\nnonsense`);
    await shows(page, "Battery stack, Limits: last at 7.3 s, silent for 12.7 s.");
    await shows(page, "Battery stack, Alarms: never came.");
    await shows(page, "Lines that are no frame: 30.");
  });
});

function farm(desk: Desk, name: string): Promise<string> {
  return desk.fromPattern({ ...usualAnswers(shippedPatterns().find((pattern) => pattern.id === "S17")!), name });
}

async function openPart(page: Page, name: string): Promise<void> {
  await page.locator(`[role=tab] ::-p-text(${name})`).click();
}
