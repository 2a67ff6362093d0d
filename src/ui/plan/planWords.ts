import type { KitKind } from "@/core/kits/kitSchema";
import type { NodeKind, SensingRole, Shelter } from "@/core/site/planSchema";

export const NODE_KIND_WORDS: Readonly<Record<NodeKind, string>> = {
  grid: "supply",
  board: "board",
  load: "load",
  "test-load": "test load",
  "pv-inverter": "solar inverter",
  "battery-inverter": "battery inverter",
  "hybrid-inverter": "hybrid inverter",
  diverter: "heater diverter",
  "ev-charger": "car charger",
  "heat-pump": "heat pump",
  generator: "generator",
};

export const KIT_KIND_WORDS: Readonly<Record<KitKind, string>> = {
  "pv-inverter": "solar inverter",
  "battery-inverter": "battery inverter",
  "hybrid-inverter": "hybrid inverter",
  diverter: "heater diverter",
  "ev-charger": "car charger",
  "heat-pump": "heat pump",
  generator: "generator",
  meter: "meter",
  "energy-manager": "energy manager",
  transmitter: "radio transmitter",
  ct: "CT",
  battery: "battery",
  "backup-box": "backup box",
  gateway: "gateway",
  dongle: "plug-in module",
  "radio-pair": "radio pair",
  logger: "data logger",
  monitor: "local monitor",
  "export-controller": "export controller",
  router: "router",
  adapter: "adapter",
  receiver: "grid operator's receiver",
  switch: "switch",
};

export const SHELTER_WORDS: Readonly<Record<Shelter, string>> = {
  indoors: "indoors, heated",
  unheated: "under a roof, unheated",
  outdoors: "outdoors",
};

export const ROLE_WORDS: Readonly<Record<SensingRole, string>> = {
  grid: "everything that passes the supply",
  generation: "solar alone",
  battery: "the battery alone",
  consumption: "the loads alone",
  heater: "the heater alone",
  vehicle: "the vehicle alone",
};

/** Which kinds of kit stand in the plan as a device of this kind. */
export function kitKindsOf(kind: NodeKind): readonly KitKind[] {
  switch (kind) {
    case "grid":
    case "load":
    case "test-load":
      return [];
    case "board":
      return ["backup-box", "energy-manager"];
    default:
      return [kind];
  }
}
