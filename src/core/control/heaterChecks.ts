import { said, together, type Sentence } from "@/core/sentence";
import { heaterOutputs } from "@/core/kits/heaterOutputs";
import { divertFinding } from "@/core/control/divertFinding";
import type { Finding } from "@/core/findings";
import { given } from "@/core/given";
import type { Kit } from "@/core/kits/kitSchema";
import type { ResolvedPlan } from "@/core/plan/resolvedPlan";
import { magnitude } from "@/core/complex";
import { phaseVoltage } from "@/core/site/phasors";
import type { Site, SiteNode } from "@/core/site/planSchema";
import { phasesOf } from "@/core/site/tree";
import { threeDigits } from "@/core/units";

/** Usual load of a fixed copper cable in a wall, A by section; local rules decide. */
const CABLE_A: readonly (readonly [number, number])[] = [
  [1, 11],
  [1.5, 14.5],
  [2.5, 19.5],
  [4, 26],
  [6, 34],
  [10, 46],
  [16, 61],
  [25, 80],
];

/** What is known of each heater beside the plan. */
export interface HeaterFacts {
  readonly weeksAt60: number;
  readonly weeks: number;
}

/**
 * Heaters on a diverter: element against the diverter's rating and its cable; what stays in the circuit; and, where a
 * year was simulated, whether the water gets hot enough for hygiene.
 *
 * For example: An element of 3600 W on a diverter of 3000 W: `element-over-rating` at `fix`.
 */
export function heaterChecks({ site, nodes }: ResolvedPlan, facts?: HeaterFacts): readonly Finding[] {
  return nodes.flatMap(({ node, kit }): readonly Finding[] =>
    node?.kind === "diverter"
      ? [...elementFindings(site, node, kit), ...outputFindings(node, kit), ...waterFindings(node, facts)]
      : [],
  );
}

/** The element against the diverter, its cable and its breaker. */
function elementFindings(site: Site, node: SiteNode, kit: Kit | undefined): readonly Finding[] {
  const ratedW = kit?.ratings.powerW;
  const elementW = node.ratedW;
  const volts = magnitude(phaseVoltage(site.supply, phasesOf(node, site)[0] ?? "L1"));
  const currentA = elementW === undefined ? undefined : elementW / volts;
  const carriesA = node.cableMm2 === undefined ? undefined : cableCurrentA(node.cableMm2);
  return given(
    elementW !== undefined &&
      ratedW !== undefined &&
      elementW > ratedW &&
      divertFinding(
        "element-over-rating",
        "fix",
        node.id,
        "Element too large for the diverter",
        said`${node.name}: ${elementW} W on ${ratedW} W.`,
        "Fit a smaller element, or a larger diverter",
        `Kit ${kit!.id}, ratings.powerW`,
      ),
    currentA !== undefined &&
      carriesA !== undefined &&
      currentA > carriesA &&
      divertFinding(
        "element-cable",
        "fix",
        node.id,
        "Cable too thin for the element",
        together(
          said`${node.name}: ${threeDigits(currentA)} A over ${node.cableMm2} mm², which usually `,
          said`carries ${carriesA} A.`,
        ),
        "Take a thicker cable; local rules decide which",
        "Usual load of a fixed copper cable",
      ),
    currentA !== undefined &&
      node.fuseA !== undefined &&
      currentA > node.fuseA &&
      divertFinding(
        "element-fuse",
        "fix",
        node.id,
        "Breaker too small for the element",
        said`${node.name}: ${threeDigits(currentA)} A on ${node.fuseA} A.`,
        "Fit the breaker that the cable allows",
        "Breaker of the circuit",
      ),
  );
}

/** Which element is on which output: each on one that the kit has, none on another's, none above what it carries. */
function outputFindings(node: SiteNode, kit: Kit | undefined): readonly Finding[] {
  const elements = node.heater?.elements ?? [];
  const outputs = kit ? heaterOutputs(kit) : [];
  const carriesW = kit?.ratings.powerW;
  if (!kit || outputs.length === 0) return [];
  const source = `Kit ${kit.id}, ports`;
  const labels = outputs.map(({ label }) => label).join(", ");
  return elements.flatMap((element, at): readonly Finding[] => {
    const output = outputs.find(({ id }) => id === element.output);
    const sharer = elements.find((other, index) => index < at && other.output === element.output);
    const make = (code: string, title: string, detail: Sentence, cure: string) => ({
      ...divertFinding(code, "fix", node.id, title, detail, cure, source),
      id: `${code}:${node.id}:${at}`,
    });
    return given(
      !output &&
        make(
          "element-output",
          "Element on no output",
          said`${element.name} of ${node.name}: ${kit.name} has ${labels}.`,
          "Say which output it hangs on",
        ),
      output &&
        sharer &&
        make(
          "element-shared",
          "Two elements on one output",
          said`${sharer.name} and ${element.name} both hang on ${output.label} of ${node.name}.`,
          "Give each element an output of its own",
        ),
      carriesW !== undefined &&
        element.ratedW > carriesW &&
        make(
          "element-over-output",
          "Element too large for its output",
          said`${element.name} of ${node.name}: ${element.ratedW} W on ${carriesW} W.`,
          "Fit a smaller element, or a larger diverter",
        ),
    );
  });
}

/** What stays in the circuit, and whether the water gets hot enough. */
function waterFindings(node: SiteNode, facts: HeaterFacts | undefined): readonly Finding[] {
  return given(
    divertFinding(
      "thermostat-stays",
      "note",
      node.id,
      "Thermostat and cut-out stay in the circuit",
      together(
        said`${node.name}: the diverter comes before the thermostat; the over-temperature cut-out is left as `,
        "it is; with two elements H1 is the lower and is heated first.",
      ),
      "Check both with the tank hot, and write it down",
      "Maker's manuals of tank and diverter; local rules",
    ),
    facts &&
      facts.weeks > 0 &&
      facts.weeksAt60 < facts.weeks &&
      divertFinding(
        "hygiene",
        "note",
        node.id,
        "Not at 60 °C every week",
        said`${facts.weeksAt60} of ${facts.weeks} weeks reach 60 °C.`,
        "Set a weekly boost, or raise the thermostat; adjust to the local rule",
        "Simulated year; 60 °C at least weekly",
      ),
  );
}

/** The current that a usual cable carries, A; undefined for a section that is not in the table. */
function cableCurrentA(mm2: number): number | undefined {
  return CABLE_A.find(([section]) => section === mm2)?.[1];
}
