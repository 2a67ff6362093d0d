import { given } from "@/core/given";
import type { KitDevice, ResolvedPlan } from "@/core/plan/resolvedPlan";
import type { OwedTest } from "@/core/plan/visitSettings";
import { brought, type MaterialDraft, type MaterialGroup } from "@/core/visit/bring/material";
import { isInverter, isSolar } from "@/core/visit/visitContext";
import type { VisitPhase } from "@/core/visit/visitStep";

/** What hangs on a wall hangs on so many screws. */
const SCREWS = 4;
/** Where a kit says nothing of its holes, mm, and how deep a plug sits in any. */
const USUAL_DRILL_MM = 8;
const PLUG_DEPTH_MM = 60;
/** What has no wall of its own: plugged in, on a rail, or round a conductor. */
const NOT_ON_A_WALL = ["dongle", "adapter", "router", "ct", "meter"];

/** Wall fixings with drill, bit and depth, and a gland for every cable that comes in. */
export function fixingLines(plan: ResolvedPlan): readonly MaterialDraft[] {
  return brought(plan).flatMap((item) => {
    const mm = item.kit.environment.drillMm ?? USUAL_DRILL_MM;
    const common = { place: item.place?.id, phase: "mount" as const, unit: "pcs" as const, why: item.name };
    const cables = item.kit.ports.filter(({ kind }) => kind === "mains").length + wiredLinks(item);
    return given<MaterialDraft>(
      isOnWall(item) && {
        ...common,
        id: `fixing:${mm}`,
        group: "fixings",
        text: `Wall plugs and screws ${mm} mm, for this wall`,
        quantity: SCREWS,
      },
      isOnWall(item) && {
        ...common,
        id: `tool:drill-${mm}`,
        group: "tools",
        text: `Drill and bit ${mm} mm, holes at least ${PLUG_DEPTH_MM} mm deep`,
        quantity: 1,
      },
      isOnWall(item) && { ...common, id: "tool:level", group: "tools", text: "Level", quantity: 1 },
      cables > 0 && {
        ...common,
        id: "gland",
        group: "fixings",
        text: "Glands with strain relief, for the cable that comes in",
        quantity: cables,
      },
    );
  });
}

function isOnWall({ kit }: KitDevice): boolean {
  return !NOT_ON_A_WALL.includes(kit.kind);
}

function wiredLinks({ links }: KitDevice): number {
  return links.filter(({ kind }) => ["rs485", "can", "ethernet", "dry-contact"].includes(kind)).length;
}

/** Tools, instruments of the tests that are owed, and what protects whoever works. */
export function toolLines(plan: ResolvedPlan, owed: readonly OwedTest[]): readonly MaterialDraft[] {
  const items = brought(plan);
  const line =
    (group: MaterialGroup, phase: VisitPhase) =>
    (id: string, text: string, why: string): MaterialDraft => ({
      id: `tool:${id}`,
      group,
      text,
      quantity: 1,
      unit: "pcs",
      why,
      place: undefined,
      phase,
    });
  const tool = line("tools", "power");
  const instrument = line("instruments", "isolate");
  const gear = line("protective-gear", "isolate");
  const torques = [
    ...new Set(items.flatMap(({ kit }) => kit.ports.flatMap((port) => port.conductors?.torqueNm ?? []))),
  ].toSorted((a, b) => a - b);
  const hasStrings = items.some(isSolar);
  const hasPower = items.some((item) => isInverter(item) || item.kit.kind === "battery");
  const isThree = plan.site.supply.system === "three-phase";
  return given(
    instrument("tester", "Two-pole voltage tester, approved", "proving dead; a non-contact pen is never proof"),
    instrument("proving-unit", "Proving unit, or a known live point", "the tester is proved before and after"),
    tool("lock-off", "Lock-off kit with tag", "isolation"),
    instrument("multimeter", "Multimeter", "polarity, bus resistance, continuity"),
    instrument("clamp-meter", "clamp meter", "comparing a reading with what flows"),
    hasStrings && instrument("dc-meter", "DC voltmeter rated above the longest string", "strings, open, cold"),
    owed.includes("insulation") && instrument("insulation", "Insulation tester, 500 V DC", "insulation resistance"),
    owed.includes("loop") && instrument("loop", "Loop tester", "loop or earth-electrode impedance"),
    owed.includes("residual-current") &&
      instrument("rcd-tester", "Tester for residual-current devices", "time to trip"),
    isThree && owed.includes("rotation") && instrument("rotation", "Phase-rotation tester", "order of the phases"),
    tool("crimper", "Ferrule crimper and stripper", "stranded cores"),
    tool("torque", `Torque screwdriver${torques.length > 0 ? `, ${torques.join(" and ")} N·m` : ""}`, "every terminal"),
    tool("hex-keys", "Hex keys and screwdrivers, insulated", "terminals and covers"),
    tool("insulated", "Insulated hand tools", "boards and batteries"),
    gear("gloves", "Insulating gloves and eye protection", "opening and proving dead"),
    hasPower && gear("arc", "Protective clothing as local rules ask for it", "DC and batteries"),
    items.some(({ kit }) => kit.kind === "adapter") &&
      tool("usb-lead", "Short extension leads for adapters", "long ones do not fit side by side"),
    items.some(({ kit }) => kit.network?.accessPoint || kit.network?.bluetooth) &&
      tool("phone", "Phone with flight mode, charged", "set-up over an access point or Bluetooth"),
  );
}
