import type { Fault } from "@/core/flows/faults";
import { idealCt } from "@/core/site/idealCt";
import { clampOf } from "@/core/site/fitClamp";
import type { Site } from "@/core/site/planSchema";

/**
 * A site after somebody put faults right: the CTs of every input that a fault touches stand as the plan wants them. The
 * others stay as they were.
 *
 * For example: after "A2 is the wrong way round" the CT of A2 has its arrow as planned and its leads straight.
 */
export function curedSite(site: Site, faults: readonly Fault[]): Site {
  const touched = site.meters.flatMap((meter) =>
    meter.inputs
      .filter(({ n }) => faults.some((fault) => touches(fault, meter.id, n)))
      .map((input) => ({ meter, input })),
  );
  const cured = touched.map(({ meter, input }) => {
    const old = clampOf(site, { meter: meter.id, input: input.n });
    const ideal = idealCt(meter, input);
    return old ? { ...ideal, id: old.id } : ideal;
  });
  const ids = new Set(cured.map(({ id }) => id));
  return cured.length === 0 ? site : { ...site, cts: [...site.cts.filter(({ id }) => !ids.has(id)), ...cured] };
}

/** Whether what an input shows depends on a fault. */
function touches(fault: Fault, meter: string, input: number): boolean {
  if (fault.meter !== meter) return false;
  if ("input" in fault) return fault.input === input;
  return "inputs" in fault ? fault.inputs.includes(input) : true;
}
