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

/** Modules for each kW of an inverter, where nobody said. */
const KWP_PER_KW = 1.15;
/** Times the battery that is planned. */
const BATTERY_SIZES = [0.5, 1, 1.5, 2] as const;

/**
 * A plan's surplus as the simulation takes it: fields, battery, heater and vehicle from the plan where nobody typed
 * them,
 * every order of those that there are.
 *
 * For example: A plan with a diverter and a car charger, no battery: two orders.
 */
export function diversionOfPlan(
  { site, nodes, equipment, divert }: ResolvedPlan,
  over: Pick<DiversionRequest, "days" | "stepMin" | "series">,
): DiversionRequest {
  const of = (...kinds: string[]) => site.nodes.filter(({ kind }) => kinds.includes(kind));
  const solarKw = of("pv-inverter", "hybrid-inverter").reduce((sum, { ratedW }) => sum + (ratedW ?? 0) / 1000, 0);
  const storage = [...nodes, ...equipment].reduce((sum, { kit }) => sum + (kit?.ratings.storageKwh ?? 0), 0);
  const inverterW = of("battery-inverter", "hybrid-inverter").reduce((sum, { ratedW }) => sum + (ratedW ?? 0), 0);
  const [heater] = of("diverter");
  const [charger] = of("ev-charger");
  const battery =
    divert.battery ??
    (inverterW > 0
      ? { ...USUAL_STORAGE, capacityKwh: storage > 0 ? storage : (2 * inverterW) / 1000, powerW: inverterW }
      : undefined);
  const water = divert.heater ?? (heater ? { ...USUAL_HEATER, ratedW: heater.ratedW ?? 3000 } : undefined);
  const vehicle =
    divert.vehicle ??
    (charger
      ? {
          ...USUAL_VEHICLE,
          phases: (charger.phases?.length ?? 1) === 3 ? (3 as const) : (1 as const),
          maxA: Math.min(
            80,
            Math.max(6, Math.round((charger.ratedW ?? 7400) / site.supply.voltageV / (charger.phases?.length ?? 1))),
          ),
        }
      : undefined);
  const actors: SurplusActor[] = [
    ...(battery ? ["battery" as const] : []),
    ...(water ? ["heater" as const] : []),
    ...(vehicle ? ["vehicle" as const] : []),
  ];
  const orders = surplusOrders(actors);
  const chosen = divert.order?.filter((actor) => actors.includes(actor));
  const first = chosen && chosen.length === actors.length ? chosen : orders[0]!;
  return {
    ...USUAL_DIVERSION,
    ...over,
    firstDay: over.days > 7 ? 1 : divert.firstDay,
    place: divert.place,
    cloudiness: divert.cloudiness,
    seed: divert.seed,
    house: divert.house,
    tariff: divert.tariff,
    fields:
      divert.fields.length > 0 ? divert.fields : solarKw > 0 ? [{ ...USUAL_FIELD, kwp: solarKw * KWP_PER_KW }] : [],
    ...(battery ? { battery } : {}),
    ...(water ? { heater: water } : {}),
    ...(vehicle ? { vehicle } : {}),
    orders: [first, ...orders.filter((order) => order.join() !== first.join())],
  };
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
