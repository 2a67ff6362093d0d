import { describe, expect, it } from "vitest";
import { originProblem } from "@/app/api/originProblem";

const OURS = ["127.0.0.1", "localhost", "[::1]"];
const of = (method: string, headers: Record<string, string>) =>
  originProblem(new Headers(headers), method, OURS)?.status;

describe("originProblem", () => {
  it.each(["127.0.0.1:3000", "localhost:3000", "LOCALHOST", "[::1]:3000"])("answers to its own name %s", (host) => {
    expect(of("GET", { host })).toBeUndefined();
  });

  it.each(["evil.example", "evil.example:3000", "127.0.0.1.evil.example", "localhost.evil.example:3000", ""])(
    "does not answer to %s, whoever made it point here",
    (host) => {
      expect(of("GET", { host })).toBe(403);
    },
  );

  it.each(["POST", "PUT", "DELETE", "PATCH"])("lets a page of its own and a command line %s", (method) => {
    expect(
      of(method, { host: "127.0.0.1:3000", origin: "http://127.0.0.1:3000", "sec-fetch-site": "same-origin" }),
    ).toBeUndefined();
    expect(of(method, { host: "127.0.0.1:3000" })).toBeUndefined();
    expect(of(method, { host: "127.0.0.1:3000", "sec-fetch-site": "none" })).toBeUndefined();
  });

  it.each<[string, Record<string, string>]>([
    ["another site", { origin: "http://evil.example", "sec-fetch-site": "cross-site" }],
    ["another port of this machine", { origin: "http://127.0.0.1:9999", "sec-fetch-site": "same-site" }],
    ["another site by an old browser", { origin: "http://evil.example" }],
    ["a page that hides where it is", { origin: "null" }],
    ["a form of another site", { "sec-fetch-site": "cross-site" }],
    ["nonsense", { origin: "::" }],
  ])("lets %s write nothing", (_, headers) => {
    expect(of("POST", { host: "127.0.0.1:3000", ...headers })).toBe(403);
  });

  it("lets another site's link open a page", () => {
    expect(of("GET", { host: "127.0.0.1:3000", "sec-fetch-site": "cross-site" })).toBeUndefined();
  });
});
