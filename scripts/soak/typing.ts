import puppeteer from "puppeteer-core";
import { changeLinks } from "@/core/job/changeLinks";
import type { JobDocument } from "@/core/job/jobDocument";
import { importJob } from "@/core/job/importJob";
import { addMeter, addNode } from "@/core/edits/editPlan";
import { proposeLinks } from "@/core/links/propose/proposeLinks";
import { resolve } from "@/core/plan/resolve";
import { ensureChromium } from "../lib/install.mjs";
import { say } from "../lib/say.mjs";
import { demo, quantile, send, type Ground } from "./ground";

const DEVICES = 40;
const KEY_EVERY_MS = 90;
const CHARACTERS = 60;
/** A frame of 50 a second. */
const FRAME_MS = 20;

/** In the page: how long each frame takes, ms, from now on. */
const START_FRAMES = `
  globalThis.gormitFrames = [];
  let last = performance.now();
  const next = (now) => {
    gormitFrames.push(now - last);
    last = now;
    globalThis.gormitNext = requestAnimationFrame(next);
  };
  globalThis.gormitNext = requestAnimationFrame(next);
`;
/** In the page: the frames so far, without the first. */
const END_FRAMES = "(cancelAnimationFrame(gormitNext), gormitFrames.slice(1))";

/** Somebody types into a job of 40 devices: frames a second meanwhile, and the longest. */
export async function typing({ app, share }: Ground): Promise<void> {
  const browser = await puppeteer.launch({
    executablePath: await ensureChromium(),
    headless: true,
    args: ["--no-sandbox", "--disable-gpu", "--disable-quic", "--accept-lang=en-GB"],
  });
  try {
    const job = (await (await send(app, "POST", "/jobs/import", ofManyDevices())).json()) as { id: string };
    const page = await browser.newPage();
    await page.setViewport({ width: 1280, height: 800 });
    for (const stage of ["plan", "visit?part=sheet", "divert"]) {
      await page.goto(`${app.address}/jobs/${job.id}/${stage}`, { waitUntil: "networkidle2" });
      const input = await page.waitForSelector(
        "main :is(input:not([type=checkbox]):not([type=radio]):not([type=range]), textarea)",
      );
      await input!.click({ count: 3 });
      await page.evaluate(`(() => {${START_FRAMES}})()`);
      const text = "12345 ".repeat(CHARACTERS).slice(0, Math.max(10, Math.round(CHARACTERS * share)));
      await input!.type(text, { delay: KEY_EVERY_MS });
      const frames = (await page.evaluate(END_FRAMES)) as number[];
      const took = frames.reduce((sum, ms) => sum + ms, 0);
      const late = frames.filter((ms) => ms > FRAME_MS).length;
      say(
        `Typing in ${stage}, ${DEVICES} devices: ${Math.round((1000 * frames.length) / took)} frames a second, ` +
          `${((100 * late) / frames.length).toFixed(1)} % longer than ${FRAME_MS} ms, ` +
          `p99 ${quantile(frames, 0.99)} ms, longest ${quantile(frames, 1)} ms`,
      );
    }
  } finally {
    await browser.close();
  }
}

function ofManyDevices(): JobDocument {
  const outcome = importJob(JSON.stringify(demo()));
  if (outcome.kind !== "job") throw new Error("typing: the demo job cannot be read");
  let job = { ...outcome.document, job: { ...outcome.document.job, name: "Typing" } };
  const board = job.site.nodes.find(({ kind }) => kind === "board")!.id;
  for (let count = 0; job.site.nodes.length < DEVICES; count++)
    job = addNode({ kind: "load", name: `Device ${count}`, fedFrom: board })(job);
  const kit = job.kits.find(({ metering }) => metering)!;
  for (const node of job.site.nodes.slice(-6))
    job = addMeter({ name: `Meter of ${node.name}`, kit, run: node.id, role: "consumption" })(job);
  return changeLinks(job, () => [...proposeLinks(resolve(job))]);
}
