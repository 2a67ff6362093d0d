import type { Page } from "puppeteer-core";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { Desk, addStep, press, reload, savedAt, shows, showsNot, type } from "./desk";

describe("Nothing typed is lost", () => {
  let desk: Desk;
  beforeAll(async () => {
    desk = await Desk.open();
  });
  afterAll(async () => {
    expect(desk.faults).toEqual([]);
    await desk.close();
  });

  it("puts together what two tabs changed in different places, and tells what came in", async () => {
    const id = await desk.demoJob("tollgate-cottage", "Two tabs");
    const first = await desk.tab(`/jobs/${id}/place`);
    const second = await desk.tab(`/jobs/${id}/place`);
    await turn(first, "ct2");
    await savedAt(first, 2);
    await turn(second, "ct1");
    await savedAt(second, 3);
    await shows(second, "Put together with what was saved elsewhere");
    expect(await stored(desk, id)).toMatchObject({
      document: { site: { cts: [{ arrow: "to-grid" }, { arrow: "to-load" }, {}] } },
    });
    await press(second, "Seen");
    await showsNot(second, "Put together");
  });

  it("asks about a field that both changed, overwrites nothing, and shows that the other went on", async () => {
    const id = await desk.demoJob("tollgate-cottage", "One field");
    const page = await desk.tab(`/jobs/${id}/place`);
    // With a connection the page may hear of the other name first, and then nothing is changed in two places.
    await page.setOfflineMode(true);
    await renameElsewhere(desk, id, "Elsewhere");
    await press(page, "One field");
    await type(page, "Name of the job", "Here");
    await page.keyboard.press("Escape");
    await shows(page, "Not sent yet: 1, safe on this computer");
    await page.setOfflineMode(false);
    await shows(page, "This job was changed in two places");
    await shows(page, "Job: Its name");
    expect(await stored(desk, id)).toMatchObject({ revision: 2, document: { job: { name: "Elsewhere" } } });
    await renameElsewhere(desk, id, "Elsewhere again");
    await page.evaluate(() => document.dispatchEvent(new Event("visibilitychange")));
    await shows(page, "once more while you were choosing");
    await page.locator("fieldset label::-p-text(Elsewhere again)").click();
    await press(page, "Go on with these");
    await savedAt(page, 3);
    await showsNot(page, "changed in two places");
    expect(await stored(desk, id)).toMatchObject({ document: { job: { name: "Elsewhere again" } } });
  });

  it("undoes after a reload what was done before it", async () => {
    const id = await desk.newJob({ name: "Steps back", system: "single-phase" });
    const page = await desk.tab(`/jobs/${id}/prove`);
    await addStep(page);
    await addStep(page);
    await savedAt(page, 2);
    await reload(page);
    const steps = (count: number) =>
      page.waitForFunction((wanted) => document.querySelectorAll("[data-step]").length === wanted, {}, count);
    await steps(2);
    await press(page, "Undo");
    await steps(1);
    await press(page, "Undo");
    await steps(0);
    await press(page, "Redo");
    await steps(1);
  });

  it("goes on with the other version, and keeps mine as a job of its own", async () => {
    const id = await desk.demoJob("tollgate-cottage", "Kept both");
    const page = await desk.tab(`/jobs/${id}/place`);
    await renameElsewhere(desk, id, "Their name");
    await press(page, "Kept both");
    await type(page, "Name of the job", "My name");
    await page.keyboard.press("Escape");
    await press(page, "Go on with the other, keep mine as a copy");
    // The other's name stands in the question already; the copy is kept once that is gone.
    await showsNot(page, "keep mine as a copy");
    await shows(page, "Their name");
    const list = await desk.tab("/jobs");
    await shows(list, "My name (copy)");
  });

  it("keeps what is typed without a connection and sends it once it is back", async () => {
    const id = await desk.newJob({ name: "Cellar", system: "single-phase" });
    const page = await desk.tab(`/jobs/${id}/prove`);
    await addStep(page);
    await savedAt(page, 2);
    await page.setOfflineMode(true);
    await type(page, "Step 1, measured at A1", "433");
    await shows(page, "Not sent yet: 1, safe on this computer");
    await page.setOfflineMode(false);
    await page.waitForFunction(() => document.querySelector("[data-revision]")?.textContent === "Saved");
    expect(await stored(desk, id)).toMatchObject({ document: { tests: { steps: [{ readings: [{ powerW: 433 }] }] } } });
  });

  it("takes up a draft that a closed page could not send", async () => {
    const id = await desk.newJob({ name: "Closed early", system: "single-phase" });
    const page = await desk.tab(`/jobs/${id}/prove`);
    await addStep(page);
    await savedAt(page, 2);
    await page.setOfflineMode(true);
    await type(page, "Step 1, measured at A1", "77");
    await shows(page, "Not sent yet: 1, safe on this computer");
    await page.close();
    const again = await desk.tab(`/jobs/${id}/prove`);
    await again.waitForFunction(
      () => document.querySelector<HTMLInputElement>('[aria-label="Step 1, measured at A1"]')?.value === "77",
    );
    await again.waitForFunction(() => document.querySelector("[data-revision]")?.textContent === "Saved");
    expect(await stored(desk, id)).toMatchObject({ document: { tests: { steps: [{ readings: [{ powerW: 77 }] }] } } });
  });
});

/** Turn a CT by the keyboard, without bringing its tab to the front: that alone would fetch what is new. */
async function turn(page: Page, ct: string): Promise<void> {
  await page.waitForSelector(`[data-ct="${ct}"]`);
  const key = (name: string) =>
    page.evaluate(
      (id, pressed) => {
        document
          .querySelector(`[data-ct="${id}"]`)!
          .dispatchEvent(new KeyboardEvent("keydown", { key: pressed, bubbles: true }));
      },
      ct,
      name,
    );
  await key("Enter");
  await page.waitForSelector(`[data-ct="${ct}"][aria-pressed=true]`);
  await key("f");
}

/** Somebody else gives the job another name. */
async function renameElsewhere(desk: Desk, id: string, name: string): Promise<void> {
  const { revision, document } = (await stored(desk, id)) as { revision: number; document: { job: object } };
  const answer = await fetch(`${desk.app}/api/v1/jobs/${id}`, {
    method: "PUT",
    headers: { "content-type": "application/json" },
    body: JSON.stringify({ revision, document: { ...document, job: { ...document.job, name } }, person: "Kim" }),
  });
  expect(answer.status).toBe(200);
}

async function stored(desk: Desk, id: string): Promise<unknown> {
  return (await fetch(`${desk.app}/api/v1/jobs/${id}`)).json();
}
