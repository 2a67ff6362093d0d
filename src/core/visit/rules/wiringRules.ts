import { isForSupply } from "@/core/kits/isForSupply";
import type { Kit } from "@/core/kits/kitSchema";
import { LINK_WORDS } from "@/core/plan/linkSchema";
import { busOfLink } from "@/core/links/bus/busOfLink";
import { canOfLink } from "@/core/links/bus/canOfLink";
import { can } from "@/core/links/bus/can";
import { rs485 } from "@/core/links/bus/rs485";
import { wiringSchedule, type CoreEnd } from "@/core/links/wiring/wiringSchedule";
import { windowText } from "@/core/job/placeFindings";
import type { KitDevice, KitPort, PlanLink, PlanMeter, ResolvedPlan } from "@/core/plan/resolvedPlan";
import { given } from "@/core/given";
import { elementFields, heaterLines } from "@/core/visit/rules/heaterLines";
import { isClampFirst, leadLines } from "@/core/visit/rules/ctLeads";
import { activeSchool, schoolLine } from "@/core/visit/schools";
import { isInverter, isOnMains, isSolar, isWired, type VisitContext } from "@/core/visit/visitContext";
import { joined } from "@/core/words";
import type { VisitRule } from "@/core/visit/visitRule";
import type { StepDraft, ValueField } from "@/core/visit/visitStep";
import { stringVoltageV } from "@/core/visit/stringVoltage";
import { arrowWords } from "@/core/site/arrowWords";
import { inputTag } from "@/core/site/inputTag";
import { isOwnUnit } from "@/core/site/meterHost";
import type { Meter, Site } from "@/core/site/planSchema";
import { threeDigits } from "@/core/units";

const PRACTICE = "Order of work: power wiring, CTs, meters, links";
const BOND_OHM = 0.5;
/** Above this there is no second bond, kΩ: what is left are filters and insulation. */
const NO_BOND_KOHM = 100;
/** A torque screwdriver set to the kit's value is right within this. */
const TORQUE_SHARE = 0.1;
/** A stack at rest is within this of what it is rated for. */
const BATTERY_SHARE = 0.15;
/** A bus measured with everything off is within this of what terminators and inputs give. */
const BUS_SHARE = 0.12;
const WIFI_LEAST_DBM = -75;
const CELLULAR_LEAST_DBM = -112;
/** A title is read at arm's length. */
const MOST_TITLE = 200;
const MAINS_CAUTION =
  "Isolated, proved dead and locked off. PE first. Terminal torque and section as the maker's manual and " +
  "local rules say; mains work is for a licensed electrician.";

/** Everything that is wired while the site is dead. */
export const WIRING_RULES: readonly VisitRule[] = [
  {
    id: "bond",
    yields: ({ worked }) =>
      worked
        .filter((item) => item.isNew && (isOnMains(item) || isWired(item) || item.kit.kind === "battery"))
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
    yields: (context) =>
      context.worked.filter((item) => item.isNew && isWired(item)).map((item) => mainsStep(context, item)),
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
            {
              label: "In each mode",
              value: "where the bond is a relay of the device, both are measured with the relay in either position",
            },
          ],
          evidence: {
            kind: "values" as const,
            fields: [
              {
                id: "joined",
                label: "N to PE, its one bond in place",
                unit: "Ω",
                least: 0,
                most: BOND_OHM,
                outside: "Joined nowhere: ask the designer where, never add a bond by guess",
              },
              {
                id: "lifted",
                label: "N to PE, that bond lifted",
                unit: "kΩ",
                least: NO_BOND_KOHM,
                outside: "Joined in a second place: find and remove it, as the designer says",
              },
            ],
          },
        })),
  },
  {
    id: "strings",
    yields: ({ worked, visit }) =>
      worked
        .filter((item) => isSolar(item) && item.isNew)
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
                    outside:
                      "A negative voltage is a reversed string: do not mate it. Type modules and voltage under " +
                      "Sheet: its limits follow from them",
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
        .filter(({ meter, kit, inputs }) => isOwnUnit(meter) && kit && hasTaps(kit) && !isDirect(inputs))
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
            { label: "Breaker", value: "one of its own for taps and supply, all poles, rated as its manual says" },
            ...(kit?.metering?.jumpers ?? [])
              .filter(({ when }) => isForSupply(when, site.supply.system))
              .map(({ when, link }) => ({ label: when, value: link })),
          ],
        })),
  },
  {
    id: "ct-leads",
    yields: (context) =>
      metersWithClamps(context.plan).map((own) => ({
        tag: "ct-leads",
        stage: "clamps" as const,
        title: `CT leads in ${own.meter.name}`,
        place: own.meter.place,
        about: own.id,
        why: isClampFirst(context, own.id)
          ? "Clamped on a dead conductor or with a voltage output, cut to length, then terminated"
          : "Leads are terminated before the CT closes round a conductor",
        activeMin: 3 * own.meter.inputs.length,
        source: PRACTICE,
        isGate: true,
        caution:
          "A current CT that is open on a live conductor makes dangerous voltage: short it until its leads are in.",
        school: leadSchool(context, own.id),
        content: leadLines(context, own),
      })),
  },
  {
    id: "clamp",
    yields: ({ plan, site }) =>
      metersWithClamps(plan).map(({ meter, inputs }) => ({
        tag: "clamp",
        stage: "clamps" as const,
        title: `CTs of ${meter.name}`,
        place: clampPlace(plan, meter),
        about: meter.id,
        why: "The right circuit, the right conductor, the arrow as this kit wants it",
        activeMin: 3 * meter.inputs.length,
        source: "CTs of the plan; Place shows them on the board",
        wantsPhoto: true,
        content: inputs
          .filter(({ input }) => !input.builtIn)
          .map(({ input }) => ({
            label: inputTag(site, meter.id, input.n),
            value: `round ${windowText(site, input.measures)}, arrow ${arrowOf(plan, input)}, ${input.primaryA} A`,
          })),
      })),
  },
  {
    id: "wire-link",
    yields: (context) =>
      context.plan.links
        .filter(({ kind }) => ["rs485", "can", "bank", "ethernet", "dry-contact", "usb"].includes(kind))
        .map((link) => linkStep(link, context)),
  },
  { id: "rule", yields: ({ worked }) => kitRules(worked) },
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
                  value: `${ohmText(expectedOhm)}; Wire, Multimeter says what another value means`,
                },
              ],
              evidence: {
                kind: "values",
                fields: [
                  {
                    id: "ohm",
                    label: link.kind === "can" ? "CANH to CANL" : "A to B",
                    unit: "Ω",
                    least: threeDigits(expectedOhm.least * (1 - BUS_SHARE)),
                    most: threeDigits(expectedOhm.most * (1 + BUS_SHARE)),
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

/** What measures inside, mains in and out, takes its voltage there too. */
function isDirect(inputs: PlanMeter["inputs"]): boolean {
  return inputs.length > 0 && inputs.every(({ input }) => input.builtIn);
}

/** A transmitter that lives on a battery or on its CT has no voltage taps. */
function hasTaps({ metering }: Kit): boolean {
  return metering?.transmitter === undefined || metering.transmitter.supply === "mains";
}

/** A current CT round a conductor that stays live keeps its gate, whatever the method. */
function leadSchool(context: VisitContext, meter: string): StepDraft["school"] {
  const line = schoolLine(context.visit, undefined, "ctLeads")!;
  const isAsked = activeSchool(context.visit, undefined, "ctLeads").option === "clamp-first";
  return isAsked && !isClampFirst(context, meter)
    ? {
        ...line,
        active: line.other,
        other: line.active,
        why: "a current-output CT round a conductor that stays live is never left open",
      }
    : line;
}

/** Mains in, and out where it stands in series: terminals, direction, what protects it, what it carries at most. */
function mainsStep({ site, plan }: VisitContext, item: KitDevice): StepDraft {
  const ports = item.kit.ports.filter(({ kind }) => kind === "mains");
  const torqueNm = ports.find(({ conductors }) => conductors?.torqueNm)?.conductors?.torqueNm;
  const { node } = item;
  const isInSeries = ports.length > 1 && node?.kind !== "diverter";
  const fuseA = node?.fuseA ?? plan.deviceById.get(node?.fedFrom ?? "")?.node?.fuseA ?? site.supply.mainFuseA;
  return {
    tag: "wire-power",
    stage: "power",
    title: `Wire the mains of ${item.name}`,
    place: item.place?.id,
    about: item.id,
    why: "AC terminated in the order PE, N, L",
    activeMin: 15,
    source: `Kit ${item.kit.id}, ports`,
    caution: MAINS_CAUTION,
    wantsPhoto: true,
    content: [
      ...ports.map((port) => ({ label: port.label, value: terminalsText(port) })),
      ...given(
        isInSeries && {
          label: "Direction",
          value: `supply in at ${ports[0]!.label}, out at ${joined(ports.slice(1).map(({ label }) => label))}`,
        },
        node?.cableMm2 !== undefined && { label: "Cable", value: `${node.cableMm2} mm², ferrules on stranded cores` },
        node?.phases && { label: "Phases", value: node.phases.join(", ") },
        fuseA !== undefined && { label: "Breaker", value: `${fuseA} A` },
        isInSeries &&
          !isInverter(item) &&
          (fuseA ?? 0) > (item.kit.ratings.currentA ?? Infinity) && {
            label: "Too much",
            value: `it carries ${item.kit.ratings.currentA} A: a smaller breaker before it`,
          },
        node?.kind === "ev-charger" && {
          label: "Protective device",
          value:
            "a residual-current device of its own, of the type that its manual and local rules want where it finds " +
            "or makes DC",
        },
        isSolar(item) && branchLine(site, item, fuseA),
      ),
      ...heaterLines(item),
    ],
    ...evidenceOf(given(torqueNm !== undefined && torqueField(torqueNm), ...elementFields(site, item))),
  };
}

function evidenceOf(fields: readonly ValueField[]): Pick<StepDraft, "evidence"> {
  return fields.length > 0 ? { evidence: { kind: "values", fields } } : {};
}

function torqueField(torqueNm: number): ValueField {
  return {
    id: "torque",
    label: "Torque of the terminals",
    unit: "N·m",
    least: threeDigits(torqueNm * (1 - TORQUE_SHARE)),
    most: threeDigits(torqueNm * (1 + TORQUE_SHARE)),
    outside: `Set the screwdriver to ${torqueNm} N·m and go over every terminal again`,
  };
}

/** What a solar branch circuit carries at most, against its breaker. */
function branchLine({ supply }: Site, { node, kit }: KitDevice, fuseA: number | undefined) {
  const ratedW = node?.ratedW ?? kit.ratings.powerW;
  if (!ratedW) return false;
  const conductors =
    node?.phases?.length ?? (supply.system === "three-phase" ? 3 : supply.system === "split-phase" ? 2 : 1);
  const currentA = threeDigits(ratedW / conductors / supply.voltageV);
  const isTight = fuseA !== undefined && currentA > fuseA;
  return {
    label: "Most current",
    value: `${currentA} A on each phase${isTight ? `: more than its breaker of ${fuseA} A carries` : ""}`,
  };
}

/** What a kit asks for that no check can tell from the plan: each rule once, as a question. */
function kitRules(worked: readonly KitDevice[]): readonly StepDraft[] {
  const seen = new Set<string>();
  return worked
    .filter(({ isNew }) => isNew)
    .flatMap((item) =>
      item.kit.topology
        .filter(({ check, rule }) => check === undefined && !seen.has(`${item.kit.id} ${rule}`))
        .map((rule): StepDraft => {
          seen.add(`${item.kit.id} ${rule.rule}`);
          return {
            tag: "rule",
            stage: "links",
            title: `${item.name}: ${rule.text}`.slice(0, MOST_TITLE),
            place: item.place?.id,
            about: item.id,
            why: rule.why,
            activeMin: 2,
            source: `Kit ${item.kit.id}, topology`,
            evidence: {
              kind: "choice",
              question: "Is it so?",
              outside: "Change it before power: the maker asks for it",
              options: [
                { id: "yes", label: "Yes", isGood: true },
                { id: "no", label: "No", isGood: false },
              ],
            },
          };
        }),
    );
}

function arrowOf({ tree: { nodeById } }: ResolvedPlan, { arrow, measures }: Meter["inputs"][number]): string {
  return arrowWords(arrow, nodeById.get(measures[0]?.run ?? "")?.kind);
}

/** A CT goes where its run begins: at the board that feeds it. */
function clampPlace({ tree: { nodeById } }: ResolvedPlan, meter: Meter): string | undefined {
  const run = nodeById.get(meter.inputs[0]?.measures[0]?.run ?? "");
  const feeder = nodeById.get(run?.fedFrom ?? "");
  return (feeder?.kind === "board" ? feeder.place : undefined) ?? run?.place ?? meter.place;
}

function metersWithClamps({ meters }: ResolvedPlan): readonly PlanMeter[] {
  return meters.filter(({ inputs }) => inputs.some(({ input }) => !input.builtIn));
}

function linkStep(link: PlanLink, { visit }: VisitContext): StepDraft {
  const all = wiringSchedule({ links: [link] });
  const rows = all.filter(({ role }) => role !== "spare");
  const plugged =
    link.kind === "usb" ? link.ends.find(({ device }) => device?.kit.kind === "dongle")?.device : undefined;
  const hasSpares = all.length > rows.length;
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
      ...(hasSpares ? [{ label: "Spare cores", value: schoolLine(visit, undefined, "spareCores")!.active }] : []),
    ],
    ...(plugged ? { school: schoolLine(visit, plugged.kit, "moduleWhen") } : {}),
    ...(plugged || !hasSpares ? {} : { school: schoolLine(visit, undefined, "spareCores") }),
  };
}

/** "Meter A+ pin 24". */
function coreEndText({ item, terminal, pin }: CoreEnd): string {
  return `${item} ${terminal}${pin === undefined ? "" : ` pin ${pin}`}`;
}

/** The terminals of a port, and what goes into them. */
function terminalsText({ terminals, conductors }: KitPort): string {
  const labels = terminals.map(({ label }) => label).join(", ");
  if (!conductors) return labels;
  const { minMm2, maxMm2, stripMm, torqueNm } = conductors;
  return [
    labels,
    `${minMm2} to ${maxMm2} mm²`,
    ...(stripMm === undefined ? [] : [`strip ${stripMm} mm`]),
    ...(torqueNm === undefined ? [] : [`${torqueNm} N·m`]),
  ].join("; ");
}

/** What a multimeter shows with everything off: anything between what a dead bias rail makes of it. */
function offResistanceOhm(link: PlanLink): { readonly least: number; readonly most: number } | undefined {
  const bus = busOfLink(link);
  if (bus) {
    const { resistanceOffOhm, resistanceOffBiasOhm, resistanceOffFarOhm, resistanceOffFarBiasOhm } = rs485(bus);
    const all = [resistanceOffOhm, resistanceOffBiasOhm, resistanceOffFarOhm, resistanceOffFarBiasOhm];
    return { least: Math.min(...all), most: Math.max(...all) };
  }
  const line = canOfLink(link);
  const ohm = line ? (can(line).resistanceOffOhm ?? undefined) : undefined;
  return ohm === undefined ? undefined : { least: ohm, most: ohm };
}

function ohmText({ least, most }: { readonly least: number; readonly most: number }): string {
  const [from, to] = [threeDigits(least), threeDigits(most)];
  return from === to ? `${to} Ω` : `${from} to ${to} Ω`;
}

function firstPlace({ ends }: PlanLink): string | undefined {
  return ends[0]!.device?.place?.id;
}

function nameOf({ ends, name }: PlanLink): string {
  return ends[0]!.device?.name ?? name;
}
