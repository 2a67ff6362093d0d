import { cycleMs, pollCosts } from "@/core/links/bus/pollCycle";
import { idleLevels, resistancesAt } from "@/core/links/bus/lineNetwork";
import { lineOfBus, TERMINATOR_OHM, UNIT_LOAD_OHM } from "@/core/links/bus/lineOfBus";
import { rs485Findings } from "@/core/links/bus/rs485Findings";
import type { BusDevice, BusFigures, Rs485Bus, Rs485Result } from "@/core/links/bus/rs485Schema";

const LIGHT_M_PER_NS = 0.299792458;
const LONGEST_M = 1200;
/** Length times speed that a line carries, m·bit/s. */
const LENGTH_TIMES_BAUD = 1e8;
/** A reflection is over before it matters when it takes less than this part of a bit, or of the rise time. */
const HARMLESS_SHARE = 10;
/** What the weakest driver puts on a loaded line. */
const DRIVER_MV = 1500;

/**
 * An RS-485 line in numbers, with what is wrong with it: length against speed, reflections, DC load, idle level at the
 * client and at the far end, level at the far end, stubs, and the time of a poll cycle with 0, 1 and 2 dead devices.
 * They stand in the order of the line.
 *
 * For example: A client and a meter 38 m on at 9600 Bd, both terminated: roundTripNs 384, terminationMatters false,
 * loadOhm 59.7.
 */
export function rs485(bus: Rs485Bus): Rs485Result {
  const figures = busFigures(bus);
  return { ...figures, findings: [...rs485Findings(bus, figures)] };
}

function busFigures(bus: Rs485Bus): BusFigures {
  const { devices, cable, baud } = bus;
  const speed = LIGHT_M_PER_NS * cable.velocityFactor;
  const lengthM = devices.reduce((sum, device) => sum + device.distanceM, 0) - devices[0]!.distanceM;
  const roundTripNs = (2 * lengthM) / speed;
  const bitNs = 1e9 / baud;
  const inputs = UNIT_LOAD_OHM / devices.reduce((sum, device) => sum + device.unitLoad, 0);
  const loadOhm = parallel([inputs, ...devices.filter((device) => device.terminator).map(() => TERMINATOR_OHM)]);
  const costs = pollCosts(bus);
  const line = lineOfBus(bus);
  const { near, far } = nearAndFar(devices);
  const idleMv = idleLevels(line, bus.vccV).map(({ plusV, minusV }) => tidyMv(1000 * (plusV - minusV)));
  const [nearOpenOhm, farOpenOhm] = resistancesAt(line, [near, far], "open");
  const [nearBiasOhm, farBiasOhm] = resistancesAt(line, [near, far], "grounded");
  return {
    lengthM,
    maxLengthM: Math.min(LONGEST_M, LENGTH_TIMES_BAUD / baud),
    roundTripNs,
    bitNs,
    terminationMatters: roundTripNs > bitNs / HARMLESS_SHARE,
    loadOhm,
    idleMv: idleMv[near]!,
    idleFarMv: idleMv[far]!,
    farEndMv: farEndMv(bus, inputs),
    stubLimitM: (bus.riseTimeNs * speed) / HARMLESS_SHARE,
    pollCycleMs: cycleMs(costs, 0),
    worstCycleMs: [0, 1, 2].map((dead) => cycleMs(costs, dead)),
    resistanceOffOhm: nearOpenOhm!,
    resistanceOffBiasOhm: nearBiasOhm!,
    resistanceOffFarOhm: farOpenOhm!,
    resistanceOffFarBiasOhm: farBiasOhm!,
  };
}

/** The client, and the end of the line that is farther from it. */
function nearAndFar(devices: readonly BusDevice[]): { readonly near: number; readonly far: number } {
  const places = positionsM(devices);
  const near = Math.max(
    0,
    devices.findIndex((device) => device.role === "client"),
  );
  const last = devices.length - 1;
  return { near, far: places[last]! - places[near]! >= places[near]! - places[0]! ? last : 0 };
}

/** What leaks through the equations of a line that nothing holds is nothing. */
function tidyMv(mv: number): number {
  return Math.abs(mv) < 1e-6 ? 0 : mv;
}

/** 1.5 V · R / (R + loop) at the end farther from the client, R its terminator and the inputs, or the inputs alone. */
function farEndMv({ devices, cable }: Rs485Bus, inputsOhm: number): number {
  const places = positionsM(devices);
  const { near, far } = nearAndFar(devices);
  const loopOhm = (2 * cable.ohmPerKm * Math.abs(places[far]! - places[near]!)) / 1000;
  const atEnd = devices[far]!.terminator ? parallel([TERMINATOR_OHM, inputsOhm]) : inputsOhm;
  return (DRIVER_MV * atEnd) / (atEnd + loopOhm);
}

/** Where each device stands, m from the first. */
function positionsM(devices: readonly BusDevice[]): readonly number[] {
  let at = 0;
  return devices.map((device, index) => (at += index === 0 ? 0 : device.distanceM));
}

function parallel(ohms: readonly number[]): number {
  return 1 / ohms.reduce((sum, ohm) => sum + 1 / ohm, 0);
}
