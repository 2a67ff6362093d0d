import type { LimitSettings, OwnEvent } from "@/core/plan/limitSettings";
import { USUAL_ACTOR, type ExportEvent, type ExportLimitRequest } from "@/core/simulation/exportLimitSchema";
import { safeSetPointW } from "@/core/simulation/exportLimit";
import { pollOfLink } from "@/core/links/bus/pollOfLink";
import { readingAges } from "@/core/links/bus/readingAges";
import { askerOf } from "@/core/plan/linkEnds";
import type { KitDevice, ResolvedPlan } from "@/core/plan/resolvedPlan";
import { gridErrorPct } from "@/core/control/gridErrorPct";
import { phasesOfSupply } from "@/core/site/phasors";
import type { Meter, Site, SiteNode } from "@/core/site/planSchema";
import type { Phase } from "@/core/phase";
import { phasesOf } from "@/core/site/tree";

type Happening = Pick<ExportLimitRequest, "durationS"> & Partial<Pick<ExportLimitRequest, "loads" | "events">>;

/** Who limits, by what it knows of the grid, and what it tells. */
export interface ExportLimiter {
  readonly controller: KitDevice;
  readonly meter: Meter;
  readonly inverters: readonly SiteNode[];
  /** Age of the reading at the controller, at most. */
  readonly readingMs: number;
  /**
   * Until a command is at the last inverter: a cycle of the longest line that the controller asks them on; 0 where it
   * is the inverter itself.
   */
  readonly commandMs: number;
  /** CT and meter together at the limit, %. */
  readonly errorPct: number;
}

const CONTROLLER_RANK = ["export-controller", "energy-manager", "logger", "hybrid-inverter", "pv-inverter"];
const INVERTER_KINDS = ["pv-inverter", "hybrid-inverter"];
const STEP_MS = 20;
/** How fast a usual battery takes up a difference at the grid, 1/s. */
const OTHER_GAIN_PER_S = 0.3;
const METER_SAMPLE_MS = 200;
/** Usual delays of an inverter until the kit says otherwise. */
export const USUAL_RESPONSE = { deadTimeMs: 200, lagMs: 400, rampPctPerS: 50 } as const;
/** What an inverter does without its meter until the kit says otherwise. */
export const USUAL_FALLBACK = { timeS: 60, fallbackPct: 0 } as const;

/** The scenarios that every limit is tried in. */
export const SCENARIOS = [
  { id: "load-drop", name: "Load drop" },
  { id: "cloud-edge", name: "Cloud edge" },
  { id: "kettle", name: "Kettle cycles" },
  { id: "meter-cut", name: "Meter cable cut" },
  { id: "inverter-lost", name: "One inverter lost" },
  { id: "grid-return", name: "Grid return" },
  { id: "own", name: "Own list" },
] as const;

/** The id of a scenario. */
export type ScenarioId = (typeof SCENARIOS)[number]["id"];

/**
 * Who limits the export of a plan, and by which reading. Undefined where the plan has no inverter or nobody who reads
 * the grid.
 */
export function exportLimiter(plan: ResolvedPlan): ExportLimiter | undefined {
  const { site, limit, meterById } = plan;
  const found = readingAges(plan)
    .filter(({ meter }) => meter.inputs.some(({ role }) => role === "grid"))
    .toSorted((a, b) => rankOf(a.reader) - rankOf(b.reader))
    .find(({ reader }) => rankOf(reader) < CONTROLLER_RANK.length);
  const inverters = site.nodes.filter(({ kind, ratedW }) => INVERTER_KINDS.includes(kind) && ratedW !== undefined);
  if (!found || inverters.length === 0) return undefined;
  return {
    controller: found.reader,
    meter: found.meter,
    inverters,
    readingMs: found.oldestMs,
    commandMs: commandMs(found.reader, inverters),
    errorPct: gridErrorPct(site, meterById.get(found.meter.id)!, limit.powerW ?? 0),
  };
}

function commandMs(controller: KitDevice, inverters: readonly SiteNode[]): number {
  const lines = controller.links.filter(
    (link) =>
      link.kind === "rs485" &&
      askerOf(link)?.device.id === controller.id &&
      link.members.some(({ item }) => item !== controller.id && inverters.some(({ id }) => id === item)),
  );
  return Math.max(0, ...lines.map((line) => pollOfLink(line)?.cycleMs[0] ?? 0));
}

/**
 * What a plan lacks so that somebody could hold a limit, each with where to add it; empty where `exportLimiter` has an
 * answer.
 *
 * For example: A meter that only a logger's cloud reads: "Nobody who can limit reads Grid meter: join it to …"
 */
export function limitLacks(plan: ResolvedPlan): readonly string[] {
  const { site } = plan;
  const isInverter = (node: SiteNode) => INVERTER_KINDS.includes(node.kind);
  const meters = site.meters.filter(({ inputs }) => inputs.some(({ role }) => role === "grid"));
  const readers = readingAges(plan)
    .filter(({ meter }) => meters.some(({ id }) => id === meter.id))
    .map(({ reader }) => reader);
  const names = meters.map(({ name }) => name).join(", ");
  const others = [...new Set(readers.map(({ name }) => name))].join(", ");
  return [
    ...(site.nodes.some(isInverter)
      ? site.nodes.some((node) => isInverter(node) && node.ratedW !== undefined)
        ? []
        : ["No inverter has a rating yet: type it under Plan"]
      : ["There is no solar or hybrid inverter: add it under Plan"]),
    ...(meters.length === 0
      ? ["No meter has an input for the grid: add one under Plan"]
      : readers.some((reader) => rankOf(reader) < CONTROLLER_RANK.length)
        ? []
        : [
            `Nobody who can limit reads ${names}${others ? ` (${others} does, and cannot limit)` : ""}: join ` +
              "it to an export controller, an energy manager or an inverter under Wire",
          ]),
  ];
}

function rankOf({ kit }: KitDevice): number {
  const at = CONTROLLER_RANK.indexOf(kit.kind);
  return at < 0 ? CONTROLLER_RANK.length : at;
}

/** What is set: as typed, else what keeps the true export within the limit, W. */
export function plannedSetPointW(limit: LimitSettings, { errorPct }: Pick<ExportLimiter, "errorPct">): number {
  return limit.setPointW ?? safeSetPointW(limit.powerW ?? 0, errorPct, limit.deadBandW);
}

/**
 * A plan's limit as the simulation takes it, in one of the scenarios: inverters from the plan and their kits'
 * fail-safe, delay of the reading from Wire, error from CT and meter.
 *
 * @param withOthers Battery and heater of the plan act on the grid too; without them they are full and hot, the worst
 *   case.
 */
export function limitRequest(
  plan: ResolvedPlan,
  limiter: ExportLimiter,
  scenario: ScenarioId,
  withOthers = false,
): ExportLimitRequest {
  const { site, deviceById, limit } = plan;
  const phases = phasesOfSupply(site.supply);
  const total = limiter.inverters.reduce((sum, { ratedW }) => sum + ratedW!, 0);
  const houseW = 0.35 * total;
  const base = {
    system: site.supply.system,
    limit: { powerW: limit.powerW ?? 0, basis: limit.basis, secondsAllowed: limit.secondsAllowed },
    stepMs: STEP_MS,
    inverters: limiter.inverters.map((node) => {
      const kit = deviceById.get(node.id)?.kit;
      const { deadTimeMs, lagMs, rampPctPerS } = kit?.exportLimit?.response ?? USUAL_RESPONSE;
      const failSafe = kit?.exportLimit?.failSafe ?? USUAL_FALLBACK;
      return {
        id: node.id,
        ratedW: node.ratedW!,
        availableW: 0.95 * node.ratedW!,
        phases: [...phasesOf(node, site)] as Phase[],
        deadTimeMs,
        tauMs: lagMs,
        rampWPerS: (rampPctPerS / 100) * node.ratedW!,
        minW: 0,
        lostMeter: { afterMs: failSafe.timeS * 1000, fallbackW: (failSafe.fallbackPct / 100) * node.ratedW! },
      };
    }),
    meter: {
      samplePeriodMs: METER_SAMPLE_MS,
      delayMs: limiter.readingMs + limiter.commandMs,
      errorPct: -limiter.errorPct,
    },
    controller: {
      kind: "integral" as const,
      gainPerS: limit.gainPerS,
      setPointW: limit.setPointW ?? 0,
      deadBandW: limit.deadBandW,
      periodMs: Math.max(500, limiter.readingMs),
    },
  };
  const setPointW = plannedSetPointW(limit, limiter);
  const longestFallbackS = Math.max(...base.inverters.map(({ lostMeter }) => lostMeter.afterMs / 1000));
  const happening = happenings(scenario, phases, houseW, total, base.inverters, longestFallbackS, limit.events);
  return {
    ...base,
    ...(withOthers ? otherControllers(site) : {}),
    controller: { ...base.controller, setPointW },
    loads: [],
    events: [],
    ...happening,
  };
}

/**
 * How the inverters answer a command, in words, those that answer alike together, and whether their kits say so.
 *
 * For example: "Roof inverter: dead time 150 ms, lag 350 ms, 60 % a second, by the kit"
 */
export function responseTexts(
  { deviceById }: Pick<ResolvedPlan, "deviceById">,
  { inverters }: Pick<ExportLimiter, "inverters">,
): readonly string[] {
  const namesOf = new Map<string, string[]>();
  for (const node of inverters) {
    const own = deviceById.get(node.id)?.kit?.exportLimit?.response;
    const { deadTimeMs, lagMs, rampPctPerS } = own ?? USUAL_RESPONSE;
    const text =
      `dead time ${deadTimeMs} ms, lag ${lagMs} ms, ${rampPctPerS} % a second, ` +
      `${own ? "by the kit" : "usual values, as the kit does not say"}`;
    namesOf.set(text, [...(namesOf.get(text) ?? []), node.name]);
  }
  return [...namesOf].map(([text, names]) => `${names.join(", ")}: ${text}`);
}

/** A battery that holds the grid at nothing, and a heater that takes what is exported; several act as one. */
function otherControllers(site: Site): Pick<ExportLimitRequest, "battery" | "diverter"> {
  const together = (kind: SiteNode["kind"]) => {
    const own = site.nodes.filter((node) => node.kind === kind && node.ratedW !== undefined);
    const phases = phasesOfSupply(site.supply).filter((phase) =>
      own.some((node) => phasesOf(node, site).includes(phase)),
    );
    return { phases, ratedW: own.reduce((sum, { ratedW = 0 }) => sum + ratedW, 0) };
  };
  const [battery, heater] = [together("battery-inverter"), together("diverter")];
  return {
    ...(battery.ratedW > 0
      ? {
          battery: {
            ...USUAL_ACTOR,
            phases: battery.phases,
            gainPerS: OTHER_GAIN_PER_S,
            setPointW: 0,
            powerW: battery.ratedW,
          },
        }
      : {}),
    ...(heater.ratedW > 0
      ? {
          diverter: {
            ...USUAL_ACTOR,
            phases: heater.phases,
            gainPerS: OTHER_GAIN_PER_S / 2,
            setPointW: -50,
            ratedW: heater.ratedW,
          },
        }
      : {}),
  };
}

function happenings(
  scenario: ScenarioId,
  phases: readonly Phase[],
  houseW: number,
  totalW: number,
  inverters: readonly { readonly id: string }[],
  fallbackS: number,
  own: readonly OwnEvent[],
): Happening {
  const on = (atS: number, powerW: number) => phases.map((phase) => ({ atS, phase, powerW: powerW / phases.length }));
  const first = phases[0]!;
  switch (scenario) {
    case "load-drop":
      return { durationS: 60, loads: [...on(0, houseW), ...on(20, 0.15 * houseW)] };
    case "cloud-edge":
      return {
        durationS: 80,
        loads: on(0, houseW),
        events: [
          { atS: 20, kind: "sun", availableW: (0.2 * totalW) / inverters.length },
          { atS: 40, kind: "sun", availableW: (0.95 * totalW) / inverters.length },
        ],
      };
    case "kettle":
      return {
        durationS: 120,
        loads: [
          ...on(0, houseW),
          ...Array.from({ length: 8 }, (_, at) => ({
            atS: 20 + 10 * at,
            phase: first,
            powerW: houseW / phases.length + (at % 2 === 0 ? 2200 : 0),
          })),
        ],
      };
    case "meter-cut":
      return {
        durationS: Math.min(600, 50 + 2 * fallbackS),
        loads: [...on(0, houseW), ...on(40, 0)],
        events: [{ atS: 20, kind: "meter-lost" }],
      };
    case "inverter-lost":
      return {
        durationS: 80,
        loads: on(0, houseW),
        events: [
          { atS: 20, kind: "inverter-lost", id: inverters[0]!.id },
          { atS: 45, kind: "inverter-back", id: inverters[0]!.id },
        ],
      };
    case "grid-return":
      return {
        durationS: 80,
        loads: on(0, houseW),
        events: [
          { atS: 15, kind: "grid-lost" },
          { atS: 30, kind: "grid-return" },
        ],
      };
    case "own":
      return ownHappening(phases, on(0, houseW), inverters, own);
  }
}

/** A list that somebody built; an inverter that is not in the plan any more stands for the first. */
function ownHappening(
  phases: readonly Phase[],
  house: NonNullable<Happening["loads"]>,
  inverters: readonly { readonly id: string }[],
  own: readonly OwnEvent[],
): Happening {
  const known = new Set(inverters.map(({ id }) => id));
  return {
    durationS: Math.max(60, 30 + Math.max(0, ...own.map(({ atS }) => atS))),
    loads: [
      ...house,
      ...own
        .filter(({ what, phase }) => what === "load" && phases.includes(phase))
        .map(({ atS, phase, powerW }) => ({ atS, phase, powerW })),
    ],
    events: own.flatMap(({ atS, what, inverter, powerW }): ExportEvent[] => {
      const id = known.has(inverter) ? inverter : undefined;
      if (what === "load") return [];
      if (what === "sun") return [{ atS, kind: what, availableW: powerW, ...(id ? { id } : {}) }];
      if (what === "inverter-lost" || what === "inverter-back")
        return [{ atS, kind: what, id: id ?? inverters[0]!.id }];
      return [{ atS, kind: what }];
    }),
  };
}
