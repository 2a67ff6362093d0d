import { createRequire } from "node:module";
import type { AxeResults } from "axe-core";
import type { Page } from "puppeteer-core";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { Desk, LAPTOP, PHONE, press } from "./desk";

const AXE = createRequire(import.meta.url).resolve("axe-core/axe.min.js");

/** The stages of a job; the others are pages of their own. */
const OWN_PAGES: ReadonlySet<string> = new Set(["plan", "place", "wire", "prove"]);

describe("Everybody can use it", () => {
  let desk: Desk;
  beforeAll(async () => { desk = await Desk.open(); });
  afterAll(() => desk.close());

  it.each([
    ["jobs", "paper", LAPTOP], ["jobs", "plant-room", PHONE],
    ["place", "paper", PHONE], ["place", "plant-room", LAPTOP],
    ["prove", "paper", LAPTOP], ["prove", "plant-room", PHONE],
    ["wire", "plant-room", LAPTOP], ["wire", "paper", PHONE],
    ["plan", "paper", LAPTOP], ["plan", "plant-room", PHONE],
    ["jobs/new", "plant-room", LAPTOP], ["kits", "paper", PHONE], ["kits/meter-three-5a", "plant-room", LAPTOP], ["kits/meter-three-5a/edit", "plant-room", LAPTOP],
  ] as const)("axe finds nothing serious on %s in %s", async (stage, theme, viewport) => {
    const id = await desk.demoJob(stage === "wire" ? "brindle-dairy" : "tollgate-cottage", `Axe ${stage} ${theme}`);
    const page = await desk.tab(OWN_PAGES.has(stage) ? `/jobs/${id}/${stage}` : `/${stage}`, viewport);
    await page.evaluate((name) => document.documentElement.setAttribute("data-theme", name), theme);
    if (stage === "place") await page.locator('[data-socket="A2"]').click();
    if (stage === "plan") await page.locator('[data-node="solar"]').click();
    if (stage === "prove") await page.waitForSelector("[data-verdict]");
    expect(await seriousViolations(page)).toEqual([]);
  });

  it("follows the system's preference for dark until somebody chooses", async () => {
    const page = await desk.tab("/jobs");
    const ground = () => page.evaluate(() => getComputedStyle(document.body).backgroundColor);
    await page.emulateMediaFeatures([{ name: "prefers-color-scheme", value: "light" }]);
    const light = await ground();
    await page.emulateMediaFeatures([{ name: "prefers-color-scheme", value: "dark" }]);
    expect(await ground()).not.toBe(light);
    await press(page, "Look: as the system");
    expect(await ground()).toBe(light);
    await page.reload({ waitUntil: "networkidle2" });
    expect(await ground()).toBe(light);
  });
});

async function seriousViolations(page: Page): Promise<string[]> {
  await page.addScriptTag({ path: AXE });
  const results = await page.evaluate(() => (globalThis as unknown as { axe: { run(): Promise<AxeResults> } }).axe.run());
  return results.violations.filter((violation) => violation.impact === "serious" || violation.impact === "critical")
    .map((violation) => `${violation.id}: ${violation.nodes.map((node) => node.html.slice(0, 160)).join(" | ")}`);
}
