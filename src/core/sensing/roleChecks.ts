import { said, together, type Sentence } from "@/core/sentence";
import type { Finding } from "@/core/findings";
import type { ResolvedPlan } from "@/core/plan/resolvedPlan";
import { roleRuns } from "@/core/sensing/roleRuns";
import { isRight, mismatchText, roleDevices, roleMismatch, ROLE_NAMES, type RoleQuestion } from "@/core/sensing/roles";
import { phasesOfSupply } from "@/core/site/phasors";
import type { Meter, MeterInput, Site, WindowEntry } from "@/core/site/planSchema";
import type { Phase } from "@/core/phase";
import { phasesOf } from "@/core/site/tree";
import { joined } from "@/core/words";

const SOURCE = "The sum of the devices on a circuit, against the sum that the role asks for";

interface RoleGroup {
  readonly meter: Meter;
  readonly question: RoleQuestion;
  readonly inputs: readonly MeterInput[];
}

/**
 * Whether the runs that the plan measures for each role hold what the role asks for, phase by phase. Inputs of one
 * meter with the same role add up. One finding for a role and meter, with the run that would be right.
 *
 * For example: A grid input on the circuit of a sub-board: "would miss the Garage inverter", cure "Measure L1 of Main
 * board instead".
 */
export function roleChecks({ site }: ResolvedPlan): readonly Finding[] {
  const groups = roleGroups(site);
  return [...groups.flatMap((group) => groupFindings(site, group)), ...noGridFinding(site, groups)];
}

function roleGroups(site: Site): readonly RoleGroup[] {
  const groups = new Map<string, { meter: Meter; question: RoleQuestion; inputs: MeterInput[] }>();
  for (const meter of site.meters) {
    for (const input of meter.inputs) {
      if (!input.role) continue;
      const key = JSON.stringify([meter.id, input.role, [...(input.of ?? [])].sort()]);
      const group = groups.get(key) ?? { meter, question: { role: input.role, of: input.of }, inputs: [] };
      group.inputs.push(input);
      groups.set(key, group);
    }
  }
  return [...groups.values()];
}

function groupFindings(site: Site, { meter, question, inputs }: RoleGroup): readonly Finding[] {
  const wanted = roleDevices(site, question);
  const make = (code: string, title: string, detail: Sentence, cure: Sentence, input = inputs[0]!.n): Finding => ({
    id: `${code}:${meter.id}:${inputs[0]!.n}`,
    code,
    severity: "fix",
    stage: "plan",
    subject: { kind: "input", meter: meter.id, input },
    title,
    detail,
    cure,
    source: SOURCE,
  });
  if (wanted.length === 0) {
    return [
      make(
        "role-empty",
        "Nothing to measure for this role",
        said`The ${ROLE_NAMES[question.role]} of ${meter.name} has no device on this site.`,
        "Choose another role, or add the device to the plan",
      ),
    ];
  }
  const entries = inputs.flatMap((input) => input.measures);
  const wrong = phasesOfSupply(site.supply).flatMap((phase) => {
    const mismatch = roleMismatch(
      site,
      question,
      entries.filter((entry) => entry.conductor === phase),
      [phase],
    );
    return isRight(mismatch) ? [] : [{ phase, mismatch }];
  });
  const onNeutral = entries.filter((entry) => entry.conductor === "N");
  if (onNeutral.length > 0) {
    return [
      make(
        "role-neutral",
        "A neutral is measured",
        together(
          said`${ROLE_NAMES[question.role]} of ${meter.name} measures a neutral, which carries only what `,
          "the phases leave.",
        ),
        "Measure the phase conductors",
      ),
    ];
  }
  if (wrong.length === 0) return [];
  // The same fault on every phase is told once.
  const texts = [...new Set(wrong.map(({ mismatch }) => mismatchText(mismatch)))];
  const where =
    texts.length === 1 && wrong.length === phasesOfSupply(site.supply).length && wrong.length > 1
      ? ""
      : said` on ${joined(wrong.map(({ phase }) => phase))}`;
  const better = betterRuns(site, question, wrong[0]!.phase, entries);
  const guilty = inputs.find((input) => input.measures.some((entry) => entry.conductor === wrong[0]!.phase));
  return [
    make(
      "role",
      "This circuit does not hold what the role asks for",
      said`Measured here, the ${ROLE_NAMES[question.role]} of ${meter.name} ${texts.join("; ")}${where}.`,
      better,
      guilty?.n,
    ),
  ];
}

/** What to measure instead, on the first phase that is wrong. */
function betterRuns(site: Site, question: RoleQuestion, phase: Phase, entries: readonly WindowEntry[]): Sentence {
  const [best] = roleRuns(site, question, phase);
  if (best?.isRight) {
    const runs = best.runs.map((run) => run.name);
    const isSame =
      best.runs.every((run) => entries.some((entry) => entry.run === run.id && entry.conductor === phase)) &&
      best.runs.length === entries.filter((entry) => entry.conductor === phase).length;
    if (!isSame)
      return best.runs.length === 1
        ? said`Measure the circuit of ${runs[0]}`
        : said`Measure the circuits of ${joined(runs)} together, or with a CT each`;
  }
  return "No circuit holds exactly this; name the devices that are meant, or take their own meter";
}

function noGridFinding(site: Site, groups: readonly RoleGroup[]): readonly Finding[] {
  const hasSources = site.nodes.some((node) => node.kind.endsWith("inverter") && phasesOf(node, site).length > 0);
  if (groups.length === 0 || !hasSources || groups.some(({ question }) => question.role === "grid")) return [];
  return [
    {
      id: "no-grid-input",
      code: "no-grid-input",
      severity: "note",
      stage: "plan",
      subject: { kind: "job" },
      source: SOURCE,
      title: "Nothing measures the grid",
      detail: "No input has the role grid; neither an export limit nor surplus can be told.",
      cure: "Add an input at the supply, before the first branch",
    },
  ];
}
