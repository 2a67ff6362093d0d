import { wiringSchedule } from "@/core/links/wiring/wiringSchedule";
import type { LinkKind } from "@/core/plan/linkSchema";
import type { PlanLink, ResolvedPlan } from "@/core/plan/resolvedPlan";
import { distanceBetween } from "@/core/site/distances";
import { inputTag } from "@/core/site/inputTag";
import type { Site } from "@/core/site/planSchema";
import { phasesOf } from "@/core/site/tree";
import { threeDigits } from "@/core/units";
import type { MaterialDraft } from "@/core/visit/bring/material";

/** Added to every cable length: a tenth, and two metres to strip, turn and be wrong. */
const SLACK_SHARE = 0.1;
const SLACK_M = 2;
/** Of the cores of a CT's lead, where nobody said. */
export const THIN_LEAD_MM2 = 0.5;
/** One tie each so many metres, and one at either end. */
const TIE_EVERY_M = 0.5;
const LINK_CABLES: Readonly<Partial<Record<LinkKind, { readonly id: string; readonly text: string }>>> = {
  rs485: { id: "data-cable", text: "Data cable, shielded twisted pair 120 Ω" },
  can: { id: "can-cable", text: "CAN cable, twisted pair 120 Ω" },
  bank: { id: "bank-cable", text: "Cable between battery modules, as their manual says" },
  ethernet: { id: "network-cable", text: "Network cable Cat 6, shielded" },
  "dry-contact": { id: "control-cable", text: "Control cable 0.5 mm²" },
};

/** @example withSlackM(12) // 15.2 */
export function withSlackM(lengthM: number): number {
  return Math.ceil((lengthM * (1 + SLACK_SHARE) + SLACK_M) * 10 - 1e-9) / 10;
}

/** Leads that are longer than what comes on the CT, power cable to each new device, and the cable of every link. */
export function cableLines(plan: ResolvedPlan): readonly MaterialDraft[] {
  return [...leadLines(plan), ...powerLines(plan.site, plan.nodes), ...linkLines(plan)];
}

function leadLines({ site, inputs }: ResolvedPlan): readonly MaterialDraft[] {
  return inputs.flatMap(({ meter, input, ctKit }): readonly MaterialDraft[] => {
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
        place: meter.place,
        phase: "clamps",
      },
    ];
  });
}

function powerLines(site: Site, nodes: ResolvedPlan["nodes"]): readonly MaterialDraft[] {
  return nodes.flatMap(({ node, parent, place }): readonly MaterialDraft[] => {
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
        place: place?.id,
        phase: "power",
      },
    ];
  });
}

/** The cable of every planned link, each stretch with its slack, and the ties that take its weight off terminals. */
function linkLines({ links }: ResolvedPlan): readonly MaterialDraft[] {
  return laidStretches(links).flatMap(({ link, at, device, lengthM }): readonly MaterialDraft[] => {
    const cable = LINK_CABLES[link.kind]!;
    const end = link.ends[at]!;
    const common = { place: device?.place?.id, phase: "links" as const };
    return [
      {
        ...cable,
        ...common,
        group: "cable",
        quantity: withSlackM(lengthM),
        unit: "m",
        why: `to ${(end.port && device?.name) ?? link.name} ${threeDigits(lengthM)} m`,
      },
      {
        ...common,
        id: "strain-relief",
        group: "fixings",
        text: "Ties and cable clips, strain relief of data cable",
        quantity: 2 + Math.ceil(lengthM * TIE_EVERY_M),
        unit: "pcs",
        why: link.name,
      },
    ];
  });
}

/** Every stretch of cable that is laid for a link: from the end before to this one. */
export function laidStretches(links: readonly PlanLink[]) {
  return links
    .filter(({ kind, existing }) => LINK_CABLES[kind] !== undefined && existing !== true)
    .flatMap((link) =>
      link.ends.flatMap(({ device, cableM }, at) =>
        at === 0 || cableM === undefined ? [] : [{ link, at, device, lengthM: cableM }],
      ),
    );
}

/** Ferrules of the data cores by the wiring schedule, a twin one counted once, and terminators that a port has not. */
export function linkParts({ links, deviceById }: ResolvedPlan): readonly MaterialDraft[] {
  const laid = links.filter(({ existing }) => existing !== true);
  const ends = wiringSchedule({ links: laid })
    .flatMap((row) => [row.from, ...(row.to ? [row.to] : [])])
    .filter((end) => end.ferrule !== undefined);
  const placeOf = new Map([...deviceById.values()].map(({ name, place }) => [name, place?.id]));
  const places = new Map(ends.map((end) => [`${end.item} ${end.port} ${end.terminal}`, end]));
  return [
    ...[...places.values()].map(({ item, port, ferrule }): MaterialDraft => ({
      id: `ferrule:${ferrule}`,
      group: "small-parts",
      text: `Ferrule ${ferrule}`,
      quantity: 1,
      unit: "pcs",
      why: `${item} ${port}`,
      place: placeOf.get(item),
      phase: "links",
    })),
    ...laid
      .flatMap((link) => link.ends)
      .filter(({ member, port }) => member.terminator && port?.terminator === "none")
      .map(({ device }): MaterialDraft => ({
        id: "terminator",
        group: "small-parts",
        text: "Terminator 120 Ω",
        quantity: 1,
        unit: "pcs",
        why: `${device?.name} has none of its own`,
        place: device?.place?.id,
        phase: "links",
      })),
  ];
}
