import type { KeyInput, Page } from "puppeteer-core";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { answersFor } from "../fixtures/shipped";
import { Desk, openPart, partShows, PHONE, press, reload, selectOf, shows, showsNot, type } from "./desk";

const NOT_HEARD_MS = 6_000;
const MOST_TRIES = 5;

describe("Wire", () => {
  let desk: Desk;
  beforeAll(async () => {
    desk = await Desk.open();
  });
  afterAll(async () => {
    expect(desk.faults).toEqual([]);
    await desk.close();
  });

  it("proposes the links of a plan, follows a new order, and finds an address given twice", async () => {
    const page = await desk.tab(`/jobs/${await farm(desk, "Chain")}/wire`);
    await shows(page, "Export controller, PORT I");
    for (const name of ["Export controller, PORT M", "Export controller, PORT I", "Export controller to Router"])
      await press(page, `Remove ${name}`);
    await shows(page, "The kits of this plan ask for 3 links.");
    await press(page, "Take what is proposed");
    await shows(page, "54 m of 1200 m at 9600 baud");
    await press(page, "Move Inverter 3 up the line");
    await page.waitForFunction(() =>
      [...document.querySelectorAll("ol li b")]
        .map((name) => name.textContent)
        .join(" ")
        .includes("Inverter 1 Inverter 3 Inverter 2"),
    );
    await type(page, "Address of Inverter 2", "1");
    await shows(page, "both have address 1 and answer at once");
    await page.waitForFunction(() => document.querySelector("header")?.innerText.includes("1 stop"));
    await press(page, "Undo");
    await showsNot(page, "answer at once");
  });

  it("ticks off cores one at a time, and keeps the ticks", async () => {
    const page = await desk.tab(`/jobs/${await farm(desk, "Ladder")}/wire`, PHONE);
    await openPart(page, "Wiring");
    await shows(page, "0 of 35 rows done");
    await press(page, "One at a time");
    await shows(page, "the letters mean the opposite here: A goes to B");
    await press(page, "Terminated");
    await shows(page, "the letters mean the opposite here: B goes to A");
    await press(page, "Terminated");
    await shows(page, "2 of 35 rows done");
    await page.waitForFunction(() => document.querySelector("header")?.innerText.includes("Saved"));
    await reload(page);
    await shows(page, "2 of 35 rows done");
  });

  it("shows how old a reading is, with dead devices too", async () => {
    const page = await desk.tab(`/jobs/${await farm(desk, "Cycle")}/wire`);
    await openPart(page, "Timing");
    await shows(page, "a reading is up to 139 ms old");
    await shows(page, "With one device dead 1101 ms");
  });

  it("reads a missing terminator from a multimeter, what it is before where, and what to measure next", async () => {
    const page = await desk.tab(`/jobs/${await farm(desk, "Ohms")}/wire`);
    await openPart(page, "Multimeter");
    await type(page, "A to B at Export controller, Ω", "119");
    await shows(page, "Not certain yet");
    await shows(page, "Measure next: A against B, idle at Inverter 3");
    await type(page, "A against B, idle at Inverter 3, mV", "478");
    await shows(page, "A fault is found");
    await shows(page, "The terminator at Export controller or Inverter 3 is missing or off.");
  });

  it("puts a device elsewhere in its line by keys on its handle, and takes a link that nobody proposed", async () => {
    const page = await desk.tab(`/jobs/${await farm(desk, "Keys")}/wire`);
    // The map above has its height once its lines are drawn; the list speaks once the page is alive.
    await page.waitForSelector(".react-flow__edge");
    await page.waitForSelector('[id^="DndLiveRegion"]');
    await movedByKeys(page, "Move Inverter 3", [
      ["Space", "Inverter 3 over place 4"],
      ["ArrowUp", "Inverter 3 over place 3"],
      ["Space", "Inverter 3 put down, place 3"],
    ]);
    await page.waitForFunction(() =>
      [...document.querySelectorAll("ol li b")]
        .map((name) => name.textContent)
        .join(" ")
        .includes("Inverter 1 Inverter 3 Inverter 2"),
    );
    await press(page, "Remove Export controller to Router");
    await page.select(await selectOf(page, "Add a link"), "ethernet");
    await page.select(await selectOf(page, "From"), "controller.lan");
    await page.select(await selectOf(page, "To"), "router.lan-3");
    await press(page, "Add");
    await shows(page, "Export controller to Router Network cable");
  });

  it("carries a reading over a radio pair, and says what a larger spreading factor costs", async () => {
    const id = await desk.fromPattern(answersFor("outbuilding-radio-pair", { name: "Air" }));
    const page = await desk.tab(`/jobs/${id}/wire`);
    await shows(page, "Radio end in the outbuilding to Radio end in the house Radio");
    await openPart(page, "Timing");
    await shows(page, "Outbuilding inverter, over RS-485 and radio");
    await shows(page, "SF 12");
    await openPart(page, "Links");
    await type(page, "Spreading factor of Radio end in the outbuilding to Radio end in the house", "12");
    await openPart(page, "Timing");
    await page.waitForFunction(() => /a reading is up to \d{4,} ms old/.test(document.body.innerText));
  });

  it("finds a fixed address that the router can give to another", async () => {
    const page = await desk.tab(`/jobs/${await farm(desk, "Addresses")}/wire`);
    await openPart(page, "Addresses");
    for (const [field, text] of [
      ["Network", "192.168.7.0/24"],
      ["It gives from", "192.168.7.100"],
      ["It gives up to", "192.168.7.199"],
      ["Address of Export controller", "192.168.7.120"],
    ] as const)
      await type(page, field, text);
    await shows(page, "the router can give it to another");
    await type(page, "Address of Export controller", "192.168.7");
    await shows(page, "is kept");
  });

  it("tells a split pair from a straight lead by the colours in both plugs", async () => {
    const page = await desk.tab(`/jobs/${await farm(desk, "Lead")}/wire`);
    await openPart(page, "Lead");
    await partShows(page, "Network lead", "Straight: pin to pin, pairs whole.");
    for (const end of [0, 1]) {
      const pins = await page.$$("[aria-label='Network lead'] fieldset select");
      for (const [pin, colour] of [
        [3, "green"],
        [5, "blue"],
      ] as const)
        await pins[end * 8 + pin]!.select(colour);
    }
    await partShows(page, "Network lead", "Split pair: every pin comes out right");
    await shows(page, "pins 3 and 6 hold white-green and blue, which are not twisted together");
  });

  it("tells from the bytes of a line who is asked, who answers, and who is never asked", async () => {
    const page = await desk.tab(`/jobs/${await farm(desk, "Bytes")}/wire`);
    await openPart(page, "Line log");
    await page.waitForSelector("textarea");
    await page.focus("textarea");
    await page.keyboard.sendCharacter("0.000 0B 03 1B 58 00 02 43 96\n0.200 0B 03 1B 58 00 02 43 96\nnonsense");
    await shows(page, "2 frames, 2 requests, 16 bytes");
    await shows(page, "Unit 11 was asked and never answered");
    await shows(page, "In the plan, and never asked:");
    await shows(page, "Lines that are no bytes: 3.");
  });

  it("names the frames that a battery stopped sending in a CAN log", async () => {
    const id = await desk.fromPattern(answersFor("three-phase-storage", { name: "Log" }));
    const page = await desk.tab(`/jobs/${id}/wire`);
    await openPart(page, "CAN log");
    const lines = Array.from(
      { length: 21 },
      (_, second) =>
        `(${second}.0) can0 6A4#0000000000000000${second < 8 ? `\n(${second}.3) can0 6C0#0000000000000000` : ""}`,
    );
    await page.waitForSelector("textarea");
    await page.focus("textarea");
    await page.keyboard.sendCharacter(`${lines.join("\n")}\nnonsense`);
    await shows(page, "Battery stack, Limits: last at 7.3 s, silent for 12.7 s.");
    await shows(page, "Battery stack, Alarms: never came.");
    await shows(page, "Lines that are no frame: 30.");
    await shows(page, "If Battery stack gave up: check in this order");
  });
});

function farm(desk: Desk, name: string): Promise<string> {
  return desk.fromPattern(answersFor("export-controller", { name }));
}

/**
 * Press keys on a handle, each once what the one before it does was spoken; whoever is not heard lets go and takes it
 * up again, as a hand does.
 */
async function movedByKeys(page: Page, handle: string, keys: readonly (readonly [KeyInput, string])[]): Promise<void> {
  const heard = (said: string) =>
    page
      .waitForFunction(
        (words) =>
          [...document.querySelectorAll('[id^="DndLiveRegion"]')].some((region) => region.textContent?.includes(words)),
        { polling: 50, timeout: NOT_HEARD_MS },
        said,
      )
      .then(
        () => true,
        () => false,
      );
  for (let tried = 0; tried < MOST_TRIES; tried++) {
    await (await page.waitForSelector(`::-p-aria(${handle})`))!.focus();
    let isHeard = true;
    for (const [key, said] of keys) {
      await page.keyboard.press(key);
      isHeard = await heard(said);
      if (!isHeard) break;
    }
    if (isHeard) return;
    await page.keyboard.press("Escape");
  }
  throw new Error(`${handle}: not moved by keys in ${MOST_TRIES} tries`);
}
