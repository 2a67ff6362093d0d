import { randomUUID } from "node:crypto";
import { readFileSync } from "node:fs";
import type { JobDocument } from "@/core/job/jobDocument";
import type { startApp } from "../lib/app.mjs";

/** What each part of the soak stands on: the app as it runs, its database, and which share of the whole is wanted. */
export interface Ground {
  readonly app: Awaited<ReturnType<typeof startApp>>;
  readonly url: string;
  readonly share: number;
}

export const REQUEST_TIMEOUT_MS = 30_000;

export function send(
  { address }: { readonly address: string },
  method: string,
  route: string,
  body: unknown,
  number = 0,
): Promise<Response> {
  return fetch(`${address}/api/v1${route}`, {
    method,
    body: JSON.stringify(body),
    headers: { ...asBrowser(number), "content-type": "application/json" },
    signal: AbortSignal.timeout(REQUEST_TIMEOUT_MS),
  });
}

/** Each technician has a browser of their own. */
export function asBrowser(number: number): Record<string, string> {
  return { cookie: `gormit-browser=00000000-0000-4000-8000-${String(number).padStart(12, "0")}` };
}

export function note(number: number) {
  return { id: randomUUID(), at: new Date().toISOString(), person: `T${number}`, kind: "note", text: "a note" };
}

/** An entry that moves a step. */
export function start(number: number) {
  const step = { step: "survey", title: "Look at what is there", content: "" };
  return { ...note(number), ...step, kind: "start" };
}

export function demo(): JobDocument {
  return JSON.parse(readFileSync(new URL("../../demo/tollgate-cottage.json", import.meta.url), "utf8")) as JobDocument;
}

export function quantile(values: readonly number[], share: number): number {
  const sorted = values.toSorted((a, b) => a - b);
  return Math.round(sorted[Math.min(sorted.length - 1, Math.floor(share * sorted.length))] ?? 0);
}

export function pause(delayMs: number): Promise<void> {
  return new Promise((resolve) => {
    setTimeout(resolve, delayMs);
  });
}
