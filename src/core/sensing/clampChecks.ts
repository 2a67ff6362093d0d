import { capitalised, said, together, type Sentence } from "@/core/sentence";
import type { Finding } from "@/core/findings";
import { given } from "@/core/given";
import { classRange } from "@/core/sensing/ctAccuracy";
import { isCurrentOutput, leadBurden, smallestLeadMm2 } from "@/core/sensing/ctBurden";
import { usablePrimariesA } from "@/core/sensing/advisedPrimary";
import { smallestPrimaryA, turnsFor } from "@/core/sensing/ctSizing";
import { inputFlows, type InputFlows } from "@/core/sensing/inputFlows";
import { arrowSchool, positiveSchool } from "@/core/sensing/schools";
import type { PlanInput, ResolvedPlan } from "@/core/plan/resolvedPlan";
import { listOf, ratioEntry, saidRatioForm } from "@/core/sensing/ratioEntry";
import { windowDiameterMm } from "@/core/sensing/windowFit";
import { plannedTaps } from "@/core/site/phasors";
import { arrowWords } from "@/core/site/arrowWords";
import type { Site } from "@/core/site/planSchema";
import { siteTree } from "@/core/site/tree";
import { threeDigits } from "@/core/units";

/** A wanted primary may exceed the standard it is compared with by rounding only. */
const SAME = 1 + 1e-9;

type Make = (
  code: string,
  severity: Finding["severity"],
  title: string,
  detail: Sentence,
  cure: Sentence,
  source: string,
) => Finding;

/**
 * Whether the CT chosen for each input fits the run, the window, the lead and the kit: size, family, class at night,
 * ratio setting, burden, lead, window, built-in measuring, tap, shared window, radio transmitter, and the methods.
 *
 * For example: A 200 A CT on an input whose list stops at 100: `ratio-entry`, "Fit a CT of 100, 60 A".
 */
export function clampChecks({ site, inputs }: ResolvedPlan): readonly Finding[] {
  return inputs.flatMap((setup) => inputChecks(site, setup));
}

function inputChecks(site: Site, setup: PlanInput): readonly Finding[] {
  const { meter, input } = setup;
  const make: Make = (code, severity, title, detail, cure, source) => ({
    id: `${code}:${meter.id}:${input.n}`,
    code,
    severity,
    stage: "plan",
    subject: { kind: "input", meter: meter.id, input: input.n },
    title,
    detail,
    cure,
    source,
  });
  const name = said`input ${input.n} of ${meter.name}`;
  const flows = inputFlows(site, input);
  return [
    ...kitInputChecks(setup, name, make),
    ...(input.builtIn
      ? builtInChecks(setup, flows, name, make)
      : [
          ...sizeChecks(setup, flows, name, make),
          ...leadChecks(setup, name, make),
          ...windowChecks(site, setup, name, make),
        ]),
    ...sharedChecks(setup, name, make),
    ...tapChecks(setup, name, make),
    ...transmitterChecks(setup, flows, name, make),
    ...schoolChecks(setup, name, make),
  ];
}

function kitInputChecks({ meter, input, kit, kitInput }: PlanInput, name: Sentence, make: Make): readonly Finding[] {
  if (!kit) return [];
  if (!kitInput) {
    const count = kit.metering?.inputs.length ?? 0;
    return [
      make(
        "no-such-input",
        "fix",
        "The kit has no such input",
        together(
          said`${meter.name} is a ${kit.name} with ${count} input${count === 1 ? "" : "s"}; the plan uses `,
          said`input ${input.n}.`,
        ),
        "Take an input that it has, or another meter",
        `Kit ${kit.id}, metering.inputs`,
      ),
    ];
  }
  if (isCurrentOutput(kitInput.secondary) !== isCurrentOutput(input.secondary)) {
    return [
      make(
        "family",
        "stop",
        "Wrong family of CT",
        said`${capitalised(name)} takes ${text(kitInput.secondary)}; the plan has a CT of ${text(input.secondary)}.`,
        said`Choose a CT of ${text(kitInput.secondary)}; a current-output CT open under load makes a dangerous voltage`,
        `Kit ${kit.id}, metering.inputs.secondary`,
      ),
    ];
  }
  if (kitInput.secondary.value !== input.secondary.value || kitInput.secondary.unit !== input.secondary.unit) {
    return [
      make(
        "secondary",
        "fix",
        "Another secondary than the kit takes",
        said`${capitalised(name)} takes ${text(kitInput.secondary)}; the plan has ${text(input.secondary)}.`,
        said`Choose a CT of ${text(kitInput.secondary)}`,
        `Kit ${kit.id}, metering.inputs.secondary`,
      ),
    ];
  }
  return [];
}

function sizeChecks(
  { input, kit, kitInput, ctKit }: PlanInput,
  flows: InputFlows,
  name: Sentence,
  make: Make,
): readonly Finding[] {
  const findings: Finding[] = [];
  const turns = input.clamp?.turns ?? 1;
  const { needA } = flows;
  const usable = usablePrimariesA(input, kit, ctKit);
  if (needA !== undefined && input.primaryA * SAME < needA) {
    const better = smallestPrimaryA(needA, usable);
    findings.push(
      make(
        "primary-small",
        "fix",
        "The CT is too small for the circuit",
        said`${capitalised(name)} is for ${threeDigits(input.primaryA)} A; ${needText(flows)} can flow there.`,
        better === undefined
          ? said`Choose another CT for ${name}: none of this kit holds ${threeDigits(needA)} A`
          : said`Choose the primary ${better} A for ${name}`,
        "Primary ≥ fuse of the circuit and ≥ the sum of the generation",
      ),
    );
  }
  if (kitInput && kit) {
    const entry = ratioEntry(kitInput.ratio, input.primaryA, input.secondary);
    if (entry.kind === "not-possible") {
      const others = entry.primariesA.filter((primary) => needA === undefined || primary >= needA).slice(0, 3);
      findings.push(
        make(
          "ratio-entry",
          "fix",
          "This ratio cannot be typed",
          said`${capitalised(name)}: ${entry.why}; ${kit.name} takes ${saidRatioForm(kitInput.ratio)}.`,
          others.length > 0
            ? said`Choose a CT of ${listOf(others)} A for ${name}`
            : said`Choose a CT for ${name} that the kit can represent`,
          `Kit ${kit.id}, metering.inputs.ratio`,
        ),
      );
    }
  }
  const ctClass = input.clamp?.class;
  const isAtNight = input.role === "grid" || input.role === "consumption";
  if (ctClass && flows.nightA !== undefined && isAtNight) {
    const { lowestPct } = classRange(ctClass);
    const floorA = (lowestPct / 100) * input.primaryA;
    if (flows.nightA < floorA) {
      // A class that has its S already is not advised again.
      const finer = ctClass.endsWith("S") ? "take a smaller primary" : "take a class with S";
      const more = needA === undefined ? 1 : turnsFor(input.primaryA * turns, needA);
      findings.push(
        make(
          "night-load",
          "note",
          "Night load below what the class promises",
          together(
            said`${capitalised(name)}: about ${threeDigits(flows.nightA)} A at night; class ${ctClass} of `,
            said`${threeDigits(input.primaryA)} A promises nothing below ${threeDigits(floorA)} A.`,
          ),
          more > turns
            ? said`Pass the conductor ${more} times through the window, or ${finer}`
            : said`${capitalised(finer)}, or do not judge small loads by it`,
          "IEC 61869-2, lowest point of the class",
        ),
      );
    }
  }
  return findings;
}

function builtInChecks({ meter, kit }: PlanInput, flows: InputFlows, name: Sentence, make: Make): readonly Finding[] {
  const limitA = kit?.metering?.builtInUpToA;
  if (limitA === undefined) {
    return [
      make(
        "no-built-in",
        "fix",
        "This kit cannot measure direct",
        together(
          said`${capitalised(name)} is planned without a CT; ${kit?.name ?? meter.name} says nothing `,
          "of measuring direct.",
        ),
        "Choose a CT for it",
        kit ? `Kit ${kit.id}, metering.builtInUpToA` : "Plan",
      ),
    ];
  }
  const { needA } = flows;
  if (needA === undefined || needA <= limitA * SAME) return [];
  return [
    make(
      "built-in-overload",
      "stop",
      "More current than it may carry",
      said`${needText(flows)} can flow through ${name}; it measures direct up to ${limitA} A.`,
      "Measure with external CTs, or feed it through a smaller fuse",
      `Kit ${kit!.id}, metering.builtInUpToA`,
    ),
  ];
}

function leadChecks({ input, kit, kitInput }: PlanInput, name: Sentence, make: Make): readonly Finding[] {
  const { leadM, leadMm2, ratedVa } = input.clamp ?? {};
  if (leadM === undefined) return [];
  const findings: Finding[] = [];
  const longest = kitInput?.longestLeadM;
  if (longest !== undefined && leadM > longest * SAME) {
    findings.push(
      make(
        "lead-limit",
        "fix",
        "Lead longer than the kit allows",
        said`The lead of ${name} is ${leadM} m; ${kit!.name} allows ${longest} m.`,
        "Move the meter nearer, or measure with a meter at the CT and carry the reading",
        `Kit ${kit!.id}, metering.inputs.longestLeadM`,
      ),
    );
  }
  if (leadMm2 !== undefined && ratedVa !== undefined) {
    const meterVa = kitInput?.inputVa ?? 0;
    const warm = leadBurden({ secondary: input.secondary, leadM, leadMm2, meterVa, ratedVa, isWarm: true });
    if (warm && warm.burdenVa > ratedVa * SAME) {
      const section = smallestLeadMm2({ secondary: input.secondary, leadM, meterVa, ratedVa });
      findings.push(
        make(
          "burden",
          "fix",
          "The lead is too much for the CT",
          together(
            said`${capitalised(name)}: ${threeDigits(warm.burdenVa)} VA with ${leadM} m of ${leadMm2} mm² warm, `,
            said`against ${ratedVa} VA rated.`,
          ),
          section === undefined
            ? said`Shorten the lead to ${threeDigits(Math.floor((warm.longestLeadM ?? 0) * 10) / 10)} m`
            : together(
                said`Take ${section} mm², or shorten it to `,
                said`${threeDigits(Math.floor((warm.longestLeadM ?? 0) * 10) / 10)} m`,
              ),
          "I²·(2·ρ·L/A + 4 mΩ of contacts) + meter, copper warm",
        ),
      );
    }
  }
  return findings;
}

function windowChecks(site: Site, { input, ctKit }: PlanInput, name: Sentence, make: Make): readonly Finding[] {
  const windowMm = input.clamp?.windowMm ?? ctKit?.clamp?.windowMm;
  const { nodeById } = siteTree(site);
  const outers = input.measures.map(({ run }) => nodeById.get(run)?.cableOuterMm);
  if (windowMm === undefined || !outers.every((outer) => outer !== undefined)) return [];
  const needMm = windowDiameterMm(outers, input.clamp?.turns ?? 1);
  if (needMm <= windowMm * SAME) return [];
  return [
    make(
      "window-small",
      "fix",
      "The conductor does not go through",
      together(
        said`What goes through the window of ${name} needs ${threeDigits(needMm)} mm; the window has ${windowMm} `,
        "mm. A CT that is not closed reads low.",
      ),
      said`Choose a CT with a larger window for ${name}`,
      "Outer diameter of the conductors, packed round",
    ),
  ];
}

function sharedChecks({ input }: PlanInput, name: Sentence, make: Make): readonly Finding[] {
  const conductors = [...new Set(input.measures.map((entry) => entry.conductor))];
  if (conductors.length < 2) return [];
  return [
    make(
      "shared-phases",
      "fix",
      "Different phases in one window",
      said`${capitalised(name)} has ${conductors.join(" and ")} in one window; their currents cancel in part.`,
      "Take one phase only, or a CT each",
      "Several circuits share a window only on the same phase",
    ),
  ];
}

function tapChecks({ meter, input }: PlanInput, name: Sentence, make: Make): readonly Finding[] {
  const phase = plannedTaps(meter.taps)[input.tap];
  const conductor = input.measures[0]?.conductor;
  if (!phase || !conductor || conductor === "N" || phase === conductor) return [];
  return [
    make(
      "tap-phase",
      "fix",
      "Tap and CT on different phases",
      together(
        said`${capitalised(name)} measures ${conductor} against the voltage of ${phase}: a resistive load would `,
        "read about −½ of its power.",
      ),
      said`Take the tap that is on ${conductor} for ${name}`,
      "Tap and CT of an element on the same phase",
    ),
  ];
}

function transmitterChecks(
  { input, kit }: PlanInput,
  flows: InputFlows,
  name: Sentence,
  make: Make,
): readonly Finding[] {
  const wakeUpA = kit?.metering?.transmitter?.wakeUpA;
  if (wakeUpA === undefined || flows.nightA === undefined || flows.nightA >= wakeUpA || input.n !== 1) return [];
  return [
    make(
      "transmitter-sleep",
      "note",
      "The transmitter sleeps at night",
      together(
        said`About ${threeDigits(flows.nightA)} A flow through ${name} at night; ${kit!.name} wakes at ${wakeUpA} `,
        "A and reports nothing below.",
      ),
      "Pass the conductor more often through its first CT, or take one with a battery",
      `Kit ${kit!.id}, metering.transmitter.wakeUpA`,
    ),
  ];
}

function schoolChecks(setup: PlanInput, name: Sentence, make: Make): readonly Finding[] {
  const arrow = arrowSchool(setup);
  const positive = positiveSchool(setup);
  const source = `Kit ${setup.kit?.id ?? ""}, metering.inputs`;
  return given(
    arrow.isOverridden &&
      make(
        "arrow-overridden",
        "note",
        "Arrow against the kit's method",
        together(
          said`The plan wants the arrow of ${name} ${arrowWords(arrow.active)}; its kit wants it `,
          said`${arrowWords(arrow.kits!)}.`,
        ),
        "Write on the label why, or take the kit's way",
        source,
      ),
    positive.isOverridden &&
      make(
        "positive-overridden",
        "note",
        "Sign against the kit's meaning",
        together(
          said`The plan takes positive of ${name} as ${arrowWords(positive.active)}; its kit shows it `,
          said`${arrowWords(positive.kits!)}.`,
        ),
        "Check at the display what positive means, then write it on the label",
        source,
      ),
    setup.input.invert &&
      setup.kitInput &&
      !setup.kitInput.invertSetting &&
      make(
        "invert-not-there",
        "fix",
        "The kit has no invert setting",
        said`${capitalised(name)} is planned with its sign inverted; ${setup.kit!.name} cannot do that.`,
        said`Turn the CT of ${name} instead`,
        source,
      ),
  );
}

function needText({ fuseA, generationA, loadA, needA }: InputFlows): Sentence {
  if (fuseA !== undefined && fuseA >= generationA) return said`${threeDigits(fuseA)} A of fuse`;
  return generationA >= loadA || fuseA !== undefined
    ? said`${threeDigits(generationA)} A of generation`
    : said`${threeDigits(needA ?? loadA)} A of load`;
}

function text({ value, unit }: { readonly value: number; readonly unit: string }): Sentence {
  return said`${value} ${unit}`;
}
