import { z } from "zod";

const versionSchema = z.object({ build: z.string() });
/** Somebody who goes to and fro between two apps asks no oftener than this. */
const LOOK_EVERY_MS = 5 * 60_000;

/** Whether a page of this app is kept for where there is no connection, by a worker that stands between. */
function keeper(): ServiceWorkerContainer | undefined {
  return typeof navigator === "undefined" || !("serviceWorker" in navigator) ? undefined : navigator.serviceWorker;
}

/**
 * Have this version of the app kept in this browser.
 *
 * @param onNewer Told of a newer version: what takes it over, or loads the page anew where that was done already, in
 * this tab or in another.
 * @returns Stops listening.
 */
export function keepApp(build: string, onNewer: (how: "waits" | "taken", takeUp: () => void) => void): () => void {
  const own = keeper();
  if (!own) return () => undefined;
  const stop = new AbortController();
  let isControlled = own.controller !== null;
  const offer = (waiting: ServiceWorker | null) => {
    // The first one of a browser takes over nothing, and waits for nobody.
    if (waiting && own.controller) onNewer("waits", () => waiting.postMessage({ kind: "take-over" }));
  };
  const onController = () => {
    // The first one of a browser takes a page as it is; whatever comes after it is another version.
    if (isControlled) onNewer("taken", () => window.location.reload());
    isControlled = true;
  };
  own.addEventListener("controllerchange", onController, { signal: stop.signal });
  const keep = (version: string) => own.register(`/sw.js?build=${encodeURIComponent(version)}`);
  onReturn(stop.signal, async () => {
    const newest = await buildOfServer();
    // The one that waits already is told of by its registration.
    if (newest !== undefined && newest !== build) await keep(newest).catch(() => undefined);
  });
  keep(build).then(
    (registration) => {
      offer(registration.waiting);
      registration.addEventListener("updatefound", () => {
        const { installing } = registration;
        installing?.addEventListener("statechange", () => installing.state === "installed" && offer(installing));
      });
    },
    () => undefined,
  );
  return () => stop.abort();
}

/** Whoever has a page open for days comes back to it, or to a connection: that is when there may be something newer. */
function onReturn(signal: AbortSignal, look: () => Promise<void>): void {
  let lookedAt = Date.now();
  const onEvent = () => {
    if (document.visibilityState !== "visible" || Date.now() - lookedAt < LOOK_EVERY_MS) return;
    lookedAt = Date.now();
    void look();
  };
  document.addEventListener("visibilitychange", onEvent, { signal });
  window.addEventListener("online", onEvent, { signal });
}

/** Which version the server has; undefined where it does not say. */
async function buildOfServer(): Promise<string | undefined> {
  const answer = await fetch("/app-files", { cache: "no-store" }).catch(() => undefined);
  const read = versionSchema.safeParse(await answer?.json().catch(() => undefined));
  return read.data?.build;
}

/** Keep the page of a job, whatever its stage. */
export async function keepJobPage(job: string): Promise<void> {
  const registration = await keeper()?.ready;
  registration?.active?.postMessage({ kind: "keep", job });
}

/** Whether a job opens in this browser without a connection. */
export async function isJobPageKept(job: string): Promise<boolean> {
  if (typeof caches === "undefined") return false;
  return (await caches.match(`/jobs/${job}`, { ignoreVary: true })) !== undefined;
}
