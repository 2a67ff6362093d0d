import type { Kit } from "@/core/kits/kitSchema";
import { plannedSetPointW, type ExportLimiter } from "@/core/control/exportLimiter";
import { given } from "@/core/given";
import type { Device, ResolvedPlan } from "@/core/plan/resolvedPlan";
import { plainText } from "@/core/sentence";
import { ratioEntry } from "@/core/sensing/ratioEntry";
import { phasesOfSupply } from "@/core/site/phasors";
import { inputTag } from "@/core/site/inputTag";
import { threeDigits } from "@/core/units";

type LimitForm = NonNullable<Kit["exportLimit"]>;

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
  form: LimitForm,
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
export function limitEntries(plan: ResolvedPlan, limiter: ExportLimiter): readonly DeviceEntries[] {
  const { kit } = limiter.controller;
  const meterKit = plan.meterById.get(limiter.meter.id)!.kit;
  const ratios = ratioEntries(plan, limiter);
  const isOneDevice = meterKit?.id === kit.id;
  const entries = controllerEntries(plan, limiter);
  return [
    { device: limiter.controller.name, kit: kit.name, entries: isOneDevice ? [...entries, ...ratios] : entries },
    ...(meterKit && !isOneDevice ? [{ device: limiter.meter.name, kit: meterKit.name, entries: ratios }] : []),
    ...limiter.inverters
      .filter(({ id }) => id !== limiter.controller.id)
      .map(({ id }) => inverterEntries(plan.deviceById.get(id)!)),
  ].filter((device) => device.entries.length > 0);
}

function controllerEntries({ limit, site }: ResolvedPlan, limiter: ExportLimiter): readonly LimitEntry[] {
  const { inverters } = limiter;
  const form = limiter.controller.kit.exportLimit;
  const capacityW = inverters.reduce((sum, { ratedW }) => sum + (ratedW ?? 0), 0);
  // What is allowed on each phase is a share of what is on each phase.
  const ofLimitW = limit.basis === "sum" ? capacityW : capacityW / phasesOfSupply(site.supply).length;
  return given(
    form && setPointEntry(form, plannedSetPointW(limit, limiter), ofLimitW),
    form && basisEntry(form, limit.basis),
    {
      field: "Inverters",
      value: String(inverters.length),
      why: inverters.map(({ name }) => name).join(", "),
      isProblem: false,
    },
    {
      field: "Capacity, summed",
      value: `${threeDigits(capacityW / 1000)} kW`,
      why: inverters.map(({ ratedW }) => `${threeDigits((ratedW ?? 0) / 1000)} kW`).join(" + "),
      isProblem: false,
    },
    { field: "Dead band", value: `${limit.deadBandW} W`, why: "taken off the set-point", isProblem: false },
    form?.failSafe && failSafeEntry(form.failSafe, "when the meter is lost"),
  );
}

function setPointEntry(form: LimitForm, setPointW: number, capacityW: number): LimitEntry {
  const entry = entryOfLimit(form, setPointW, capacityW);
  return {
    field: "Export limit",
    value: entry.text,
    why:
      `set-point ${threeDigits(setPointW)} W${form.unit === "percent" ? ` of ${threeDigits(capacityW)} W` : ""}, ` +
      `rounded down to what it holds${entry.isPossible ? "" : `; it holds no less than ${form.min}`}`,
    isProblem: !entry.isPossible,
  };
}

function basisEntry(form: LimitForm, basis: "sum" | "per-phase"): LimitEntry {
  const isKnown = form.basis.includes(basis);
  const possible = form.basis.map((own) => (own === "sum" ? "the sum" : "each phase")).join(" or ");
  return {
    field: "On",
    value: basis === "sum" ? "the sum of the phases" : "each phase",
    why: isKnown ? "the operator's rule" : `this kit can only limit ${possible}`,
    isProblem: !isKnown,
  };
}

function ratioEntries({ site, meterById }: ResolvedPlan, { meter }: ExportLimiter): readonly LimitEntry[] {
  return meterById
    .get(meter.id)!
    .inputs.filter(({ input }) => !input.builtIn)
    .flatMap(({ input, kitInput }): readonly LimitEntry[] => {
      if (!kitInput) return [];
      const ratio = ratioEntry(kitInput.ratio, input.primaryA, input.secondary);
      return [
        {
          field: `CT ratio of ${inputTag(site, meter.id, input.n)}`,
          value: ratio.kind === "entry" ? plainText(ratio.text) : "cannot be entered",
          why: ratio.kind === "entry" ? `${input.primaryA} A CT` : plainText(ratio.why),
          isProblem: ratio.kind !== "entry",
        },
      ];
    });
}

function inverterEntries({ id, name, kit, links }: Device): DeviceEntries {
  const address = links[0]?.members.find(({ item }) => item === id)?.address;
  const failSafe = kit?.exportLimit?.failSafe;
  return {
    device: name,
    kit: kit?.name ?? "no kit",
    entries: given(
      address !== undefined && {
        field: "Bus address",
        value: String(address),
        why: "as planned under Wire",
        isProblem: false,
      },
      failSafe && failSafeEntry(failSafe, "when nothing comes over the bus"),
      kit !== undefined &&
        failSafe === undefined && {
          field: "Fail-safe",
          value: "not known",
          why: "the kit says nothing of it: look into the maker's manual",
          isProblem: true,
        },
    ),
  };
}

function failSafeEntry({ timeS, fallbackPct }: NonNullable<LimitForm["failSafe"]>, why: string): LimitEntry {
  return { field: "Fail-safe", value: `on, ${timeS} s, to ${fallbackPct} %`, why, isProblem: false };
}
