import type { Asking } from "@/workers/serverThreads";

/** Who asks: the browser, by the mark that the proxy gave it; else the address that the connection comes from. */
export function asking(request: Request): Asking {
  const mark = /(?:^|;\s*)gormit-browser=([0-9a-f-]{36})/.exec(request.headers.get("cookie") ?? "")?.[1];
  return { person: mark ?? request.headers.get("x-forwarded-for") ?? "nobody", signal: request.signal };
}
