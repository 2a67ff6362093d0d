import dgram from "node:dgram";
import http from "node:http";
import net from "node:net";
import dnsPacket from "dns-packet";
import { listening } from "@/bench/process/loopback";
import { setUpPage } from "@/bench/process/setUpPage";
import { page } from "@/bench/process/webPage";
import { BENCH_WIFI } from "@/core/bench/benchWifi";
import type { NetworkFault } from "@/core/bench/networkFault";
import type { SimulatedNetwork } from "@/bench/process/simulatedNetwork";
import type { Bench } from "@/core/bench/benchSchema";

const HOST = "127.0.0.1";
const TTL_S = 5;
const LABEL = `On its label: ${BENCH_WIFI.name}, passphrase ${BENCH_WIFI.passphrase}`;

/** The network of a bench as others reach it: a router, what is outside, names, the service, the devices' pages. */
export interface SiteNetwork {
  readonly places: Bench["network"];
  /** What changed is done: ports that nobody reaches are closed, others are open. */
  readonly follow: () => Promise<void>;
  readonly close: () => Promise<void>;
}

/** Real servers on loopback: whoever tries the network tries these, as they would the site's. */
export async function siteNetwork(
  network: SimulatedNetwork,
  cure: (kind: NetworkFault["kind"], device: string) => void,
): Promise<SiteNetwork> {
  const gateway = await gate(() =>
    http.createServer((_, response) => page(response, 200, "Router of this site", [{ text: LABEL }])),
  );
  const outside = await gate(() => http.createServer((request, response) => fromOutside(network, request, response)));
  const service = await gate(() => net.createServer((socket) => socket.on("error", () => undefined).end()));
  const devices = await Promise.all(
    network.devices.map(async ({ device }) => ({ device, server: await gate(() => pageOf(network, device)) })),
  );
  const setUps = await Promise.all(
    network.devices.map(async ({ device }) => {
      const joined = async () => {
        cure("passphrase-wrong", device);
        await follow();
      };
      return { device, server: await gate(() => setUpPage(network, device, joined)) };
    }),
  );
  const names = await nameServer(network);
  const follow = async () => {
    await gateway.open(!network.has("gateway-off"));
    await outside.open(!network.has("gateway-off") && !network.has("line-down"));
    await service.open(!network.has("gateway-off") && !network.has("line-down") && !network.has("service-blocked"));
    for (const { device, server } of devices) await server.open(network.isReached(device));
    for (const { device, server } of setUps) await server.open(network.look(device).rung !== null);
  };
  await follow();
  return {
    places: {
      gateway: { host: HOST, port: gateway.port },
      outside: { url: `http://${HOST}:${outside.port}/` },
      names: { host: HOST, port: names.port },
      service: { host: HOST, port: service.port },
      devices: devices.map(({ device, server }, at) => ({
        device,
        url: `http://${HOST}:${server.port}/`,
        setUpUrl: `http://${HOST}:${setUps[at]!.server.port}/`,
      })),
    },
    follow,
    close: async () => {
      names.close();
      await Promise.all(
        [gateway, outside, service, ...[...devices, ...setUps].map(({ server }) => server)].map((own) =>
          own.open(false),
        ),
      );
    },
  };
}

/** A server on a port of its own, which is closed and opened again. */
async function gate(make: () => net.Server) {
  let server: net.Server | undefined = make();
  let sockets = new Set<net.Socket>();
  const remember = (of: net.Server) =>
    of.on("connection", (socket) => {
      sockets.add(socket);
      socket.once("close", () => sockets.delete(socket));
    });
  const port = await listening(remember(server));
  return {
    port,
    open: async (isOpen: boolean) => {
      if (isOpen === (server !== undefined)) return;
      if (isOpen) {
        server = make();
        await listening(remember(server), port);
        return;
      }
      const closing = server!;
      server = undefined;
      for (const socket of sockets) socket.destroy();
      sockets = new Set();
      await new Promise<void>((closed) => closing.close(() => closed()));
    },
  };
}

/** 204 as a page that holds nothing does; with a log-in page in between, that page (RFC 8910 tells why it comes). */
function fromOutside(network: SimulatedNetwork, request: http.IncomingMessage, response: http.ServerResponse): void {
  if (!network.has("login-page")) {
    response.writeHead(204).end();
    return;
  }
  if (request.url === "/log-in") return page(response, 200, "Log in to this network");
  response.writeHead(302, { location: "/log-in" }).end();
}

/** A device's own page, with its address, its lamps and its clock. */
function pageOf(network: SimulatedNetwork, device: string): http.Server {
  return http.createServer((_, response) => {
    const { name, address, lamps, clockMs } = network.look(device);
    response.setHeader("date", new Date(clockMs).toUTCString());
    page(response, 200, name, [
      { text: `Address: ${address ?? "none"}` },
      ...lamps.map((words) => ({ text: `Lamp: ${words}` })),
    ]);
  });
}

/** Any name is this bench; while names fail it says so, and without a line it says nothing (RFC 1035). */
async function nameServer(network: SimulatedNetwork): Promise<{ readonly port: number; readonly close: () => void }> {
  const socket = dgram.createSocket("udp4");
  socket.on("message", (message, from) => {
    if (network.has("gateway-off") || network.has("line-down")) return;
    const question = dnsPacket.decode(message);
    const name = question.questions?.[0]?.name ?? "";
    const isFailing = network.has("names-fail");
    const answer = dnsPacket.encode({
      type: "response",
      id: question.id ?? 0,
      flags: dnsPacket.RECURSION_DESIRED | dnsPacket.RECURSION_AVAILABLE | (isFailing ? 3 : 0),
      questions: question.questions ?? [],
      answers: isFailing ? [] : [{ type: "A", name, ttl: TTL_S, data: HOST }],
    });
    socket.send(answer, from.port, from.address);
  });
  await new Promise<void>((bound) => socket.bind({ address: HOST, port: 0 }, () => bound()));
  return { port: socket.address().port, close: () => socket.close() };
}
