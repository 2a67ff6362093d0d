import type { Page } from "puppeteer-core";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { clampSays, Desk, press, savedAt, shows, showsNot, type } from "./desk";

describe("Nothing typed is lost", () => {
  let desk: Desk;
  beforeAll(async () => {
    desk = await Desk.open();
  });
  afterAll(async () => {
    expect(desk.faults).toEqual([]);
    await desk.close();
  });

  it("shows a conflict and both versions in the second of two tabs, and overwrites nothing", async () => {
    const id = await desk.demoJob("tollgate-cottage", "Two tabs");
    const first = await desk.tab(`/jobs/${id}/place`);
    const second = await desk.tab(`/jobs/${id}/place`);
    await turn(first, "ct2");
    await savedAt(first, 2);
    await turn(second, "ct1");
    await shows(second, "This job was changed in two places");
    await shows(second, "site.cts[0].arrow");
    await shows(second, "site.cts[1].arrow");
    expect(await stored(desk, id)).toMatchObject({
      revision: 2,
      document: { site: { cts: [{ arrow: "to-load" }, { arrow: "to-load" }, {}] } },
    });
    await press(second, "Go on with mine");
    await savedAt(second, 3);
    await showsNot(second, "changed in two places");
    expect(await stored(desk, id)).toMatchObject({
      document: { site: { cts: [{ arrow: "to-grid" }, { arrow: "to-grid" }, {}] } },
    });
  });

  it("goes on with the other version, and keeps mine as a job of its own", async () => {
    const id = await desk.demoJob("tollgate-cottage", "Kept both");
    const first = await desk.tab(`/jobs/${id}/place`);
    const second = await desk.tab(`/jobs/${id}/place`);
    await turn(first, "ct2");
    await savedAt(first, 2);
    await turn(second, "ct1");
    await press(second, "Go on with the other, keep mine as a copy");
    await clampSays(second, "ct2", "arrow toward the loads");
    await clampSays(second, "ct1", "arrow toward the loads");
    const list = await desk.tab("/jobs");
    await shows(list, "Kept both (copy)");
  });

  it("keeps what is typed without a connection and sends it once it is back", async () => {
    const id = await desk.newJob({ name: "Cellar", system: "single-phase" });
    const page = await desk.tab(`/jobs/${id}/prove`);
    await press(page, "Add a step");
    await savedAt(page, 2);
    await page.setOfflineMode(true);
    await type(page, "Step 1, seen at A1", "433");
    await shows(page, "Kept here, waiting for the server");
    await page.setOfflineMode(false);
    await page.waitForFunction(() => document.querySelector("[data-revision]")?.textContent === "Saved");
    expect(await stored(desk, id)).toMatchObject({ document: { tests: { steps: [{ readings: [{ powerW: 433 }] }] } } });
  });

  it("takes up a draft that a closed page could not send", async () => {
    const id = await desk.newJob({ name: "Closed early", system: "single-phase" });
    const page = await desk.tab(`/jobs/${id}/prove`);
    await press(page, "Add a step");
    await savedAt(page, 2);
    await page.setOfflineMode(true);
    await type(page, "Step 1, seen at A1", "77");
    await shows(page, "Kept here, waiting for the server");
    await page.close();
    const again = await desk.tab(`/jobs/${id}/prove`);
    await again.waitForFunction(
      () => document.querySelector<HTMLInputElement>('[aria-label="Step 1, seen at A1"]')?.value === "77",
    );
    await again.waitForFunction(() => document.querySelector("[data-revision]")?.textContent === "Saved");
    expect(await stored(desk, id)).toMatchObject({ document: { tests: { steps: [{ readings: [{ powerW: 77 }] }] } } });
  });
});

/** Turn a clamp by the keyboard, without bringing its tab to the front: that alone would fetch what is new. */
async function turn(page: Page, ct: string): Promise<void> {
  await page.waitForSelector(`[data-ct="${ct}"]`);
  await page.evaluate((id) => {
    document
      .querySelector(`[data-ct="${id}"]`)!
      .dispatchEvent(new KeyboardEvent("keydown", { key: "f", bubbles: true }));
  }, ct);
}

async function stored(desk: Desk, id: string): Promise<unknown> {
  return (await fetch(`${desk.app}/api/v1/jobs/${id}`)).json();
}
