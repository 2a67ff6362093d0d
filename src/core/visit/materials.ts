import { given } from "@/core/given";
import type { JobDocument } from "@/core/job/jobDocument";
import type { LinkKind } from "@/core/plan/linkSchema";
import { wiringSchedule } from "@/core/links/wiring/wiringSchedule";
import { hasKit, resolve } from "@/core/plan/resolve";
import type { KitDevice, ResolvedPlan } from "@/core/plan/resolvedPlan";
import { labels } from "@/core/visit/labels";
import { isCurrentOutput } from "@/core/sensing/ctBurden";
import { distanceBetween } from "@/core/site/distances";
import { inputTag } from "@/core/site/inputTag";
import { isOwnUnit } from "@/core/site/meterHost";
import type { Site } from "@/core/site/planSchema";
import { phasesOf } from "@/core/site/tree";
import { threeDigits } from "@/core/units";

/** What a line of the list is. */
export type MaterialGroup = "devices" | "clamps" | "cable" | "small-parts" | "labels" | "tools" | "help";

type Plan = Pick<JobDocument, "site" | "kits" | "job" | "links">;

/** One line of what to bring. */
export interface Material {
  /** Stays the same while the plan means the same thing, so that its tick stays. */
  readonly id: string;
  readonly group: MaterialGroup;
  readonly text: string;
  readonly quantity: number;
  readonly unit: "pcs" | "m" | "sheet";
  /** Where the number comes from. */
  readonly why: string;
}

/** The groups of the list, in words and in order. */
export const MATERIAL_GROUPS: Readonly<Record<MaterialGroup, string>> = {
  devices: "Devices and meters",
  clamps: "Clamps",
  cable: "Cable",
  "small-parts": "Ferrules and small parts",
  labels: "Labels",
  tools: "Tools and instruments",
  help: "Help",
};

/** Added to every cable length: a tenth, and two metres to strip, turn and be wrong. */
const SLACK_SHARE = 0.1;
const SLACK_M = 2;
/** Lifting above this is for two, or a lift. */
const ALONE_KG = 25;
const THIN_LEAD_MM2 = 0.5;
const TAP_MM2 = 1.5;
const LINK_CABLES: Readonly<Partial<Record<LinkKind, { readonly id: string; readonly text: string }>>> = {
  rs485: { id: "data-cable", text: "Data cable, shielded twisted pair 120 Ω" },
  can: { id: "can-cable", text: "CAN cable, twisted pair 120 Ω" },
  ethernet: { id: "network-cable", text: "Network cable Cat 6, shielded" },
  "dry-contact": { id: "control-cable", text: "Control cable 0.5 mm²" },
};

/**
 * What to bring, from the plan: devices that are not there yet, clamps with their ratio, cable by type and length with
 * slack, ferrules by size, labels, aerials, tools, and help where something is heavy. What exists is left out.
 *
 * For example: A link of 12 m: 15.2 m of data cable (12 m + 10 % + 2 m).
 */
export function materials(document: Plan): readonly Material[] {
  const plan = resolve(document);
  return merged([
    ...deviceLines(plan),
    ...clampLines(plan),
    ...cableLines(plan),
    ...linkLines(plan),
    ...smallParts(plan),
    ...linkParts(plan),
    ...labelLines(document),
    ...toolLines(plan),
    ...helpLines(plan),
  ]);
}

/** @example withSlackM(12) // 15.2 */
export function withSlackM(lengthM: number): number {
  return Math.ceil((lengthM * (1 + SLACK_SHARE) + SLACK_M) * 10 - 1e-9) / 10;
}

/** Everything of a kit that is to be brought; a meter that is part of a device comes with it. */
function brought({ nodes, meters, equipment }: ResolvedPlan): readonly KitDevice[] {
  const units = meters.filter(({ meter }) => isOwnUnit(meter)).map(({ self }) => self);
  return [...nodes, ...units, ...equipment].filter(({ isNew }) => isNew).filter(hasKit);
}

function deviceLines(plan: ResolvedPlan): readonly Material[] {
  return brought(plan).map(({ name, kit }) => ({
    id: `kit:${kit.id}`,
    group: "devices",
    text: kit.name,
    quantity: 1,
    unit: "pcs",
    why: name,
  }));
}

function clampLines({ site, inputs }: ResolvedPlan): readonly Material[] {
  return inputs
    .filter(({ input }) => !input.builtIn)
    .map(({ meter, input, ctKit }) => {
      const turns = input.clamp?.turns ?? 1;
      const primaryA = input.primaryA * turns;
      return {
        id: `ct:${ctKit?.id ?? "any"}:${primaryA}:${input.secondary.value}${input.secondary.unit}`,
        group: "clamps",
        quantity: 1,
        unit: "pcs",
        text:
          `${ctKit?.name ?? "CT"}, ${Number(primaryA.toPrecision(4))} A : ${input.secondary.value} ` +
          `${input.secondary.unit}${input.clamp?.class ? `, class ${input.clamp.class}` : ""}`,
        why: inputTag(site, meter.id, input.n),
      };
    });
}

function cableLines({ site, inputs, nodes }: ResolvedPlan): readonly Material[] {
  const leads = inputs.flatMap(({ meter, input, ctKit }): readonly Material[] => {
    const leadM = input.clamp?.leadM;
    const own = ctKit?.clamp?.leadM ?? 0;
    if (input.builtIn || leadM === undefined || leadM <= own) return [];
    const area = input.clamp?.leadMm2 ?? THIN_LEAD_MM2;
    return [
      {
        id: `lead:${area}`,
        group: "cable",
        text: `Twisted pair ${area} mm² for CT leads`,
        quantity: withSlackM(leadM),
        unit: "m",
        why: `${inputTag(site, meter.id, input.n)} ${leadM} m`,
      },
    ];
  });
  return [...leads, ...powerLines(site, nodes)];
}

function powerLines(site: Site, nodes: ResolvedPlan["nodes"]): readonly Material[] {
  return nodes.flatMap(({ node, parent, place }): readonly Material[] => {
    if (!node || node.kind === "grid" || node.kind === "test-load" || node.kind === "load" || node.existing) return [];
    const { cableM } = distanceBetween(site, parent?.place?.id, place?.id);
    if (!cableM) return [];
    const cores = phasesOf(node, site).length + 2;
    const section = node.cableMm2 ? `${cores} × ${node.cableMm2} mm²` : `${cores} cores, section as designed`;
    return [
      {
        id: `power:${cores}:${node.cableMm2 ?? "?"}`,
        group: "cable",
        text: `Power cable ${section}`,
        quantity: withSlackM(cableM),
        unit: "m",
        why: `${node.name} ${cableM} m`,
      },
    ];
  });
}

/** The cable of every planned link, each stretch with its slack. */
function linkLines({ links }: ResolvedPlan): readonly Material[] {
  return links.flatMap((link) => {
    const cable = LINK_CABLES[link.kind];
    if (!cable) return [];
    return link.ends.flatMap(({ device, port, cableM: lengthM }, at): readonly Material[] =>
      at === 0 || lengthM === undefined
        ? []
        : [
            {
              ...cable,
              group: "cable",
              quantity: withSlackM(lengthM),
              unit: "m",
              why: `to ${(port && device?.name) ?? link.name} ${threeDigits(lengthM)} m`,
            },
          ],
    );
  });
}

/**
 * Ferrules of the data cores by the wiring schedule, a twin one counted once, and terminators that a port has not
 * itself.
 */
function linkParts({ links }: ResolvedPlan): readonly Material[] {
  const ends = wiringSchedule({ links })
    .flatMap((row) => [row.from, ...(row.to ? [row.to] : [])])
    .filter((end) => end.ferrule !== undefined);
  const places = new Map(ends.map((end) => [`${end.item} ${end.port} ${end.terminal}`, end]));
  return [
    ...[...places.values()].map(({ item, port, ferrule }): Material => ({
      id: `ferrule:${ferrule}`,
      group: "small-parts",
      text: `Ferrule ${ferrule}`,
      quantity: 1,
      unit: "pcs",
      why: `${item} ${port}`,
    })),
    ...links
      .flatMap((link) => link.ends)
      .flatMap(({ member, device, port }): readonly Material[] => {
        return member.terminator && port?.terminator === "none"
          ? [
              {
                id: "terminator",
                group: "small-parts",
                text: "Terminator 120 Ω",
                quantity: 1,
                unit: "pcs",
                why: `${device?.name} has none of its own`,
              },
            ]
          : [];
      }),
  ];
}

function smallParts(plan: ResolvedPlan): readonly Material[] {
  const { site, inputs } = plan;
  const ferrule = (mm2: number, quantity: number, why: string): Material => ({
    id: `ferrule:${mm2}`,
    group: "small-parts",
    text: `Ferrule ${mm2} mm²`,
    quantity,
    unit: "pcs",
    why,
  });
  const taps = site.meters.map((meter) =>
    ferrule(TAP_MM2, Object.keys(meter.taps).length + 1, `taps of ${meter.name}`),
  );
  const leads = inputs
    .filter(({ input }) => !input.builtIn)
    .map(({ meter, input }) => ferrule(input.clamp?.leadMm2 ?? THIN_LEAD_MM2, 2, inputTag(site, meter.id, input.n)));
  const power = site.nodes.flatMap((node): readonly Material[] => {
    const isPlugged =
      node.kind === "grid" || node.kind === "test-load" || node.kind === "load" || node.kind === "board";
    if (isPlugged || node.existing || !node.cableMm2 || node.cableMm2 > 16) return [];
    return [ferrule(node.cableMm2, 2 * (phasesOf(node, site).length + 1), node.name)];
  });
  const kitParts = brought(plan).flatMap(({ name, kit }): readonly Material[] =>
    given(
      kit.ports.some((port) => port.connector === "aerial") && {
        id: "aerial",
        group: "small-parts" as const,
        text: "Aerial",
        quantity: 1,
        unit: "pcs" as const,
        why: name,
      },
      kit.network?.cellular && {
        id: "sim",
        group: "small-parts" as const,
        text: "SIM card",
        quantity: 1,
        unit: "pcs" as const,
        why: name,
      },
    ),
  );
  const blanks: Material = {
    id: "gland-blank",
    group: "small-parts",
    text: "Blanking plugs for gland holes left unused",
    quantity: Math.max(2, brought(plan).length),
    unit: "pcs",
    why: "two for safety, or one for each device",
  };
  return [...taps, ...leads, ...power, ...kitParts, blanks];
}

function labelLines(document: Plan): readonly Material[] {
  const count = labels(document, "").length;
  return count === 0
    ? []
    : [
        {
          id: "labels",
          group: "labels",
          text: "Printed labels",
          quantity: count,
          unit: "pcs",
          why: "clamps, leads, breakers, invert settings",
        },
      ];
}

function toolLines(plan: ResolvedPlan): readonly Material[] {
  const tool = (id: string, text: string, why: string): Material => ({
    id: `tool:${id}`,
    group: "tools",
    text,
    quantity: 1,
    unit: "pcs",
    why,
  });
  const items = brought(plan);
  const drills = items.flatMap(({ name, kit }) =>
    kit.environment.drillMm
      ? [tool(`drill-${kit.environment.drillMm}`, `Drill ${kit.environment.drillMm} mm`, name)]
      : [],
  );
  return given(
    tool("tester", "Two-pole voltage tester, approved", "proving dead; a non-contact pen is never proof"),
    tool("lock-off", "Lock-off kit with tag", "isolation"),
    tool("multimeter", "Multimeter", "polarity, bus resistance, continuity"),
    tool("clamp-meter", "Clamp meter", "comparing a reading with what flows"),
    tool("crimper", "Ferrule crimper and stripper", "stranded cores"),
    items.some(({ kit }) => kit.ports.some((port) => port.conductors?.torqueNm)) &&
      tool("torque", "Torque screwdriver", "terminals with a torque in their kit"),
    plan.inputs.some(({ input }) => !input.builtIn && isCurrentOutput(input.secondary)) &&
      tool(
        "shorting",
        "Shorting link for current-output CTs",
        "leads are shorted before they are touched on a live conductor",
      ),
    items.some(({ kit }) => kit.network?.accessPoint || kit.network?.bluetooth) &&
      tool("phone", "Phone with flight mode, charged", "set-up over an access point or Bluetooth"),
    drills,
  );
}

function helpLines(plan: ResolvedPlan): readonly Material[] {
  return brought(plan)
    .filter(({ kit }) => (kit.environment.weightKg ?? 0) > ALONE_KG)
    .map(({ name, kit }) => ({
      id: `lift:${kit.id}`,
      group: "help",
      text: `Second person or lift for ${kit.name}`,
      quantity: 1,
      unit: "pcs",
      why: `${name}: ${kit.environment.weightKg} kg`,
    }));
}

/** Lines that mean the same thing become one, with the sum and every reason. */
function merged(lines: readonly Material[]): readonly Material[] {
  const byId = new Map<string, Material>();
  for (const line of lines) {
    const known = byId.get(line.id);
    const isTool = line.group === "tools";
    byId.set(
      line.id,
      known
        ? {
            ...known,
            quantity: isTool ? known.quantity : Math.round((known.quantity + line.quantity) * 10) / 10,
            why: known.why.includes(line.why) ? known.why : `${known.why}, ${line.why}`,
          }
        : line,
    );
  }
  const order = Object.keys(MATERIAL_GROUPS);
  return [...byId.values()].toSorted((a, b) => order.indexOf(a.group) - order.indexOf(b.group));
}
