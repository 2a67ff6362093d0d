import { describe, expect, it } from "vitest";
import { canResponseSchema } from "@/core/links/bus/can";
import { ethernetResponseSchema } from "@/core/links/network/ethernet";
import { radioResponseSchema } from "@/core/links/air/radio";
import { rs485ResponseSchema } from "@/core/links/bus/rs485Schema";
import { usualAnswers } from "@/core/patterns/patternAnswers";
import { shippedPattern } from "../fixtures/shipped";
import { fromTestRun } from "../setup/environment";

const BUS = {
  baud: 9600,
  dataBits: 8,
  parity: "none",
  stopBits: 1,
  vccV: 5,
  receiver: "plain",
  cable: { ohmPerKm: 84, velocityFactor: 0.66, z0Ohm: 120 },
  riseTimeNs: 250,
  devices: [
    {
      id: "ctl",
      role: "client",
      distanceM: 0,
      stubM: 0,
      unitLoad: 1,
      terminator: true,
      bias: { upOhm: 560, downOhm: 560 },
    },
    {
      id: "meter",
      role: "server",
      address: 11,
      distanceM: 38,
      stubM: 0.2,
      unitLoad: 0.125,
      terminator: true,
      bias: null,
      poll: [{ registers: 20 }, { registers: 6 }],
      turnaroundMs: 12,
      timeoutMs: 500,
      retries: 1,
    },
  ],
};
const LEAD = ["white-orange", "orange", "white-green", "blue", "white-blue", "green", "white-brown", "brown"];

describe("the routes of links", () => {
  it("answer what their schemas say", async () => {
    expect(rs485ResponseSchema.parse((await post("rs485", BUS)).body).pollCycleMs).toBeCloseTo(119.8, 1);
    expect(
      canResponseSchema.parse(
        (
          await post("can", {
            bitrate: 500_000,
            samplePoint: 0.875,
            lengthM: 20,
            loopDelayNs: 250,
            terminators: 2,
            frames: [{ id: 849, bytes: 8, perSecond: 1, extended: false }],
          })
        ).body,
      ),
    ).toMatchObject({ marginNs: 1050, resistanceOffOhm: 60 });
    expect(
      radioResponseSchema.parse(
        (
          await post("radio", {
            frequencyMhz: 868,
            txDbm: 14,
            gainsDbi: 0,
            distanceM: 55,
            exponent: 2.7,
            wallsDb: [8],
            marginDb: 10,
            spreadingFactor: 7,
            bandwidthKhz: 125,
            codingRate: 5,
            preamble: 8,
            payloadBytes: 20,
          })
        ).body,
      ),
    ).toMatchObject({ airTimeMs: 56.576 });
    expect(ethernetResponseSchema.parse((await post("ethernet", { endA: LEAD, endB: LEAD })).body)).toMatchObject({
      verdict: "straight",
      faults: [],
    });
  });

  it.each<readonly [string, object, readonly string[]]>([
    ["rs485", { ...BUS, baud: "fast", devices: [BUS.devices[0], { ...BUS.devices[1], id: "ctl" }] }, ["baud"]],
    ["rs485", { ...BUS, devices: [BUS.devices[0], { ...BUS.devices[1], id: "ctl" }] }, ["devices[1].id"]],
    ["rs485", { ...BUS, devices: [] }, ["devices"]],
    [
      "can",
      { bitrate: 500_000, lengthM: -1, terminators: 2, frames: [{ id: 1, bytes: 9, perSecond: 1 }] },
      ["frames[0].bytes", "lengthM"],
    ],
    [
      "radio",
      { frequencyMhz: 868, txDbm: 14, distanceM: 0, spreadingFactor: 13, bandwidthKhz: 125, payloadBytes: 20 },
      ["distanceM", "spreadingFactor"],
    ],
    [
      "ethernet",
      { endA: LEAD.slice(1), endB: LEAD.map((colour, at) => (at === 0 ? "pink" : colour)) },
      ["endA", "endB[0]"],
    ],
  ])("%s refuses nonsense with the path of each problem", async (route, request, paths) => {
    const { status, body } = await post(route, request);
    expect(status).toBe(400);
    expect((body as { error: { issues: { path: string }[] } }).error.issues.map((issue) => issue.path).sort()).toEqual(
      paths,
    );
  });
});

describe("the wiring schedule", () => {
  it("comes as CSV and as PDF, with the leads of its CTs where there is no link", async () => {
    const of = async (id: string) => {
      const pattern = shippedPattern(id);
      const job = (await (
        await fetch(`${fromTestRun("GORMIT_TEST_APP")}/api/v1/jobs?from=pattern`, {
          method: "POST",
          body: JSON.stringify({ ...usualAnswers(pattern), name: `Wiring ${id}` }),
          headers: { "content-type": "application/json" },
        })
      ).json()) as { id: string };
      return `${fromTestRun("GORMIT_TEST_APP")}/api/v1/jobs/${job.id}`;
    };
    const storage = await of("three-phase-storage");
    expect(await (await fetch(`${storage}/wiring.csv`)).text()).toContain(
      '"can-1","Network cable Cat 6, shielded","white-orange","pair 2","can-high","Hybrid inverter ' +
        'BMS","CANH","1","","Battery stack INV","H","4","","pin 1 to pin 4: a straight patch lead would be wrong"',
    );
    expect(
      Buffer.from(await (await fetch(`${storage}/wiring.pdf`)).arrayBuffer())
        .subarray(0, 5)
        .toString(),
    ).toBe("%PDF-");
    const { revision, document } = (await (await fetch(storage)).json()) as { revision: number; document: object };
    await fetch(storage, {
      method: "PUT",
      body: JSON.stringify({ revision, document: { ...document, links: [] } }),
      headers: { "content-type": "application/json" },
    });
    expect((await fetch(`${storage}/wiring.pdf`)).status).toBe(200);
    expect(await (await fetch(`${storage}/wiring.csv`)).text()).toContain('"CT lead"');
  });
});

async function post(route: string, request: object): Promise<{ status: number; body: unknown }> {
  const response = await fetch(`${fromTestRun("GORMIT_TEST_APP")}/api/v1/compute/${route}`, {
    method: "POST",
    body: JSON.stringify(request),
    headers: { "content-type": "application/json" },
  });
  return { status: response.status, body: await response.json() };
}
