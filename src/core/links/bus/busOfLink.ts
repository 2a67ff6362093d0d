import type { Kit } from "@/core/kits/kitSchema";
import { USUAL_BUS, USUAL_BUS_DEVICE, type BusDevice, type Rs485Bus } from "@/core/links/bus/rs485Schema";
import { polledCounts } from "@/core/kits/registersOf";
import { asksOnLine } from "@/core/plan/linkEnds";
import type { PlanLink } from "@/core/plan/resolvedPlan";
import { MOST_ID_CHARACTERS } from "@/core/names";
import { distinctNames } from "@/core/words";

/**
 * A planned RS-485 link as the bus that `rs485` computes with: distances from the places, loads, bias and receivers
 * from the kits, polls from their registers. Undefined for another kind of link or when a member is gone.
 */
export function busOfLink({ kind, whole: ends, baud: ownBaud }: PlanLink): Rs485Bus | undefined {
  if (kind !== "rs485" || !ends) return undefined;
  const settings = (ends.find(asksOnLine) ?? ends[0])?.device.kit.serial ?? ends[0]?.device.kit.serial;
  const callNames = distinctNames(
    ends.map(({ device, port }) => ({ name: device.name, more: `${device.id} ${port.label}` })),
    MOST_ID_CHARACTERS,
  );
  const receivers = ends.map(({ port }) => port.receiver ?? "plain");
  const { baud, dataBits, parity, stopBits } = settings ?? USUAL_BUS;
  return {
    ...USUAL_BUS,
    baud: ownBaud ?? baud,
    dataBits,
    parity,
    stopBits,
    receiver: receivers.includes("plain") ? "plain" : "fail-safe",
    devices: ends.map((end, at): BusDevice => {
      const { member, port, device, cableM } = end;
      const isAsked = !asksOnLine(end, at) && device.kit.kind !== "radio-pair";
      return {
        ...USUAL_BUS_DEVICE,
        id: callNames[at]!,
        role: asksOnLine(end, at) ? "client" : "server",
        distanceM: cableM ?? 0,
        stubM: member.stubM ?? 0,
        unitLoad: port.unitLoad ?? 1,
        terminator: member.terminator ?? false,
        bias: port.bias ?? null,
        ...(member.address === undefined ? {} : { address: member.address }),
        ...(isAsked ? serialOf(device.kit) : {}),
        poll: isAsked ? polledCounts(device.kit).map((registers) => ({ registers })) : [],
        turnaroundMs: device.kit.kind === "radio-pair" ? 0 : (device.kit.serial?.turnaroundMs ?? 0),
      };
    }),
  };
}

/** What a kit comes set to; where that is not the bus's setting, it has to be set. */
function serialOf({ serial }: Kit): Partial<BusDevice> {
  return serial
    ? { baud: serial.baud, dataBits: serial.dataBits, parity: serial.parity, stopBits: serial.stopBits }
    : {};
}
