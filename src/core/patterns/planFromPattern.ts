import type { Kit } from "@/core/kits/kitSchema";
import { jobDocumentSchema, JOB_FORMAT, JOB_VERSION, type JobDocument } from "@/core/job/jobDocument";
import { usualStrings } from "@/core/patterns/usualStrings";
import { resolve } from "@/core/plan/resolve";
import { proposeLinks } from "@/core/links/propose/proposeLinks";
import type { PatternAnswers } from "@/core/patterns/patternAnswers";
import type { Pattern, PatternInput, PatternNode } from "@/core/patterns/patternSchema";
import type { Problem } from "@/core/problem";
import { advisedPrimaryA, usablePrimariesA } from "@/core/sensing/advisedPrimary";
import { usualColourScheme } from "@/core/site/conductorColours";
import { idealCt } from "@/core/site/idealCt";
import { likelyHost } from "@/core/site/meterHost";
import { phasesOfSupply } from "@/core/site/phasors";
import type { Conductor, Meter, MeterInput, Site, SiteNode, Supply } from "@/core/site/planSchema";
import type { Phase } from "@/core/phase";
import { siteSchema } from "@/core/site/siteSchema";

const VOLTAGE_V = { "single-phase": 230, "split-phase": 120, "three-phase": 230 } as const;
/** What a CT is set to until the plan says how much can flow. */
const PRIMARY_WITHOUT_KNOWLEDGE_A = 100;

/** A job made from a pattern, or what it lacks. */
export type PatternOutcome =
  | { readonly kind: "job"; readonly document: JobDocument }
  | { readonly kind: "not-possible"; readonly problems: readonly Problem[] };

/**
 * A whole job from a pattern and the few answers: devices that are present, on their phases, with their kits and
 * places; meters with an input for each phase; arrows and signs as the kits want them; the smallest primary that holds
 * and that the kit can be set to; and a CT on every input, placed as planned.
 *
 * @param kits The library to take kits from; those used are copied into the job.
 * For example: `planFromPattern(s03, usualAnswers(s03), kits)` gives a grid and a generation input, both with their
 * CTs
 */
export function planFromPattern(pattern: Pattern, answers: PatternAnswers, kits: readonly Kit[]): PatternOutcome {
  const supply: Supply = {
    system: answers.system,
    voltageV: VOLTAGE_V[answers.system],
    frequencyHz: answers.system === "split-phase" ? 60 : 50,
    rotation: "L1-L2-L3",
    mainFuseA: answers.mainFuseA,
  };
  if (!pattern.supply.systems.includes(answers.system)) {
    return {
      kind: "not-possible",
      problems: [{ path: ["system"], message: `pattern ${pattern.id} is for ${pattern.supply.systems.join(" or ")}` }],
    };
  }
  const missing = missingKits(pattern, kits);
  if (missing.length > 0)
    return {
      kind: "not-possible",
      problems: missing.map((id) => ({ path: ["pattern"], message: `the library has no kit "${id}"` })),
    };
  const nodes = planNodes(pattern, answers, supply);
  const bare: Site = {
    supply,
    nodes: [{ id: "grid", kind: "grid", name: "Supply" }, ...nodes],
    meters: [],
    cts: [],
    places: pattern.places,
    ways: answers.ways,
    equipment: pattern.equipment.map(({ existing, ...item }) => ({ ...item, ...(existing ? { existing } : {}) })),
  };
  const meters = pattern.meters.flatMap((meter) => planMeter(meter, bare, kits));
  const site = siteSchema.safeParse({
    ...bare,
    meters,
    cts: meters.flatMap((meter) =>
      meter.inputs.map((input) => ({ ...idealCt(meter, input), id: `ct-${meter.id}-${input.n}` })),
    ),
  });
  if (!site.success)
    return {
      kind: "not-possible",
      problems: site.error.issues.map((issue) => ({
        path: issue.path.filter((key) => typeof key !== "symbol"),
        message: issue.message,
      })),
    };
  const used = usedKits(pattern, site.data);
  const carried = kits.filter((kit) => used.has(kit.id));
  return {
    kind: "job",
    document: jobDocumentSchema.parse({
      format: JOB_FORMAT,
      version: JOB_VERSION,
      job: {
        name: answers.name,
        place: answers.place,
        notes: pattern.watch.join("\n"),
        colourScheme: usualColourScheme(answers.system),
        pattern: pattern.id,
      },
      site: site.data,
      tests: {},
      visit: { ...pattern.visit, strings: usualStrings(site.data, carried) },
      kits: carried,
      links: [...proposeLinks(resolve({ site: site.data, kits: carried, links: [] }))],
    }),
  };
}

function planNodes(pattern: Pattern, answers: PatternAnswers, supply: Supply): readonly SiteNode[] {
  const answerOf = new Map(answers.devices.map((device) => [device.id, device]));
  const absent = new Set(
    answers.devices
      .filter((device) => !device.present && pattern.nodes.some((node) => node.id === device.id && node.optional))
      .map((device) => device.id),
  );
  // What hangs below an absent device hangs from what fed it.
  const feeder = (id: string): string =>
    absent.has(id) ? feeder(pattern.nodes.find((node) => node.id === id)?.fedFrom ?? "grid") : id;
  return pattern.nodes
    .filter((node) => !absent.has(node.id))
    .flatMap((node) => {
      const answer = answerOf.get(node.id);
      const common = {
        kind: node.kind,
        fedFrom: feeder(node.fedFrom),
        ...optional("kit", node.kit),
        ...optional("place", node.place),
        ...optional("ratedW", answer?.ratedW ?? node.ratedW),
        ...optional("fuseA", node.fuseA),
        ...optional("nightW", node.nightW),
        ...optional("cableMm2", node.cableMm2),
        ...optional("cableOuterMm", node.cableOuterMm),
        ...optional("owner", node.owner),
        ...optional("heater", node.heater),
        ...((answer?.existing ?? node.existing) ? { existing: true } : {}),
      };
      const phases = phasesOfSupply(supply);
      if (node.phases === "each" && phases.length > 1) {
        return phases.map((phase) => ({
          ...common,
          id: `${node.id}-${phase.toLowerCase()}`,
          name: `${node.name} ${phase}`,
          phases: [phase],
        }));
      }
      return [{ ...common, id: node.id, name: node.name, phases: nodePhases(node, answer?.phase, phases) }];
    });
}

function nodePhases(node: PatternNode, chosen: Phase | undefined, phases: readonly Phase[]): Phase[] {
  switch (node.phases) {
    case "all":
    case "each":
      return [...phases];
    case "two":
      return phases.slice(0, 2);
    case "one":
      return [chosen && phases.includes(chosen) ? chosen : phases[0]!];
  }
}

function planMeter(meter: Pattern["meters"][number], site: Site, kits: readonly Kit[]): readonly Meter[] {
  const kit = kits.find((candidate) => candidate.id === meter.kit);
  const phases = phasesOfSupply(site.supply);
  const tapNames = (kit?.metering?.taps ?? ["V1"]).slice(0, phases.length);
  // A meter of one tap on a supply of several is tapped where its first input measures.
  const inputs: { conductor: Conductor; planned: PatternInput }[] = meter.inputs.flatMap((planned) => {
    const runs = planned.runs.filter((run) => site.nodes.some((node) => node.id === run));
    if (runs.length === 0) return [];
    return inputConductors(planned, runs, site).map((conductor) => ({ conductor, planned: { ...planned, runs } }));
  });
  if (inputs.length === 0) return [];
  const first = inputs[0]!.conductor;
  const taps: Record<string, Phase> = Object.fromEntries(
    tapNames.map((tap, at) => [tap, tapNames.length === 1 && first !== "N" ? first : phases[at]!]),
  );
  return [
    {
      id: meter.id,
      name: meter.name,
      kit: meter.kit,
      ...hostIn(meter, site),
      ...optional("place", meter.place),
      ...(meter.existing ? { existing: true } : {}),
      ...optional("classPct", kit?.metering?.classPct),
      taps,
      inputs: inputs.map(({ conductor, planned }, at) => planInput(at + 1, conductor, planned, taps, site, kit, kits)),
    },
  ];
}

/** Which device a meter is a part of: as the pattern says, else the only one that it can be. */
function hostIn(meter: Pattern["meters"][number], site: Site): Pick<Meter, "partOf"> {
  const host = meter.partOf === undefined ? likelyHost(site, meter) : meter.partOf;
  return host === undefined || (host !== null && site.nodes.every(({ id }) => id !== host)) ? {} : { partOf: host };
}

function inputConductors(planned: PatternInput, runs: readonly string[], site: Site): readonly Conductor[] {
  if (planned.conductor !== "each") return [planned.conductor];
  return phasesOfSupply(site.supply).filter((phase) =>
    runs.some((run) => site.nodes.find((node) => node.id === run)?.phases?.includes(phase)),
  );
}

function planInput(
  n: number,
  conductor: Conductor,
  planned: PatternInput,
  taps: Meter["taps"],
  site: Site,
  kit: Kit | undefined,
  kits: readonly Kit[],
): MeterInput {
  const kitInput = kit?.metering?.inputs.find((candidate) => candidate.n === n);
  const ctKit = kits.find((candidate) => candidate.id === planned.clamp);
  const measures = planned.runs
    .filter((run) => conductor === "N" || site.nodes.find((node) => node.id === run)?.phases?.includes(conductor))
    .map((run) => ({ run, conductor }));
  const secondary = kitInput?.secondary ?? { value: 0.333, unit: "V" as const };
  const tap = Object.entries(taps).find(([, phase]) => phase === conductor)?.[0] ?? Object.keys(taps)[0] ?? "V1";
  const limitA = kit?.metering?.builtInUpToA;
  const isBuiltIn = planned.builtIn && limitA !== undefined && (site.supply.mainFuseA ?? 0) <= limitA;
  const input: MeterInput = {
    n,
    measures,
    tap,
    arrow: kitInput?.arrow ?? "to-load",
    positive: kitInput?.positive ?? "to-load",
    primaryA: PRIMARY_WITHOUT_KNOWLEDGE_A,
    secondary,
    invert: false,
    role: planned.role,
    ...optional(
      "of",
      planned.of?.filter((id) => site.nodes.some((node) => node.id === id)),
    ),
    ...(isBuiltIn ? { builtIn: true } : {}),
    ...(isBuiltIn
      ? {}
      : {
          clamp: {
            ...optional("kit", planned.clamp),
            ...optional("class", ctKit?.clamp?.class),
            ...optional("windowMm", ctKit?.clamp?.windowMm),
            ...optional("ratedVa", ctKit?.clamp?.ratedVa),
            ...optional("leadM", planned.leadM ?? ctKit?.clamp?.leadM),
            ...optional("leadMm2", planned.leadMm2),
          },
        }),
  };
  if (isBuiltIn) return { ...input, primaryA: limitA };
  return {
    ...input,
    primaryA:
      advisedPrimaryA(site, input, kit, ctKit) ??
      usablePrimariesA(input, kit, ctKit).at(-1) ??
      PRIMARY_WITHOUT_KNOWLEDGE_A,
  };
}

function missingKits(pattern: Pattern, kits: readonly Kit[]): readonly string[] {
  const known = new Set(kits.map((kit) => kit.id));
  const named = [
    ...pattern.nodes.map((node) => node.kit),
    ...pattern.meters.map((meter) => meter.kit),
    ...pattern.meters.flatMap((meter) => meter.inputs.map((input) => input.clamp)),
    ...pattern.equipment.map((item) => item.kit),
  ];
  return [...new Set(named.filter((id): id is string => id !== undefined && !known.has(id)))];
}

function usedKits(pattern: Pattern, site: Site): ReadonlySet<string | undefined> {
  return new Set([
    ...site.nodes.map((node) => node.kit),
    ...site.meters.map((meter) => meter.kit),
    ...site.meters.flatMap((meter) => meter.inputs.map((input) => input.clamp?.kit)),
    ...pattern.equipment.map((item) => item.kit),
  ]);
}

/** A field that is left out when there is nothing to say: the format has no empty values. */
function optional<K extends string, V>(key: K, value: V | undefined): Partial<Record<K, V>> {
  return value === undefined ? {} : ({ [key]: value } as Partial<Record<K, V>>);
}
