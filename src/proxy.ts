import { NextResponse, type NextRequest } from "next/server";
import { allowedHosts } from "@/app/api/allowedHosts";
import { originProblem } from "@/app/api/originProblem";

const BROWSER_COOKIE = "gormit-browser";
const YEAR_S = 31_536_000;
const READING = new Set(["GET", "HEAD", "OPTIONS"]);

/**
 * In front of everything: who may be called by which name, who may write, and what a page of this app may do. A path
 * that is no text is refused before anything looks at it.
 */
export function proxy(request: NextRequest): NextResponse {
  // Pictures come from routes of their own; nothing is fetched and resized for anybody.
  if (request.nextUrl.pathname.startsWith("/_next/image")) return refusal("not-found", 404, "There is nothing here.");
  const problem = pathProblem(request) ?? originProblem(request.headers, request.method, allowedHosts());
  if (problem) return refusal(problem.code, problem.status, problem.message);
  const nonce = btoa(crypto.randomUUID());
  const policy = contentPolicy(nonce, process.env.NODE_ENV === "development");
  const headers = new Headers(request.headers);
  headers.set("x-nonce", nonce);
  headers.set("content-security-policy", policy);
  const response = NextResponse.next({ request: { headers } });
  response.headers.set("content-security-policy", policy);
  if (!READING.has(request.method) || request.cookies.has(BROWSER_COOKIE)) return response;
  // A mark of the browser and of nobody else: what one person has computed is counted by it.
  response.cookies.set(BROWSER_COOKIE, crypto.randomUUID(), {
    httpOnly: true,
    sameSite: "strict",
    maxAge: YEAR_S,
    path: "/",
  });
  return response;
}

// What is larger than this may hold goes past it: that route asks where a request comes from by itself.
export const config = { matcher: ["/((?!_next/static/|api/v1/jobs/import-bundle$).*)"] };

function pathProblem(
  request: NextRequest,
): { readonly code: string; readonly status: number; readonly message: string } | undefined {
  const { pathname, search } = request.nextUrl;
  try {
    const plain = decodeURIComponent(pathname) + decodeURIComponent(search.replaceAll("+", " "));
    if (!plain.includes("\u0000")) return undefined;
  } catch {
    // Not decodable.
  }
  return { code: "invalid", status: 400, message: "The address is no text." };
}

/** Scripts by nonce only; styles as the charts and boards set them; everything else from here. */
function contentPolicy(nonce: string, isDevelopment: boolean): string {
  return [
    "default-src 'self'",
    `script-src 'self' 'nonce-${nonce}' 'strict-dynamic'${isDevelopment ? " 'unsafe-eval'" : ""}`,
    "style-src 'self' 'unsafe-inline'",
    "img-src 'self' blob: data:",
    "font-src 'self'",
    `connect-src 'self'${isDevelopment ? " ws:" : ""}`,
    "worker-src 'self' blob:",
    "object-src 'none'",
    "base-uri 'none'",
    "form-action 'self'",
    "frame-ancestors 'none'",
  ].join("; ");
}

function refusal(code: string, status: number, message: string): NextResponse {
  return NextResponse.json(
    { error: { code, message, issues: [] } },
    { status, headers: { "cache-control": "private, no-store" } },
  );
}
