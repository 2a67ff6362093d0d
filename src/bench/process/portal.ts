import http from "node:http";
import { listening } from "@/bench/process/loopback";
import type { SimulatedSite } from "@/bench/process/simulatedSite";

/** A stand-in of the place in the internet where a customer looks at the site, and of each device's own page. */
export interface Portal {
  readonly url: string;
  readonly close: () => Promise<void>;
}

/** `/` lists the devices, `/devices/<id>` is a device's own page, `/data.json` is what a program asks for. */
export async function portal(site: SimulatedSite): Promise<Portal> {
  const server = http.createServer((request, response) => {
    const path = new URL(request.url ?? "/", "http://bench").pathname;
    const device = site.devices.find(({ unit }) => path === `/devices/${encodeURIComponent(unit.device)}`);
    if (path === "/data.json") return json(response, 200, { devices: site.devices.map((own) => dataOf(site, own)) });
    if (device && site.isSilent(device)) return request.socket.destroy();
    if (device) return page(response, device.unit.name, rows(dataOf(site, device).shows));
    if (path === "/") return page(response, "Devices of this site", links(site));
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

function links(site: SimulatedSite): string {
  return site.devices
    .map(({ unit }) => `<li><a href="/devices/${encodeURIComponent(unit.device)}">${escaped(unit.name)}</a></li>`)
    .join("");
}

function rows(shows: ReturnType<SimulatedSite["shows"]>): string {
  return shows.map(({ what, value, unit }) => `<li>${escaped(what)}: ${value} ${escaped(unit)}</li>`).join("");
}

function page(response: http.ServerResponse, title: string, list: string): void {
  response.writeHead(200, { "content-type": "text/html; charset=utf-8" });
  response.end(
    `<!doctype html><html lang="en"><title>${escaped(title)}</title><h1>${escaped(title)}</h1><ul>${list}</ul></html>`,
  );
}

function json(response: http.ServerResponse, status: number, body: object): void {
  response.writeHead(status, { "content-type": "application/json" });
  response.end(JSON.stringify(body));
}

function escaped(text: string): string {
  return text.replace(/[&<>"]/g, (character) => `&#${character.charCodeAt(0)};`);
}
