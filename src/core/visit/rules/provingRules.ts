import { given } from "@/core/given";
import { predict } from "@/core/flows/predict";
import type { NodeKind, Site } from "@/core/site/planSchema";
import { siteTree } from "@/core/site/tree";
import { flowWord, readingTowardLoadW } from "@/core/site/flowWords";
import { inputTag } from "@/core/site/inputTag";
import { powerText } from "@/core/units";
import { maybeBackupSide } from "@/core/visit/rules/boardFeeds";
import type { SettingLine } from "@/core/visit/rules/settings";
import { provingStates, type ProvingState } from "@/core/visit/provingStates";
import { schoolLine } from "@/core/visit/schools";
import { joined } from "@/core/words";
import type { VisitContext } from "@/core/visit/visitContext";
import type { VisitRule } from "@/core/visit/visitRule";
import type { StepDraft, ValueField } from "@/core/visit/visitStep";

const LIVE_CAUTION =
  "Parts are live: covers on where there is no measuring, and nobody works alone on live parts where local rules " +
  "forbid it.";
/** Below this a reading says nothing of its sign. */
const SIGN_FROM_W = 100;

/** When a load or a source does not do what is asked of it, and what is done instead. */
const WILL_NOT: Readonly<Partial<Record<NodeKind, string>>> = {
  diverter: "a hot tank takes nothing: draw hot water for some minutes, or raise its thermostat and put it back after",
  "ev-charger": "no vehicle, or a full one: bring one that is not, or a load that plugs in as one",
  "heat-pump": "it starts only when it is asked to: raise its set point, wait its time, and put it back after",
};
const CHARGING_NOT = "a full battery takes nothing: let it discharge into a load first";
const DISCHARGING_NOT =
  "a new battery charges first: do other work, and come back when its display says that it may give";
const SUN_NOT = "too dark: cover nothing, wait for light, or prove it by the sign of what little there is";

/** What shows that every flow is measured right: the built-in test, and each flow in turn. */
export const PROVING_RULES: readonly VisitRule[] = [
  {
    id: "ct-test",
    yields: ({ worked, visit }) =>
      visit.ctTest !== "built-in"
        ? []
        : worked
            .filter(({ kit, isNew }) => isNew && kit.timers.builtInTestS !== undefined)
            .map((item) => ({
              tag: "ct-test",
              stage: "prove" as const,
              title: `Built-in CT test of ${item.name}`,
              place: item.place?.id,
              about: item.id,
              why: "It says pass or fail; it never replaces a proved sign",
              content: [
                {
                  label: "Before",
                  value: "grid joined, a load of some kilowatts on each phase, sun or battery steady",
                },
                { label: "Afterwards", value: "the device restarts: wait until its lamps are as before" },
              ],
              activeMin: 2,
              waitMin: item.kit.timers.builtInTestS! / 60,
              waiting: { what: "built-in-test" as const, label: `CT test of ${item.name}` },
              source: `Kit ${item.kit.id}, timers.builtInTestS`,
              evidence: {
                kind: "choice" as const,
                question: "What does it say?",
                options: [
                  { id: "pass", label: "Pass", isGood: true },
                  { id: "fail", label: "Fail", isGood: false },
                ],
                outside: "Go on with the load steps under Prove: they say which CT and why",
              },
              school: schoolLine(visit, item.kit, "ctTest"),
            })),
  },
  { id: "prove", yields: (context) => provingSteps(context) },
];

/** Known loads and sources on in turn, with what each input must show, read and recorded there. */
function provingSteps(context: VisitContext): readonly StepDraft[] {
  const { site, boards } = context;
  if (site.meters.length === 0) return [];
  return provingStates(site, maybeBackupSide(context)).map((state) => ({
    tag: "prove",
    stage: "prove",
    title: `Prove: ${state.label}`,
    place: boards[0]?.place ?? site.meters[0]?.place,
    about: state.id,
    why: "The right size and the right way round, while the covers are off",
    activeMin: 4,
    source: "What each input should read in this state; what is typed here goes into Prove, which weighs it",
    caution: state.isIsland
      ? `${LIVE_CAUTION} The grid is locked off: nothing may feed it, and nobody works on it.`
      : LIVE_CAUTION,
    ...readings(context, state),
  }));
}

function readings(context: VisitContext, state: ProvingState): Pick<StepDraft, "content" | "evidence"> {
  const { site, plan } = context;
  const lines = predict(site, "planned", state.state).inputs.map((reading) => {
    const { input } = plan.meterById.get(reading.meter)!.inputs.find((own) => own.input.n === reading.input)!;
    const tag = inputTag(site, reading.meter, reading.input);
    const run = input.measures[0]!.run;
    const word = flowWord(site, run, readingTowardLoadW(input.positive, reading.powerW));
    const expected = `about ${powerText(reading.powerW)}, ${word}`;
    return {
      said: { label: tag, value: expected },
      field: readingField(site, state, {
        id: `${reading.meter}/${reading.input}`,
        label: tag,
        expected,
        powerW: reading.powerW,
        runs: input.measures.map((measured) => measured.run),
      }),
    };
  });
  return {
    content: [...lines.map(({ said }) => said), ...heaterTurns(context, state), ...willNot(state)],
    evidence: { kind: "values", fields: lines.map(({ field }) => field) },
  };
}

interface ExpectedReading {
  readonly id: string;
  readonly label: string;
  readonly expected: string;
  readonly powerW: number;
  readonly runs: readonly string[];
}

/** The sign is held to where it is certain: all that is on behind the CT goes one way. */
function readingField(
  site: Site,
  { state, isIsland }: ProvingState,
  { id, label, expected, powerW, runs }: ExpectedReading,
) {
  const { belowRun } = siteTree(site);
  const behind = state.devices.filter((device) => runs.some((run) => belowRun.get(run)?.has(device.node)));
  const isOneWay = behind.every((device) => device.powerW >= 0) || behind.every((device) => device.powerW <= 0);
  const isCertain = !isIsland && isOneWay && Math.abs(powerW) >= SIGN_FROM_W;
  const field: ValueField = {
    id,
    label,
    expected,
    unit: "W",
    outside:
      "The sign is the other way round: turn nothing yet. Prove weighs all readings and says which CT, tap or " +
      "setting it is",
  };
  if (!isCertain) return field;
  return powerW > 0 ? { ...field, least: 0 } : { ...field, most: 0 };
}

/** What is done where a load will not run, or a source will not give. */
function willNot({ id, about }: ProvingState): readonly SettingLine[] {
  const line = (value: string): SettingLine => ({ label: "If it does not run", value });
  if (id === "sun") return [line(SUN_NOT)];
  if (id.startsWith("charging:")) return [line(CHARGING_NOT)];
  if (id.startsWith("discharging:") || id === "grid-off") return [line(DISCHARGING_NOT)];
  return about.flatMap(({ kind }) => {
    const text = WILL_NOT[kind];
    return text === undefined ? [] : [line(text)];
  });
}

/** Which element answers on which output, in turn, and the bypass in both positions. */
function heaterTurns({ plan }: VisitContext, { about }: ProvingState): readonly SettingLine[] {
  return about.flatMap((node) => {
    const kit = plan.deviceById.get(node.id)?.kit;
    const elements = node.heater?.elements ?? [];
    return given(
      elements.length > 1 && {
        label: "In turn",
        value: `${joined(elements.map(({ name }) => name))}: warm each alone, the first one full before the next`,
      },
      kit?.bypass && {
        label: "Bypass",
        value: `at ${kit.bypass.direct} for a moment: full power whatever the sun; back to ${kit.bypass.surplus}`,
      },
    );
  });
}
