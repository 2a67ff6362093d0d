import { loadPowerW } from "@/core/live/ownPower";
import type { ReadableUnit } from "@/core/live/readableUnit";
import type { InputReading } from "@/core/flows/predict";
import { encodeRegister } from "@/core/kits/registerValue";
import type { Register } from "@/core/kits/registerSchema";
import type { KitKind } from "@/core/kits/kitSchema";
import { magnitude } from "@/core/complex";
import type { LimitSettings } from "@/core/plan/limitSettings";
import { phaseVoltage } from "@/core/site/phasors";
import type { Site } from "@/core/site/planSchema";

/** What a simulated device knows when it fills its registers. */
export interface DeviceMoment {
  readonly site: Site;
  /** What its inputs show now, noise and all, W and A. */
  readonly readings: readonly InputReading[];
  /** What the device itself does, W, by the load convention. */
  readonly ownPowerW: number;
  readonly kind: KitKind;
  /** Counted since the bench began, Wh. */
  readonly energyWh: { readonly positive: number; readonly negative: number };
  readonly limit: Pick<LimitSettings, "powerW">;
  readonly unit: number;
  /** Of the device, digits of its serial number. */
  readonly serial: number;
}

const RUNNING = 1;
const FIRMWARE = 2.14;
const FAIL_SAFE = { timeS: 30, powerPct: 0 };
/** What shows the sum of its inputs as its own power. */
const SUMMING: readonly KitKind[] = ["meter", "energy-manager", "export-controller", "gateway", "transmitter"];

/**
 * The value of one register in its base unit (W, V, A, Wh). A device's own power is positive as its kind counts it:
 * generating for inverters, drawing for loads; that of a meter is the sum of its inputs.
 *
 * For example: power of input 2 of a meter whose second input shows -1100 W: -1100.
 */
export function registerValue(register: Register, unit: ReadableUnit, moment: DeviceMoment): number {
  const input = moment.site.meters.find(({ id }) => id === unit.meter)?.inputs.find(({ n }) => n === register.input);
  const reading = moment.readings.find((own) => own.meter === unit.meter && own.input === register.input);
  switch (register.of) {
    case "power":
      return register.input === undefined ? ownPower(unit, moment) : (reading?.powerW ?? 0);
    case "reactive":
      return reading?.reactiveVar ?? 0;
    case "current":
      return reading?.currentA ?? 0;
    case "voltage":
      return tapVoltage(moment.site, unit, input?.tap);
    case "frequency":
      return moment.site.supply.frequencyHz;
    case "energy":
      return moment.energyWh.positive;
    case "energy-negative":
      return moment.energyWh.negative;
    case "ratio":
      return input?.primaryA ?? 0;
    case "direction":
      return input?.invert ? 1 : 0;
    case "limit":
      return moment.limit.powerW ?? 0;
    case "fail-safe-time":
      return FAIL_SAFE.timeS;
    case "fail-safe-power":
      return FAIL_SAFE.powerPct;
    case "address":
      return moment.unit;
    case "state":
      return RUNNING;
    case "serial":
      return moment.serial;
    case "firmware":
      return FIRMWARE;
    case "other":
      return 0;
  }
}

/** The words of a device's registers, by table and address. */
export function registerImage(unit: ReadableUnit, moment: DeviceMoment): ReadonlyMap<string, number> {
  return new Map(
    unit.registers.flatMap((register) =>
      encodeRegister(registerValue(register, unit, moment), register).map(
        (word, at) => [wordKey(register.table, register.address + at), word] as const,
      ),
    ),
  );
}

/** @example wordKey("holding", 7040) // "holding 7040" */
export function wordKey(table: Register["table"], address: number): string {
  return `${table} ${address}`;
}

/**
 * The digits of an invented serial number, the same for the same device.
 *
 * For example: `serialDigits("inverter-1")` is a number of seven digits.
 */
export function serialDigits(device: string): number {
  let sum = 0;
  for (const character of device) sum = (sum * 31 + character.codePointAt(0)!) % 9_000_000;
  return 1_000_000 + sum;
}

function ownPower(unit: ReadableUnit, { kind, ownPowerW, readings }: DeviceMoment): number {
  if (SUMMING.includes(kind))
    return readings.filter(({ meter }) => meter === unit.meter).reduce((sum, { powerW }) => sum + powerW, 0);
  return loadPowerW(kind, ownPowerW);
}

function tapVoltage(site: Site, unit: ReadableUnit, tap: string | undefined): number {
  const phase = tap === undefined ? undefined : site.meters.find(({ id }) => id === unit.meter)?.taps[tap];
  return phase ? magnitude(phaseVoltage(site.supply, phase)) : 0;
}
