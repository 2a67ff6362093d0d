const READING = new Set(["GET", "HEAD", "OPTIONS"]);
/** From a page of ours, or from no page at all (an address that was typed, a command line). */
const OWN_SITE = new Set(["same-origin", "none"]);

export interface OriginProblem {
  readonly code: "forbidden";
  readonly status: 403;
  readonly message: string;
}

/**
 * Why a request is refused for where it comes from; undefined where it is served. Any name may be made to point to this
 * machine, so only names that are known are answered to; and what writes must come from a page of ours. A client that
 * sends neither header, such as a command line, is served: a foreign page cannot leave them out.
 *
 * @example originProblem(new Headers({ host: "127.0.0.1:3000", origin: "http://evil.example" }), "POST",
 * ["127.0.0.1"])?.status // 403
 */
export function originProblem(
  headers: Headers,
  method: string,
  allowedHosts: readonly string[],
): OriginProblem | undefined {
  const host = headers.get("host") ?? "";
  if (!allowedHosts.includes(withoutPort(host)))
    return refused(
      `This app does not answer to the name "${host.slice(0, 80)}". Add it to GORMIT_HOSTS if it is yours.`,
    );
  if (READING.has(method)) return undefined;
  const site = headers.get("sec-fetch-site");
  if (site !== null && !OWN_SITE.has(site)) return refused("Only pages of this app may change anything here.");
  const origin = headers.get("origin");
  if (origin === null) return undefined;
  return originHost(origin) === host.toLowerCase()
    ? undefined
    : refused("Only pages of this app may change anything here.");
}

function withoutPort(host: string): string {
  return host.toLowerCase().replace(/:\d+$/, "");
}

function originHost(origin: string): string | undefined {
  try {
    return new URL(origin).host;
  } catch {
    // "null", from a page that hides where it is.
    return undefined;
  }
}

function refused(message: string): OriginProblem {
  return { code: "forbidden", status: 403, message };
}
