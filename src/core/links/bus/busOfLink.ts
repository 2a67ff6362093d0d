import type { Kit } from "@/core/kits/kitSchema";
import { linkItems, memberDistancesM, memberPort, type KitPort, type LinkItem } from "@/core/links/linkItems";
import type { Link } from "@/core/links/linkSchema";
import { USUAL_BUS, USUAL_BUS_DEVICE, type BusDevice, type Rs485Bus } from "@/core/links/bus/rs485Schema";
import { MOST_ID_CHARACTERS, type Site } from "@/core/site/planSchema";
import { distinctNames } from "@/core/words";

/** Registers that one request fetches at most; more are asked for in further blocks. */
const REGISTERS_A_BLOCK = 40;
const REGISTERS_OF_TYPE = { u16: 1, s16: 1, u32: 2, s32: 2, f32: 2 } as const;

/**
 * A planned RS-485 link as the bus that `rs485` computes with: distances from the places, loads, bias and receivers
 * from
 * the kits, polls from their registers. Undefined for another kind of link or when a member is gone.
 */
export function busOfLink(site: Site, kits: readonly Kit[], link: Link): Rs485Bus | undefined {
  if (link.kind !== "rs485") return undefined;
  const items = linkItems(site, kits);
  const distances = memberDistancesM(site, items, link);
  const ports = link.members.map((member) => memberPort(items, member));
  if (ports.some((port) => port === undefined)) return undefined;
  const isClient = (port: KitPort, item: LinkItem, at: number) => asksOnLine(port, item, at);
  const settings =
    ports.find((end, at) => end && isClient(end.port, end.item, at))?.item.kit.serial ?? ports[0]?.item.kit.serial;
  const callNames = distinctNames(
    ports.map((end) => ({ name: end!.item.name, more: `${end!.item.id} ${end!.port.label}` })),
    MOST_ID_CHARACTERS,
  );
  const receivers = ports.map((end) => end!.port.receiver ?? "plain");
  const { baud, dataBits, parity, stopBits } = settings ?? USUAL_BUS;
  return {
    ...USUAL_BUS,
    baud: link.baud ?? baud,
    dataBits,
    parity,
    stopBits,
    receiver: receivers.includes("plain") ? "plain" : "fail-safe",
    devices: link.members.map((member, at): BusDevice => {
      const { port, item } = ports[at]!;
      return {
        ...USUAL_BUS_DEVICE,
        id: callNames[at]!,
        role: isClient(port, item, at) ? "client" : "server",
        distanceM: distances[at] ?? 0,
        stubM: member.stubM ?? 0,
        unitLoad: port.unitLoad ?? 1,
        terminator: member.terminator ?? false,
        bias: port.bias ?? null,
        ...(member.address === undefined ? {} : { address: member.address }),
        ...(isClient(port, item, at) || item.kit.kind === "radio-pair" ? {} : serialOf(item.kit)),
        poll: isClient(port, item, at) || item.kit.kind === "radio-pair" ? [] : blocks(item.kit),
        turnaroundMs: item.kit.kind === "radio-pair" ? 0 : (item.kit.serial?.turnaroundMs ?? 0),
      };
    }),
  };
}

/**
 * Whether a port asks on its line. One that can do either does so at the head of a line that has no other client; half
 * of a
 * radio pair stands there for whoever asks at the other end.
 */
export function asksOnLine(port: KitPort, item: LinkItem, at: number): boolean {
  if (port.role !== "either") return port.role === "client";
  return (
    at === 0 &&
    (item.kit.kind === "radio-pair" || item.kit.kind === "pv-inverter" || item.kit.kind === "hybrid-inverter")
  );
}

/** What a kit comes set to; where that is not the bus's setting, it has to be set. */
function serialOf({ serial }: Kit): Partial<BusDevice> {
  return serial
    ? { baud: serial.baud, dataBits: serial.dataBits, parity: serial.parity, stopBits: serial.stopBits }
    : {};
}

function blocks(kit: Kit): BusDevice["poll"] {
  const count = (kit.serial?.registers ?? []).reduce((sum, register) => sum + REGISTERS_OF_TYPE[register.type], 0);
  const whole = Math.max(1, Math.ceil(count / REGISTERS_A_BLOCK));
  return Array.from({ length: whole }, (_, at) => ({
    registers: Math.max(1, Math.min(REGISTERS_A_BLOCK, count - at * REGISTERS_A_BLOCK)),
  }));
}
