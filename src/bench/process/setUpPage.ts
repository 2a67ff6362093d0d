import http from "node:http";
import { escaped, page, type PageLine } from "@/bench/process/webPage";
import type { SimulatedNetwork } from "@/bench/process/simulatedNetwork";
import { BENCH_WIFI } from "@/core/bench/benchWifi";

const MOST_BYTES = 2_000;

/**
 * A device's own set-up page, as its access point serves it: it takes the network's name and passphrase, says whether
 * the device joins by them, and forgets what was typed.
 */
export function setUpPage(network: SimulatedNetwork, device: string, onJoined: () => Promise<void>): http.Server {
  return http.createServer((request, response) => {
    if (request.method !== "POST") return formPage(network, device, response, "");
    let body = "";
    request.on("data", (chunk: Buffer) => {
      body += chunk.toString();
      if (body.length > MOST_BYTES) request.destroy();
    });
    request.on("end", () => {
      const typed = new URLSearchParams(body);
      const joins = typed.get("name") === BENCH_WIFI.name && typed.get("passphrase") === BENCH_WIFI.passphrase;
      const answer = () => formPage(network, device, response, joins ? "It joins." : "The network refuses it.");
      if (joins) void onJoined().then(answer);
      else answer();
    });
  });
}

function formPage(network: SimulatedNetwork, device: string, response: http.ServerResponse, said: string): void {
  const { name, lamps } = network.look(device);
  const lines: PageLine[] = [
    ...(said === "" ? [] : [{ text: said }]),
    ...lamps.map((text) => ({ text: `Lamp: ${text}` })),
    {
      html:
        `<form method="post"><label>Network <input name="name" value="${escaped(BENCH_WIFI.name)}"></label> ` +
        `<label>Passphrase <input name="passphrase"></label> <button>Join</button></form>`,
    },
  ];
  page(response, 200, `Set-up of ${name}`, lines);
}
