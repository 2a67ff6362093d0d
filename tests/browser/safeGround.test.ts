import { once } from "node:events";
import { createServer } from "node:http";
import type { AddressInfo } from "node:net";
import fc from "fast-check";
import pg from "pg";
import type { Page } from "puppeteer-core";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { anyRecipe, documentOf } from "../fixtures/anyDocument";
import { answersFor } from "../fixtures/shipped";
import { fromTestRun } from "../setup/environment";
import { Desk, addStep, allSent, PHONE, goTo, openPart, press, reload, savedAt, shows, showsNot, type } from "./desk";

const STAGES = ["plan", "place", "wire", "visit", "prove", "limit", "divert", "online", "handover"];
const SAMPLES = { numRuns: 2, seed: 20_261_128 };

describe("Safe ground", () => {
  let desk: Desk;
  beforeAll(async () => {
    desk = await Desk.open();
  });
  afterAll(async () => {
    expect(desk.faults).toEqual([]);
    await desk.close();
  });

  it("shows in a tab that gains focus what another saved, and a reload of it saves nothing over that", async () => {
    const id = await desk.newJob({ name: "Focus", system: "single-phase" });
    const [first, second] = [await desk.tab(`/jobs/${id}/prove`), await desk.tab(`/jobs/${id}/prove`)];
    await first.bringToFront();
    await addStep(first);
    await savedAt(first, 2);
    await second.bringToFront();
    await savedAt(second, 2);
    expect(await drafts(second, id)).toEqual([]);
    await reload(second);
    await savedAt(second, 2);
    expect(await steps(desk, id)).toBe(1);
    await showsNot(second, "changed in two places");
    await addStep(second);
    await savedAt(second, 3);
    await first.bringToFront();
    await savedAt(first, 3);
    expect(await steps(desk, id)).toBe(2);
  });

  it(
    "keeps the drafts of two tabs without a connection apart, puts together what does not touch, and " +
      "asks about a field that both changed, over a reload too",
    async () => {
      const id = await desk.newJob({ name: "Two drafts", system: "single-phase" });
      const tabs = [await desk.tab(`/jobs/${id}/prove`), await desk.tab(`/jobs/${id}/prove`)];
      for (const tab of tabs) await tab.setOfflineMode(true);
      for (const [at, tab] of tabs.entries()) {
        await tab.bringToFront();
        for (let count = 0; count <= at; count++) await addStep(tab);
        await press(tab, "Two drafts");
        await type(tab, "Name of the job", `Draft ${at + 1}`);
        await shows(tab, "Not sent yet: 1, safe on this computer");
      }
      for (const tab of tabs) await tab.close();
      const again = await desk.tab(`/jobs/${id}/prove`);
      await shows(again, "This job was changed in two places");
      // Whichever page the browser has let go first is taken up first; the other one is the conflict.
      expect([1, 2]).toContain(await steps(desk, id));
      await reload(again);
      await shows(again, "Job: Its name");
      await again.locator("fieldset label::-p-text(here)").click();
      await press(again, "Go on with these");
      await savedAt(again, 3);
      expect(await steps(desk, id)).toBe(3);
      expect(await drafts(again, id)).toEqual([]);
    },
  );

  it("sends all that two tabs recorded without a connection, once each", async () => {
    const id = await visit(desk, "Two recorders");
    const tabs = [await desk.tab(`/jobs/${id}/visit`), await desk.tab(`/jobs/${id}/visit`)];
    await tabs[0]!.bringToFront();
    await type(tabs[0]!, "You are", "Robin Ash");
    for (const tab of tabs) {
      await tab.bringToFront();
      await openPart(tab, "Log");
      await tab.setOfflineMode(true);
    }
    for (const [at, tab] of tabs.entries()) {
      await tab.bringToFront();
      for (const number of [1, 2, 3, 4, 5]) {
        await type(tab, "Note", `tab ${at} note ${number}`);
        await press(tab, "Save note");
        await shows(tab, `tab ${at} note ${number}`);
      }
    }
    await shows(tabs[1]!, "Not sent yet: 10");
    for (const tab of tabs) await tab.setOfflineMode(false);
    for (const tab of tabs) await allSent(tab);
    const texts = (await log(desk, id)).map(({ text }) => text);
    expect(texts).toHaveLength(10);
    expect(new Set(texts).size).toBe(10);
    for (const tab of tabs) for (const text of texts) await shows(tab, text!);
  });

  it(
    "takes over what the program's first version kept, sends what can be read, and shows the rest " +
      "without writing over it",
    async () => {
      const id = await visit(desk, "First version");
      const page = await desk.tab(`/jobs/${id}/visit`, PHONE);
      const entry = {
        id: crypto.randomUUID(),
        at: new Date().toISOString(),
        person: "Kim",
        kind: "note",
        text: "from before",
      };
      await page.evaluate(
        (job, good) =>
          new Promise<void>((resolve, reject) => {
            const opening = indexedDB.open("keyval-store");
            opening.onupgradeneeded = () => opening.result.createObjectStore("keyval");
            opening.onerror = () => reject(new Error("no store"));
            opening.onsuccess = () => {
              const writing = opening.result.transaction("keyval", "readwrite");
              writing
                .objectStore("keyval")
                .put([{ entry: { ...good, id: "no id at all" } }, { entry: good }], `gormit-run:${job}`);
              writing.oncomplete = () => {
                opening.result.close();
                resolve();
              };
            };
          }),
        id,
        entry,
      );
      await reload(page);
      await shows(page, "A kept entry cannot be read");
      await openPart(page, "Log");
      await shows(page, "from before");
      await type(page, "You are", "Kim");
      await type(page, "Note", "and one more");
      await press(page, "Save note");
      await expect
        .poll(async () => (await log(desk, id)).map(({ text }) => text))
        .toEqual(["from before", "and one more"]);
      await reload(page);
      await shows(page, "A kept entry cannot be read");
      await press(page, "Let it go");
      await showsNot(page, "A kept entry cannot be read");
    },
  );

  it("keeps a draft that cannot be read, gives it out as a file, and goes on without it", async () => {
    const id = await desk.newJob({ name: "Bad draft", system: "single-phase" });
    const page = await desk.tab(`/jobs/${id}/prove`);
    await page.evaluate((job) => localStorage.setItem(`gormit-draft:${job}`, "{ half a draft"), id);
    await reload(page);
    await shows(page, "A draft of this job in this browser cannot be read");
    await addStep(page);
    await savedAt(page, 2);
    expect(await drafts(page, id)).toEqual(["{ half a draft"]);
    await press(page, "Let it go");
    await showsNot(page, "cannot be read");
    expect(await drafts(page, id)).toEqual([]);
  });

  it("says that a stage cannot be shown, leaves the way back, and shows it again once it can", async () => {
    const id = await desk.demoJob("tollgate-cottage", "Breaks");
    const page = await desk.tab(`/jobs/${id}/plan`);
    // What only this stage does: putting the orders of the surplus into words.
    await page.evaluate(() => {
      const right = Array.prototype.join;
      Object.assign(window, {
        heal: () => {
          Array.prototype.join = right;
        },
      });
      Array.prototype.join = function join(separator?: string) {
        if (
          this.length > 0 &&
          this.every((part: unknown) => part === "battery" || part === "heater" || part === "vehicle")
        )
          throw new Error("planted in the page");
        return right.call(this, separator);
      };
    });
    await page.locator('nav a[href$="/divert"]').click();
    await shows(page, "cannot be shown");
    await shows(page, "planted in the page");
    await press(page, "Save this browser’s draft as a file");
    await shows(page, "Put the draft aside and load what is saved");
    await page.evaluate(() => (window as unknown as { heal: () => void }).heal());
    await press(page, "Try again");
    await shows(page, "Where the power goes");
    desk.faults.splice(0, desk.faults.length, ...desk.faults.filter((fault) => !fault.includes("planted in the page")));
  });

  it("opens every stage of jobs with any values that the format takes", async () => {
    const page = await desk.tab("/jobs");
    for (const recipe of fc.sample(anyRecipe, SAMPLES)) {
      const id = await desk.imported(documentOf(recipe));
      await goTo(page, `${desk.app}/jobs/${id}/${STAGES[0]}`);
      for (const stage of STAGES) {
        // As a person goes there: what the server draws of a stage is tested for itself.
        await page.locator(`nav[aria-label=Stages] a[href$="/${stage}"]`).click();
        await page.waitForFunction(
          (own) => location.pathname.endsWith(own) && !document.querySelector('[aria-busy="true"]'),
          { polling: 50 },
          stage,
        );
        const said = await page.evaluate(() => document.body.innerText);
        expect(said).not.toContain("cannot be shown");
        expect(said).not.toContain("could not be shown");
        expect(await page.$("main")).not.toBeNull();
      }
    }
  });

  it("shows a row that cannot be read as broken, with its content as a file, and takes no page with it", async () => {
    const id = await desk.newJob({ name: "Broken row", system: "single-phase" });
    const client = new pg.Client({ connectionString: fromTestRun("DATABASE_URL") });
    await client.connect();
    await client.query(
      "update job set document = jsonb_set(document, '{site,nodes}', '[]'), summary = summary || '{\"state\": " +
        '"of old"}\' where id = $1',
      [id],
    );
    const page = await desk.tab(`/jobs/${id}/plan`);
    await shows(page, "“Broken row” cannot be read");
    await shows(page, "site.nodes");
    const list = await desk.tab("/jobs?search=Broken+row");
    await shows(list, "Broken row");
    await client.query("update job set deleted_at = now() where id = $1", [id]);
    await client.end();
  });

  it("finds, sorts and pages the jobs where they are", async () => {
    for (const at of [1, 2, 3]) await desk.newJob({ name: `Paging a${at} 100%`, system: "single-phase" });
    const page = await desk.tab("/jobs?search=paging+100%25&sort=name&order=up");
    const names = () => page.$$eval("[data-job]", (rows) => rows.map((row) => row.getAttribute("data-job")));
    expect(await names()).toEqual(["Paging a1 100%", "Paging a2 100%", "Paging a3 100%"]);
    await page.click("th button");
    await page.waitForFunction(
      () => document.querySelector("[data-job]")?.getAttribute("data-job") === "Paging a3 100%",
      { polling: 50 },
    );
    await type(page, "Search", "paging a2");
    await shows(page, "One job with “paging a2”");
    expect(await names()).toEqual(["Paging a2 100%"]);
    await type(page, "Search", "100_");
    await shows(page, "No job is like this");
  });

  it("lets a page of another site neither write nor read anything", async () => {
    const count = async () => ((await (await fetch(`${desk.app}/api/v1/jobs`)).json()) as { total: number }).total;
    const before = await count();
    const elsewhere = createServer((_, response) =>
      response.setHeader("content-type", "text/html").end("<title>elsewhere</title>"),
    ).listen(0, "127.0.0.1");
    await once(elsewhere, "listening");
    const page = await desk.foreignPage(`http://127.0.0.1:${(elsewhere.address() as AddressInfo).port}/`);
    const attempts = await page.evaluate(async (app) => {
      const body = JSON.stringify({ name: "From elsewhere", system: "single-phase" });
      const asked = [
        fetch(`${app}/api/v1/jobs`, { method: "POST", mode: "no-cors", body }),
        fetch(`${app}/api/v1/jobs`, { method: "POST", headers: { "content-type": "application/json" }, body }),
        fetch(`${app}/api/v1/jobs`).then((response) => response.text()),
      ];
      return Promise.all(
        asked.map((attempt) =>
          attempt.then(
            (answer) => (typeof answer === "string" ? answer : answer.type),
            () => "refused",
          ),
        ),
      );
    }, desk.app);
    expect(attempts).toEqual(["refused", "refused", "refused"]);
    expect(await count()).toBe(before);
    await page.close();
    elsewhere.close();
  });
});

function visit(desk: Desk, name: string): Promise<string> {
  return desk.fromPattern(answersFor("two-ct-add-on", { name: `Ground ${name}` }));
}

function drafts(page: Page, job: string): Promise<string[]> {
  return page.evaluate(
    (id) =>
      Object.keys(localStorage)
        .filter((key) => key.startsWith(`gormit-draft:${id}`))
        .map((key) => localStorage.getItem(key)!),
    job,
  );
}

async function steps(desk: Desk, id: string): Promise<number> {
  return (
    (await (await fetch(`${desk.app}/api/v1/jobs/${id}`)).json()) as { document: { tests: { steps: unknown[] } } }
  ).document.tests.steps.length;
}

async function log(desk: Desk, id: string): Promise<readonly { readonly text?: string }[]> {
  return ((await (await fetch(`${desk.app}/api/v1/jobs/${id}/visit`)).json()) as { entries: { text?: string }[] })
    .entries;
}
