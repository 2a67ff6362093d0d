/// <reference lib="webworker" />
// The app without a connection: its own files, the jobs that were opened, and the pages that were seen last. What is
// asked of a route of the server goes to the server and nowhere else: an old answer would be taken for a new one.

const self_ = /** @type {ServiceWorkerGlobalScope} */ (/** @type {unknown} */ (self));
const BUILD = new URL(self_.location.href).searchParams.get("build") ?? "";
const FILES = `gormit-files ${BUILD}`;
const PAGES = `gormit-pages ${BUILD}`;
const PHOTOS = "gormit-photos";
const AWAY = "/away.html";
const LIST = "/jobs";
/** A browser keeps no more than these: the first that came are the first to go. */
const MOST_PAGES = 60;
const MOST_PHOTOS = 300;
const GONE = 404;
/** The server itself says that it is away. */
const AWAY_STATUS = 500;
/** A connection that says nothing for so long is none. */
const PATIENCE_MS = 6_000;
const JOB = /^\/jobs\/([0-9a-f-]{36})(?:\/|$)/;
const PHOTO = /^\/api\/v1\/jobs\/[0-9a-f-]{36}\/photos\/[0-9a-f-]{36}$/;

self_.addEventListener("install", (event) => {
  event.waitUntil(install());
});
self_.addEventListener("activate", (event) => {
  event.waitUntil(activate());
});
self_.addEventListener("message", (event) => {
  const { kind, job } = event.data ?? {};
  if (kind === "take-over") void self_.skipWaiting();
  if (kind === "keep" && typeof job === "string") event.waitUntil(keepJob(job));
});
self_.addEventListener("fetch", (event) => {
  const { request } = event;
  const url = new URL(request.url);
  if (request.method !== "GET" || url.origin !== self_.location.origin) return;
  if (url.pathname.startsWith("/_next/static/")) event.respondWith(ofFile(request));
  else if (PHOTO.test(url.pathname)) event.respondWith(ofPhoto(request));
  else if (request.mode === "navigate" && !url.pathname.startsWith("/api/")) event.respondWith(ofPage(request, url));
});

/** Every file of this version, and the jobs that the last one kept. */
async function install() {
  const { files } = await (await fetch("/app-files", { cache: "no-store" })).json();
  await (await caches.open(FILES)).addAll([AWAY, ...files]);
  await (await caches.open(PAGES)).add(LIST);
  for (const name of await caches.keys()) {
    if (!name.startsWith("gormit-pages ") || name === PAGES) continue;
    for (const { url } of await (await caches.open(name)).keys()) {
      const job = JOB.exec(new URL(url).pathname)?.[1];
      if (job) await keepJob(job);
    }
  }
}

async function activate() {
  const own = new Set([FILES, PAGES, PHOTOS]);
  const names = await caches.keys();
  await Promise.all(
    names.filter((name) => name.startsWith("gormit-") && !own.has(name)).map((name) => caches.delete(name)),
  );
  await self_.clients.claim();
}

/**
 * A job's page without its stage, which its browser works out: one page for all of them.
 *
 * @param {string} job
 */
async function keepJob(job) {
  const pages = await caches.open(PAGES);
  // The job and its log are kept by the page itself, as they were last: its frame is fetched once a version.
  if (await pages.match(keyOf(job), { ignoreVary: true })) return;
  const answer = await fetch(`/jobs/${job}/plan`, { headers: { "x-gormit-frame": "1" }, cache: "no-store" }).catch(
    () => undefined,
  );
  if (!answer?.ok) return;
  // The list has the job by the time that the job is kept.
  await pages.add(LIST).catch(() => undefined);
  await put(pages, keyOf(job), answer, MOST_PAGES);
}

/**
 * Keep one more; a browser that is full keeps what it has.
 *
 * @param {Cache} cache
 * @param {RequestInfo} key
 * @param {Response} answer
 * @param {number} most
 */
async function put(cache, key, answer, most) {
  await cache.put(key, answer).catch(() => undefined);
  const keys = await cache.keys();
  await Promise.all(keys.slice(0, Math.max(0, keys.length - most)).map((old) => cache.delete(old)));
}

/** @param {string} job */
function keyOf(job) {
  return `/jobs/${job}`;
}

/** @param {Request} request */
async function ofFile(request) {
  const known = await caches.match(request, { ignoreVary: true });
  if (!known) return fetch(request);
  // A worker reads what it is to load behind the # of its address, which a kept answer has no more: a new one has none
  // of its own, and leaves the worker that which was asked for.
  return request.destination === "worker" ? new Response(known.body, { headers: known.headers }) : known;
}

/**
 * A photograph never changes: what was shown once is there.
 *
 * @param {Request} request
 */
async function ofPhoto(request) {
  const known = await caches.match(request, { ignoreVary: true });
  if (known) return known;
  const answer = await fetch(request);
  if (answer.status === 200) await put(await caches.open(PHOTOS), request, answer.clone(), MOST_PHOTOS);
  return answer;
}

/**
 * From the server while it answers; else as it was last, a job at any of its stages.
 *
 * @param {Request} request
 * @param {URL} url
 */
async function ofPage(request, url) {
  const job = JOB.exec(url.pathname)?.[1];
  const key = job ? keyOf(job) : url.pathname;
  const pages = await caches.open(PAGES);
  const last = await pages.match(key, { ignoreVary: true });
  const asked = fetch(request);
  try {
    const answer = await (last ? Promise.race([asked, late()]) : asked);
    if (answer.status >= AWAY_STATUS && last) return last;
    // Another page of a list, or what was searched for, is not the list.
    if (!job && answer.ok && !answer.redirected && url.search === "") await put(pages, key, answer.clone(), MOST_PAGES);
    if (job && answer.status === GONE) await pages.delete(key);
    return answer;
  } catch {
    asked.catch(() => undefined);
    return last ?? (await caches.match(AWAY)) ?? Response.error();
  }
}

/** @returns {Promise<never>} */
function late() {
  return new Promise((_resolve, reject) => {
    setTimeout(() => reject(new Error("late")), PATIENCE_MS);
  });
}
