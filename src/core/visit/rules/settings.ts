import type { KitDevice } from "@/core/plan/resolvedPlan";
import { plainText } from "@/core/sentence";
import { ratioEntry } from "@/core/sensing/ratioEntry";
import { inputTag } from "@/core/site/inputTag";
import type { VisitContext } from "@/core/visit/visitContext";

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
export function settingsOf(
  { site, plan }: VisitContext,
  item: KitDevice,
): readonly { readonly label: string; readonly value: string }[] {
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
  const buses = item.links
    .filter(({ kind }) => kind === "rs485")
    .flatMap((link) =>
      link.members.flatMap((member) => {
        if (member.item !== item.id) return [];
        const asking = plan.deviceById.get(link.members[0]!.item);
        const serial = (asking?.node && asking.kit?.serial) ?? item.kit.serial;
        return [
          ...(member.address === undefined ? [] : [{ label: "Bus address", value: String(member.address) }]),
          ...((link.baud ?? serial?.baud)
            ? [{ label: "Bus speed", value: `${link.baud ?? serial?.baud} Bd, ${serial?.parity ?? "none"} parity` }]
            : []),
        ];
      }),
    );
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
    ...(item.kit.metering?.menu ?? []).map(({ field, value }) => ({ label: field, value })),
  ];
}
