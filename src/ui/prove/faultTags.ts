import type { Fault } from "@/core/flows/faults";
import type { Site } from "@/core/site/planSchema";
import { inputTag } from "@/core/site/inputTag";

/** The tags of all inputs that a list of faults speaks of. */
export function faultTags(site: Site, faults: readonly Fault[]): ReadonlySet<string> {
  return new Set(
    faults.flatMap((fault) => {
      if ("input" in fault) return [inputTag(site, fault.meter, fault.input)];
      if ("inputs" in fault) return fault.inputs.map((input) => inputTag(site, fault.meter, input));
      return (
        site.meters
          .find((meter) => meter.id === fault.meter)
          ?.inputs.map((input) => inputTag(site, fault.meter, input.n)) ?? []
      );
    }),
  );
}
