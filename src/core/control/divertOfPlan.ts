import type { ResolvedPlan } from "@/core/plan/resolvedPlan";
import { surplusOrders } from "@/core/simulation/diversion";
import {
  USUAL_DIVERSION,
  USUAL_FIELD,
  USUAL_HEATER,
  USUAL_STORAGE,
  USUAL_VEHICLE,
  type DiversionRequest,
  type SurplusActor,
} from "@/core/simulation/diversionSchema";
import type { Site } from "@/core/site/planSchema";

/** Modules for each kW of an inverter, where nobody said. */
const KWP_PER_KW = 1.15;
/** What a diverter's heater and a car's charger take where nobody said, W. */
const USUAL_DIVERTER_W = 3000;
const USUAL_CHARGER_W = 7400;
/** More no charger of a car gives on one phase, A. */
const MOST_CHARGER_A = 80;
/** What the simulation takes of one heater and one vehicle, however many stand in the plan. */
const MOST_HEATER = { ratedW: 100_000, litres: 20_000, drawLitresADay: 10_000, lossWPerK: 100 } as const;
const MOST_VEHICLE = { voltageV: 300, kmADay: 2000, capacityKwh: 1000 } as const;
const LEAST_VEHICLE_V = 100;
/** Times the battery that is planned. */
const BATTERY_SIZES = [0.5, 1, 1.5, 2] as const;

/**
 * A plan's surplus as the simulation takes it: fields, battery, heater and vehicle from the plan where nobody typed
 * them, every order of those that there are.
 *
 * For example: A plan with a diverter and a car charger, no battery: two orders.
 */
export function diversionOfPlan(
  plan: ResolvedPlan,
  over: Pick<DiversionRequest, "days" | "stepMin" | "series">,
): DiversionRequest {
  const { divert } = plan;
  const battery = divert.battery ?? plannedBattery(plan);
  const heater = divert.heater ?? plannedHeater(plan);
  const vehicle = divert.vehicle ?? plannedVehicle(plan);
  const actors: SurplusActor[] = [
    ...(battery ? ["battery" as const] : []),
    ...(heater ? ["heater" as const] : []),
    ...(vehicle ? ["vehicle" as const] : []),
  ];
  return {
    ...USUAL_DIVERSION,
    ...over,
    firstDay: over.days > 7 ? 1 : divert.firstDay,
    place: divert.place,
    cloudiness: divert.cloudiness,
    seed: divert.seed,
    house: divert.house,
    tariff: divert.tariff,
    fields: divert.fields.length > 0 ? divert.fields : plannedFields(plan),
    ...(battery ? { battery } : {}),
    ...(heater ? { heater } : {}),
    ...(vehicle ? { vehicle } : {}),
    orders: ordersFrom(divert.order, actors),
  };
}

/** Every order of those that there are, the chosen one first; a choice that leaves somebody out is none. */
function ordersFrom(
  wanted: readonly SurplusActor[] | undefined,
  actors: readonly SurplusActor[],
): DiversionRequest["orders"] {
  const orders = surplusOrders(actors);
  const chosen = wanted?.filter((actor) => actors.includes(actor));
  const first = chosen && chosen.length === actors.length ? chosen : orders[0]!;
  return [first, ...orders.filter((order) => order.join() !== first.join())];
}

function plannedFields({ site }: ResolvedPlan): DiversionRequest["fields"] {
  const solarKw = site.nodes
    .filter(({ kind }) => kind === "pv-inverter" || kind === "hybrid-inverter")
    .reduce((sum, { ratedW }) => sum + (ratedW ?? 0) / 1000, 0);
  return solarKw > 0 ? [{ ...USUAL_FIELD, kwp: solarKw * KWP_PER_KW }] : [];
}

function plannedBattery({ site, nodes, equipment }: ResolvedPlan): DiversionRequest["battery"] {
  const powerW = inverterWOf(site);
  if (powerW === 0) return undefined;
  const storageKwh = [...nodes, ...equipment].reduce((sum, { kit }) => sum + (kit?.ratings.storageKwh ?? 0), 0);
  return { ...USUAL_STORAGE, capacityKwh: storageKwh > 0 ? storageKwh : (2 * powerW) / 1000, powerW };
}

/** Several heaters as one: their power, their water and what is drawn of it together. */
function plannedHeater({ site }: ResolvedPlan): DiversionRequest["heater"] {
  const heaters = site.nodes.filter(({ kind }) => kind === "diverter");
  if (heaters.length === 0) return undefined;
  const { litres, drawLitresADay, lossWPerK } = USUAL_HEATER;
  return {
    ...USUAL_HEATER,
    ratedW: Math.min(
      MOST_HEATER.ratedW,
      heaters.reduce((sum, { ratedW }) => sum + (ratedW ?? USUAL_DIVERTER_W), 0),
    ),
    litres: Math.min(MOST_HEATER.litres, litres * heaters.length),
    drawLitresADay: Math.min(MOST_HEATER.drawLitresADay, drawLitresADay * heaters.length),
    lossWPerK: Math.min(MOST_HEATER.lossWPerK, lossWPerK * heaters.length),
  };
}

/** Several chargers as one: the current of all, with a vehicle at each. */
function plannedVehicle({ site: { nodes, supply } }: ResolvedPlan): DiversionRequest["vehicle"] {
  const chargers = nodes.filter(({ kind }) => kind === "ev-charger");
  if (chargers.length === 0) return undefined;
  const ratedW = chargers.reduce((sum, own) => sum + (own.ratedW ?? USUAL_CHARGER_W), 0);
  const phases = chargers.every((own) => own.phases?.length === 3) ? 3 : 1;
  // Between the two lines of a split phase is twice what is between one and the neutral.
  const betweenV = supply.system === "split-phase" ? 2 * supply.voltageV : supply.voltageV;
  const voltageV = Math.min(MOST_VEHICLE.voltageV, Math.max(LEAST_VEHICLE_V, betweenV));
  const ratedA = Math.round(ratedW / voltageV / phases);
  return {
    ...USUAL_VEHICLE,
    phases,
    voltageV,
    maxA: Math.min(MOST_CHARGER_A, Math.max(USUAL_VEHICLE.minA, ratedA)),
    kmADay: Math.min(MOST_VEHICLE.kmADay, USUAL_VEHICLE.kmADay * chargers.length),
    capacityKwh: Math.min(MOST_VEHICLE.capacityKwh, USUAL_VEHICLE.capacityKwh * chargers.length),
  };
}

function inverterWOf({ nodes }: Site): number {
  return nodes
    .filter(({ kind }) => kind === "battery-inverter" || kind === "hybrid-inverter")
    .reduce((sum, { ratedW }) => sum + (ratedW ?? 0), 0);
}

/**
 * The variants that a sweep tries: every order with batteries of other sizes.
 *
 * For example: Six orders and a battery: 24 variants.
 */
export function sizeVariants(
  request: DiversionRequest,
): readonly { readonly name: string; readonly request: DiversionRequest }[] {
  const { battery } = request;
  const alone = request.orders.map((order) => ({ ...request, orders: [order] }));
  if (!battery) return alone.map((own) => ({ name: "no battery", request: own }));
  return BATTERY_SIZES.flatMap((size) => {
    const capacityKwh = Number((battery.capacityKwh * size).toPrecision(3));
    return alone.map((own) => ({
      name: `${capacityKwh} kWh`,
      request: { ...own, battery: { ...battery, capacityKwh } },
    }));
  });
}

/** @example orderText(["battery", "heater"]) // "battery, then heater" */
export function orderText(order: readonly SurplusActor[]): string {
  return order.length === 0 ? "nobody takes it" : order.join(", then ");
}
