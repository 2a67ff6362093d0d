import { predict } from "@/core/flows/predict";
import { statePresets } from "@/core/flows/statePresets";
import { accessPointName } from "@/core/links/air/wifi";
import type { KitDevice } from "@/core/plan/resolvedPlan";
import { isOnMains, isSolar, type VisitContext } from "@/core/visit/visitContext";
import { isSetUp, settingsOf } from "@/core/visit/rules/settings";
import { openedPlaces } from "@/core/visit/rules/siteRules";
import type { VisitRule } from "@/core/visit/visitRule";
import type { StepDraft, StepTag, ValueField } from "@/core/visit/visitStep";
import { flowWord, readingTowardLoadW } from "@/core/site/flowWords";
import { inputTag } from "@/core/site/inputTag";
import { phasesOfSupply } from "@/core/site/phasors";
import { joined } from "@/core/words";
import { powerText } from "@/core/units";

const PRACTICE = "Order of work: power up, reach, configure, prove, go online, hand over";
/** A supply is usually kept within this of its nominal voltage. */
const SUPPLY_SHARE = 0.1;
const FIRST_DATA_MIN = 10;
/** What a kit's power-up order names, as an electrician says it; "this" is the device itself. */
const SOURCE_WORDS = {
  battery: "the battery",
  dc: "DC",
  ac: "AC",
  meter: "the meter",
  network: "the network",
  this: "the device",
} as const;
const LIVE_CAUTION =
  "Parts are live from here on: covers on where there is no measuring, and nobody works alone on live parts " +
  "where local rules forbid it.";
const BAD_COLOURS = ["red"];
/** From the supply back on to the covers closed. */
export const POWER_UP_RULES: readonly VisitRule[] = [
  {
    id: "restore",
    yields: ({ scope, site }) =>
      scope.boards.slice(0, 1).map((board) => ({
        tag: "restore",
        stage: "power-up" as const,
        title: `Supply back on at ${board.name}`,
        place: board.place,
        about: board.id,
        why: "Every source is verified by its voltages before anything is switched to it",
        activeMin: 5,
        source: "Nominal voltage ± 10 %; local rules decide",
        isGate: true,
        caution: LIVE_CAUTION,
        evidence: { kind: "values" as const, fields: supplyFields(site.supply) },
      })),
  },
  {
    id: "on-ac",
    yields: ({ worked }) =>
      worked
        .filter((item) => isOnMains(item))
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
        .filter(
          (item) =>
            item.isNew &&
            [
              "gateway",
              "logger",
              "monitor",
              "export-controller",
              "energy-manager",
              "radio-pair",
              "transmitter",
              "backup-box",
            ].includes(item.kit.kind) &&
            !isOnMains(item),
        )
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
        })),
  },
  {
    id: "pair",
    yields: (context) =>
      context.plan.links
        .filter(({ kind }) => kind === "radio")
        .flatMap((link): readonly StepDraft[] => {
          const ends = link.ends.flatMap(({ device }) => device ?? []);
          const [hub, ...followers] = ends;
          if (!hub) return [];
          return followers.flatMap((follower): readonly StepDraft[] => {
            const windowS = Math.min(
              hub.kit.timers.pairingWindowS ?? Infinity,
              follower.kit.timers.pairingWindowS ?? Infinity,
            );
            return [
              {
                tag: "pair-open",
                stage: "links",
                title: `Open pairing at ${hub.name} for ${follower.name}`,
                place: hub.place?.id,
                about: `${link.id}:${follower.id}`,
                why: "The window counts from here",
                activeMin: 1,
                source: "Kits, timers.pairingWindowS",
                ...(Number.isFinite(windowS) ? { content: [{ label: "Window", value: `${windowS} s` }] } : {}),
              },
              {
                tag: "pair",
                stage: "links",
                title: `Pair ${follower.name}`,
                place: follower.place?.id,
                about: `${link.id}:${follower.id}`,
                why: "Both ends must hear each other in the window",
                activeMin: 2,
                source: "Kits, timers.pairingWindowS",
                ...lampChoice(follower),
                ...(Number.isFinite(windowS) ? { window: { after: "pair-open", withinMin: windowS / 60 } } : {}),
              },
            ];
          });
        }),
  },
  {
    id: "serial",
    yields: ({ worked }) =>
      worked
        .filter(
          ({ isNew, kit }) =>
            isNew &&
            kit.kind !== "ct" &&
            (kit.serialPattern !== undefined || isSetUp({ kit }) || kit.kind === "battery" || kit.kind === "dongle"),
        )
        .map((item) => ({
          tag: "serial",
          stage: "configure" as const,
          title: `Serial number of ${item.name}`,
          place: item.place?.id,
          about: item.id,
          why: "To find this device and no other, and to register it",
          activeMin: 2,
          source: `Kit ${item.kit.id}${item.kit.serialPattern ? ", serialPattern" : ""}`,
          evidence: { kind: "serial" as const, pattern: item.kit.serialPattern },
          wantsPhoto: true,
        })),
  },
  {
    id: "reach",
    yields: ({ worked, visit }) =>
      worked
        .filter(({ kit }) => kit.network?.accessPoint !== undefined || kit.network?.bluetooth === true)
        .map((item) => {
          const point = item.kit.network?.accessPoint;
          return {
            tag: "reach",
            stage: "configure" as const,
            title: `Reach ${item.name}`,
            place: item.place?.id,
            about: item.id,
            why: "The right one, by its serial number",
            activeMin: 4,
            source: `Kit ${item.kit.id}, network`,
            content: [
              ...(point
                ? [
                    { label: "Network name", value: accessPointName(point.name, "…serial") },
                    { label: "Address", value: point.address },
                  ]
                : [{ label: "By", value: "Bluetooth" }]),
              { label: "Phone", value: "flight mode on, then Wi-Fi on: it keeps a network without internet" },
            ],
            school: {
              question: "Set-up through",
              active: visit.setUpBy === "app" ? "the maker's app" : "the device's own web page",
              other: visit.setUpBy === "app" ? "the device's own web page" : "the maker's app",
            },
          };
        }),
  },
  {
    id: "configure",
    yields: (context) =>
      context.worked
        .filter(({ kit, isNew }) => isNew && isSetUp({ kit }))
        .flatMap((item): readonly StepDraft[] => {
          const content = settingsOf(context, item);
          return content.length === 0
            ? []
            : [
                {
                  tag: "configure",
                  stage: "configure",
                  title: `Set ${item.name}`,
                  place: item.place?.id,
                  about: item.id,
                  why: "The numbers to type, as the kit wants them",
                  activeMin: 4 + content.length,
                  source: `Kit ${item.kit.id}, plan and links`,
                  content,
                  wantsPhoto: true,
                },
              ];
        }),
  },
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
              school: { question: "CT test", active: "the built-in test as well", other: "load steps only" },
            })),
  },
  { id: "prove", yields: (context) => provingSteps(context) },
  {
    id: "online",
    yields: ({ plan }) =>
      plan.links
        .filter(({ kind }) => kind === "ethernet" || kind === "wifi" || kind === "cellular")
        .flatMap((link): readonly StepDraft[] => {
          const device = link.ends.flatMap((end) => end.device ?? []).find(({ kit }) => kit.kind !== "router");
          if (!device) return [];
          const ports = device.kit.network?.outbound ?? [];
          return [
            {
              tag: "online",
              stage: "online",
              title: `${device.name} online`,
              place: device.place?.id,
              about: device.id,
              why: "First data can take its time: look again later",
              activeMin: 3,
              waitMin: FIRST_DATA_MIN,
              waiting: { what: "first-data", label: `First data of ${device.name}` },
              source: PRACTICE,
              content: ports.map(({ port, protocol, why }) => ({
                label: `${port}/${protocol}`,
                value: `must get out: ${why}`,
              })),
              ...lampChoice(device),
            },
          ];
        }),
  },
  {
    id: "firmware",
    yields: ({ worked }) =>
      worked
        .filter(({ isNew, kit }) => isNew && kit.timers.firmwareS !== undefined && kit.network !== undefined)
        .map((item) => ({
          tag: "firmware",
          stage: "online" as const,
          title: `Firmware of ${item.name}`,
          place: item.place?.id,
          about: item.id,
          why: "Started early it runs while other work goes on",
          activeMin: 2,
          waitMin: item.kit.timers.firmwareS! / 60,
          waiting: { what: "firmware" as const, label: `Firmware of ${item.name}` },
          source: `Kit ${item.kit.id}, timers.firmwareS`,
          caution: "Do not switch it off while it loads.",
        })),
  },
  {
    id: "labels",
    yields: ({ boards, site }) => [
      {
        tag: "labels",
        stage: "close",
        title: "Labels on clamps, leads and breakers",
        place: boards[0]?.place ?? site.places[0]?.id,
        why: "Whoever opens it next must not guess",
        activeMin: 10,
        source: "Labels of the plan",
        wantsPhoto: true,
        content: [{ label: "Print", value: "Plan, Bring, Labels" }],
      },
    ],
  },
  {
    id: "covers",
    yields: (context) =>
      openedPlaces(context).map((place) => ({
        tag: "covers",
        stage: "close" as const,
        title: `Covers on at ${context.placeName(place)}`,
        place,
        about: place,
        why: "Only now that every reading is proved",
        activeMin: 5,
        source: PRACTICE,
        wantsPhoto: true,
        caution: "Isolate again where a cover cannot be closed without reaching past live parts.",
      })),
  },
  {
    id: "tidy",
    yields: ({ boards, site }) => [
      {
        tag: "tidy",
        stage: "close",
        title: "Leave the site tidy",
        place: boards[0]?.place ?? site.places[0]?.id,
        why: "Offcuts, swarf and tools are out of every enclosure and off the floor",
        activeMin: 8,
        source: PRACTICE,
      },
    ],
  },
  {
    id: "owner",
    yields: ({ boards, site, worked }) => [
      {
        tag: "owner",
        stage: "close",
        title: "Show the owner what they will see",
        place: boards[0]?.place ?? site.places[0]?.id,
        why: "Who knows what is usual sees what is not",
        activeMin: 10,
        source: PRACTICE,
        content: [
          { label: "Display", value: "importing and exporting, generating, charging: which word means which" },
          {
            label: "Switches",
            value: `where to switch off ${joined(worked.filter(isOnMains).map(({ name }) => name)) || "the supply"}`,
          },
          { label: "Leave", value: "the makers' manuals, and whom to call" },
        ],
      },
    ],
  },
];

function supplyFields({ system, voltageV }: VisitContext["site"]["supply"]): readonly ValueField[] {
  const outside =
    "Do not switch anything on: look for an open neutral, a wrong tap or two phases exchanged, and call " +
    "whoever supplies it";
  const field = (id: string, label: string, nominalV: number): ValueField => ({
    id,
    label,
    unit: "V",
    least: Math.round(nominalV * (1 - SUPPLY_SHARE)),
    most: Math.round(nominalV * (1 + SUPPLY_SHARE)),
    outside,
  });
  const phases = phasesOfSupply({ system, voltageV, frequencyHz: 50, rotation: "L1-L2-L3" });
  const toNeutral = phases.map((phase) => field(phase.toLowerCase(), `${phase}–N`, voltageV));
  switch (system) {
    case "single-phase":
      return toNeutral;
    case "split-phase":
      return [...toNeutral, field("l1-l2", "L1–L2", 2 * voltageV)];
    case "three-phase":
      return [
        ...toNeutral,
        ...[
          ["L1", "L2"],
          ["L2", "L3"],
          ["L1", "L3"],
        ].map(([a, b]) => field(`${a}-${b}`.toLowerCase(), `${a}–${b}`, Math.sqrt(3) * voltageV)),
      ];
  }
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
        .map(({ first, then, why }) => `First ${SOURCE_WORDS[first]}, then ${SOURCE_WORDS[then]}: ${why}`)
        .join("; ") || "In the order that the kit wants",
    activeMin: 2,
    source: `Kit ${item.kit.id}, powerUp`,
    caution: LIVE_CAUTION,
    ...(bootS !== undefined
      ? { waitMin: bootS / 60, waiting: { what: "boot" as const, label: `${item.name} starts` } }
      : {}),
    ...lampChoice(item),
  };
}

/** The lamps of the kit, each with what it means; a red one stops the step. */
function lampChoice({ kit }: Pick<KitDevice, "kit">): Pick<StepDraft, "evidence"> {
  if (kit.lamps.length === 0) return {};
  return {
    evidence: {
      kind: "choice",
      question: "Which lamp do you see?",
      outside: "Look up what the lamp means here, put it right, and look again",
      options: [
        ...kit.lamps.map((lamp, at) => ({
          id: `lamp-${at}`,
          label: `${lamp.lamp}: ${lamp.colour}, ${lamp.pattern.replace("-", " ")} (${lamp.means})`,
          isGood: !BAD_COLOURS.includes(lamp.colour),
        })),
        { id: "off", label: "None is lit", isGood: false },
      ],
    },
  };
}

/** Known loads and sources on in turn, with what each input must show. */
function provingSteps({ site, plan, boards }: VisitContext): readonly StepDraft[] {
  if (site.meters.length === 0) return [];
  return statePresets(site)
    .filter(({ id }) => id === "night" || id === "sun" || id.startsWith("on:") || id.startsWith("charging:"))
    .slice(0, 8)
    .map((preset) => ({
      tag: "prove",
      stage: "prove",
      title: `Prove: ${preset.label}`,
      place: boards[0]?.place ?? site.meters[0]?.place,
      about: preset.id,
      why: "The right size and the right way round, while the covers are off",
      activeMin: 4,
      source: "What each input should read in this state; Prove weighs what is seen",
      caution: LIVE_CAUTION,
      content: predict(site, "planned", preset.state).inputs.map((reading) => {
        const { input } = plan.meterById.get(reading.meter)!.inputs.find((own) => own.input.n === reading.input)!;
        return {
          label: inputTag(site, reading.meter, reading.input),
          value:
            `about ${powerText(reading.powerW)}, ` +
            `${flowWord(site, input.measures[0]!.run, readingTowardLoadW(input.positive, reading.powerW))}`,
        };
      }),
    }));
}
