import type { OwedTest } from "@/core/plan/visitSettings";
import type { SiteNode } from "@/core/site/planSchema";
import { phasesOf } from "@/core/site/tree";
import { threeDigits } from "@/core/units";
import { boardFeeds } from "@/core/visit/rules/boardFeeds";
import { isInverter, isWired, type VisitContext } from "@/core/visit/visitContext";
import type { VisitRule } from "@/core/visit/visitRule";
import type { StepDraft, StepTag, ValueField } from "@/core/visit/visitStep";
import { capital } from "@/core/words";

/** The tests that an installer owes, in words. */
export const OWED_TEST_WORDS: Readonly<Record<OwedTest, string>> = {
  insulation: "insulation resistance",
  loop: "loop or earth-electrode impedance",
  "residual-current": "residual-current device",
  rotation: "phase rotation",
  "loss-of-mains": "loss of mains",
  changeover: "backup changeover",
};

/** 500 V DC on circuits up to 500 V: at least this, MΩ (IEC 60364-6). */
const INSULATION_MOHM = 1;
/** A breaker of curve B trips at once from this many times its rating; other curves ask for less impedance. */
const INSTANT_TRIP = 5;
/** At its rated residual current, ms (IEC 61008, general type). */
const RESIDUAL_MS = 300;
/** Most network operators' rules lie at or below it, s. */
const LOSS_S = 5;
const CHANGEOVER_S = 10;
const LOCAL = "Local rules first";

/** Tests that are owed on such work; which of them are asked is a setting, with its source. */
export const TEST_RULES: readonly VisitRule[] = [
  { id: "insulation", yields: (context) => atBoards(context, "insulation", insulation) },
  { id: "loop", yields: (context) => atBoards(context, "loop", loop) },
  { id: "residual-current", yields: (context) => atBoards(context, "residual-current", residualCurrent) },
  {
    id: "rotation",
    yields: (context) => (context.site.supply.system === "three-phase" ? atBoards(context, "rotation", rotation) : []),
  },
  { id: "loss-of-mains", yields: lossOfMains },
  {
    id: "changeover",
    yields: (context) =>
      boardFeeds(context)
        .filter(({ island }) => island !== undefined)
        .flatMap(({ board }) =>
          asked(context, "changeover", {
            ...about("test-running", "changeover", board),
            title: `Backup changeover at ${board.name}`,
            why: "What stays on when the grid goes, and how long it takes",
            activeMin: 6,
            caution: "Tell everybody in the house first; nothing that must not stop hangs on it meanwhile.",
            content: [{ label: "Instrument", value: "a lamp and a watch, or a recorder on the backup side" }],
            evidence: values([
              {
                id: "seconds",
                label: "Until the backup side is fed again",
                unit: "s",
                least: 0,
                most: CHANGEOVER_S,
                outside: "Read its log: charge, mode and backup setting, then try once more",
              },
            ]),
          }),
        ),
  },
];

type Draft = Omit<StepDraft, "source">;

/** A test that is asked for, with where that comes from; nothing where it is not. */
function asked({ visit }: VisitContext, test: OwedTest, draft: Draft): readonly StepDraft[] {
  if (!visit.owedTests.includes(test)) return [];
  const source = visit.owedTestsSource === "" ? LOCAL : `${LOCAL}: ${visit.owedTestsSource}`;
  return [{ ...draft, source }];
}

function atBoards(
  context: VisitContext,
  test: OwedTest,
  of: (context: VisitContext, board: SiteNode) => Draft,
): readonly StepDraft[] {
  // Where no mains is wired, nothing of a circuit is new; the order of the phases still decides a meter's taps.
  if (test !== "rotation" && !context.worked.some((item) => item.isNew && isWired(item))) return [];
  return boardFeeds(context).flatMap(({ board }) => asked(context, test, of(context, board)));
}

function about(
  tag: StepTag,
  test: OwedTest,
  board: SiteNode,
): Pick<Draft, "tag" | "stage" | "place" | "about" | "title"> {
  return {
    tag,
    stage: tag === "test-dead" ? "power" : tag === "test-live" ? "power-up" : "prove",
    place: board.place,
    about: `${test}:${board.id}`,
    title: `${capital(OWED_TEST_WORDS[test])} at ${board.name}`,
  };
}

function values(fields: readonly ValueField[]) {
  return { kind: "values" as const, fields };
}

function insulation(_context: VisitContext, board: SiteNode): Draft {
  return {
    ...about("test-dead", "insulation", board),
    why: "A damaged core is found before it is live",
    activeMin: 6,
    caution: "The tester makes 500 V: nobody touches the circuit, and inverters, meters and arresters are off it.",
    content: [{ label: "Instrument", value: "insulation tester, 500 V DC, each new circuit by itself" }],
    evidence: values([
      {
        id: "live-earth",
        label: "Lowest, live cores to PE",
        unit: "MΩ",
        least: INSULATION_MOHM,
        outside: "Part the circuit until the bad part is found; what was not taken off reads low too",
      },
    ]),
  };
}

function loop({ site }: VisitContext, board: SiteNode): Draft {
  const fuseA = board.fuseA ?? site.supply.mainFuseA;
  const most = fuseA === undefined ? undefined : threeDigits(site.supply.voltageV / (INSTANT_TRIP * fuseA));
  return {
    ...about("test-live", "loop", board),
    why: "A fault must trip its breaker at once",
    activeMin: 4,
    caution: "Measured live, by whoever may: covers on where there is no measuring.",
    content: [
      { label: "Instrument", value: "loop tester; an earth-electrode test where the supply has no earth of its own" },
      ...(fuseA === undefined
        ? []
        : [{ label: "Limit", value: `${site.supply.voltageV} V ÷ (5 × ${fuseA} A), curve B; other curves less` }]),
    ],
    evidence: values([
      {
        id: "loop",
        label: "Loop impedance, highest",
        unit: "Ω",
        least: 0,
        ...(most === undefined ? {} : { most }),
        outside: "Look for a loose terminal or a thin PE; on an electrode supply a residual-current device carries it",
      },
    ]),
  };
}

function residualCurrent(_context: VisitContext, board: SiteNode): Draft {
  return {
    ...about("test-live", "residual-current", board),
    why: "A device that does not trip protects nobody",
    activeMin: 4,
    caution: "It takes the supply off: say so to everybody before.",
    content: [{ label: "Instrument", value: "tester for residual-current devices, at the rated residual current" }],
    evidence: values([
      {
        id: "trip",
        label: "Longest time to trip",
        unit: "ms",
        least: 0,
        most: RESIDUAL_MS,
        outside: "Change the device; where there is none, write that down and say why",
      },
    ]),
  };
}

function rotation({ site }: VisitContext, board: SiteNode): Draft {
  const words = site.supply.rotation.replaceAll("-", ", ");
  return {
    ...about("test-live", "rotation", board),
    why: "Motors turn by it, and a meter's taps follow it",
    activeMin: 2,
    caution: "Measured live, by whoever may: covers on where there is no measuring.",
    content: [
      { label: "Instrument", value: "phase-rotation tester" },
      { label: "Phases", value: phasesOf(board, site).join(", ") },
    ],
    evidence: {
      kind: "choice",
      question: "Which way do they turn?",
      outside: "Exchange two phases at the supply side of this board, dead, or change the plan's order of phases",
      options: [
        { id: "as-planned", label: words, isGood: true },
        { id: "other", label: "The other way round", isGood: false },
      ],
    },
  };
}

/** Every new inverter must leave a grid that is gone. */
function lossOfMains(context: VisitContext): readonly StepDraft[] {
  return context.worked
    .filter((item) => item.isNew && isInverter(item))
    .flatMap((item) =>
      asked(context, "loss-of-mains", {
        tag: "test-running",
        stage: "prove",
        title: `Loss of mains at ${item.name}`,
        place: item.place?.id,
        about: `loss-of-mains:${item.id}`,
        why: "Whoever works on the line must not be fed from here",
        activeMin: 3,
        waitMin: (item.kit.timers.reconnectDelayS ?? 0) / 60,
        ...(item.kit.timers.reconnectDelayS
          ? { waiting: { what: "reconnect" as const, label: `${item.name} looks at the grid again` } }
          : {}),
        caution: "Its AC breaker is opened while it feeds in: nothing else is switched by it.",
        content: [{ label: "Instrument", value: "a watch, and a voltmeter below the breaker" }],
        evidence: values([
          {
            id: "seconds",
            label: "Until it stops",
            unit: "s",
            least: 0,
            most: LOSS_S,
            outside: "Its grid code is wrong, or something else holds the voltage up: it may not run like this",
          },
        ]),
      }),
    );
}
