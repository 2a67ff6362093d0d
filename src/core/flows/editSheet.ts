import type { NextTest } from "@/core/flows/nextTests";
import { MAX_TEST_STEPS, type KnownDevice, type TestSheet, type TestStep } from "@/core/flows/testSheetSchema";
import { addTestLoad } from "@/core/site/addTestLoad";
import type { Site } from "@/core/site/planSchema";
import { cutText } from "@/core/text";

const MOST_LABEL = 120;
const LOAD_TOLERANCE = 0.05;

/** A sheet together with the plan it tests, since a step can need a load that the plan does not have yet. */
export interface SiteAndSheet {
  readonly site: Site;
  readonly tests: TestSheet;
}

/** Change one step. */
export function changeStep(sheet: TestSheet, at: number, change: Partial<TestStep>): TestSheet {
  const step = sheet.steps[at];
  return step ? { ...sheet, steps: sheet.steps.with(at, { ...step, ...change }) } : sheet;
}

/**
 * Write down what one input showed in a step; undefined takes it out again. A typed reading is one that was seen.
 *
 * @param readAt When it was read, ISO 8601.
 */
export function setReading(
  sheet: TestSheet,
  at: number,
  input: { meter: string; input: number },
  powerW: number | undefined,
  readAt?: string,
): TestSheet {
  const step = sheet.steps[at];
  if (!step) return sheet;
  const isIt = (reading: TestStep["readings"][number]) =>
    reading.meter === input.meter && reading.input === input.input;
  const index = step.readings.findIndex(isIt);
  const others = step.readings.filter((reading) => !isIt(reading));
  if (powerW === undefined) return index < 0 ? sheet : changeStep(sheet, at, { readings: others });
  const reading = { meter: input.meter, input: input.input, powerW, ...(readAt !== undefined && { readAt }) };
  const readings = index < 0 ? [...step.readings, reading] : step.readings.with(index, reading);
  return changeStep(sheet, at, { readings, source: "seen" });
}

/** Write down what a device showed after the last reading of a step, W; undefined takes it out again. */
export function setAfter(sheet: TestSheet, at: number, node: string, afterW: number | undefined): TestSheet {
  const devices = sheet.steps[at]?.devices.map((device) =>
    device.node === node ? { ...readOnce(device), ...(afterW !== undefined && { afterW }) } : device,
  );
  return devices ? changeStep(sheet, at, { devices }) : sheet;
}

/** Add a step of one's own at the end, with nothing known and nothing read. */
export function addBlankStep(sheet: TestSheet, id: string): TestSheet {
  const label = `Step ${sheet.steps.length + 1}`;
  return { ...sheet, steps: [...sheet.steps, { id, label, devices: [], readings: [], source: "seen" }] };
}

/** A step that is planned: what is on in it. */
export interface PlannedStep {
  readonly label: string;
  readonly devices: readonly KnownDevice[];
}

/** Add steps of a planned proof at the end, with nothing read. */
export function addPlanned(sheet: TestSheet, steps: readonly PlannedStep[], newId: () => string): TestSheet {
  const added = steps.map(({ label, devices }): TestStep => ({
    id: newId(),
    label: cutText(label, MOST_LABEL),
    devices: [...devices],
    readings: [],
    source: "seen",
  }));
  return { ...sheet, steps: [...sheet.steps, ...added].slice(0, MAX_TEST_STEPS) };
}

/** A device without what it showed after the last reading. */
function readOnce({ afterW: _, ...device }: KnownDevice): KnownDevice {
  return device;
}

/** Put the same step once more behind a step, with nothing read yet. */
export function repeatStep(sheet: TestSheet, at: number, id: string): TestSheet {
  const step = sheet.steps[at];
  const copy: TestStep | undefined = step && {
    ...step,
    id,
    devices: step.devices.map(readOnce),
    readings: [],
    source: "seen",
  };
  return copy ? { ...sheet, steps: sheet.steps.toSpliced(at + 1, 0, copy) } : sheet;
}

/** Add a step for a proposed test, with no readings; a load that the plan lacks is added to it. */
export function addTest({ site, tests }: SiteAndSheet, test: NextTest, id: string): SiteAndSheet {
  const step: TestStep = { id, label: test.label, devices: [...test.devices], readings: [], source: "seen" };
  const added = test.node === null && test.phase !== null ? addTestLoad(site, test.phase) : undefined;
  if (!added) return { site, tests: { ...tests, steps: [...tests.steps, step] } };
  const load: KnownDevice = {
    node: added.id,
    powerW: test.powerW,
    reactiveVar: 0,
    toleranceW: test.powerW * LOAD_TOLERANCE,
  };
  return {
    site: added.site,
    tests: { ...tests, steps: [...tests.steps, { ...step, devices: [...step.devices, load] }] },
  };
}

/** Whether every reading of every step was typed by somebody. */
export function isAllSeen(sheet: TestSheet): boolean {
  return sheet.steps.every((step) => step.source === "seen" || step.readings.length === 0);
}
