import { busOfLink } from "@/core/links/bus/busOfLink";
import type { KitDevice } from "@/core/plan/resolvedPlan";
import { plainText } from "@/core/sentence";
import { ratioEntry } from "@/core/sensing/ratioEntry";
import { inputTag } from "@/core/site/inputTag";
import type { VisitContext } from "@/core/visit/visitContext";

interface SettingLine {
  readonly label: string;
  readonly value: string;
}

/** What a kit's menu calls the settings of its bus. */
const BUS_FIELD = /^(?:bus (?:address|speed)|baud|parity|stop bits)/i;
/** A device that is set up by a phone or a page of its own. */
const SET_UP_KINDS = [
  "pv-inverter",
  "battery-inverter",
  "hybrid-inverter",
  "diverter",
  "ev-charger",
  "energy-manager",
  "export-controller",
  "logger",
  "gateway",
  "monitor",
  "meter",
];

/** Whether a device is set up by a phone or a page of its own. */
export function isSetUp({ kit }: Pick<KitDevice, "kit">): boolean {
  return SET_UP_KINDS.includes(kit.kind);
}

/** What is typed into a device: ratio of each input, address, speed, limit, its menu. */
export function settingsOf({ site, plan }: VisitContext, item: KitDevice): readonly SettingLine[] {
  const inputs = plan.meters
    .filter(({ id, host }) => id === item.id || host?.id === item.id)
    .flatMap((meter) => meter.inputs)
    .flatMap(({ meter, input, kitInput }) => {
      if (!kitInput || input.builtIn) return [];
      const entry = ratioEntry(kitInput.ratio, input.primaryA, input.secondary);
      return [
        {
          label: `${inputTag(site, meter.id, input.n)} CT`,
          value:
            entry.kind === "entry"
              ? plainText(entry.text)
              : `${input.primaryA} A cannot be entered: ${plainText(entry.why)}`,
        },
      ];
    });
  const buses = busLines(item);
  const country = ["pv-inverter", "hybrid-inverter", "battery-inverter"].includes(item.kit.kind)
    ? [{ label: "Grid code", value: "the country's, as the network operator wrote" }]
    : [];
  const limit = item.kit.exportLimit
    ? [{ label: "Export limit", value: "as under Limit: value, sum or phase, fail-safe and its time" }]
    : [];
  return [
    ...country,
    ...inputs,
    ...buses,
    ...limit,
    // A menu comes with the kit's own bus settings: on a bus the plan's are typed, under one name.
    ...(item.kit.metering?.menu ?? [])
      .filter(({ field }) => buses.length === 0 || !BUS_FIELD.test(field))
      .map(({ field, value }) => ({ label: field, value })),
  ];
}

/** Speed, parity, stop bits and address on each bus, from the one place that Wire computes with. */
function busLines(item: KitDevice): readonly SettingLine[] {
  const buses = item.links.filter(({ kind }) => kind === "rs485");
  return buses.flatMap((link) => {
    const bus = busOfLink(link);
    const of = buses.length > 1 ? ` of ${link.name}` : "";
    const addresses = link.members.flatMap(({ item: id, address }) => (id === item.id ? (address ?? []) : []));
    return [
      ...addresses.map((address) => ({ label: `Bus address${of}`, value: String(address) })),
      ...(bus
        ? [
            { label: `Bus speed${of}`, value: `${bus.baud} Bd` },
            { label: `Parity${of}`, value: bus.parity },
            { label: `Stop bits${of}`, value: String(bus.stopBits) },
          ]
        : []),
    ];
  });
}
