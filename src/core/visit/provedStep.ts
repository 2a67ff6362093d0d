import type { JobDocument } from "@/core/job/jobDocument";
import { MOST_ID_CHARACTERS } from "@/core/names";
import { MAX_TEST_STEPS, type TestStep } from "@/core/flows/testSheetSchema";
import { maybeBackupSide } from "@/core/visit/rules/boardFeeds";
import { knownDevices, provingStates } from "@/core/visit/provingStates";
import { visitContext } from "@/core/visit/visitContext";
import type { VisitStep } from "@/core/visit/visitStep";

/**
 * A job with the readings of a proving step in its test sheet, where all of them are weighed: what was on is known,
 * what was read was seen. Recorded again on the same visit it takes the place of what was read before.
 *
 * For example: "Prove: Kettle L1 on" with A1 = 2410 W: a step of Prove with the kettle at 2000 ± 100 W, PV and battery
 * off.
 */
export function withProvedStep(
  document: JobDocument,
  step: Pick<VisitStep, "about">,
  values: Readonly<Record<string, number>>,
): JobDocument {
  const backup = maybeBackupSide(visitContext(document));
  const state = provingStates(document.site, backup).find(({ id }) => id === step.about);
  if (!state) return document;
  const readings = document.site.meters.flatMap((meter) =>
    meter.inputs.flatMap(({ n }) => {
      const powerW = values[`${meter.id}/${n}`];
      return powerW === undefined ? [] : [{ meter: meter.id, input: n, powerW }];
    }),
  );
  const id = `${document.visit.id} ${state.id}`.slice(0, MOST_ID_CHARACTERS);
  const proved: TestStep = {
    id,
    label: state.label,
    devices: [...knownDevices(document.site, state)],
    readings,
    source: "seen",
  };
  const { steps } = document.tests;
  const at = steps.findIndex((own) => own.id === id);
  if (at < 0 && steps.length >= MAX_TEST_STEPS) return document;
  return {
    ...document,
    tests: { ...document.tests, steps: at < 0 ? [...steps, proved] : steps.with(at, proved) },
  };
}
