import type { PlanMeter } from "@/core/plan/resolvedPlan";
import { classRange, ctErrorAt } from "@/core/sensing/ctAccuracy";
import { phasesOfSupply } from "@/core/site/phasors";
import type { CtClass, Site } from "@/core/site/planSchema";

/** Taken where nobody said which class a CT or meter has, %. */
const USUAL_CT_PCT = 1;
const USUAL_METER_PCT = 1;
/** A limit of nothing is judged at this much. */
const LEAST_W = 500;

/**
 * How wrong a meter with its CTs may be at a power, %: class of the CT at the current in question, and class of the
 * meter.
 *
 * For example: A meter of class 1 with CTs of class 1 well loaded: 2.
 */
export function gridErrorPct(site: Site, { meter, kit }: Pick<PlanMeter, "meter" | "kit">, powerW: number): number {
  const meterPct = meter.classPct ?? kit?.metering?.classPct ?? USUAL_METER_PCT;
  const currentA = Math.max(powerW, LEAST_W) / phasesOfSupply(site.supply).length / site.supply.voltageV;
  const worst = Math.max(
    0,
    ...meter.inputs
      .filter(({ builtIn, role }) => !builtIn && role === "grid")
      .map((input) => {
        const ctClass = input.clamp?.class;
        const error = ctClass && ctErrorAt(ctClass, (100 * currentA) / input.primaryA);
        // Below its range a class promises nothing; its lowest point is the least that can be said.
        return error?.kind === "promised" ? error.ratioErrorPct : ctClass ? lowestPointPct(ctClass) : USUAL_CT_PCT;
      }),
  );
  return meterPct + worst;
}

function lowestPointPct(ctClass: CtClass): number {
  const error = ctErrorAt(ctClass, classRange(ctClass).lowestPct);
  return error.kind === "promised" ? error.ratioErrorPct : USUAL_CT_PCT;
}
