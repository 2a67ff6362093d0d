import { figure, said, together } from "@/core/sentence";
import { controllers, type Controller } from "@/core/control/controllers";
import { divertFinding } from "@/core/control/divertFinding";
import type { Finding } from "@/core/findings";
import { predict, type Fitting } from "@/core/flows/predict";
import type { ResolvedPlan } from "@/core/plan/resolvedPlan";
import { readingTowardLoadW } from "@/core/site/flowWords";
import type { SiteNode } from "@/core/site/planSchema";

/** What is put on a device to see who notices, W. */
const PROBE_W = 1000;
const SAME = 0.05;
/** Kinds that usually bring a CT of their own. */
const OWN_CT_KINDS: readonly SiteNode["kind"][] = ["diverter", "battery-inverter", "hybrid-inverter", "ev-charger"];
const SOURCE = "Signs of each device in each controller's measured sum, from plan and CTs";

/** How a device stands in a controller's grid sum: 1 as a load should, 0 not at all, −1 the wrong way, 2 twice. */
export interface Sight {
  readonly controller: Controller;
  readonly device: SiteNode;
  readonly factor: number;
  readonly words: "seen" | "not seen" | "seen the wrong way" | "counted twice" | "seen in part";
}

/**
 * What each controller sees of each device: the change of its grid sum when the device alone takes 1000 W, by the plan
 * or with the CTs as they are fitted.
 *
 * For example: A diverter whose CT is round the house's run only: the battery behind the board is "not seen".
 */
export function whoSeesWhat(plan: ResolvedPlan, as: Fitting): readonly Sight[] {
  const { site } = plan;
  const devices = site.nodes.filter(({ kind }) => kind !== "grid" && kind !== "board" && kind !== "test-load");
  const empty = predict(site, as, { devices: [] });
  const sumOf = (prediction: typeof empty, { meter }: Controller) => {
    const inputs = meter.inputs.filter(({ role }) => role === "grid");
    return (inputs.length > 0 ? inputs : meter.inputs).reduce((sum, input) => {
      const reading = prediction.inputs.find((own) => own.meter === meter.id && own.input === input.n);
      return sum + (reading ? readingTowardLoadW(input.positive, reading.powerW) : 0);
    }, 0);
  };
  const all = controllers(plan);
  return devices.flatMap((device) => {
    const probed = predict(site, as, { devices: [{ node: device.id, powerW: PROBE_W, reactiveVar: 0 }] });
    return all.map((controller): Sight => {
      const factor = (sumOf(probed, controller) - sumOf(empty, controller)) / PROBE_W;
      return { controller, device, factor, words: wordsOf(factor) };
    });
  });
}

/** Devices that act on a grid sum of their own which the plan does not have: their CT is in no meter. */
export function blindControllers({ site }: Pick<ResolvedPlan, "site">, sights: readonly Sight[]): readonly SiteNode[] {
  const seeing = new Set(sights.map(({ controller }) => controller.id));
  return site.nodes.filter(({ id, kind }) => OWN_CT_KINDS.includes(kind) && !seeing.has(id));
}

/** Whether a controller has a reading of that device alone, and can tell its power from surplus. */
function knowsOfItself({ meters }: Controller, device: SiteNode): boolean {
  return meters.some(({ inputs }) =>
    inputs.some(({ role, measures }) => role === "battery" && measures.every(({ run }) => run === device.id)),
  );
}

function wordsOf(factor: number): Sight["words"] {
  if (Math.abs(factor) < SAME) return "not seen";
  if (factor < 0) return "seen the wrong way";
  if (Math.abs(factor - 1) < SAME) return "seen";
  return factor > 1 + SAME ? "counted twice" : "seen in part";
}

/**
 * What follows from it: a heater whose controller is on the same grid CT as the battery's (the battery can feed it),
 * devices counted twice or the wrong way, and devices that a controller should see and does not.
 */
export function sightFindings(
  plan: ResolvedPlan,
  sights: readonly Sight[] = whoSeesWhat(plan, "fitted"),
): readonly Finding[] {
  const batteryKinds = ["battery-inverter", "hybrid-inverter"];
  return [
    ...sights
      .filter(({ words }) => words === "counted twice" || words === "seen the wrong way")
      .map(({ controller, device, words, factor }) => ({
        ...divertFinding(
          words === "counted twice" ? "double-count" : "wrong-way",
          "fix",
          device.id,
          words === "counted twice" ? "Counted twice" : "Seen the wrong way",
          said`${controller.name} sees ${device.name} ${figure(factor.toFixed(1))} times.`,
          words === "counted twice"
            ? "Take its circuit out of one of the two windows"
            : "Turn the CT that is round its circuit",
          SOURCE,
        ),
        id: `${words}:${controller.id}:${device.id}`,
      })),
    ...sights
      .filter(
        ({ controller, device, words }) =>
          controller.kind === "diverter" &&
          batteryKinds.includes(device.kind) &&
          words === "seen" &&
          !knowsOfItself(controller, device),
      )
      .map(({ controller, device }) => ({
        ...divertFinding(
          "battery-feeds-heater",
          "note",
          controller.id,
          "The battery can feed the heater",
          together(
            said`${controller.name} and ${device.name} act on the same grid power: with the heater content with `,
            "more import than the battery holds, the battery heats water.",
          ),
          together(
            said`Give ${controller.name} a CT on the battery, an export margin below the battery's set-point, `,
            "or a link that gives it priority",
          ),
          SOURCE,
        ),
        id: `battery-feeds-heater:${controller.id}:${device.id}`,
      })),
    ...sights
      .filter(
        ({ controller, device, words }) =>
          words === "not seen" &&
          ["diverter", "ev-charger", "energy-manager", "export-controller"].includes(controller.kind) &&
          (device.kind === "pv-inverter" || device.kind === "load") &&
          controller.id !== device.id,
      )
      .map(({ controller, device }) => ({
        ...divertFinding(
          "not-seen",
          "note",
          device.id,
          "A controller does not see it",
          said`${controller.name} does not see ${device.name} in its grid sum.`,
          "Move its CT upstream of where both join, or leave it so where that is meant",
          SOURCE,
        ),
        id: `not-seen:${controller.id}:${device.id}`,
      })),
  ];
}
