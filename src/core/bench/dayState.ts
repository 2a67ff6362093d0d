import type { DeviceState } from "@/core/flows/stateSchema";
import type { Site, SiteNode } from "@/core/site/planSchema";
import { phasesOf } from "@/core/site/tree";

const SUNRISE_MIN = 360;
const SUNSET_MIN = 1200;
const HOUSE_W = { night: 180, day: 350, swing: 160 };
const USUAL_PV_W = 5000;
const USUAL_STORE_W = 3000;
/** Generating starts and ends softly: the sine of the day's course, to this power. */
const CLEAR_SKY_EXPONENT = 1.2;

/**
 * What every device does at a minute of a clear day: solar by the sun's course, loads by a house's, storage and then
 * diverters take what is left over, and storage gives what is missing. Powers by the load convention, W.
 *
 * For example: at noon a 5 kW inverter gives 5 kW, the house takes 350 W, a 3 kW battery charges with 3 kW.
 */
export function dayState(site: Site, minuteOfDay: number): readonly DeviceState[] {
  const states: DeviceState[] = [];
  const add = (node: SiteNode, powerW: number) => {
    states.push({ node: node.id, powerW: Math.round(powerW), reactiveVar: 0 });
    return powerW;
  };
  const of = (...kinds: readonly SiteNode["kind"][]) => site.nodes.filter(({ kind }) => kinds.includes(kind));
  const course = (minuteOfDay - SUNRISE_MIN) / (SUNSET_MIN - SUNRISE_MIN);
  const sun = course <= 0 || course >= 1 ? 0 : Math.sin(Math.PI * course) ** CLEAR_SKY_EXPONENT;
  let balanceW = 0;
  for (const node of of("pv-inverter", "hybrid-inverter")) balanceW += add(node, -sun * (node.ratedW ?? USUAL_PV_W));
  for (const node of of("load")) balanceW += add(node, houseW(node, minuteOfDay) * phasesOf(node, site).length);
  for (const node of of("battery-inverter")) {
    const mostW = node.ratedW ?? USUAL_STORE_W;
    balanceW += add(node, Math.min(Math.max(-balanceW, -mostW), mostW));
  }
  for (const node of of("diverter", "ev-charger", "heat-pump"))
    balanceW += add(node, Math.min(Math.max(-balanceW, 0), node.ratedW ?? USUAL_STORE_W));
  return states;
}

/** More by day than by night, with two swells at breakfast and dinner. */
function houseW({ nightW }: SiteNode, minuteOfDay: number): number {
  const isDay = minuteOfDay > SUNRISE_MIN && minuteOfDay < SUNSET_MIN + 120;
  const swell = Math.sin((2 * Math.PI * (minuteOfDay - 300)) / 720);
  return isDay ? HOUSE_W.day + HOUSE_W.swing * Math.max(0, swell) : (nightW ?? HOUSE_W.night);
}
