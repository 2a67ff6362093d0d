import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import path from "node:path";
import puppeteer from "puppeteer-core";
import type { TestProject } from "vitest/node";
import { fromTestRun } from "./environment";

const CHROMIUM_FLAGS = [
  "--no-sandbox",
  "--disable-gpu",
  "--disable-quic",
  "--no-first-run",
  "--disable-background-networking",
  "--disable-component-update",
  "--disable-sync",
  "--accept-lang=en-GB",
];

declare module "vitest" {
  export interface ProvidedContext {
    readonly browserEndpoint: string;
  }
}

/** One browser for all test files; each has a profile of its own in it. */
export default async function sharedBrowser(project: TestProject): Promise<() => Promise<void>> {
  const folder = mkdtempSync(path.join(tmpdir(), "gormit-browser-"));
  const browser = await puppeteer.launch({
    executablePath: fromTestRun("GORMIT_TEST_CHROMIUM"),
    headless: true,
    userDataDir: folder,
    args: CHROMIUM_FLAGS,
  });
  project.provide("browserEndpoint", browser.wsEndpoint());
  return async () => {
    await browser.close();
    rmSync(folder, { recursive: true, force: true });
  };
}
