import { isForSupply } from "@/core/kits/isForSupply";
import type { Kit } from "@/core/kits/kitSchema";
import { LINK_WORDS } from "@/core/plan/linkSchema";
import { busOfLink } from "@/core/links/bus/busOfLink";
import { canOfLink } from "@/core/links/bus/canOfLink";
import { can } from "@/core/links/bus/can";
import { rs485 } from "@/core/links/bus/rs485";
import { wiringSchedule, type CoreEnd } from "@/core/links/wiring/wiringSchedule";
import { windowText } from "@/core/job/placeFindings";
import type { KitPort, PlanLink, PlanMeter, ResolvedPlan } from "@/core/plan/resolvedPlan";
import { isOnMains, isSolar } from "@/core/visit/visitContext";
import type { VisitRule } from "@/core/visit/visitRule";
import type { StepDraft, ValueField } from "@/core/visit/visitStep";
import { stringVoltageV } from "@/core/visit/stringVoltage";
import { arrowWords } from "@/core/site/arrowWords";
import { inputTag } from "@/core/site/inputTag";
import { isOwnUnit } from "@/core/site/meterHost";
import type { Meter } from "@/core/site/planSchema";
import { threeDigits } from "@/core/units";

const PRACTICE = "Order of work: power wiring, CTs, meters, links";
const BOND_OHM = 0.5;
/** A torque screwdriver set to the kit's value is right within this. */
const TORQUE_SHARE = 0.1;
/** A stack at rest is within this of what it is rated for. */
const BATTERY_SHARE = 0.15;
/** A bus measured with everything off is within this of what terminators and inputs give. */
const BUS_SHARE = 0.12;
/** Until somebody typed a string, its polarity still counts. */
const ANY_STRING_V = 1500;
const WIFI_LEAST_DBM = -75;
const CELLULAR_LEAST_DBM = -112;
const MAINS_CAUTION =
  "Isolated, proved dead and locked off. PE first. Terminal torque and section as the maker's manual and " +
  "local rules say; mains work is for a licensed electrician.";

/** Everything that is wired while the site is dead. */
export const WIRING_RULES: readonly VisitRule[] = [
  {
    id: "bond",
    yields: ({ worked }) =>
      worked
        .filter((item) => item.isNew && isOnMains(item))
        .map((item) => ({
          tag: "bond",
          stage: "power" as const,
          title: `PE of ${item.name}`,
          place: item.place?.id,
          about: item.id,
          why: "Protective earth is proved before anything else is joined",
          activeMin: 4,
          source: PRACTICE,
          isGate: true,
          caution: MAINS_CAUTION,
          evidence: {
            kind: "values" as const,
            fields: [
              {
                id: "bond",
                label: "PE to the main earth",
                unit: "Ω",
                least: 0,
                most: BOND_OHM,
                outside: "Look for paint under the lug, a loose terminal, or a PE that ends on the way",
              },
            ],
          },
        })),
  },
  {
    id: "wire-power",
    yields: ({ worked }) =>
      worked
        .filter((item) => item.isNew && isOnMains(item))
        .map((item) => {
          const ports = item.kit.ports.filter(({ kind }) => kind === "mains");
          const torqueNm = ports.find(({ conductors }) => conductors?.torqueNm)?.conductors?.torqueNm;
          return {
            tag: "wire-power",
            stage: "power" as const,
            title: `Wire the mains of ${item.name}`,
            place: item.place?.id,
            about: item.id,
            why: "AC terminated in the order PE, N, L",
            activeMin: 15,
            source: `Kit ${item.kit.id}, ports`,
            caution: MAINS_CAUTION,
            wantsPhoto: true,
            content: [
              ...ports.map((port) => ({
                label: port.label,
                value: terminalsText(port),
              })),
              ...(item.node?.cableMm2
                ? [{ label: "Cable", value: `${item.node.cableMm2} mm², ferrules on stranded cores` }]
                : []),
              ...(item.node?.phases ? [{ label: "Phases", value: item.node.phases.join(", ") }] : []),
              ...(item.node?.fuseA ? [{ label: "Breaker", value: `${item.node.fuseA} A` }] : []),
            ],
            ...(torqueNm
              ? {
                  evidence: {
                    kind: "values" as const,
                    fields: [
                      {
                        id: "torque",
                        label: "Torque of the terminals",
                        unit: "N·m",
                        least: torqueNm * (1 - TORQUE_SHARE),
                        most: torqueNm * (1 + TORQUE_SHARE),
                        outside: `Set the screwdriver to ${torqueNm} N·m and go over every terminal again`,
                      },
                    ],
                  },
                }
              : {}),
          };
        }),
  },
  {
    id: "neutral-earth",
    yields: ({ worked, boards }) =>
      worked
        .filter(({ kit, isNew }) => isNew && kit.ports.some(({ label }) => /back-?up|^load$|loads/i.test(label)))
        .map((item) => ({
          tag: "neutral-earth",
          stage: "power" as const,
          title: `Neutral and earth of the backup output of ${item.name}`,
          place: item.place?.id,
          about: item.id,
          why: "In each mode they are joined in exactly one place",
          activeMin: 5,
          source: "Local rules and the maker's manual decide where",
          isGate: true,
          caution:
            "Whether and where neutral and earth are joined in backup is for local rules, the maker's manual " +
            "and a licensed electrician.",
          content: [
            {
              label: "Backup boards",
              value:
                boards
                  .filter(({ fedFrom }) => fedFrom === item.id)
                  .map(({ name }) => name)
                  .join(", ") || "none in the plan",
            },
          ],
          evidence: {
            kind: "choice" as const,
            question: "Joined in exactly one place, with grid and in backup?",
            options: [
              { id: "one", label: "Yes, one place in each mode", isGood: true },
              { id: "none", label: "Nowhere in backup", isGood: false },
              { id: "two", label: "In two places", isGood: false },
            ],
            outside: "Ask the designer: move or remove a bond, never add one by guess",
          },
        })),
  },
  {
    id: "strings",
    yields: ({ worked, visit }) =>
      worked
        .filter((item) => isSolar(item) && item.isNew && item.kit.id !== "pv-roof-module-unit")
        .map((item) => {
          const strings = visit.strings.filter(({ device }) => device === item.id);
          const fields: readonly ValueField[] =
            strings.length === 0
              ? [
                  {
                    id: "string",
                    label: "String, open, + to −",
                    unit: "V",
                    least: 1,
                    most: ANY_STRING_V,
                    outside: "A negative voltage is a reversed string: do not mate it",
                  },
                ]
              : strings.map((own, at) => {
                  const { least, most } = stringVoltageV(own);
                  return {
                    id: `string-${at}`,
                    label: `${own.name}, open, + to −`,
                    unit: "V",
                    least: Math.round(least),
                    most: Math.round(most),
                    outside:
                      "Negative: reversed, do not mate it. Too low or high: count the modules in series and " +
                      "look for an open plug",
                  };
                });
          return {
            tag: "strings",
            stage: "power" as const,
            title: `Strings of ${item.name}: voltage and polarity`,
            place: item.place?.id,
            about: item.id,
            why: "Measured before a connector is mated",
            activeMin: 4 + 4 * Math.max(1, strings.length),
            source:
              strings.length > 0
                ? "Modules in series from cold to hot"
                : "Polarity; type modules and voltage under Sheet for the limits",
            isGate: true,
            content: strings.map((own) => ({
              label: own.name,
              value: `${own.modules} × ${own.vocV} V = ${threeDigits(own.modules * own.vocV)} V at 25 °C`,
            })),
            caution:
              "DC in light cannot be switched off at the module: never part a connector under load, and keep " +
              "two hands clear of both poles.",
            evidence: { kind: "values" as const, fields },
          };
        }),
  },
  {
    id: "battery-polarity",
    yields: ({ worked }) =>
      worked
        .filter(({ kit, isNew }) => kit.kind === "battery" && isNew)
        .map((item) => {
          const ratedV = item.kit.ratings.voltageV;
          return {
            tag: "battery-polarity",
            stage: "power" as const,
            title: `Battery polarity of ${item.name}`,
            place: item.place?.id,
            about: item.id,
            why: "Measured at the inverter's side before the breaker is closed",
            activeMin: 5,
            source: `Kit ${item.kit.id}, ratings.voltageV`,
            isGate: true,
            caution:
              "A battery cannot be switched off inside: insulated tools, no rings or watches, and the " +
              "maker's manual at hand.",
            evidence: {
              kind: "values" as const,
              fields: [
                {
                  id: "battery",
                  label: "Battery, + to −",
                  unit: "V",
                  least: ratedV ? Math.round(ratedV * (1 - BATTERY_SHARE)) : 1,
                  most: ratedV ? Math.round(ratedV * (1 + BATTERY_SHARE)) : 1000,
                  outside:
                    "Negative: exchange the leads at the battery, breaker open. Far off: count the modules " +
                    "and read their display",
                },
              ],
            },
          };
        }),
  },
  {
    id: "taps",
    yields: ({ plan, site, placeName }) =>
      plan.meters
        .filter(({ meter, kit }) => isOwnUnit(meter) && kit && hasTaps(kit))
        .map(({ meter, kit }) => ({
          tag: "taps",
          stage: "clamps" as const,
          title: `Voltage taps of ${meter.name}`,
          place: meter.place,
          about: meter.id,
          why: "Each input multiplies its current with the voltage of its tap",
          activeMin: 6,
          source: "Taps of the plan",
          caution: MAINS_CAUTION,
          content: [
            ...Object.entries(meter.taps).map(([tap, phase]) => ({ label: tap, value: phase as string })),
            { label: "At", value: placeName(meter.place) },
            ...(kit?.metering?.jumpers ?? [])
              .filter(({ when }) => isForSupply(when, site.supply.system))
              .map(({ when, link }) => ({ label: when, value: link })),
          ],
        })),
  },
  {
    id: "ct-leads",
    yields: ({ plan, site }) =>
      metersWithClamps(plan).map(({ meter, inputs }) => ({
        tag: "ct-leads",
        stage: "clamps" as const,
        title: `CT leads in ${meter.name}`,
        place: meter.place,
        about: meter.id,
        why: "Leads are terminated before the clamp closes round a conductor",
        activeMin: 3 * meter.inputs.length,
        source: PRACTICE,
        isGate: true,
        caution:
          "A current CT that is open on a live conductor makes dangerous voltage: short it until its leads are in.",
        content: inputs
          .filter(({ input }) => !input.builtIn)
          .map(({ input, kitInput }) => ({
            label: inputTag(site, meter.id, input.n),
            value: [
              kitInput?.label ?? `input ${input.n}`,
              ...(input.clamp?.leadM ? [`${input.clamp.leadM} m of lead`] : []),
            ].join(", "),
          })),
      })),
  },
  {
    id: "clamp",
    yields: ({ plan, site }) =>
      metersWithClamps(plan).map(({ meter, inputs }) => ({
        tag: "clamp",
        stage: "clamps" as const,
        title: `Clamps of ${meter.name}`,
        place: clampPlace(plan, meter),
        about: meter.id,
        why: "The right run, the right conductor, the arrow as this kit wants it",
        activeMin: 3 * meter.inputs.length,
        source: "Clamps of the plan; Place shows them on the board",
        wantsPhoto: true,
        content: inputs
          .filter(({ input }) => !input.builtIn)
          .map(({ input }) => ({
            label: inputTag(site, meter.id, input.n),
            value: `round ${windowText(site, input.measures)}, arrow ${arrowWords(input.arrow)}, ${input.primaryA} A`,
          })),
      })),
  },
  {
    id: "wire-link",
    yields: (context) =>
      context.plan.links
        .filter(({ kind }) => ["rs485", "can", "ethernet", "dry-contact", "usb"].includes(kind))
        .map((link) => linkStep(link)),
  },
  {
    id: "measure-link",
    yields: (context) =>
      context.plan.links
        .filter(({ kind }) => kind === "rs485" || kind === "can")
        .flatMap((link): readonly StepDraft[] => {
          const expectedOhm = offResistanceOhm(link);
          if (expectedOhm === undefined) return [];
          return [
            {
              tag: "measure-link",
              stage: "links",
              title: `Measure ${link.name}, everything off`,
              place: firstPlace(link),
              about: link.id,
              why: "One resistance tells terminators, opens and shorts",
              activeMin: 3,
              source: "Terminators and inputs side by side",
              content: [
                {
                  label: "Should",
                  value: `${threeDigits(expectedOhm)} Ω; Wire, Multimeter says what another value means`,
                },
              ],
              evidence: {
                kind: "values",
                fields: [
                  {
                    id: "ohm",
                    label: link.kind === "can" ? "CANH to CANL" : "A to B",
                    unit: "Ω",
                    least: threeDigits(expectedOhm * (1 - BUS_SHARE)),
                    most: threeDigits(expectedOhm * (1 + BUS_SHARE)),
                    outside:
                      "Type it under Wire, Multimeter: it says which terminator or core, and where to measure next",
                  },
                ],
              },
            },
          ];
        }),
  },
  {
    id: "sim",
    yields: (context) =>
      context.plan.links
        .filter(({ kind }) => kind === "cellular")
        .map((link) => ({
          tag: "sim",
          stage: "links" as const,
          title: `SIM into ${nameOf(link)}`,
          place: firstPlace(link),
          about: link.members[0]!.item,
          why: "It looks for its SIM only when it starts",
          activeMin: 4,
          source: "SIM in before power, aerial outside metal",
          content: [{ label: "Aerial", value: "outside metal, upright" }],
        })),
  },
  {
    id: "signal",
    yields: (context) =>
      context.plan.links
        .filter(({ kind }) => kind === "wifi" || kind === "cellular")
        .map((link) => {
          const isWifi = link.kind === "wifi";
          const end = link.ends.find(({ device }) => device?.kit.kind !== "router");
          return {
            // A module shows its level only when it has power; a phone at the spot needs none.
            tag: isWifi ? ("signal" as const) : ("cellular-level" as const),
            stage: isWifi ? ("links" as const) : ("power-up" as const),
            title: `${LINK_WORDS[link.kind]} level at ${end?.device?.name ?? link.name}`,
            place: end?.device?.place?.id,
            about: end?.member.item,
            why: "A link that only just holds fails in the first rain",
            activeMin: 3,
            source: "−67 dBm good, −75 marginal for Wi-Fi; −112 dBm the least for cellular",
            evidence: {
              kind: "values" as const,
              fields: [
                {
                  id: "level",
                  label: isWifi ? "Phone at the spot, doors closed" : "Level that the module shows",
                  unit: "dBm",
                  least: isWifi ? WIFI_LEAST_DBM : CELLULAR_LEAST_DBM,
                  most: 0,
                  outside: isWifi
                    ? "Lay a cable, or put an access point nearer"
                    : "Move the aerial, or take another provider",
                },
              ],
            },
          };
        }),
  },
];

/** A transmitter that lives on a battery or on its CT has no voltage taps. */
function hasTaps({ metering }: Kit): boolean {
  return metering?.transmitter === undefined || metering.transmitter.supply === "mains";
}

/** A clamp goes where its run begins: at the board that feeds it. */
function clampPlace({ tree: { nodeById } }: ResolvedPlan, meter: Meter): string | undefined {
  const run = nodeById.get(meter.inputs[0]?.measures[0]?.run ?? "");
  const feeder = nodeById.get(run?.fedFrom ?? "");
  return (feeder?.kind === "board" ? feeder.place : undefined) ?? run?.place ?? meter.place;
}

function metersWithClamps({ meters }: ResolvedPlan): readonly PlanMeter[] {
  return meters.filter(({ inputs }) => inputs.some(({ input }) => !input.builtIn));
}

function linkStep(link: PlanLink): StepDraft {
  const rows = wiringSchedule({ links: [link] }).filter(({ role }) => role !== "spare");
  return {
    tag: "wire-link",
    stage: "links",
    title: `${link.kind === "usb" ? "Plug in" : "Wire"} ${link.name}`,
    place: firstPlace(link),
    about: link.id,
    why: `${LINK_WORDS[link.kind]} terminal by terminal, by signal and not by letter`,
    activeMin: link.kind === "usb" ? 2 : Math.min(30, 4 + 2 * rows.length),
    source: "Wiring schedule",
    caution: "Data cores are kept apart from mains; covers are opened only where it was proved dead.",
    content: [
      ...rows.slice(0, 6).map((row) => ({
        label: row.colour,
        value: row.to
          ? `${coreEndText(row.from)} to ${coreEndText(row.to)}`
          : `${coreEndText(row.from)}: ${row.notes.join("; ")}`,
      })),
      ...(rows.length > 6 ? [{ label: "More", value: `${rows.length - 6} rows under Wire, Wiring` }] : []),
    ],
  };
}

/** "Meter A+ pin 24". */
function coreEndText({ item, terminal, pin }: CoreEnd): string {
  return `${item} ${terminal}${pin === undefined ? "" : ` pin ${pin}`}`;
}

/** The terminals of a port, and what goes into them. */
function terminalsText({ terminals, conductors }: KitPort): string {
  const labels = terminals.map(({ label }) => label).join(", ");
  return conductors ? `${labels}; ${conductors.minMm2} to ${conductors.maxMm2} mm²` : labels;
}

function offResistanceOhm(link: PlanLink): number | undefined {
  const bus = busOfLink(link);
  if (bus) return rs485(bus).resistanceOffOhm;
  const line = canOfLink(link);
  return line ? (can(line).resistanceOffOhm ?? undefined) : undefined;
}

function firstPlace({ ends }: PlanLink): string | undefined {
  return ends[0]!.device?.place?.id;
}

function nameOf({ ends, name }: PlanLink): string {
  return ends[0]!.device?.name ?? name;
}
