import { Resolver } from "node:dns/promises";
import http from "node:http";
import net from "node:net";
import type { OneTry } from "@/core/chain/tried";
import type { HostPort, TryTargets } from "@/core/chain/tryTargets";
import { targetProblem } from "@/core/live/target";
import type { ResolvedPlan } from "@/core/plan/resolvedPlan";

const TIMEOUT_MS = 3_000;
/** RFC 6585: a log-in page stands in between. */
const LOG_IN_NEEDED = 511;
const NO_CONTENT = 204;
const WEB_PORT = 80;

/** What came of a connection. */
type Reached = "open" | "refused" | "silent";

/**
 * Try a device's way from this machine: gateway, name, service ports, log-in page, the device's own page and its clock.
 * Only what the plan names is asked, each address looked at before; nothing is scanned, no redirect is followed.
 */
export async function tryNetwork(targets: TryTargets, plan: ResolvedPlan): Promise<readonly OneTry[]> {
  const name = await tryName(targets);
  const tries = await Promise.all([
    tryGateway(targets, plan),
    ...targets.servicePorts.map((port) => tryService(targets, name.address, port)),
    tryOutside(targets, name.address),
    tryPage(targets, plan),
  ]);
  const known = tries.flat().filter((own): own is OneTry => own !== undefined);
  return [...known.slice(0, 1), ...(name.told ? [name.told] : []), ...known.slice(1)];
}

async function tryGateway({ gateway }: TryTargets, plan: ResolvedPlan): Promise<OneTry[]> {
  const [first] = gateway;
  if (!first) return [];
  const problem = targetProblem(first.host, plan);
  const what = `Gateway ${first.host}`;
  if (problem) return [{ what, said: problem, ms: 0 }];
  const started = performance.now();
  const reached = await Promise.all(gateway.map(connect));
  const isThere = reached.some((own) => own !== "silent") && (gateway.length > 1 || reached[0] === "open");
  return [
    {
      what,
      said: isThere ? "answers" : "does not answer",
      ms: performance.now() - started,
      seen: { check: "gateway", outcome: isThere ? "answers" : "silent" },
    },
  ];
}

interface NameTold {
  readonly told: OneTry | undefined;
  readonly address: string | undefined;
}

async function tryName({ serviceName, names }: TryTargets): Promise<NameTold> {
  if (serviceName === undefined) return { told: undefined, address: undefined };
  const resolver = new Resolver({ timeout: TIMEOUT_MS, tries: 1 });
  if (names) resolver.setServers([`${names.host}:${names.port}`]);
  const started = performance.now();
  const [address] = await resolver.resolve4(serviceName).catch(() => []);
  return {
    address,
    told: {
      what: `Name ${serviceName}`,
      said: address === undefined ? "is not resolved" : `is resolved: ${address}`,
      ms: performance.now() - started,
      seen: { check: "name", outcome: address === undefined ? "fails" : "resolves" },
    },
  };
}

/** The service is public: a name that leads into a private network, but for a bench, is not followed. */
async function tryService(
  { serviceName, serviceAt }: TryTargets,
  address: string | undefined,
  port: number,
): Promise<OneTry | undefined> {
  // It is reached by its name: without an address of it there is nothing to try.
  if (serviceName === undefined || address === undefined) return undefined;
  const at = serviceAt ?? { host: address, port };
  const what = `${serviceName}, port ${port}`;
  if (!serviceAt && isPrivate(at.host)) return { what, said: `${at.host} is no service outside`, ms: 0 };
  const started = performance.now();
  const reached = await connect(at);
  const said = { open: "is open", refused: "is refused", silent: "gives no answer" }[reached];
  return { what, said, ms: performance.now() - started, seen: { check: "service-port", outcome: reached } };
}

async function tryOutside(
  { outside, serviceAt }: TryTargets,
  address: string | undefined,
): Promise<OneTry | undefined> {
  if (outside === undefined) return undefined;
  const url = new URL(outside);
  if (!serviceAt && (address === undefined || isPrivate(address))) return undefined;
  const started = performance.now();
  const answer = await head(url, serviceAt ? undefined : address);
  const ms = performance.now() - started;
  const what = `Page outside at ${url.host}`;
  if (!answer) return { what, said: "nothing comes", ms, seen: { check: "outside", outcome: "silent" } };
  const { status, location } = answer;
  const isElsewhere = location !== undefined && new URL(location, url).hostname !== url.hostname;
  const isInstead = serviceAt !== undefined && status !== NO_CONTENT;
  return status === LOG_IN_NEEDED || isElsewhere || isInstead
    ? { what, said: "another page comes instead", ms, seen: { check: "outside", outcome: "login-page" } }
    : { what, said: "answers", ms, seen: { check: "outside", outcome: "answers" } };
}

/** The device's own page: that it answers proves its address, and its date its clock. */
async function tryPage({ page, address }: TryTargets, plan: ResolvedPlan): Promise<OneTry[]> {
  if (page === undefined) return [];
  const url = new URL(page);
  const problem = targetProblem(url.hostname, plan);
  const what = `Its own page at ${url.host}`;
  if (problem) return [{ what, said: problem, ms: 0 }];
  const started = performance.now();
  const answer = await head(url);
  const ms = performance.now() - started;
  if (!answer) return [{ what, said: "does not answer", ms }];
  const offS = answer.date === undefined ? NaN : Math.round((Date.parse(answer.date) - Date.now()) / 1000);
  return [
    {
      what,
      said: "answers",
      ms,
      ...(address === undefined ? {} : { seen: { check: "address" as const, outcome: address } }),
    },
    ...(Number.isFinite(offS)
      ? [
          {
            what: "Its clock",
            said: `is ${Math.abs(offS)} s off`,
            ms,
            seen: { check: "clock" as const, outcome: offS },
          },
        ]
      : []),
  ];
}

function connect({ host, port }: HostPort): Promise<Reached> {
  return new Promise((resolve) => {
    const socket = net.connect({ host, port, timeout: TIMEOUT_MS });
    const done = (reached: Reached) => {
      socket.destroy();
      resolve(reached);
    };
    socket.once("connect", () => done("open"));
    socket.once("timeout", () => done("silent"));
    socket.once("error", (error: NodeJS.ErrnoException) => done(error.code === "ECONNREFUSED" ? "refused" : "silent"));
  });
}

interface Head {
  readonly status: number;
  readonly location: string | undefined;
  readonly date: string | undefined;
}

/** @param at The address that was looked at: a name that leads elsewhere a moment later is not followed there. */
function head(url: URL, at = url.hostname): Promise<Head | undefined> {
  return new Promise((resolve) => {
    const asked = { host: at, port: url.port || WEB_PORT, path: url.pathname, headers: { host: url.host } };
    const request = http.get({ ...asked, timeout: TIMEOUT_MS, agent: false }, (response) => {
      response.resume();
      const { location, date } = response.headers;
      resolve({ status: response.statusCode ?? 0, location, date });
    });
    request.once("timeout", () => request.destroy());
    request.once("error", () => resolve(undefined));
  });
}

function isPrivate(address: string): boolean {
  return /^(127\.|10\.|192\.168\.|169\.254\.|172\.(1[6-9]|2\d|3[01])\.|0\.)/.test(address);
}
