import { readerHost } from "@/reader/readerHost";

/** Nobody sees more of a number than so. */
const LEAST_APART_MS = 150;
/** Whoever is between says that the connection lives. */
const STILL_HERE_MS = 15_000;

/**
 * What is read of a job as server-sent events: every link as it stands, then each again when it changed. Whoever is
 * slow gets the newest state of a link and not every one before it.
 */
export function liveStream(jobId: string): ReadableStream<Uint8Array> {
  const bytes = new TextEncoder();
  const waiting = new Map<string, string>();
  let wake = () => {};
  let lastMs = 0;
  const put = (link: string, event: string, data: unknown) => {
    waiting.set(link, `event: ${event}\ndata: ${JSON.stringify(data)}\n\n`);
    wake();
  };
  const stop = readerHost().watch(jobId, (link) =>
    "gone" in link ? put(link.gone, "gone", link) : put(link.link, "link", link),
  );
  put("", "all", { links: readerHost().links(jobId) });
  return new ReadableStream({
    async pull(controller) {
      const pause = lastMs + LEAST_APART_MS - Date.now();
      if (pause > 0) await new Promise((over) => setTimeout(over, pause));
      if (waiting.size === 0) {
        let still: NodeJS.Timeout | undefined;
        await new Promise<void>((ready) => {
          wake = ready;
          still = setTimeout(ready, STILL_HERE_MS);
        });
        clearTimeout(still);
      }
      const text = waiting.size === 0 ? ": still here\n\n" : [...waiting.values()].join("");
      waiting.clear();
      lastMs = Date.now();
      controller.enqueue(bytes.encode(text));
    },
    cancel() {
      stop();
      wake();
    },
  });
}
