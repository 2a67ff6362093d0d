import type { Page } from "puppeteer-core";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { clampSays, Desk, drag, goToStage, middleOf, PHONE, press, savedAt, shows, socketSays, type } from "./desk";
import { extentOf } from "./extent";

describe("Place", () => {
  let desk: Desk;
  beforeAll(async () => {
    desk = await Desk.open();
  });
  afterAll(async () => {
    expect(desk.faults).toEqual([]);
    await desk.close();
  });

  it("turns, swaps, moves, re-plugs and removes a CT by keyboard, and undoes it all", async () => {
    const page = await desk.tab(`/jobs/${await desk.demoJob("tollgate-cottage", "Keys")}/place`);
    await page.waitForSelector('[data-ct="ct2"]');
    await page.focus('[data-ct="ct2"]');
    await socketSays(page, "A2", "consuming");
    // What is only looked at stays as it is.
    for (const key of ["f", "s", "1", "Delete", "ArrowLeft", "ArrowRight", "ArrowDown", "ArrowUp"] as const)
      await page.keyboard.press(key);
    await clampSays(page, "ct2", "CT on L1 of Roof inverter, arrow toward the grid, feeds input A2");
    await savedAt(page, 1);
    await page.focus('[data-ct="ct2"]');
    await page.keyboard.press("Enter");
    await handSays(page, "picked up: CT on L1 of Roof inverter");
    await page.keyboard.press("f");
    await clampSays(page, "ct2", "arrow toward the loads");
    await socketSays(page, "A2", "2.16 kW");
    await socketSays(page, "A2", "generating");
    await page.keyboard.press("s");
    await clampSays(page, "ct2", "leads swapped");
    await page.keyboard.press("ArrowDown");
    await clampSays(page, "ct2", "N of Roof inverter");
    await page.keyboard.press("ArrowUp");
    await page.keyboard.press("ArrowLeft");
    await clampSays(page, "ct2", "L1 of Consumer unit");
    await page.keyboard.press("1");
    await clampSays(page, "ct2", "feeds input A1");
    await clampSays(page, "ct1", "feeds input A2");
    await page.keyboard.press("Delete");
    await page.waitForFunction(() => !document.querySelector('[data-ct="ct2"]'));
    await savedAt(page, 2);
    for (let steps = 0; steps < 7; steps++) await press(page, "Undo");
    await clampSays(page, "ct2", "CT on L1 of Roof inverter, arrow toward the grid, feeds input A2");
    await press(page, "Redo");
    await clampSays(page, "ct2", "arrow toward the loads");
  });

  it("puts a CT back where it was by Escape from anywhere, and the focus with it", async () => {
    const page = await desk.tab(`/jobs/${await desk.demoJob("tollgate-cottage", "Escape")}/place`);
    await page.waitForSelector('[data-ct="ct1"]');
    await page.focus('[data-ct="ct1"]');
    await page.keyboard.press("ArrowRight");
    await page.waitForFunction(() => (document.activeElement as HTMLElement).dataset.ct !== "ct1");
    await page.keyboard.press("ArrowLeft");
    await page.keyboard.press("Enter");
    await page.keyboard.press("ArrowRight");
    await handSays(page, "picked up: CT on L1 of House");
    await page.keyboard.press("2");
    await clampSays(page, "ct2", "feeds input A1");
    await press(page, "Night");
    await page.keyboard.press("Escape");
    await clampSays(page, "ct1", "CT on L1 of Consumer unit, arrow toward the loads, feeds input A1");
    await clampSays(page, "ct2", "feeds input A2");
    await handSays(page, "put back: CT on L1 of Consumer unit");
    expect(await page.evaluate(() => (document.activeElement as HTMLElement).dataset.ct)).toBe("ct1");
  });

  it("drags a CT to another conductor and into another input with the mouse", async () => {
    const page = await desk.tab(`/jobs/${await desk.demoJob("tollgate-cottage", "Mouse")}/place`);
    await drag(page, '[data-ct="ct1"]', '[data-run="house"][data-conductor="L1"]');
    await clampSays(page, "ct1", "CT on L1 of House");
    await drag(page, '[data-ct="ct3"]', '[data-socket="A1"]');
    await clampSays(page, "ct3", "feeds input A1");
    await clampSays(page, "ct1", "feeds input B1");
  });

  it("places a missing CT by tapping its input and then the conductor", async () => {
    const page = await desk.tab(`/jobs/${await desk.demoJob("larkspur-house", "Taps")}/place`);
    await press(page, "Show the whole board");
    await page.locator('[data-socket="A2"]').click();
    await shows(page, "Input A2 has no CT");
    await page.locator('[data-run="board"][data-conductor="L2"]').click();
    await clampSays(page, "ct-home-2", "CT on L2 of Main panel, arrow toward the grid, feeds input A2");
    await page.waitForFunction(() => document.body.innerText.includes("1 to fix"));
  });

  it("turns a CT by its button, with finger-sized fields for ratio and turns", async () => {
    const page = await desk.tab(`/jobs/${await desk.demoJob("tollgate-cottage", "Buttons")}/place`);
    await page.locator('[data-socket="A2"]').click();
    await press(page, "Turn round");
    await clampSays(page, "ct2", "arrow toward the loads");
    await type(page, "Turns", "2");
    await socketSays(page, "A2", "4.32 kW");
    await type(page, "Turns", "0");
    await shows(page, "a whole number from 1 to 100; 2 is kept");
    await type(page, "Primary, A", "100");
    await socketSays(page, "A2", "2.16 kW");
  });

  it("recomputes everything when a preset or a slider changes what is on", async () => {
    const page = await desk.tab(`/jobs/${await desk.demoJob("fennel-court", "States")}/place`);
    await press(page, "Night");
    await socketSays(page, "A1", "600 W");
    await press(page, "Kettle on");
    await socketSays(page, "A1", "2.80 kW");
    await press(page, "Devices");
    const slider = await page
      .waitForSelector("::-p-aria(Hybrid inverter[role='slider'])")
      .catch(() => page.waitForSelector('input[type="range"]'));
    await slider!.focus();
    await page.keyboard.press("Home");
    await page.waitForFunction(
      () =>
        (document.querySelector('[data-socket="A1"]') as HTMLElement).innerText.includes("2.50 kW") ||
        (document.querySelector('[data-socket="A1"]') as HTMLElement).innerText.includes("exporting"),
    );
  });

  it.each(["tollgate-cottage", "brindle-dairy", "fennel-court", "larkspur-house"])(
    "lays %s out with nothing on top of anything",
    async (name) => {
      const page = await desk.tab(`/jobs/${await desk.demoJob(name, `Layout of ${name}`)}/place`);
      await page.waitForSelector("[data-ct]");
      expect(await overlappingClips(page)).toEqual([]);
    },
  );

  it("is a tree of circuits on a phone: a CT is picked, put elsewhere and taken off by taps", async () => {
    const id = await desk.demoJob("tollgate-cottage", "Tree");
    const page = await desk.tab(`/jobs/${id}/place`, PHONE);
    await tap(page, '[data-clamp="ct1"]');
    await shows(page, "CT of A1");
    await tap(page, '[data-circuit="board"] [data-conductor="N"]');
    await savedAt(page, 2);
    const row = () => page.$eval('[data-clamp="ct1"]', (own) => (own as HTMLElement).innerText);
    expect(await row()).toContain("round N");
    await press(page, "Remove");
    await savedAt(page, 3);
    await tap(page, '[data-missing="A1"]');
    await tap(page, '[data-circuit="board"] [data-conductor="L1"]');
    await savedAt(page, 4);
    await page.waitForSelector('[data-circuit="board"] [data-clamp]');
    await press(page, "Undo");
    await press(page, "Place the missing CT as planned");
    await shows(page, "round L1");
    expect((await extentOf(page)).sideways).toBeLessThanOrEqual(0);
    for (const { width, height } of await page.$$eval("[data-clamp], [data-conductor]", (all) =>
      all.map((own) => ({ width: own.getBoundingClientRect().width, height: own.getBoundingClientRect().height })),
    ))
      expect(Math.min(width, height)).toBeGreaterThanOrEqual(44);
  });

  it("is held in one hand on a phone that lies on its side, too: circuits, stages and all", async () => {
    const lying = { ...PHONE, width: PHONE.height, height: PHONE.width };
    const page = await desk.tab(`/jobs/${await desk.demoJob("tollgate-cottage", "Side")}/place`, lying);
    await tap(page, '[data-clamp="ct1"]');
    await shows(page, "CT of A1");
    const { sideways, pushed } = await extentOf(page);
    expect({ isWide: sideways > 0, pushed }).toEqual({ isWide: false, pushed: [] });
    await goToStage(page, "Bench");
    await page.waitForFunction(() => location.pathname.endsWith("/bench"));
  });

  it("works on a phone: the board scrolls, is not squashed, and takes tap then tap", async () => {
    const page = await desk.tab(`/jobs/${await desk.demoJob("tollgate-cottage", "Phone")}/place`, PHONE);
    await press(page, "Show the rail board");
    await page.waitForSelector("[data-ct]");
    const sizes = await page.evaluate(() => {
      const board = document.querySelector('[aria-label="Rail board"]')!;
      return {
        page: document.documentElement.scrollWidth,
        board: board.scrollWidth,
        seen: board.clientWidth,
        clip: document.querySelector("[data-ct]")!.getBoundingClientRect().width,
      };
    });
    expect(sizes.page).toBeLessThanOrEqual(PHONE.width);
    expect(sizes.board).toBeGreaterThan(sizes.seen * 1.5);
    expect(sizes.clip).toBeGreaterThanOrEqual(40);
    await tap(page, '[data-ct="ct1"]');
    await shows(page, "CT of A1");
    await tap(page, '[data-run="board"][data-conductor="N"]');
    await clampSays(page, "ct1", "CT on N of Consumer unit");
  });

  it("zooms under two fingers", async () => {
    const page = await desk.tab(`/jobs/${await desk.demoJob("tollgate-cottage", "Pinch")}/place`, PHONE);
    await press(page, "Show the rail board");
    const { x, y } = await middleOf(page, '[data-ct="ct1"]');
    const width = () => page.evaluate(() => document.querySelector('[data-ct="ct1"]')!.getBoundingClientRect().width);
    const before = await width();
    const client = await page.createCDPSession();
    const fingers = (apart: number) => [
      { x: x - apart, y: y + 60, id: 1 },
      { x: x + apart, y: y + 60, id: 2 },
    ];
    await client.send("Input.dispatchTouchEvent", { type: "touchStart", touchPoints: fingers(20) });
    for (const apart of [30, 45, 60])
      await client.send("Input.dispatchTouchEvent", { type: "touchMove", touchPoints: fingers(apart) });
    await client.send("Input.dispatchTouchEvent", { type: "touchEnd", touchPoints: [] });
    await page.waitForFunction(
      (old) => document.querySelector('[data-ct="ct1"]')!.getBoundingClientRect().width > old * 1.2,
      {},
      before,
    );
  });
});

/** Wait until who hears the page is told this of the CT in the hand. */
async function handSays(page: Page, text: string): Promise<void> {
  await page.waitForFunction(
    (wanted) => document.querySelector('[aria-label="In the hand"]')?.textContent?.includes(wanted),
    { polling: 50 },
    text,
  );
}

async function tap(page: Page, selector: string): Promise<void> {
  const { x, y } = await middleOf(page, selector);
  await page.touchscreen.tap(x, y);
}

/** Pairs of CTs and plates that share screen area. */
function overlappingClips(page: Page): Promise<string[]> {
  return page.evaluate(() => {
    const items = [...document.querySelectorAll<HTMLElement>("[data-ct], [data-plate]")];
    const boxes = items.map((item) => ({
      name: item.dataset.ct ?? item.dataset.plate ?? "",
      box: item.getBoundingClientRect(),
    }));
    return boxes.flatMap((a, at) =>
      boxes
        .slice(at + 1)
        .filter(
          (b) =>
            a.box.left < b.box.right - 1 &&
            b.box.left < a.box.right - 1 &&
            a.box.top < b.box.bottom - 1 &&
            b.box.top < a.box.bottom - 1,
        )
        .map((b) => `${a.name} on ${b.name}`),
    );
  });
}
