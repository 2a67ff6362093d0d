import { createServer, type Server } from "node:http";
import type { AddressInfo } from "node:net";
import { afterEach, expect, test } from "vitest";
import { warmPages } from "../../scripts/lib/warm.mjs";

const servers: Server[] = [];

afterEach(() => {
  for (const server of servers.splice(0)) server.close();
});

/** An app that answers with these jobs, and what it was asked for. */
async function appWith(jobs: readonly { readonly id: string }[]) {
  const asked: string[] = [];
  const server = createServer((request, response) => {
    asked.push(request.url!);
    response.end(JSON.stringify({ jobs }));
  });
  servers.push(server);
  await new Promise<void>((resolve) => {
    server.listen(0, "127.0.0.1", resolve);
  });
  return { asked, address: `http://127.0.0.1:${(server.address() as AddressInfo).port}` };
}

test("every stage of the newest job is opened, and no other job", async () => {
  const { asked, address } = await appWith([{ id: "newest" }, { id: "older" }]);
  await warmPages(address);
  expect(new Set(asked)).toEqual(
    new Set([
      "/api/v1/jobs",
      "/",
      ...["plan", "place", "wire", "visit", "prove", "limit", "divert"].map((stage) => `/jobs/newest/${stage}`),
    ]),
  );
});

test("without jobs the list is opened", async () => {
  const { asked, address } = await appWith([]);
  await warmPages(address);
  expect(new Set(asked)).toEqual(new Set(["/api/v1/jobs", "/"]));
});

test("an app that is gone is nothing to say here", async () => {
  const { address } = await appWith([]);
  servers.pop()!.close();
  await expect(warmPages(address)).resolves.toBeUndefined();
});
