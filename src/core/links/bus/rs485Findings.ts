import { joinedSentences, said, together } from "@/core/sentence";
import type { Finding } from "@/core/findings";
import { given } from "@/core/given";
import { linkFinding } from "@/core/links/check/linkFinding";
import type { BusDevice, BusFigures, Rs485Bus } from "@/core/links/bus/rs485Schema";
import { threeDigits } from "@/core/units";

const SOURCE = "RS-485 (TIA/EIA-485-A) and the Modbus serial line specification";
const FIRST_ADDRESS = 1;
const LAST_ADDRESS = 247;
const MOST_UNIT_LOADS = 32;
const LEAST_IDLE_MV = { plain: 200, "fail-safe": -50 } as const;
const LEAST_LEVEL_MV = 200;
const SERIAL_FIELDS = ["baud", "dataBits", "parity", "stopBits"] as const;

const make = linkFinding(SOURCE);

/**
 * What is wrong with an RS-485 line. The codes are stable: `two-clients`, `no-client`, `address-missing`,
 * `address-range`,
 * `address-duplicate`, `serial-mismatch`, `too-long`, `stub-too-long`, `too-many-unit-loads`, `terminator-missing`,
 * `terminator-extra`, `terminator-misplaced`, `termination-optional`, `idle-too-low`, `level-too-low`.
 */
export function rs485Findings(bus: Rs485Bus, figures: BusFigures): readonly Finding[] {
  return [
    ...clientFindings(bus.devices),
    ...addressFindings(bus.devices),
    ...serialFindings(bus),
    ...lengthFindings(bus, figures),
    ...terminatorFindings(bus.devices, figures),
    ...levelFindings(bus, figures),
  ];
}

function clientFindings(devices: readonly BusDevice[]): readonly Finding[] {
  const clients = devices.filter((device) => device.role === "client");
  if (clients.length === 0)
    return [
      make(
        "no-client",
        "stop",
        undefined,
        "Nobody asks on this bus",
        said`${devices.length} devices, none of them a client.`,
        "Set the device that is to read the others to client",
      ),
    ];
  return clients
    .slice(1)
    .map((client) =>
      make(
        "two-clients",
        "stop",
        client.id,
        "Two clients on one bus",
        said`${clients[0]!.id} and ${client.id} both ask; each takes the other's answers for its own.`,
        said`Give ${client.id} a port of its own, a gateway, or let it read through ${clients[0]!.id}`,
      ),
    );
}

function addressFindings(devices: readonly BusDevice[]): readonly Finding[] {
  const servers = devices.filter((device) => device.role === "server");
  return servers.flatMap((server, at): readonly Finding[] => {
    const { id, address } = server;
    if (address === undefined)
      return [
        make(
          "address-missing",
          "fix",
          id,
          "No address",
          said`${id} has no address.`,
          said`Give ${id} an address from ${FIRST_ADDRESS} to ${LAST_ADDRESS}`,
        ),
      ];
    if (address < FIRST_ADDRESS || address > LAST_ADDRESS) {
      return [
        make(
          "address-range",
          "fix",
          id,
          "Address out of range",
          said`${id} has address ${address}; a bus has ${FIRST_ADDRESS} to ${LAST_ADDRESS}.`,
          said`Set ${id} to ${freeAddress(servers)}`,
        ),
      ];
    }
    const twin = servers.slice(0, at).find((other) => other.address === address);
    return twin
      ? [
          make(
            "address-duplicate",
            "stop",
            id,
            "One address for two devices",
            said`${twin.id} and ${id} both have address ${address} and answer at once.`,
            said`Set ${id} to ${freeAddress(servers)}`,
          ),
        ]
      : [];
  });
}

function freeAddress(servers: readonly BusDevice[]): number {
  const taken = new Set(servers.map((server) => server.address));
  for (let address = FIRST_ADDRESS; address <= LAST_ADDRESS; address++) if (!taken.has(address)) return address;
  return LAST_ADDRESS;
}

function serialFindings(bus: Rs485Bus): readonly Finding[] {
  return bus.devices.flatMap((device) => {
    const odd = SERIAL_FIELDS.filter((field) => device[field] !== undefined && device[field] !== bus[field]);
    if (odd.length === 0) return [];
    const settings = (of: typeof device | typeof bus) =>
      joinedSentences(
        odd.map((field) => said`${field} ${of[field]}`),
        ", ",
      );
    return [
      make(
        "serial-mismatch",
        "fix",
        device.id,
        "Other serial settings than the bus",
        said`${device.id} has ${settings(device)}; the bus has ${settings(bus)}.`,
        said`Set ${device.id} to ${settings(bus)}`,
      ),
    ];
  });
}

function lengthFindings(bus: Rs485Bus, { lengthM, maxLengthM, stubLimitM }: BusFigures): readonly Finding[] {
  const unitLoads = bus.devices.reduce((sum, device) => sum + device.unitLoad, 0);
  return given(
    lengthM > maxLengthM &&
      make(
        "too-long",
        "fix",
        undefined,
        "Line too long for its speed",
        said`${threeDigits(lengthM)} m at ${bus.baud} baud; it carries ${threeDigits(maxLengthM)} m.`,
        lengthM > 1200
          ? "Split the line with a repeater, or use a radio pair or the network"
          : said`Take ${fasterBaud(lengthM)} baud or less`,
      ),
    bus.devices
      .filter((device) => device.stubM > stubLimitM)
      .map((device) =>
        make(
          "stub-too-long",
          "fix",
          device.id,
          "Stub too long",
          together(
            said`${device.id} hangs on ${threeDigits(device.stubM)} m; ${threeDigits(stubLimitM)} m is the most `,
            said`for a rise time of ${threeDigits(bus.riseTimeNs)} ns.`,
          ),
          said`Lead the line through ${device.id}: in and out at its terminals`,
        ),
      ),
    unitLoads > MOST_UNIT_LOADS &&
      make(
        "too-many-unit-loads",
        "fix",
        undefined,
        "Too many devices for one driver",
        said`${threeDigits(unitLoads)} unit loads; a driver carries ${MOST_UNIT_LOADS}.`,
        "Split the bus, or put a repeater in",
      ),
  );
}

/** The usual speed below which the line is long enough. */
function fasterBaud(lengthM: number): number {
  return [115_200, 57_600, 38_400, 19_200, 9600, 4800, 2400, 1200].find((baud) => lengthM * baud <= 1e8) ?? 1200;
}

function terminatorFindings(
  devices: readonly BusDevice[],
  { terminationMatters, roundTripNs, bitNs }: BusFigures,
): readonly Finding[] {
  const isEnd = (at: number) => at === 0 || at === devices.length - 1;
  const fitted = devices.filter((device) => device.terminator).length;
  const severity = terminationMatters ? "fix" : "note";
  const why = together(
    said`the round trip of ${threeDigits(roundTripNs)} ns is ${terminationMatters ? "more" : "less"} `,
    said`than a tenth of a bit (${threeDigits(bitNs / 10)} ns)`,
  );
  const findings = devices.flatMap((device, at): readonly Finding[] => {
    if (isEnd(at) && !device.terminator && terminationMatters) {
      return [
        make(
          "terminator-missing",
          "fix",
          device.id,
          "No terminator at the end of the line",
          said`${device.id} is an end without a terminator; ${why}.`,
          said`Switch the terminator of ${device.id} on, or fit 120 Ω`,
        ),
      ];
    }
    if (isEnd(at) || !device.terminator) return [];
    return fitted > 2
      ? [
          make(
            "terminator-extra",
            "fix",
            device.id,
            "One terminator too many",
            together(
              said`${device.id} is in the middle and has the terminator number ${fitted}; the driver sees `,
              said`${threeDigits(120 / fitted)} Ω.`,
            ),
            said`Switch the terminator of ${device.id} off`,
          ),
        ]
      : [
          make(
            "terminator-misplaced",
            severity,
            device.id,
            "Terminator in the middle of the line",
            said`${device.id} is not at an end of the line; ${why}.`,
            said`Switch the terminator of ${device.id} off and the one at the end on`,
          ),
        ];
  });
  const isOptional = !terminationMatters && findings.length === 0 && devices.length > 1;
  return isOptional
    ? [
        make(
          "termination-optional",
          "note",
          undefined,
          "Terminators make no difference here",
          said`With ${fitted} of 2 fitted: ${why}. Both methods pass.`,
          "Leave it as it is, or follow the maker's manual",
        ),
      ]
    : findings;
}

function levelFindings(bus: Rs485Bus, { idleMv, idleFarMv, farEndMv, loadOhm }: BusFigures): readonly Finding[] {
  const least = LEAST_IDLE_MV[bus.receiver];
  const lowerMv = Math.min(idleMv, idleFarMv);
  const where = idleFarMv < idleMv ? "the far end" : "the client";
  return given(
    lowerMv < least &&
      make(
        "idle-too-low",
        "fix",
        undefined,
        "Idle line not held",
        together(
          said`${threeDigits(lowerMv)} mV idle at ${where}, across ${threeDigits(loadOhm)} Ω; ${bus.receiver} `,
          said`receivers need ${least} mV.`,
        ),
        bus.devices.some((device) => device.bias)
          ? "Take smaller bias resistors, or a terminator less"
          : "Switch bias on in exactly one device, usually the client",
      ),
    farEndMv < LEAST_LEVEL_MV &&
      make(
        "level-too-low",
        "fix",
        undefined,
        "Too weak at the far end",
        said`${threeDigits(farEndMv)} mV arrive; a receiver needs ${LEAST_LEVEL_MV} mV and a margin for noise.`,
        "Take a thicker cable, or a repeater",
      ),
  );
}
