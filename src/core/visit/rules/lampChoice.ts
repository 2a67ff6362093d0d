import type { Kit } from "@/core/kits/kitSchema";
import { lampSays, type Lamp, type LampMoment } from "@/core/kits/lampSays";
import type { Choice, StepDraft } from "@/core/visit/visitStep";

const UNKNOWN = "What it means is not in the kit: look it up in the maker's manual, and look again";

/**
 * The lamps of a kit as the evidence of a step: only what is good at that moment passes; what has to be waited for
 * starts a timer; all else stops, with what to do.
 */
export function lampChoice({ kit }: { readonly kit: Kit }, moment: LampMoment): Pick<StepDraft, "evidence"> {
  // Where no lamp of the kit says that all is well, none can be asked for.
  if (!kit.lamps.some((lamp) => lampSays(lamp, moment).says === "good")) return {};
  return {
    evidence: {
      kind: "choice",
      question: "Which lamp do you see?",
      outside: "Look up what the lamp means here, put it right, and look again",
      options: [
        ...kit.lamps.map((lamp, at) => option(lamp, `lamp-${at}`, moment)),
        { id: "off", label: "None is lit", isGood: false, next: "Look for its supply: breaker, plug, cable" },
        { id: "other", label: "Something else", isGood: false, next: UNKNOWN },
      ],
    },
  };
}

function option(lamp: Lamp, id: string, moment: LampMoment): Choice {
  const { says, waitMin, next } = lampSays(lamp, moment);
  const label = `${lamp.lamp}: ${lamp.colour}, ${rhythm(lamp)} (${lamp.means})`;
  switch (says) {
    case "good":
      return { id, label, isGood: true };
    case "wait":
      return { id, label, isGood: false, waitMin, ...(next === undefined ? {} : { next }) };
    case "bad":
      return { id, label, isGood: false, ...(next === undefined ? {} : { next }) };
    case "unknown":
      return { id, label, isGood: false, next: UNKNOWN };
  }
}

function rhythm({ pattern, blinks }: Lamp): string {
  const words = pattern.replace("-", " ");
  return blinks === undefined ? words : `${words}, ${blinks} in a group`;
}
