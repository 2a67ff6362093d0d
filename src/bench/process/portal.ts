import http from "node:http";
import { listening } from "@/bench/process/loopback";
import type { SimulatedSite } from "@/bench/process/simulatedSite";
import { escaped, page, type PageLine } from "@/bench/process/webPage";

const ACCOUNT = "/account";

/** A stand-in of the place in the internet where a customer looks at the site, and of each device's own page. */
export interface Portal {
  readonly url: string;
  readonly close: () => Promise<void>;
}

/**
 * `/` lists the devices, `/devices/<id>` is what one shows, `/data.json` is what a program asks for; `/account` says
 * what the service has of each device, and a POST to `/account/<id>` registers one.
 */
export async function portal(site: SimulatedSite): Promise<Portal> {
  const server = http.createServer((request, response) => {
    const path = new URL(request.url ?? "/", "http://bench").pathname;
    const device = site.devices.find(({ unit }) => path === `/devices/${encodeURIComponent(unit.device)}`);
    if (path === "/data.json") return json(response, 200, { devices: site.devices.map((own) => dataOf(site, own)) });
    if (path === "/account.json") return json(response, 200, { devices: accounts(site) });
    if (device && site.isSilent(device)) return request.socket.destroy();
    if (device) return page(response, 200, device.unit.name, rows(dataOf(site, device).shows));
    if (path === "/") return page(response, 200, "Devices of this site", links(site));
    if (path.startsWith(ACCOUNT)) return account(site, request, path, response);
    return json(response, 404, { message: `There is nothing at ${path}.` });
  });
  const port = await listening(server);
  return {
    url: `http://127.0.0.1:${port}`,
    close: () =>
      new Promise((closed) => {
        server.close(() => closed());
        server.closeAllConnections();
      }),
  };
}

function dataOf(site: SimulatedSite, device: SimulatedSite["devices"][number]) {
  const isOnline = !site.isSilent(device);
  return { device: device.unit.device, name: device.unit.name, isOnline, shows: isOnline ? site.shows(device) : [] };
}

function accounts({ network }: SimulatedSite) {
  return network.devices.map(({ device, name }) => ({ device, name, state: network.flagOf(device) }));
}

function account(
  site: SimulatedSite,
  request: http.IncomingMessage,
  path: string,
  response: http.ServerResponse,
): void {
  const known = site.network.devices.find(({ device }) => path === `${ACCOUNT}/${encodeURIComponent(device)}`);
  if (request.method === "POST" && known) site.cure("not-registered", known.device);
  const lines = accounts(site).map(({ device, name, state }): PageLine => {
    const action = `${ACCOUNT}/${encodeURIComponent(device)}`;
    const form = `<form method="post" action="${action}"><button>Register</button></form>`;
    return { html: `${escaped(name)}: ${state}${state === "unknown-device" ? ` ${form}` : ""}` };
  });
  page(response, 200, "Account of this site", lines);
}

function links(site: SimulatedSite): readonly PageLine[] {
  return [
    ...site.devices.map(({ unit }) => ({
      html: `<a href="/devices/${encodeURIComponent(unit.device)}">${escaped(unit.name)}</a>`,
    })),
    { html: `<a href="${ACCOUNT}">Account</a>` },
  ];
}

function rows(shows: ReturnType<SimulatedSite["shows"]>): readonly PageLine[] {
  return shows.map(({ what, value, unit }) => ({ text: `${what}: ${value} ${unit}` }));
}

function json(response: http.ServerResponse, status: number, body: object): void {
  response.writeHead(status, { "content-type": "application/json" });
  response.end(JSON.stringify(body));
}
