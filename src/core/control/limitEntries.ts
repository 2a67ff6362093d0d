import type { Kit } from "@/core/kits/kitSchema";
import { plannedSetPointW, type ExportLimiter } from "@/core/control/exportLimiter";
import type { ResolvedPlan } from "@/core/plan/resolvedPlan";
import { plainText } from "@/core/sentence";
import { ratioEntry } from "@/core/sensing/ratioEntry";
import { inputTag } from "@/core/site/inputTag";
import { threeDigits } from "@/core/units";

/** One value to type into a device, with where it comes from. */
export interface LimitEntry {
  readonly field: string;
  readonly value: string;
  readonly why: string;
  /** It cannot be entered as it should be. */
  readonly isProblem: boolean;
}

/** What is typed into one device. */
export interface DeviceEntries {
  readonly device: string;
  readonly kit: string;
  readonly entries: readonly LimitEntry[];
}

/**
 * A limit in the form that a kit takes it, rounded to what it can hold, always down: in W or in % of the capacity.
 *
 * For example: 4876 W on a kit of 10 kW in steps of 1 %: 48 %.
 */
export function entryOfLimit(
  form: NonNullable<Kit["exportLimit"]>,
  limitW: number,
  capacityW: number,
): { readonly value: number; readonly text: string; readonly trueW: number; readonly isPossible: boolean } {
  const wanted = form.unit === "W" ? limitW : (100 * limitW) / capacityW;
  const stepped = form.min + Math.floor((wanted - form.min) / form.step + 1e-9) * form.step;
  const value = Number(Math.min(form.max, stepped).toFixed(6));
  const isPossible = wanted >= form.min;
  const shown = isPossible ? value : form.min;
  return {
    value: shown,
    text: form.unit === "W" ? `${shown} W` : `${shown} %`,
    trueW: form.unit === "W" ? shown : (shown * capacityW) / 100,
    isPossible,
  };
}

/** Every value to type for the limit, device by device: the controller first, then each inverter. */
export function limitEntries(
  { site, limit, deviceById, meterById }: ResolvedPlan,
  limiter: ExportLimiter,
): readonly DeviceEntries[] {
  const setPointW = plannedSetPointW(limit, limiter);
  const capacityW = limiter.inverters.reduce((sum, { ratedW }) => sum + (ratedW ?? 0), 0);
  const { kit } = limiter.controller;
  const form = kit.exportLimit;
  const entry = form && entryOfLimit(form, setPointW, capacityW);
  const isBasisKnown = form?.basis.includes(limit.basis) ?? false;
  const { kit: meterKit, inputs } = meterById.get(limiter.meter.id)!;
  const ratios = inputs
    .filter(({ input }) => !input.builtIn)
    .flatMap(({ input, kitInput }): readonly LimitEntry[] => {
      if (!kitInput) return [];
      const ratio = ratioEntry(kitInput.ratio, input.primaryA, input.secondary);
      return [
        {
          field: `CT ratio of ${inputTag(site, limiter.meter.id, input.n)}`,
          value: ratio.kind === "entry" ? plainText(ratio.text) : "cannot be entered",
          why: ratio.kind === "entry" ? `${input.primaryA} A clamp` : plainText(ratio.why),
          isProblem: ratio.kind !== "entry",
        },
      ];
    });
  const controller: DeviceEntries = {
    device: limiter.controller.name,
    kit: kit.name,
    entries: [
      ...(entry
        ? [
            {
              field: "Export limit",
              value: entry.text,
              why:
                `set-point ${threeDigits(setPointW)} ` +
                `W${form?.unit === "percent" ? ` of ${threeDigits(capacityW)} W` : ""}, ` +
                `rounded down to what it holds${entry.isPossible ? "" : `; it holds no less than ${form!.min}`}`,
              isProblem: !entry.isPossible,
            },
          ]
        : []),
      ...(form
        ? [
            {
              field: "On",
              value: limit.basis === "sum" ? "the sum of the phases" : "each phase",
              why: isBasisKnown
                ? "the operator's rule"
                : "this kit can only limit " +
                  `${form.basis.map((basis) => (basis === "sum" ? "the sum" : "each phase")).join(" or ")}`,
              isProblem: !isBasisKnown,
            },
          ]
        : []),
      {
        field: "Inverters",
        value: String(limiter.inverters.length),
        why: limiter.inverters.map(({ name }) => name).join(", "),
        isProblem: false,
      },
      {
        field: "Capacity, summed",
        value: `${threeDigits(capacityW / 1000)} kW`,
        why: limiter.inverters.map(({ ratedW }) => `${threeDigits((ratedW ?? 0) / 1000)} kW`).join(" + "),
        isProblem: false,
      },
      { field: "Dead band", value: `${limit.deadBandW} W`, why: "taken off the set-point", isProblem: false },
      ...(form?.failSafe
        ? [
            {
              field: "Fail-safe",
              value: `on, ${form.failSafe.timeS} s, to ${form.failSafe.fallbackPct} %`,
              why: "when the meter is lost",
              isProblem: false,
            },
          ]
        : []),
      ...(meterKit?.id === kit.id ? ratios : []),
    ],
  };
  const meter: readonly DeviceEntries[] =
    meterKit && meterKit.id !== kit.id ? [{ device: limiter.meter.name, kit: meterKit.name, entries: ratios }] : [];
  const others = limiter.inverters
    .filter(({ id }) => id !== limiter.controller.id)
    .map((node): DeviceEntries => {
      const device = deviceById.get(node.id)!;
      const own = device.kit;
      const address = device.links[0]?.members.find(({ item }) => item === node.id)?.address;
      const failSafe = own?.exportLimit?.failSafe;
      return {
        device: node.name,
        kit: own?.name ?? "no kit",
        entries: [
          ...(address === undefined
            ? []
            : [{ field: "Bus address", value: String(address), why: "as planned under Wire", isProblem: false }]),
          ...(failSafe
            ? [
                {
                  field: "Fail-safe",
                  value: `on, ${failSafe.timeS} s, to ${failSafe.fallbackPct} %`,
                  why: `when nothing comes over the bus`,
                  isProblem: false,
                },
              ]
            : own
              ? [
                  {
                    field: "Fail-safe",
                    value: "not known",
                    why: "the kit says nothing of it: look into the maker's manual",
                    isProblem: true,
                  },
                ]
              : []),
        ],
      };
    });
  return [controller, ...meter, ...others].filter(({ entries }) => entries.length > 0);
}
