import type { KitDevice } from "@/core/plan/resolvedPlan";
import type { Phase } from "@/core/phase";
import type { Site, SiteNode } from "@/core/site/planSchema";
import { phasesOf } from "@/core/site/tree";
import { boardFeeds, type BoardFeed } from "@/core/visit/rules/boardFeeds";
import { lampChoice } from "@/core/visit/rules/lampChoice";
import { schoolLine } from "@/core/visit/schools";
import { isOnMains, isSolar, type VisitContext } from "@/core/visit/visitContext";
import type { VisitRule } from "@/core/visit/visitRule";
import type { StepDraft, StepTag, ValueField } from "@/core/visit/visitStep";
import { joined } from "@/core/words";

/** A supply is usually kept within this of its nominal voltage. */
const SUPPLY_SHARE = 0.1;
/** A generator that is governed well stays within this of its frequency. */
const FREQUENCY_SHARE = 0.05;
/** Neutral is at earth but for the drop along it; more is an open neutral or a lost bond. */
const NEUTRAL_EARTH_V = 5;
/** Below an open breaker nothing may come back; a tester shows induced volts. */
const DEAD_V = 10;
const LIVE_CAUTION =
  "Parts are live from here on: covers on where there is no measuring, and nobody works alone on live parts " +
  "where local rules forbid it.";
const ISLAND_CAUTION =
  "An island has its own neutral–earth bond and a weaker fault current: whether and where they are joined is for " +
  "local rules, the maker's manual and a licensed electrician.";
const SUPPLY_OUTSIDE =
  "Do not switch anything on: look for an open neutral, a wrong tap or two phases exchanged, and call " +
  "whoever supplies it";
/** What a kit's power-up order names, as an electrician says it; "this" is the device itself. */
const SOURCE_WORDS = {
  battery: "the battery",
  dc: "DC",
  ac: "AC",
  meter: "the meter",
  network: "the network",
  this: "the device",
} as const;
/** What is powered by itself and stands on no run. */
const POWERED_KINDS = [
  "gateway",
  "logger",
  "monitor",
  "export-controller",
  "energy-manager",
  "radio-pair",
  "transmitter",
  "backup-box",
];

/** From the last look with everything dead to the loads: one source at a time, at every board. */
export const ENERGISE_RULES: readonly VisitRule[] = [
  { id: "look-over", yields: lookOver },
  {
    id: "clear",
    yields: (context) =>
      boardFeeds(context).map(({ board }) => ({
        tag: "clear",
        stage: "power-up" as const,
        title: `Everybody clear of ${board.name}`,
        place: board.place,
        about: board.id,
        why: "Nothing is energised while anyone works on what it feeds",
        activeMin: 2,
        people: "all" as const,
        source: "One word from everybody who works there",
        isGate: true,
        caution: "Whoever has a lock on it takes it off themselves.",
        content: [{ label: "It feeds", value: feeds(context, board) }],
        evidence: {
          kind: "names" as const,
          question: "Who works here, and is clear of all that it feeds?",
          count: context.visit.technicians,
        },
      })),
  },
  {
    id: "restore",
    yields: (context) =>
      boardFeeds(context)
        .filter(({ behind }) => behind === undefined)
        .map(({ board }) => ({
          ...sourceStep(context.site, board),
          tag: "restore" as const,
          title: `Supply back on at ${board.name}`,
          content: [
            { label: "Before", value: "every breaker of loads, inverters and backup open" },
            { label: "Measure", value: "above the open breaker, then below it; close it, and measure below once more" },
          ],
        })),
  },
  {
    id: "restore-backup",
    yields: (context) =>
      boardFeeds(context).flatMap(({ board, behind }) =>
        behind === undefined
          ? []
          : {
              ...sourceStep(context.site, board),
              tag: "restore-backup" as const,
              title: `Grid through ${behind.name} at ${board.name}`,
              content: [{ label: "Before", value: "every breaker of the backed-up loads open" }],
            },
      ),
  },
  { id: "island", yields: (context) => boardFeeds(context).flatMap((feed) => islandStep(context, feed)) },
  {
    id: "on-generator",
    yields: (context) =>
      context.plan.nodes.flatMap((device) =>
        device.node?.kind === "generator" ? generatorStep(context.site, device.node) : [],
      ),
  },
  {
    id: "on-ac",
    yields: (context) =>
      context.worked
        .filter((item) => isOnMains(item) && item.node?.kind !== "generator")
        .map((item) => onStep(item, "on-ac", `Switch on AC of ${item.name}`, item.kit.timers.bootS)),
  },
  {
    id: "on-battery",
    yields: ({ worked }) =>
      worked
        .filter(({ kit }) => kit.kind === "battery")
        .map((item) => onStep(item, "on-battery", `Switch on ${item.name}`, item.kit.timers.bootS)),
  },
  {
    id: "on-dc",
    yields: ({ worked }) =>
      worked
        .filter((item) => isSolar(item))
        .map((item) => onStep(item, "on-dc", `Switch on DC of ${item.name}`, undefined)),
  },
  {
    id: "on",
    yields: ({ worked }) =>
      worked
        .filter((item) => item.isNew && POWERED_KINDS.includes(item.kit.kind) && !isOnMains(item))
        .map((item) => onStep(item, "on", `Power ${item.name}`, item.kit.timers.bootS)),
  },
  {
    id: "reconnect",
    yields: ({ worked }) =>
      worked
        .filter((item) => isOnMains(item) && item.kit.timers.reconnectDelayS !== undefined)
        .map((item) => ({
          tag: "reconnect",
          stage: "power-up" as const,
          title: `${item.name} joins the grid`,
          place: item.place?.id,
          about: item.id,
          why: "The grid code makes it look at the grid first",
          activeMin: 1,
          waitMin: item.kit.timers.reconnectDelayS! / 60,
          waiting: { what: "reconnect" as const, label: `${item.name} looks at the grid` },
          source: `Kit ${item.kit.id}, timers.reconnectDelayS`,
          ...lampChoice(item, "joined"),
        })),
  },
  {
    id: "loads",
    yields: (context) =>
      boardFeeds(context).map(({ board, behind }) => ({
        tag: "loads",
        stage: "power-up" as const,
        title: `${behind === undefined ? "Breakers of loads" : "Breakers of the backed-up loads"} at ${board.name}`,
        place: board.place,
        about: board.id,
        why: "Last, and one by one: the one that trips is the one that was closed",
        activeMin: 3,
        source: "Sources first, loads last, backup after all others",
        caution: LIVE_CAUTION,
        content: [{ label: "One by one", value: loadsOf(context, board) }],
        evidence: {
          kind: "choice" as const,
          question: "Does every breaker hold?",
          outside: "Leave it open, and find out why before it is tried again",
          options: [
            { id: "hold", label: "Every one holds", isGood: true },
            { id: "trips", label: "One trips", isGood: false },
          ],
        },
      })),
  },
];

/** The last look with everything dead: what is wrong now is put right without a shock. */
function lookOver(context: VisitContext): readonly StepDraft[] {
  const feeds = boardFeeds(context);
  const [first] = feeds;
  if (!first) return [];
  const hasBattery = context.worked.some(({ kit }) => kit.kind === "battery" || kit.kind === "battery-inverter");
  const hasStrings = context.worked.some(isSolar);
  return [
    {
      tag: "look-over",
      stage: "power-up",
      title: "Look over everything before power",
      place: first.board.place,
      why: "What is found now is put right without a shock",
      activeMin: 6,
      source: "Torque, tools, holes, breakers, feeds, covers, bonds",
      isGate: true,
      content: [
        { label: "Torque", value: "every terminal that was touched, by its kit or the maker's manual" },
        { label: "Inside", value: "no tool, offcut or strand left; unused holes closed" },
        {
          label: "Open",
          value: `every feed and every breaker of loads${feeds.some(({ island }) => island) ? ", and backup" : ""}`,
        },
        ...(hasBattery ? [{ label: "Batteries", value: "covers on, breaker off" }] : []),
        ...(hasStrings
          ? [{ label: "DC negative", value: "joined to earth only where the maker's manual says so" }]
          : []),
      ],
      evidence: {
        kind: "choice",
        question: "Is all of it so?",
        outside: "Put it right while everything is dead, and look again",
        options: [
          { id: "all", label: "All of it", isGood: true },
          { id: "not", label: "Not yet", isGood: false },
        ],
      },
    },
  ];
}

/** What is the same at every board: measured above and below its breaker before that is closed. */
function sourceStep(site: Site, board: SiteNode): Omit<StepDraft, "tag" | "title"> {
  return {
    stage: "power-up",
    place: board.place,
    about: board.id,
    why: "Every source is verified by its voltages before anything is switched to it",
    activeMin: 5,
    source: "Nominal voltage ± 10 %; local rules decide",
    isGate: true,
    caution: LIVE_CAUTION,
    evidence: {
      kind: "values",
      fields: [
        ...supplyFields(site.supply, phasesOf(board, site)),
        neutralEarth(),
        {
          id: "below",
          label: "Highest below the open breaker",
          unit: "V",
          least: 0,
          most: DEAD_V,
          outside: "Something else feeds it: find it and lock it off before this breaker is closed",
        },
      ],
    },
  };
}

function islandStep({ site, visit }: VisitContext, { board, island }: BoardFeed): readonly StepDraft[] {
  if (!island) return [];
  return [
    {
      tag: "island",
      stage: "power-up",
      title: `${board.name} on ${island.name} alone, the grid refused`,
      place: board.place,
      about: board.id,
      why: "The backup side is proved by itself, one source at a time",
      activeMin: 6,
      source: "Nominal voltage ± 10 %; the maker's manual says how it runs alone",
      isGate: true,
      caution: ISLAND_CAUTION,
      school: schoolLine(visit, island.kit, "energise"),
      content: [
        { label: "Grid", value: `breaker of ${island.name} toward the grid open and locked` },
        { label: "Sources", value: "its battery alone; DC and generator off" },
        { label: "Afterwards", value: "stop it, let the grid in, and look that it takes it" },
      ],
      evidence: {
        kind: "values",
        fields: [...supplyFields(site.supply, phasesOf(board, site)), neutralEarth()],
      },
    },
  ];
}

function generatorStep(site: Site, node: SiteNode): StepDraft {
  const { frequencyHz } = site.supply;
  return {
    tag: "on-generator",
    stage: "power-up",
    title: `${node.name} alone, the grid off`,
    place: node.place,
    about: node.id,
    why: "Proved last and alone: two sources that do not know each other destroy each other",
    activeMin: 8,
    source: "Nominal voltage ± 10 %, frequency ± 5 %; the maker's manual decides",
    isGate: true,
    caution:
      `Outdoors, exhaust away from every opening. ${ISLAND_CAUTION} Grid locked off while it runs, and let in again ` +
      "only when it stands still.",
    content: [
      { label: "Before", value: "grid off and locked, battery and DC off, breaker of the generator open" },
      { label: "Measure", value: "at its breaker while it runs, then close the breaker" },
      { label: "Afterwards", value: "stop it, let the grid in again, alone" },
    ],
    evidence: {
      kind: "values",
      fields: [
        ...supplyFields(site.supply, phasesOf(node, site)),
        {
          id: "hz",
          label: "Frequency",
          unit: "Hz",
          least: frequencyHz * (1 - FREQUENCY_SHARE),
          most: frequencyHz * (1 + FREQUENCY_SHARE),
          outside: "Set its governor as the maker's manual says; nothing is joined to it before",
        },
      ],
    },
  };
}

function supplyFields({ system, voltageV }: Site["supply"], phases: readonly Phase[]): readonly ValueField[] {
  const field = (id: string, label: string, nominalV: number): ValueField => ({
    id,
    label,
    unit: "V",
    least: Math.round(nominalV * (1 - SUPPLY_SHARE)),
    most: Math.round(nominalV * (1 + SUPPLY_SHARE)),
    outside: SUPPLY_OUTSIDE,
  });
  // Two legs of a split phase stand opposite each other, three phases at 120°.
  const between = system === "split-phase" ? 2 : Math.sqrt(3);
  const pairs = phases.flatMap((a, at) => phases.slice(at + 1).map((b) => [a, b] as const));
  return [
    ...phases.map((phase) => field(phase.toLowerCase(), `${phase}–N`, voltageV)),
    ...inTurn(pairs).map(([a, b]) => field(`${a}-${b}`.toLowerCase(), `${a}–${b}`, between * voltageV)),
  ];
}

/** As a tester is moved on: L1–L2, L2–L3, L1–L3. */
function inTurn(pairs: readonly (readonly [Phase, Phase])[]): readonly (readonly [Phase, Phase])[] {
  const gap = ([a, b]: readonly [Phase, Phase]) => Number(b[1]) - Number(a[1]);
  return pairs.toSorted((one, other) => gap(one) - gap(other));
}

function neutralEarth(): ValueField {
  return {
    id: "n-pe",
    label: "N–PE",
    unit: "V",
    least: 0,
    most: NEUTRAL_EARTH_V,
    outside: "An open neutral or a bond that is missing: nothing is switched on before it is found",
  };
}

function onStep(item: KitDevice, tag: StepTag, title: string, bootS: number | undefined): StepDraft {
  return {
    tag,
    stage: "power-up",
    title,
    place: item.place?.id,
    about: item.id,
    why:
      item.kit.powerUp
        .map(({ first, then, why }) => `First ${SOURCE_WORDS[first]}, then ${SOURCE_WORDS[then]}. ${why}`)
        .join(". ") || "In the order that the kit wants",
    activeMin: 2,
    source: `Kit ${item.kit.id}, powerUp`,
    caution: LIVE_CAUTION,
    ...(bootS !== undefined
      ? { waitMin: bootS / 60, waiting: { what: "boot" as const, label: `${item.name} starts` } }
      : {}),
    ...lampChoice(item, "power"),
  };
}

function feeds({ plan }: VisitContext, board: SiteNode): string {
  return joined((plan.tree.childrenOf.get(board.id) ?? []).map(({ name }) => name)) || "nothing in the plan";
}

function loadsOf({ plan }: VisitContext, board: SiteNode): string {
  const loads = (plan.tree.childrenOf.get(board.id) ?? []).filter(({ kind }) => kind === "load" || kind === "board");
  return joined(loads.map(({ name }) => name)) || "whatever hangs on it";
}
