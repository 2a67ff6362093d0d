import { readFileSync } from "node:fs";
import puppeteer, {
  type Browser,
  type BrowserContext,
  type CDPSession,
  type Page,
  type Viewport,
} from "puppeteer-core";
import { expect, inject, onTestFinished } from "vitest";
import { fromTestRun } from "../setup/environment";

const WAIT_MS = 40_000;
/** By a timer: a tab behind another gets no animation frames to look at. */
const POLLING = { polling: 50 };

export const LAPTOP = { width: 1280, height: 800 };
export const PHONE = { width: 390, height: 844, isMobile: true, hasTouch: true };

/** A profile of the shared browser with the app, and what a person does in it. */
export class Desk {
  readonly app = fromTestRun("GORMIT_TEST_APP");
  readonly faults: string[] = [];
  private worker: CDPSession | undefined;

  private constructor(
    private readonly browser: Browser,
    private readonly profile: BrowserContext,
  ) {}

  static async open(): Promise<Desk> {
    const browser = await puppeteer.connect({ browserWSEndpoint: inject("browserEndpoint") });
    return new Desk(browser, await browser.createBrowserContext());
  }

  async close(): Promise<void> {
    await this.profile.close();
    await this.browser.disconnect();
  }

  /** A tab of the given size; whatever goes wrong in its scripts is collected in `faults`. */
  async tab(url: string, viewport: Viewport = LAPTOP, timeZone?: string): Promise<Page> {
    const page = await this.profile.newPage();
    page.setDefaultTimeout(WAIT_MS);
    page.on("pageerror", (error) => this.faults.push(String(error)));
    page.on("console", (message) => {
      if (message.text().includes("Content Security Policy")) this.faults.push(message.text());
    });
    // What stays open goes on with its clocks and its questions, and takes the tests behind it their time.
    onTestFinished(() => (page.isClosed() ? undefined : page.close()));
    await page.setViewport(viewport);
    if (timeZone) await page.emulateTimezone(timeZone);
    await goTo(page, this.app + url);
    return page;
  }

  /** Wait until this tab's job is kept for where there is no connection. */
  async kept(page: Page, id: string): Promise<void> {
    await page.waitForFunction(
      async (key) => {
        for (const name of await caches.keys())
          if (name.startsWith("gormit-pages ") && (await (await caches.open(name)).match(key))) return true;
        return false;
      },
      POLLING,
      `/jobs/${id}`,
    );
  }

  /** Cut the connection of a tab and of the worker that stands before it, or bring it back. */
  async connect(page: Page, isConnected: boolean): Promise<void> {
    const worker = await this.browser.waitForTarget(
      (target) => target.type() === "service_worker" && target.browserContext() === this.profile,
    );
    this.worker ??= await worker.createCDPSession();
    await this.worker.send("Network.enable");
    await this.worker.send("Network.emulateNetworkConditions", {
      offline: !isConnected,
      latency: 0,
      downloadThroughput: -1,
      uploadThroughput: -1,
    });
    await page.setOfflineMode(!isConnected);
  }

  /** A page of another site, with scripts of its own. */
  async foreignPage(address: string): Promise<Page> {
    const page = await this.profile.newPage();
    await page.goto(address);
    return page;
  }

  /** Import a document as a job, without the interface. */
  async imported(document: object): Promise<string> {
    return this.create("/import", document);
  }

  /** Import a demo job under a name of its own, without the interface. */
  async demoJob(name: string, as: string): Promise<string> {
    const document = JSON.parse(readFileSync(new URL(`../../demo/${name}.json`, import.meta.url), "utf8")) as {
      job: { name: string };
    };
    document.job.name = as;
    return this.create("/import", document);
  }

  /** Make a job by the answers of the new-job form, without the interface. */
  async newJob(answers: object): Promise<string> {
    return this.create("", answers);
  }

  /** Make a job from a pattern's answers, without the interface. */
  async fromPattern(answers: object): Promise<string> {
    return this.create("?from=pattern", answers);
  }

  private async create(route: string, body: object): Promise<string> {
    const response = await fetch(`${this.app}/api/v1/jobs${route}`, {
      method: "POST",
      headers: { "content-type": "application/json" },
      body: JSON.stringify(body),
    });
    expect(response.status).toBe(201);
    return ((await response.json()) as { id: string }).id;
  }
}

/** Open an address in a tab, and wait until the page hears what is done in it. */
export async function goTo(page: Page, address: string): Promise<void> {
  await page.goto(address);
  await heard(page);
}

/** Change the stage on a phone, as a thumb does: the bar opens the sheet, the sheet goes there. */
export async function goToStage(page: Page, name: string): Promise<void> {
  await page.locator("[data-stages]").click();
  await page.locator(`[role=dialog] nav a[href$="/${name.toLowerCase()}"]`).click();
  await page.waitForSelector("[role=dialog]", { hidden: true });
}

/** Load a tab anew, and wait until it hears what is done in it. */
export async function reload(page: Page): Promise<void> {
  await page.reload();
  await heard(page);
}

/** What the server drew stands there before its scripts do. */
async function heard(page: Page): Promise<void> {
  await page.waitForFunction(() => {
    const hears = (own: Element) => Object.keys(own).some((key) => key.startsWith("__reactProps"));
    const all = [...document.querySelectorAll("body :is(a, button, input, select, textarea)")];
    return all.some(hears) && all.filter((own) => own.closest("main") && !own.closest(".cm-editor")).every(hears);
  }, POLLING);
}

/** Press the button, link or field with this accessible name. */
export async function press(page: Page, name: string): Promise<void> {
  await page.locator(`::-p-aria(${name})`).click();
}

/** A selector of the list with this label. */
export async function selectOf(page: Page, label: string): Promise<string> {
  const id = await page.waitForFunction(
    (name) => [...document.querySelectorAll("label")].find((own) => own.textContent === name)?.htmlFor,
    POLLING,
    label,
  );
  return `[id="${String(await id.jsonValue())}"]`;
}

/** Open a part of a stage by its tab. */
export async function openPart(page: Page, name: string): Promise<void> {
  await page.locator(`[role=tab] ::-p-text(${name})`).click();
}

/** Type into the field with this accessible name, in place of what is there. */
export async function type(page: Page, name: string, text: string): Promise<void> {
  const field = await page.waitForSelector(`::-p-aria(${name})`);
  await field!.click({ count: 3 });
  await page.keyboard.press("Backspace");
  await field!.type(text);
}

/** Whoever waits for a page in vain is told where it was and what it showed. */
async function seen<T>(page: Page, waiting: Promise<T>): Promise<T> {
  try {
    return await waiting;
  } catch (error) {
    const text = await page.evaluate(() => document.body.innerText);
    throw new Error(`${String(error)} at ${page.url()}, which shows:\n${text.slice(0, 4_000)}`, { cause: error });
  }
}

/** Wait until the page shows a text. */
export async function shows(page: Page, text: string): Promise<void> {
  await seen(
    page,
    page.waitForFunction((wanted) => document.body.innerText.includes(wanted), POLLING, text),
  );
}

/** Wait until a part of the page, found by its label, shows a text and is not busy with a newer answer. */
export async function partShows(page: Page, label: string, text: string): Promise<void> {
  const waiting = page.waitForFunction(
    (name, wanted) =>
      [...document.querySelectorAll<HTMLElement>(`[aria-label="${name}"]`)].some(
        (part) =>
          part.ariaBusy !== "true" && !part.querySelector("[aria-busy=true]") && part.innerText.includes(wanted),
      ),
    POLLING,
    label,
    text,
  );
  await seen(page, waiting);
}

/**
 * The number in a text that the page shows, once it is there and below a limit: the pattern's group; of two groups,
 * hours and minutes in minutes.
 */
export async function figure(page: Page, pattern: RegExp, below = Number.MAX_VALUE): Promise<number> {
  const found = await page.waitForFunction(
    (source, limit) => {
      const shown = new RegExp(source).exec(document.body.innerText);
      const value = shown?.slice(1).reduce((sum, group) => 60 * sum + Number(group ?? 0), 0);
      return value !== undefined && value < limit && { value };
    },
    POLLING,
    pattern.source,
    below,
  );
  const { value } = (await found.jsonValue()) as { value: number };
  return value;
}

/** Wait until the page no longer shows a text. */
export async function showsNot(page: Page, text: string): Promise<void> {
  await page.waitForFunction((unwanted) => !document.body.innerText.includes(unwanted), POLLING, text);
}

/** Wait until plan and log of the page are with the server: nothing waits, and nothing is on its way. */
export async function allSent(page: Page): Promise<void> {
  await page.waitForFunction(
    () => document.querySelector("[data-revision]")?.hasAttribute("data-unsaved") === false,
    POLLING,
  );
}

/** Wait until the job stands saved, at this revision or, where a slow hand made several saves of it, a later one. */
export async function savedAt(page: Page, revision: number): Promise<void> {
  await page.waitForFunction(
    (wanted) => {
      const state = document.querySelector("[data-revision]");
      return Number(state?.getAttribute("data-revision")) >= wanted && state?.textContent === "Saved";
    },
    POLLING,
    revision,
  );
}

/** Wait until a CT's accessible name holds a text: where it is, its arrow, its leads, its input. */
export async function clampSays(page: Page, ct: string, text: string): Promise<void> {
  await page.waitForFunction(
    (id, wanted) => document.querySelector(`[data-ct="${id}"]`)?.getAttribute("aria-label")?.includes(wanted),
    POLLING,
    ct,
    text,
  );
}

/** Wait until Prove has weighed what is there: what it then advises moves all that stands below. */
export async function weighed(page: Page): Promise<void> {
  await page.waitForSelector('[aria-label="Verdict"][aria-busy="false"]');
}

/** Choose in the list with this accessible name, once it is there. */
export async function choose(page: Page, name: string, value: string): Promise<void> {
  const list = await page.waitForSelector(`::-p-aria(${name})`);
  await list!.select(value);
}

/** Add a step to the test sheet of Prove; the button moves down with it, and is there again once it stands. */
export async function addStep(page: Page): Promise<void> {
  await weighed(page);
  const count = await page.$$eval("[data-step]", (all) => all.length);
  await press(page, "Add a step");
  await page.waitForFunction((before) => document.querySelectorAll("[data-step]").length > before, POLLING, count);
}

/** Wait until an input of the tray shows a text. */
export async function socketSays(page: Page, tag: string, text: string): Promise<void> {
  await page.waitForFunction(
    (id, wanted) => (document.querySelector(`[data-socket="${id}"]`) as HTMLElement | null)?.innerText.includes(wanted),
    POLLING,
    tag,
    text,
  );
}

interface Spot {
  readonly x: number;
  readonly y: number;
}

/** The middle of the first element that a selector finds. */
export async function middleOf(page: Page, selector: string): Promise<Spot> {
  const element = await page.waitForSelector(selector);
  await element!.scrollIntoView();
  const box = await element!.boundingBox();
  if (!box) throw new Error(`middleOf: "${selector}" is not shown`);
  return { x: box.x + box.width / 2, y: box.y + box.height / 2 };
}

/** Drag with the mouse as a hand does: in steps, and let go once the target lights up. */
export async function drag(page: Page, what: string, onto: string): Promise<void> {
  const to = await middleOf(page, onto);
  const from = await middleOf(page, what);
  await page.mouse.move(from.x, from.y);
  await page.mouse.down();
  await page.mouse.move((from.x + to.x) / 2, (from.y + to.y) / 2, { steps: 6 });
  await page.mouse.move(to.x, to.y, { steps: 6 });
  await page.waitForSelector(`${onto}[data-lit]`);
  await page.mouse.up();
}
