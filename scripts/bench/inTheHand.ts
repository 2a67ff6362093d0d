import puppeteer, { type Browser, type Page } from "puppeteer-core";
import { ensureBuilt, startApp } from "../lib/app.mjs";
import { freePort } from "../lib/cluster.mjs";
import { loadDemo, migrate, openDatabase } from "../lib/database.mjs";
import { ensureChromium } from "../lib/install.mjs";

const PHONE = { width: 390, height: 844, isMobile: true, hasTouch: true };
const STAGES = ["place", "wire", "visit", "prove", "limit", "divert", "online", "handover", "bench", "plan"];
const JOBS = ["Tollgate Cottage", "Brindle Dairy"];
const ROUNDS = 5;
/** Between two changes, so that what a stage computes after it stands does not count for the next. */
const REST_MS = 700;

/** In the page, as text: what runs this file names the functions in it, and the page knows nothing of that. */
const CHANGE = `async (stage) => {
  const link = document.querySelector('nav[aria-label=Stages] a[href$="/' + stage + '"]');
  const began = performance.now();
  link.click();
  await new Promise((resolve) => {
    const look = () => {
      const isThere = location.pathname.endsWith('/' + stage) && link.getAttribute('aria-current') === 'page';
      requestAnimationFrame(isThere ? () => setTimeout(resolve, 0) : look);
    };
    look();
  });
  return performance.now() - began;
}`;

/** On a phone's screen with the demo jobs: how long a page takes to open, and a stage to change, warm. */
export async function inTheHand(): Promise<void> {
  const database = await openDatabase({ name: "bench-cluster", throwAway: true });
  try {
    await migrate(database.url);
    await loadDemo(database.url);
    await ensureBuilt();
    const app = await startApp({ port: await freePort(), databaseUrl: database.url });
    const browser = await puppeteer.launch({
      executablePath: await ensureChromium(),
      headless: true,
      args: ["--no-sandbox", "--disable-gpu", "--disable-quic"],
    });
    try {
      const { jobs } = (await (await fetch(`${app.address}/api/v1/jobs`)).json()) as {
        jobs: { id: string; name: string }[];
      };
      for (const { id, name } of jobs.filter((job) => JOBS.includes(job.name)))
        await inJob(browser, app.address, id, name);
    } finally {
      await browser.close();
      await app.stop();
    }
  } finally {
    await database.stop();
  }
}

async function inJob(browser: Browser, address: string, id: string, name: string): Promise<void> {
  const page = await browser.newPage();
  await page.setViewport(PHONE);
  const opened: number[] = [];
  for (let round = 0; round <= ROUNDS; round++) {
    await page.goto(`${address}/jobs/${id}/plan`, { waitUntil: "networkidle2" });
    const firstPaintMs = await page.evaluate(
      () => performance.getEntriesByName("first-contentful-paint")[0]?.startTime ?? Number.NaN,
    );
    // The first fills the browser's store.
    if (round > 0) opened.push(firstPaintMs);
  }
  const openedMs = median(opened);
  console.log(`${name} opened on a phone: median ${Math.round(openedMs)} ms to its first paint`);
  const times = new Map<string, number[]>(STAGES.map((stage) => [stage, []]));
  for (let round = 0; round <= ROUNDS; round++)
    for (const stage of STAGES) {
      const changedMs = await changeTo(page, stage);
      if (round > 0) times.get(stage)!.push(changedMs);
    }
  const said = [...times].map(
    ([stage, all]) => `${stage} ${Math.round(median(all))} (${(median(all) / openedMs).toFixed(2)} ×)`,
  );
  console.log(`${name}, change of stage, median ms and ratio to its opening: ${said.join(", ")}`);
  await page.close();
}

/** Milliseconds from the press until the frame in which the stage stands. */
async function changeTo(page: Page, stage: string): Promise<number> {
  await new Promise((resolve) => setTimeout(resolve, REST_MS));
  return (await page.evaluate(`(${CHANGE})(${JSON.stringify(stage)})`)) as number;
}

function median(values: readonly number[]): number {
  return values.toSorted((a, b) => a - b)[Math.floor(values.length / 2)]!;
}
