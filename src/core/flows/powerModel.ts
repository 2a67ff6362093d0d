import type { SiteResponses } from "@/core/flows/responses";
import type { Background, KnownDevice } from "@/core/flows/testSheetSchema";
import { add, multiply, scale, ZERO, type Complex } from "@/core/complex";

/**
 * The powers of one step as a linear Gaussian model over the columns of a site: powers = mean + Σ latent · direction,
 * every latent an independent standard normal. A direction is a complex power per column.
 */
export interface StepPowers {
  /** Interleaved real and imaginary, two numbers a column. */
  readonly mean: Float64Array;
  /** The background that is the same in every step; in each step the same latents in the same order. */
  readonly lasting: readonly Float64Array[];
  /** Drift of the background and tolerance of the known devices; new latents in every step. */
  readonly passing: readonly Float64Array[];
}

/**
 * What is believed about all device powers in a step. A device that is known in the step replaces what the
 * background says of it.
 *
 * For example: With a house on three phases of 400 ± 500 W, ± 150 var, drift 40 W: 6 lasting and 3 passing latents.
 */
export function stepPowers(
  responses: SiteResponses,
  background: readonly Background[],
  devices: readonly KnownDevice[],
): StepPowers {
  const size = responses.columns.length * 2;
  const mean = new Float64Array(size);
  const lasting: Float64Array[] = [];
  const passing: Float64Array[] = [];
  const known = new Set(devices.map((device) => device.node));
  for (const load of background) {
    const present = !known.has(load.node);
    for (const column of responses.columnsOf.get(load.node) ?? []) {
      if (present) mean[2 * column]! += load.meanW;
      lasting.push(direction(size, column, { re: present ? load.sdW : 0, im: 0 }));
      lasting.push(direction(size, column, { re: 0, im: present ? load.sdVar : 0 }));
      if (present && load.driftSdW > 0) passing.push(direction(size, column, { re: load.driftSdW, im: 0 }));
    }
  }
  for (const device of devices) addKnown(responses, device, mean, passing);
  return { mean, lasting, passing };
}

/** What a response row makes of a direction: Re Σ row · direction. */
export function respond(row: Float64Array, powers: Float64Array): number {
  let sum = 0;
  for (let at = 0; at < row.length; at += 2) sum += row[at]! * powers[at]! - row[at + 1]! * powers[at + 1]!;
  return sum;
}

function addKnown(responses: SiteResponses, device: KnownDevice, mean: Float64Array, passing: Float64Array[]): void {
  if (device.perPhase) {
    const own = (responses.columnsOf.get(device.node) ?? []).map((column) => ({
      column,
      phase: responses.columns[column]?.phase,
    }));
    const given = own.flatMap(({ column, phase }) => {
      const entry = phase && device.perPhase?.[phase];
      return entry ? [{ column, entry }] : [];
    });
    for (const { column, entry } of given) {
      addPower(mean, column, { re: entry.powerW, im: entry.reactiveVar });
      // The tolerance is of the whole device: equal independent parts whose variances add up to it.
      if (device.toleranceW > 0)
        passing.push(direction(mean.length, column, { re: device.toleranceW / Math.sqrt(given.length), im: 0 }));
    }
    return;
  }
  const shares = responses.shares(device.node);
  const tolerance = new Float64Array(mean.length);
  for (const { column, share } of shares) {
    addPower(mean, column, multiply(share, { re: device.powerW, im: device.reactiveVar }));
    addPower(tolerance, column, scale(share, device.toleranceW));
  }
  if (device.toleranceW > 0) passing.push(tolerance);
}

function addPower(powers: Float64Array, column: number, power: Complex): void {
  const sum = add({ re: powers[2 * column]!, im: powers[2 * column + 1]! }, power);
  powers[2 * column] = sum.re;
  powers[2 * column + 1] = sum.im;
}

function direction(size: number, column: number, power: Complex = ZERO): Float64Array {
  const powers = new Float64Array(size);
  powers[2 * column] = power.re;
  powers[2 * column + 1] = power.im;
  return powers;
}
