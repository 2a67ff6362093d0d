import type { KitDevice } from "@/core/plan/resolvedPlan";
import { isSolar, type VisitContext } from "@/core/visit/visitContext";
import type { VisitRule } from "@/core/visit/visitRule";
import type { StepDraft, ValueField } from "@/core/visit/visitStep";

const PRACTICE = "Order of work: survey, fix, isolate and prove dead";
/** Above this nothing counts as dead; a tester shows induced volts below it. */
const DEAD_V = 10;
/** A proving unit or a known live point gives at least this. */
const TESTER_V = 50;
/** What a DC link must have fallen to before its cover is opened. */
const BLED_V = 50;
const USUAL_BLEED_S = 300;
/** Lifting above this is for two, or a lift, kg. */
const ALONE_KG = 25;
/** No place of a plan has a space in its id. */
const SOMEWHERE = "somewhere unsaid";
const DEAD_CAUTION =
  "Use an approved two-pole tester, proved before and after; a non-contact pen is never proof. Local rules " +
  "and a licensed electrician come first.";

/**
 * Places where a cover is opened: a board that is switched off, a device or a meter that is worked on, or whatever a
 * new bus ends in. Undefined among them is somewhere: a place that nobody named.
 */
export function openedPlaces({ scope, worked, plan }: VisitContext): readonly (string | undefined)[] {
  const places = [
    ...scope.boards.map(({ place }) => place),
    ...worked
      .filter(({ id, kit }) => scope.opened.has(id) && kit.kind !== "router" && kit.kind !== "dongle")
      .map(({ place }) => place?.id),
    ...plan.meters.filter(({ id }) => scope.touched.has(id)).map(({ meter }) => meter.place),
  ];
  return [...new Set(places)];
}

/**
 * What proves dead at every place where something is opened or touched, each a gate of its own.
 *
 * @param touched The places of the steps that touch conductors; undefined for those of which nobody said where they
 *   are.
 */
export function deadGates(context: VisitContext, touched: readonly (string | undefined)[]): readonly StepDraft[] {
  return [...new Set([...openedPlaces(context), ...touched])].map((place) => ({
    tag: "prove-dead",
    stage: "isolate" as const,
    title: `Prove dead at ${context.placeName(place)}`,
    place,
    about: place ?? SOMEWHERE,
    why: "Nothing is touched before it is proved",
    activeMin: 4,
    source: PRACTICE,
    isGate: true,
    caution: DEAD_CAUTION,
    content: [{ label: "Between", value: pairsOf(context).join(", ") }],
    evidence: {
      kind: "values" as const,
      fields: [
        testerField("before", "Tester on a known source, before"),
        {
          id: "highest",
          label: "Highest of all pairs",
          unit: "V",
          least: 0,
          most: DEAD_V,
          outside:
            "Find the source that still feeds it: trace the breaker again, and look for solar, battery and generator",
        },
        testerField("after", "Tester on a known source, after"),
      ],
    },
  }));
}

/** A tester that shows nothing on a known source proves nothing. */
function testerField(id: string, label: string): ValueField {
  return { id, label, unit: "V", least: TESTER_V, outside: "The tester is not trusted: take another, and prove again" };
}

/** Steps before any cover is open. */
export const SITE_RULES: readonly VisitRule[] = [
  {
    id: "survey",
    yields: (context) => [
      {
        tag: "survey",
        stage: "arrive",
        title: "Look at what is there",
        place: context.boards[0]?.place ?? context.site.places[0]?.id,
        why: "What is on the wall decides what of the plan holds",
        activeMin: 12,
        source: PRACTICE,
        wantsPhoto: true,
        content: [
          {
            label: "There before",
            value:
              context.worked
                .filter(({ isNew }) => !isNew)
                .map(({ name, kit }) => `${name} (${kit.name})`)
                .join("; ") || "nothing in the plan",
          },
          {
            label: "Look for",
            value:
              "label of every breaker, CTs of others, wall that carries, services behind the drill, " +
              "aerial and gland holes",
          },
        ],
      },
    ],
  },
  {
    id: "unload",
    yields: ({ boards, site }) => [
      {
        tag: "unload",
        stage: "arrive",
        title: "Unload and check against the list",
        place: boards[0]?.place ?? site.places[0]?.id,
        why: "What is missing is fetched while other work goes on",
        activeMin: 8,
        source: PRACTICE,
        content: [{ label: "List", value: "Plan, Bring: devices, cable, ferrules, instruments" }],
      },
    ],
  },
  {
    id: "isolate",
    yields: ({ scope, site, placeName }) =>
      scope.boards.map((board) => ({
        tag: "isolate",
        stage: "isolate" as const,
        title: `Isolate and lock off ${board.name}`,
        place: board.place,
        about: board.id,
        why: "Boards are often labelled wrongly: trace the breaker, do not believe it",
        activeMin: 6,
        source: PRACTICE,
        isGate: true,
        content: [
          { label: "Where", value: placeName(board.place) },
          ...(board.fuseA ? [{ label: "Its breaker", value: `${board.fuseA} A` }] : []),
          {
            label: "Other sources",
            value:
              site.nodes
                .filter(({ kind }) =>
                  ["pv-inverter", "hybrid-inverter", "battery-inverter", "generator"].includes(kind),
                )
                .map(({ name }) => name)
                .join(", ") || "none",
          },
        ],
        caution: "Every source is switched off and locked, solar, battery and generator too.",
      })),
  },
  {
    id: "bleed",
    yields: ({ worked }) =>
      worked.filter(isBled).map((item) => ({
        tag: "bleed",
        stage: "isolate" as const,
        title: `DC off and bled at ${item.name}`,
        place: item.place?.id,
        about: item.id,
        why: "The DC link holds its charge after the switch is off",
        activeMin: 3,
        waitMin: (item.kit.timers.dischargeS ?? USUAL_BLEED_S) / 60,
        waiting: { what: "bleed" as const, label: `DC of ${item.name} bleeds down` },
        source: `Kit ${item.kit.id}, timers.dischargeS`,
        isGate: true,
        caution: "Wait as long as the maker says, then measure. Strings in light stay live up to their switch.",
        evidence: {
          kind: "values" as const,
          fields: [
            {
              id: "dc",
              label: "DC link after the wait",
              unit: "V",
              least: -BLED_V,
              most: BLED_V,
              outside: "Wait again, and leave the cover shut: the bleed path may be open",
            },
          ],
        },
      })),
  },
  {
    id: "mount",
    yields: ({ worked, placeName }) =>
      worked
        .filter(({ isNew, kit }) => isNew && !["dongle", "adapter", "router", "ct"].includes(kit.kind))
        .map((item) => ({
          tag: "mount",
          stage: "mount" as const,
          title: `Fix ${item.name}`,
          place: item.place?.id,
          about: item.id,
          why: "Wall, clearance and weather as the kit wants them",
          activeMin: mountMin(item),
          people: (item.kit.environment.weightKg ?? 0) > ALONE_KG ? 2 : 1,
          source: `Kit ${item.kit.id}, environment`,
          wantsPhoto: true,
          content: [
            { label: "Place", value: `${placeName(item.place?.id)}; made for ${item.kit.environment.shelter}` },
            ...(item.kit.environment.weightKg
              ? [
                  {
                    label: "Weight",
                    value:
                      `${item.kit.environment.weightKg} ` +
                      `kg${item.kit.environment.weightKg > ALONE_KG ? ": two people or a lift" : ""}`,
                  },
                ]
              : []),
            ...(item.kit.environment.clearanceMm
              ? [
                  {
                    label: "Clear",
                    value:
                      `${item.kit.environment.clearanceMm.above} mm above, ${item.kit.environment.clearanceMm.below} ` +
                      `below, ${item.kit.environment.clearanceMm.side} at each side`,
                  },
                ]
              : []),
            ...(item.kit.environment.drillMm ? [{ label: "Drill", value: `${item.kit.environment.drillMm} mm` }] : []),
          ],
          caution: "No hidden services behind the drill; gland holes that stay unused are sealed.",
        })),
  },
];

/** A device that was fed from strings before, and is opened. */
function isBled(item: KitDevice): boolean {
  return isSolar(item) && !item.isNew;
}

/** Whether it hangs on the rail of a board: it is fixed where that is dead, not on a wall. */
export function isRailMounted({ kit }: Pick<KitDevice, "kit">): boolean {
  return kit.kind === "meter" || (kit.kind === "gateway" && kit.metering !== undefined);
}

function mountMin({ kit }: KitDevice): number {
  const { weightKg } = kit.environment;
  return weightKg === undefined ? 5 : weightKg > ALONE_KG ? 25 : weightKg > 8 ? 15 : 8;
}

function pairsOf({ site }: VisitContext): readonly string[] {
  switch (site.supply.system) {
    case "single-phase":
      return ["L–N", "L–PE", "N–PE"];
    case "split-phase":
      return ["L1–L2", "L1–N", "L2–N", "each to PE"];
    case "three-phase":
      return ["L1–L2", "L2–L3", "L1–L3", "each to N and PE"];
  }
}
