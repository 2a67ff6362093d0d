import { createRequire } from "node:module";
import type { AxeResults } from "axe-core";
import type { Page } from "puppeteer-core";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { Desk, LAPTOP, PHONE, press, reload } from "./desk";
import { extentOf } from "./extent";

/** Neither the server's zone nor a whole hour from it: a page that is drawn twice has to be the same. */
const FAR_ZONE = "America/St_Johns";
const AXE = createRequire(import.meta.url).resolve("axe-core/axe.min.js");

/** A margin below what is last. */
const MOST_EMPTY_PX = 150;
const LEAST_TARGET_PX = 43.5;
/** The stages of a job; the others are pages of their own. */
const OWN_PAGES: ReadonlySet<string> = new Set([
  "plan",
  "place",
  "wire",
  "visit",
  "prove",
  "limit",
  "divert",
  "online",
  "handover",
  "bench",
]);

describe("Everybody can use it", () => {
  let desk: Desk;
  beforeAll(async () => {
    desk = await Desk.open();
  });
  afterAll(async () => {
    expect(desk.faults).toEqual([]);
    await desk.close();
  });

  it.each([
    "jobs",
    "jobs/new",
    "jobs/reads-wrong",
    "kits",
    "kits/meter-three-5a",
    "kits/meter-three-5a/edit",
    "plan",
    "place",
    "wire",
    "visit",
    "prove",
    "limit",
    "divert",
    "online",
    "handover",
    "bench",
    "deadlines",
    "owner",
  ])(
    "axe finds nothing at any level on %s, in both looks and both sizes, nothing is too small, nothing beyond its page",
    async (stage) => {
      const id = await desk.demoJob(
        stage === "wire" || stage === "limit" ? "brindle-dairy" : "tollgate-cottage",
        `Axe ${stage}`,
      );
      const page = await desk.tab(
        OWN_PAGES.has(stage) ? `/jobs/${id}/${stage}` : stage === "owner" ? await ownerPath(desk, id) : `/${stage}`,
        LAPTOP,
        FAR_ZONE,
      );
      if (stage === "place") await page.locator('[data-socket="A2"]').click();
      if (stage === "plan") await page.locator('[data-node="solar"]').click();
      if (stage === "prove") await page.waitForSelector('[aria-label="Verdict"][aria-busy="false"]');
      if (stage === "bench") {
        await press(page, "Start the bench");
        await page.waitForSelector('[aria-label="Devices on the bench"] li');
      }
      await page.addScriptTag({ path: AXE });
      for (const [theme, viewport] of [
        ["paper", LAPTOP],
        ["plant-room", PHONE],
      ] as const) {
        // Without the rest of a phone: a change of touch loads the page anew, and axe would be gone.
        await page.setViewport({ width: viewport.width, height: viewport.height });
        await page.evaluate((name) => document.documentElement.setAttribute("data-theme", name), theme);
        await page.waitForFunction(
          () => document.getAnimations().every((animation) => animation.playState !== "running"),
          { polling: 50 },
        );
        expect(await violations(page)).toEqual([]);
      }
      await expectNothingBeyond(page, stage);
      // The other parts of a stage, as they are on a phone in the dark.
      const tabs = await page.$$eval("main [role=tablist] [role=tab]", (all) => all.slice(1).map(({ id }) => id));
      for (const tab of tabs) {
        await page.locator(`#${tab}`).click();
        await page.waitForSelector(`#${tab}[aria-selected=true]`);
        await page.waitForFunction(
          () =>
            !/Simulating …|Planning …/.test(document.body.innerText) && !document.querySelector('[aria-busy="true"]'),
          { polling: 50 },
        );
        expect(await violations(page), tab).toEqual([]);
        await expectNothingBeyond(page, tab);
      }
    },
  );

  it("follows the system's preference for dark until somebody chooses", async () => {
    const page = await desk.tab("/jobs");
    const ground = () => page.evaluate(() => getComputedStyle(document.body).backgroundColor);
    await page.emulateMediaFeatures([{ name: "prefers-color-scheme", value: "light" }]);
    const light = await ground();
    await page.emulateMediaFeatures([{ name: "prefers-color-scheme", value: "dark" }]);
    expect(await ground()).not.toBe(light);
    await press(page, "Look: as the system");
    expect(await ground()).toBe(light);
    await reload(page);
    expect(await ground()).toBe(light);
  });
});

/** The page of an owner, by a link that is made for it. */
async function ownerPath(desk: Desk, id: string): Promise<string> {
  const made = await fetch(`${desk.app}/api/v1/jobs/${id}/owner-link`, { method: "POST" });
  return ((await made.json()) as { path: string }).path;
}

async function violations(page: Page): Promise<string[]> {
  const results = await page.evaluate(() =>
    (globalThis as unknown as { axe: { run(): Promise<AxeResults> } }).axe.run(),
  );
  return results.violations.map(
    ({ id, impact, nodes }) => `${impact} ${id}: ${nodes.map(({ html }) => html.slice(0, 160)).join(" | ")}`,
  );
}

/** What on a phone is smaller than a gloved thumb hits; a link in a line of text is as high as its line. */
async function tooSmall(page: Page): Promise<string[]> {
  return page.evaluate((leastPx) => {
    const all = document.querySelectorAll<HTMLElement>(
      "a[href], button, input, select, textarea, summary, [role=tab], [role=button], [role=slider]",
    );
    return [...all].flatMap((own) => {
      if (own.closest("[inert], [aria-hidden=true], .cm-editor, :disabled")) return [];
      const target = own.matches("[type=checkbox], [type=radio], [type=file]") ? (own.closest("label") ?? own) : own;
      const style = getComputedStyle(target);
      const { width, height } = target.getBoundingClientRect();
      const isSeen = width > 1 && height > 1 && style.visibility !== "hidden" && style.clipPath === "none";
      if (!isSeen || style.display === "inline") return [];
      // What takes a touch may reach beyond what is drawn.
      const reach = parseFloat(getComputedStyle(target, "::before").height) || 0;
      const least = Math.min(width, Math.max(height, reach));
      return least < leastPx ? [`${Math.round(width)}x${Math.round(height)}: ${target.outerHTML.slice(0, 120)}`] : [];
    });
  }, LEAST_TARGET_PX);
}

/** Nothing scrolls sideways or into emptiness, on a phone, a tablet and a laptop; the phone's size is left behind. */
async function expectNothingBeyond(page: Page, what: string): Promise<void> {
  for (const width of [1280, 768, PHONE.width]) {
    await page.setViewport({ width, height: PHONE.height });
    // A chart is drawn anew a moment after its room has changed.
    await expect
      .poll(async () => {
        const { sideways, empty, wide, pushed } = await extentOf(page);
        const isPushed = width === PHONE.width ? pushed : [];
        return { what, width, isWide: sideways > 0, wide, isPushed, isEmpty: empty > MOST_EMPTY_PX };
      })
      .toEqual({ what, width, isWide: false, wide: [], isPushed: [], isEmpty: false });
  }
  expect(await tooSmall(page), what).toEqual([]);
}
