import type { KitKind } from "@/core/kits/kitSchema";
import type { NodeKind, SensingRole, Shelter } from "@/core/site/planSchema";
import { PLAN_WORDS } from "@/ui/words/planWords";

/** What a plan and a kit call alike. */
const DEVICE_WORDS = {
  "pv-inverter": PLAN_WORDS.solarInverter,
  "battery-inverter": PLAN_WORDS.batteryInverter,
  "hybrid-inverter": PLAN_WORDS.hybridInverter,
  diverter: PLAN_WORDS.heaterDiverter,
  "ev-charger": PLAN_WORDS.carCharger,
  "heat-pump": PLAN_WORDS.heatPump,
  generator: PLAN_WORDS.generator,
} as const;

export const NODE_KIND_WORDS: Readonly<Record<NodeKind, string>> = {
  grid: PLAN_WORDS.supplyLower,
  board: PLAN_WORDS.board,
  load: PLAN_WORDS.load,
  "test-load": PLAN_WORDS.testLoad,
  ...DEVICE_WORDS,
};

export const KIT_KIND_WORDS: Readonly<Record<KitKind, string>> = {
  ...DEVICE_WORDS,
  meter: PLAN_WORDS.meterLower,
  "energy-manager": PLAN_WORDS.energyManager,
  transmitter: PLAN_WORDS.radioTransmitter,
  ct: PLAN_WORDS.ct,
  battery: PLAN_WORDS.battery,
  "backup-box": PLAN_WORDS.backupBox,
  gateway: PLAN_WORDS.gateway,
  dongle: PLAN_WORDS.plugInModule,
  "radio-pair": PLAN_WORDS.radioPairLower,
  logger: PLAN_WORDS.dataLogger,
  monitor: PLAN_WORDS.localMonitor,
  "export-controller": PLAN_WORDS.exportController,
  router: PLAN_WORDS.router,
  adapter: PLAN_WORDS.adapter,
  receiver: PLAN_WORDS.gridOperatorsReceiver,
  switch: PLAN_WORDS.switch,
};

export const SHELTER_WORDS: Readonly<Record<Shelter, string>> = {
  indoors: PLAN_WORDS.indoorsHeated,
  unheated: PLAN_WORDS.underARoofUnheated,
  outdoors: PLAN_WORDS.outdoors,
};

export const ROLE_WORDS: Readonly<Record<SensingRole, string>> = {
  grid: PLAN_WORDS.everythingThatPassesTheSupply,
  generation: PLAN_WORDS.solarAlone,
  battery: PLAN_WORDS.theBatteryAlone,
  consumption: PLAN_WORDS.theLoadsAlone,
  heater: PLAN_WORDS.theHeaterAlone,
  vehicle: PLAN_WORDS.theVehicleAlone,
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
