import type { KitDevice, ResolvedPlan } from "@/core/plan/resolvedPlan";
import type { PvString } from "@/core/plan/visitSettings";
import { inputTag } from "@/core/site/inputTag";
import { isOwnUnit } from "@/core/site/meterHost";
import { phasesOf } from "@/core/site/tree";
import { THIN_LEAD_MM2 } from "@/core/visit/bring/cableParts";
import { brought, type MaterialDraft } from "@/core/visit/bring/material";
import { isInverter, isOnMains, isSolar, isWired } from "@/core/visit/visitContext";

const TAP_MM2 = 1.5;
/** Above this a core ends in a lug, not in a ferrule, mm². */
const LUG_FROM_MM2 = 16;

type PartDraft = Omit<MaterialDraft, "unit" | "phase" | "place">;

function at({ place }: Pick<KitDevice, "place">, phase: MaterialDraft["phase"], part: PartDraft): MaterialDraft {
  return { ...part, unit: "pcs", place: place?.id, phase };
}

/** Breakers of new runs and of taps, isolators on the AC, DC and battery side, what protects a charger. */
export function protectionLines(plan: ResolvedPlan): readonly MaterialDraft[] {
  return brought(plan).flatMap((item) => [
    ...(isOnMains(item) ? breakerLines(plan, item) : []),
    ...(isTapped(plan, item)
      ? [
          at({ place: item.place }, "power", {
            id: "breaker:taps",
            group: "protection",
            text: "Breaker for taps and supply of a meter or gateway, all poles, as its manual says",
            quantity: 1,
            why: item.name,
          }),
        ]
      : []),
    ...isolators(item),
  ]);
}

function breakerLines({ site, deviceById }: ResolvedPlan, item: KitDevice): readonly MaterialDraft[] {
  const node = item.node!;
  const poles = phasesOf(node, site).length + 1;
  const feeder = deviceById.get(node.fedFrom ?? "");
  const rating = node.fuseA === undefined ? "rating as designed" : `${node.fuseA} A`;
  return [
    at({ place: feeder?.place ?? item.place }, "power", {
      id: `breaker:${poles}:${node.fuseA ?? "?"}`,
      group: "protection",
      text: `Breaker ${rating}, ${poles} poles`,
      quantity: 1,
      why: item.name,
    }),
    ...(node.kind === "ev-charger"
      ? [
          at({ place: feeder?.place ?? item.place }, "power", {
            id: "rcd:charger",
            group: "protection",
            text: "Residual-current device for a charger, type as its manual and local rules say",
            quantity: 1,
            why: item.name,
          }),
        ]
      : []),
  ];
}

function isTapped({ meters }: ResolvedPlan, item: KitDevice): boolean {
  const own = meters.find(({ id, meter }) => id === item.id && isOwnUnit(meter));
  return own !== undefined && item.kit.ports.some(({ kind }) => kind === "mains") && !isWired(item);
}

function isolators(item: KitDevice): readonly MaterialDraft[] {
  const isolator = (id: string, text: string): MaterialDraft =>
    at(item, "power", { id: `isolator:${id}`, group: "protection", text, quantity: 1, why: item.name });
  return [
    ...(isInverter(item) ? [isolator("ac", "AC isolator beside an inverter, lockable")] : []),
    ...(isSolar(item) && !isRoofUnit(item)
      ? [isolator("dc", "DC isolator, lockable, where the inverter has none of its own")]
      : []),
    ...(item.kit.kind === "battery" ? [isolator("battery", "Battery isolator or fuse, DC, as its manual says")] : []),
  ];
}

/** DC and battery connectors, plugs for network cable, lugs: each with what crimps it. */
export function connectorLines(
  plan: ResolvedPlan,
  strings: readonly Pick<PvString, "device">[],
): readonly MaterialDraft[] {
  return [
    ...brought(plan).flatMap((item): readonly MaterialDraft[] => [
      ...dcConnectors(
        item,
        strings.filter(({ device }) => device === item.id),
      ),
      ...(item.kit.kind === "battery"
        ? [
            at(item, "power", {
              id: "battery-connectors",
              group: "connectors",
              text: "Battery lugs or connectors, + and −, as its manual says",
              quantity: 2,
              why: item.name,
            }),
            tool(item, "lug-crimper", "Crimper for lugs", "battery leads and large sections"),
          ]
        : []),
      ...lugs(plan, item),
    ]),
    ...plan.links
      .filter(({ kind, existing }) => (kind === "ethernet" || kind === "can") && existing !== true)
      .flatMap(({ name, ends }) =>
        ends
          .filter(({ port }) => port?.connector === "rj45")
          .flatMap(({ device }): readonly MaterialDraft[] => [
            at({ place: device?.place }, "links", {
              id: "network-plug",
              group: "connectors",
              text: "Plugs for network cable, shielded",
              quantity: 1,
              why: name,
            }),
            tool({ place: device?.place }, "network-crimper", "Crimper and tester for network plugs", name, "links"),
          ]),
      ),
  ];
}

function dcConnectors(item: KitDevice, strings: readonly unknown[]): readonly MaterialDraft[] {
  if (!isSolar(item)) return [];
  const count = Math.max(1, strings.length);
  return [
    at(item, "power", {
      id: "dc-connectors",
      group: "connectors",
      text: "DC connectors, pairs, of the make that is on the modules",
      quantity: 2 * count,
      why: `${item.name}: ${count} ${count === 1 ? "string" : "strings"}, both ends`,
    }),
    tool(item, "dc-crimper", "Crimper and spanner for DC connectors", "strings"),
  ];
}

function lugs({ site }: ResolvedPlan, item: KitDevice): readonly MaterialDraft[] {
  const { node } = item;
  if (!node?.cableMm2 || node.cableMm2 <= LUG_FROM_MM2) return [];
  return [
    at(item, "power", {
      id: `lug:${node.cableMm2}`,
      group: "connectors",
      text: `Lugs ${node.cableMm2} mm²`,
      quantity: 2 * (phasesOf(node, site).length + 2),
      why: item.name,
    }),
    tool(item, "lug-crimper", "Crimper for lugs", "battery leads and large sections"),
  ];
}

function tool(
  { place }: Pick<KitDevice, "place">,
  id: string,
  text: string,
  why: string,
  phase: MaterialDraft["phase"] = "power",
): MaterialDraft {
  return { id: `tool:${id}`, group: "tools", text, quantity: 1, unit: "pcs", why, place: place?.id, phase };
}

function isRoofUnit({ kit }: KitDevice): boolean {
  return kit.ports.some(({ kind }) => kind === "power-line");
}

/** Ferrules of taps, leads and power cores, aerials of the right kind, SIM cards, blanking plugs. */
export function smallParts(plan: ResolvedPlan): readonly MaterialDraft[] {
  const { site, inputs } = plan;
  const items = brought(plan);
  const isNewMeter = (id: string) => plan.meterById.get(id)?.meter.existing !== true;
  const ferrule = (
    mm2: number,
    quantity: number,
    why: string,
    place: string | undefined,
    phase: MaterialDraft["phase"],
  ): MaterialDraft => ({
    id: `ferrule:${mm2}`,
    group: "small-parts",
    text: `Ferrule ${mm2} mm²`,
    quantity,
    unit: "pcs",
    why,
    place,
    phase,
  });
  return [
    ...site.meters
      .filter(({ id }) => isNewMeter(id))
      .map((meter) =>
        ferrule(TAP_MM2, Object.keys(meter.taps).length + 1, `taps of ${meter.name}`, meter.place, "clamps"),
      ),
    ...inputs
      .filter(({ input, meter }) => !input.builtIn && isNewMeter(meter.id))
      .map(({ meter, input }) =>
        ferrule(input.clamp?.leadMm2 ?? THIN_LEAD_MM2, 2, inputTag(site, meter.id, input.n), meter.place, "clamps"),
      ),
    ...items.flatMap((item): readonly MaterialDraft[] => {
      const { node } = item;
      if (!node?.cableMm2 || node.cableMm2 > LUG_FROM_MM2 || !isOnMains(item)) return [];
      const count = 2 * (phasesOf(node, site).length + 1);
      return [ferrule(node.cableMm2, count, node.name, item.place?.id, "power")];
    }),
    ...items.flatMap(airParts),
    {
      id: "gland-blank",
      group: "small-parts",
      text: "Blanking plugs for gland holes left unused",
      quantity: Math.max(2, items.length),
      unit: "pcs",
      why: "two for safety, or one for each device",
      place: undefined,
      phase: "mount",
    },
  ];
}

const AERIALS = { wifi: "Wi-Fi", cellular: "cellular", radio: "sub-GHz radio" } as const;

/** An aerial for each port that wants one, of its band; a SIM for what goes by cellular. */
function airParts(item: KitDevice): readonly MaterialDraft[] {
  const aerials = item.kit.ports.flatMap(({ kind, connector }) =>
    connector === "aerial" && kind in AERIALS ? [AERIALS[kind as keyof typeof AERIALS]] : [],
  );
  return [
    ...aerials.map((band) =>
      at(item, "mount", {
        id: `aerial:${band}`,
        group: "small-parts",
        text: `Aerial, ${band}`,
        quantity: 1,
        why: item.name,
      }),
    ),
    ...(item.kit.network?.cellular
      ? [at(item, "links", { id: "sim", group: "small-parts", text: "SIM card", quantity: 1, why: item.name })]
      : []),
  ];
}
