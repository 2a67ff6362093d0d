import { mkdtemp, rm, writeFile } from "node:fs/promises";
import { tmpdir } from "node:os";
import path from "node:path";
import { ensureBuilt, startApp } from "./lib/app.mjs";
import { dayLog } from "./lib/dayLog.mjs";
import { freePort } from "./lib/cluster.mjs";
import { loadDemo, migrate, openDatabase } from "./lib/database.mjs";
import { ensureChromium, ensurePackages } from "./lib/install.mjs";
import { projectDir } from "./lib/project.mjs";
import { run, say } from "./lib/say.mjs";

const LAPTOP = { width: 1280, height: 800 };
const PHONE = { width: 390, height: 844, isMobile: true, hasTouch: true };
const TIMEOUT_MS = 60_000;
const folder = await mkdtemp(path.join(tmpdir(), "gormit-screenshots-"));

/** One current picture of each main view, from the demo jobs. */
const SHOTS = [
  { name: "jobs", path: "/jobs", theme: "paper", viewport: LAPTOP, shows: "[data-job]" },
  { name: "new-from-pattern", path: "/jobs/new", theme: "paper", viewport: LAPTOP, shows: "article" },
  {
    name: "plan-site",
    job: "Larkspur House",
    stage: "plan",
    theme: "paper",
    viewport: LAPTOP,
    shows: "[data-node]",
    press: '[data-node="generator"]',
  },
  { name: "kits", path: "/kits/meter-three-5a", theme: "paper", viewport: LAPTOP, shows: "ol" },
  {
    name: "place-single-phase",
    job: "Tollgate Cottage",
    stage: "place",
    theme: "paper",
    viewport: LAPTOP,
    shows: "[data-ct]",
  },
  {
    name: "place-phone",
    job: "Tollgate Cottage",
    stage: "place",
    theme: "paper",
    viewport: PHONE,
    shows: "[data-clamp]",
    press: '[data-clamp="ct2"]',
  },
  {
    name: "wire-links",
    job: "Brindle Dairy",
    stage: "wire",
    theme: "paper",
    viewport: LAPTOP,
    shows: ".react-flow__edge",
  },
  {
    name: "run-now-phone",
    job: "Larkspur House",
    stage: "visit?step=on-ac:hybrid",
    theme: "paper",
    viewport: PHONE,
    shows: "[data-step]",
  },
  {
    name: "run-schedule-dark",
    job: "Larkspur House",
    stage: "visit",
    theme: "plant-room",
    viewport: LAPTOP,
    shows: "#visit-schedule",
    press: "#visit-schedule",
  },
  {
    name: "prove-faults-found",
    job: "Tollgate Cottage",
    stage: "prove",
    theme: "paper",
    viewport: LAPTOP,
    shows: '[aria-label="Verdict"][aria-busy="false"]',
  },
  {
    name: "registration-phone",
    job: "Larkspur House",
    stage: "handover?part=register",
    theme: "paper",
    viewport: PHONE,
    shows: '[aria-label="Grid operator"]',
  },
  {
    name: "bench",
    job: "Tollgate Cottage",
    stage: "bench",
    theme: "paper",
    viewport: LAPTOP,
    shows: '[aria-label="Devices on the bench"] li',
  },
  {
    name: "wire-live",
    job: "Tollgate Cottage",
    stage: "wire",
    theme: "paper",
    viewport: LAPTOP,
    shows: "#wire-live",
    press: "#wire-live",
    then: '[aria-label="Live: Car charger"] dd',
  },
  {
    name: "limit-holds-dark",
    job: "Brindle Dairy",
    stage: "limit",
    theme: "plant-room",
    viewport: LAPTOP,
    shows: "#limit-hold",
    press: "#limit-hold",
    then: ".apexcharts-series",
  },
  {
    name: "online-break",
    job: "Larkspur House",
    stage: "online",
    theme: "paper",
    viewport: LAPTOP,
    shows: '[aria-label="Possible causes"]',
  },
  {
    name: "online-phone-dark",
    job: "Larkspur House",
    stage: "online",
    theme: "plant-room",
    viewport: PHONE,
    shows: '[aria-label="Look at next"]',
  },
  {
    name: "hand-over",
    job: "Tollgate Cottage",
    stage: "handover",
    theme: "paper",
    viewport: LAPTOP,
    shows: '[aria-label="Hand overs"] button',
  },
  {
    name: "prove-log",
    job: "Tollgate Cottage",
    stage: "prove",
    theme: "paper",
    viewport: LAPTOP,
    shows: '[aria-label="Verdict"][aria-busy="false"]',
    before: async (/** @type {import("puppeteer-core").Page} */ page) => {
      await openPart(page, "Proof from a log", "details[open] input[type=file]");
      const file = path.join(folder, "day.csv");
      await writeFile(file, dayLog());
      const field = await page.$("details[open] input[type=file]");
      await /** @type {import("puppeteer-core").ElementHandle<HTMLInputElement>} */ (field).uploadFile(file);
      await page.waitForSelector('[aria-label="What the log says"] .apexcharts-svg');
      await page.evaluate(() => document.querySelector('[aria-label="What the log says"]')?.scrollIntoView());
    },
  },
  {
    name: "divert-day",
    job: "Tollgate Cottage",
    stage: "divert",
    theme: "paper",
    viewport: LAPTOP,
    shows: ".apexcharts-series",
  },
];

await run(async () => {
  await ensurePackages();
  const { default: puppeteer } = await import("puppeteer-core");
  const executablePath = await ensureChromium();
  const database = await openDatabase({ name: "screenshot-cluster", throwAway: true });
  try {
    await migrate(database.url);
    await loadDemo(database.url);
    await ensureBuilt();
    const app = await startApp({ port: await freePort(), databaseUrl: database.url });
    const browser = await puppeteer.launch({
      executablePath,
      headless: true,
      userDataDir: folder,
      args: [
        "--no-sandbox",
        "--disable-gpu",
        "--disable-quic",
        "--no-first-run",
        "--disable-background-networking",
        "--disable-component-update",
        "--disable-sync",
        "--accept-lang=en-GB",
      ],
    });
    try {
      const { jobs } = await (await fetch(`${app.address}/api/v1/jobs`)).json();
      const tollgate = jobs.find((/** @type {{ name: string }} */ job) => job.name === "Tollgate Cottage");
      await runBench(`${app.address}/api/v1/jobs/${tollgate?.id}`);
      for (const shot of SHOTS) await take(await browser.newPage(), shot, app.address, jobs);
    } finally {
      await browser.close();
      await app.stop();
    }
  } finally {
    await database.stop();
    await rm(folder, { recursive: true, force: true });
  }
});

/**
 * @param {import("puppeteer-core").Page} page
 * @param {(typeof SHOTS)[number]} shot
 * @param {string} address
 * @param {readonly { id: string, name: string }[]} jobs
 */
async function take(page, shot, address, jobs) {
  page.setDefaultTimeout(TIMEOUT_MS);
  await page.setViewport(shot.viewport);
  await page.browserContext().setCookie({ name: "gormit-theme", value: shot.theme, domain: "127.0.0.1" });
  const id = jobs.find((job) => job.name === shot.job)?.id;
  await page.goto(address + (shot.path ?? `/jobs/${id}/${shot.stage}`), { waitUntil: "networkidle2" });
  await page.waitForSelector(shot.shows);
  if (shot.press) await page.locator(shot.press).click();
  if (shot.before) await shot.before(page);
  if (shot.then) await page.waitForSelector(shot.then);
  await page.waitForSelector('[aria-busy="true"]', { hidden: true });
  // Charts and schedules come from workers: what they show is there once nothing says that it is on its way.
  await page.waitForFunction(() => !/Simulating …|Planning …/.test(document.body.innerText));
  const file = path.join(projectDir, "docs", "screenshots", `${shot.name}.png`);
  await page.screenshot({ path: /** @type {`${string}.png`} */ (file) });
  await page.close();
  say(`docs/screenshots/${shot.name}.png`);
}

/**
 * Start the bench of a job on a clear day, and read all of it.
 *
 * @param {string} job The address of the job's routes.
 */
async function runBench(job) {
  const send = async (/** @type {string} */ method, /** @type {string} */ url, /** @type {object} */ body) => {
    const response = await fetch(url, {
      method,
      headers: { "content-type": "application/json" },
      body: JSON.stringify(body),
    });
    return response.json();
  };
  const bench = await send("POST", `${job}/bench`, {});
  await send("PATCH", `${job}/bench/${bench.id}`, { state: { devices: [], runs: "day", minuteOfDay: 600 } });
  for (const { link, protocol, host, port } of bench.lines)
    if (protocol === "modbus-tcp") await send("POST", `${job}/live`, { link, way: { kind: protocol, host, port } });
}

/**
 * Open a part that is folded up, and bring it to the top.
 *
 * @param {import("puppeteer-core").Page} page
 * @param {string} words What its line begins with.
 * @param {string} shows What is there once it is open.
 */
async function openPart(page, words, shows) {
  await page.evaluate((start) => {
    const line = [...document.querySelectorAll("summary")].find((own) => own.textContent?.trim().startsWith(start));
    line?.click();
    line?.scrollIntoView();
  }, words);
  await page.waitForSelector(shows);
}
