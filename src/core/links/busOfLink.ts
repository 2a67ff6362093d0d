import type { Finding } from "@/core/findings";
import type { Kit } from "@/core/kits/kitSchema";
import { can, canRequestSchema } from "@/core/links/can";
import { linkItems, memberDistancesM, memberPort } from "@/core/links/linkItems";
import { linkFinding } from "@/core/links/linkFinding";
import type { Link } from "@/core/links/linkSchema";
import { rs485 } from "@/core/links/rs485";
import { rs485RequestSchema, type Rs485Bus } from "@/core/links/rs485Schema";
import type { Site } from "@/core/site/planSchema";

/** Registers that one request fetches at most; more are asked for in further blocks. */
const REGISTERS_A_BLOCK = 40;
const REGISTERS_OF_TYPE = { u16: 1, s16: 1, u32: 2, s32: 2, f32: 2 } as const;

/**
 * A planned RS-485 link as the bus that `rs485` computes with: distances from the places, loads, bias and receivers from
 * the kits, polls from their registers. Undefined for another kind of link or when a member is gone.
 */
export function busOfLink(site: Site, kits: readonly Kit[], link: Link): Rs485Bus | undefined {
  if (link.kind !== "rs485") return undefined;
  const items = linkItems(site, kits);
  const distances = memberDistancesM(site, items, link);
  const ports = link.members.map((member) => memberPort(items, member));
  if (ports.some((port) => port === undefined)) return undefined;
  const settings = ports.find((end) => end?.port.role === "client")?.item.kit.serial ?? ports[0]?.item.kit.serial;
  // Two devices of one name must still be told apart.
  const callNames = ports.map((end, at) => ports.some((other, which) => which !== at && other!.item.name === end!.item.name) ? `${end!.item.name} (${end!.item.id} ${end!.port.label})`.slice(0, 64) : end!.item.name.slice(0, 64));
  const receivers = ports.map((end) => end!.port.receiver ?? "plain");
  return rs485RequestSchema.parse({
    baud: link.baud ?? settings?.baud ?? 9600, dataBits: settings?.dataBits ?? 8, parity: settings?.parity ?? "none", stopBits: settings?.stopBits ?? 1,
    receiver: receivers.includes("plain") ? "plain" : "fail-safe",
    devices: link.members.map((member, at) => {
      const { port, item } = ports[at]!;
      return {
        id: callNames[at]!, role: port.role === "client" ? "client" : "server", distanceM: distances[at] ?? 0, stubM: member.stubM ?? 0, unitLoad: port.unitLoad ?? 1,
        terminator: member.terminator ?? false, bias: port.bias ?? null, ...(member.address === undefined ? {} : { address: member.address }),
        ...(port.role === "client" ? {} : serialOf(item.kit)), poll: port.role === "client" ? [] : blocks(item.kit), turnaroundMs: item.kit.serial?.turnaroundMs ?? 0,
      };
    }),
  });
}

/** What a kit comes set to; where that is not the bus's setting, it has to be set. */
function serialOf({ serial }: Kit): object {
  return serial ? { baud: serial.baud, dataBits: serial.dataBits, parity: serial.parity, stopBits: serial.stopBits } : {};
}

function blocks(kit: Kit): readonly { readonly registers: number }[] {
  const count = (kit.serial?.registers ?? []).reduce((sum, register) => sum + REGISTERS_OF_TYPE[register.type], 0);
  const whole = Math.max(1, Math.ceil(count / REGISTERS_A_BLOCK));
  return Array.from({ length: whole }, (_, at) => ({ registers: Math.max(1, Math.min(REGISTERS_A_BLOCK, count - at * REGISTERS_A_BLOCK)) }));
}

/**
 * What is wrong with the links of a plan, each finding with the link's name. A kit that comes set to other serial
 * settings than its bus is a note, with the values to set. That terminators make no difference is no finding of a plan.
 */
export function linkFindings(site: Site, kits: readonly Kit[], links: readonly Link[]): readonly Finding[] {
  const items = linkItems(site, kits);
  return links.flatMap((link): readonly Finding[] => {
    const named = (finding: Finding): Finding => ({ ...finding, id: `${link.id}:${finding.id}`, detail: `${link.name}: ${finding.detail}` });
    const gone = link.members.filter((member) => memberPort(items, member) === undefined);
    if (gone.length > 0) return [named(linkFinding("Links against the plan")("member-gone", "fix", gone[0]!.item, "A port of this link is gone", `${gone.map((member) => member.item).join(", ")} has no such port any more.`, "Propose the links anew, or remove this one"))];
    const unlaid = memberDistancesM(site, items, link).some((distance) => distance === undefined);
    const noCable = unlaid ? [named(linkFinding("Ways between the places")("no-cable", "fix", undefined, "No cable can be laid", "two of its places are joined by no cable.", "Carry it by a radio pair, or measure the way"))] : [];
    const bus = busOfLink(site, kits, link);
    if (bus) return [...noCable, ...rs485(bus).findings.filter(({ code }) => code !== "termination-optional").map(asPlanned).map(named)];
    const lengthM = memberDistancesM(site, items, link).reduce<number>((sum, distance) => sum + (distance ?? 0), 0);
    const result = can(canRequestSchema.parse({
      bitrate: link.baud ?? 500_000, lengthM, terminators: link.members.filter((member) => member.terminator).length,
      frames: link.members.flatMap((member) => memberPort(items, member)!.item.kit.can?.frames ?? []).map(({ id, bytes, perSecond, extended }) => ({ id, bytes, perSecond, extended })),
    }));
    return [...noCable, ...result.findings.map(named), ...bitrateFindings(link, items).map(named)];
  });
}

/** A kit that comes set to something else is no fault yet: it is a value to enter. */
function asPlanned(finding: Finding): Finding {
  return finding.code === "serial-mismatch" ? { ...finding, severity: "note", title: "To be set for this bus" } : finding;
}

function bitrateFindings(link: Link, items: ReturnType<typeof linkItems>): readonly Finding[] {
  const rates = link.members.flatMap((member) => { const end = memberPort(items, member); return end?.item.kit.can ? [{ name: end.item.name, bitrate: end.item.kit.can.bitrate }] : []; });
  const odd = rates.find(({ bitrate }) => bitrate !== (link.baud ?? rates[0]?.bitrate));
  return odd ? [linkFinding("Kits of both ends, can.bitrate")("bitrate-mismatch", "fix", odd.name, "Both ends speak at different speeds", `${odd.name} speaks at ${odd.bitrate / 1000} kbit/s, the link is for ${(link.baud ?? 0) / 1000}.`, "Set both to one bit rate, or choose a battery that fits")] : [];
}
