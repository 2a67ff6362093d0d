import { predict } from "@/core/flows/predict";
import type { DeviceState } from "@/core/flows/stateSchema";
import { defaultBackground, type Background, type TestSheet, type TestStep } from "@/core/flows/testSheetSchema";
import { readingVariance } from "@/core/flows/stepTables";
import type { Site } from "@/core/site/planSchema";
import type { Phase } from "@/core/phase";
import { phasesOf, siteTree } from "@/core/site/tree";

/** A source of independent standard normal numbers; the caller owns the seed. */
export type NormalSource = () => number;

/**
 * Fill every step's readings with what the meters would show with the CTs as fitted: the background,
 * the devices' true powers and the noise are drawn from what the sheet assumes. Inputs that cannot be
 * predicted stay without a reading. Whole watts, as displays show them.
 *
 * For example: With every draw zero, a 2000 W kettle on a background of 400 W: input reads 2400.
 */
export function simulateSeen(site: Site, sheet: TestSheet, normal: NormalSource): TestStep[] {
  const background = sheet.background ?? defaultBackground(site);
  const lasting = new Map(background.map((load) => [load.node, drawLasting(site, load, normal)]));
  return sheet.steps.map((step) => {
    const known = new Set(step.devices.map((device) => device.node));
    const devices: DeviceState[] = [
      ...step.devices.map((device) => drawKnown(device, normal)),
      ...background
        .filter((load) => !known.has(load.node))
        .map((load) => drawDrift(load, lasting.get(load.node) ?? {}, normal)),
    ];
    const readings = predict(site, "fitted", { devices }).inputs.map((reading) => ({
      meter: reading.meter,
      input: reading.input,
      powerW: Math.round(reading.powerW + normal() * Math.sqrt(readingVariance(sheet.noise, reading.powerW))),
    }));
    return { ...step, readings, source: "simulated" };
  });
}

type PerPhase = NonNullable<DeviceState["perPhase"]>;

function drawLasting(site: Site, load: Background, normal: NormalSource): PerPhase {
  const node = siteTree(site).nodeById.get(load.node);
  if (!node) throw new Error(`simulateSeen: unknown background node "${load.node}"`);
  return Object.fromEntries(
    phasesOf(node, site).map((phase) => [
      phase,
      {
        powerW: load.meanW + load.sdW * normal(),
        reactiveVar: load.sdVar * normal(),
      },
    ]),
  );
}

function drawDrift(load: Background, lasting: PerPhase, normal: NormalSource): DeviceState {
  const perPhase = Object.fromEntries(
    Object.entries(lasting).map(([phase, power]) => [
      phase as Phase,
      {
        powerW: power.powerW + load.driftSdW * normal(),
        reactiveVar: power.reactiveVar,
      },
    ]),
  );
  return { node: load.node, powerW: 0, reactiveVar: 0, perPhase };
}

/** A device at its own draw, and between before and after where it was read twice. */
function drawKnown({ toleranceW, afterW, ...own }: TestStep["devices"][number], normal: NormalSource): DeviceState {
  const device = afterW === undefined ? own : { ...own, powerW: (own.powerW + afterW) / 2 };
  if (toleranceW === 0) return device;
  const powerW = device.powerW + toleranceW * normal();
  if (!device.perPhase || device.powerW === 0) return { ...device, powerW };
  const share = powerW / device.powerW;
  const perPhase = Object.fromEntries(
    Object.entries(device.perPhase).map(([phase, power]) => [
      phase as Phase,
      { powerW: power.powerW * share, reactiveVar: power.reactiveVar },
    ]),
  );
  return { ...device, powerW, perPhase };
}
