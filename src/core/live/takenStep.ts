import { changeStep, setReading } from "@/core/flows/editSheet";
import type { TestSheet, TestStep } from "@/core/flows/testSheetSchema";
import type { Kit } from "@/core/kits/kitSchema";
import { loadPowerW } from "@/core/live/ownPower";
import type { Round } from "@/core/live/roundOfSamples";
import type { Site } from "@/core/site/planSchema";

/**
 * A test sheet with a round of live readings in one of its steps: each input's mean, and for the devices that are on in
 * it what they say of their own power.
 *
 * For example: a step "solar on" with 3000 W known of the inverter, which itself says 3170 W: its power is -3170 W.
 *
 * @param source Simulated where it was read from a bench.
 */
export function takenStep(
  { sheet, site, kits }: { readonly sheet: TestSheet; readonly site: Site; readonly kits: readonly Kit[] },
  at: number,
  { readings, own }: Extract<Round, { kind: "taken" }>,
  readAt: string,
  source: TestStep["source"],
): TestSheet {
  const step = sheet.steps[at];
  if (!step) return sheet;
  const kindOf = (node: string) => kits.find(({ id }) => id === site.nodes.find((one) => one.id === node)?.kit)?.kind;
  const devices = step.devices.map((device) => {
    const shownW = own.get(device.node);
    const kind = kindOf(device.node);
    if (shownW === undefined || kind === undefined || device.perPhase || device.powerW === 0) return device;
    return { ...device, powerW: Math.round(loadPowerW(kind, shownW)) };
  });
  const read = readings.reduce(
    (before, { meter, input, powerW }) => setReading(before, at, { meter, input }, powerW, readAt),
    changeStep(sheet, at, { devices }),
  );
  return changeStep(read, at, { source });
}
