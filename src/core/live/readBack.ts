import type { JobDocument } from "@/core/job/jobDocument";
import type { LiveValue } from "@/core/live/liveSchema";
import { resolve } from "@/core/plan/resolve";

/** One setting as it was planned or typed, beside what the device says. */
export interface ReadBack {
  /** Tells it from the device's other settings. */
  readonly key: string;
  readonly what: string;
  readonly unit: string;
  /** Undefined where nothing was planned or typed. */
  readonly planned: string | undefined;
  readonly read: string;
  readonly isDifferent: boolean;
  /** What could be written to make it as planned; undefined where it is so, or the device takes no other value. */
  readonly cure: SettingCure | undefined;
}

/** One setting as a device says it. */
export type SaidSetting = Pick<LiveValue, "of" | "what" | "value" | "unit"> & { readonly input?: number | undefined };

/** A setting of a device with the value that is planned, in its unit. */
export interface SettingCure {
  readonly of: LiveValue["of"];
  readonly input: number | undefined;
  readonly value: number;
}

const SAME_SHARE = 1e-6;
const CODES: Readonly<Record<string, readonly string[]>> = { direction: ["as printed", "turned"] };
const DIGITS = /\d+$/;

/**
 * What a device says of itself beside what the plan says and what was typed on site: address, primaries, directions,
 * export limit, serial number, firmware.
 *
 * For example: a meter planned for 200 A CTs that says 100: { what: "Primary of the CT, input 1", planned: "200",
 * read: "100", isDifferent: true }.
 *
 * @param typedSerial As it was recorded in the visit.
 */
export function readBack(
  document: JobDocument,
  device: string,
  values: readonly SaidSetting[],
  typedSerial: string | undefined,
): readonly ReadBack[] {
  const plan = resolve(document);
  const meter = plan.meters.find(({ host, self }) => (host ?? self).id === device)?.meter;
  const kit = plan.joinableById.get(device)?.kit ?? plan.meters.find(({ self }) => self.id === device)?.kit;
  const isWritable = ({ of, input }: SaidSetting) =>
    // Another address would be another device to whoever asks on the line.
    of !== "address" &&
    kit?.registers.some((own) => own.of === of && own.input === input && own.access === "read-write") === true;
  const address = document.links.flatMap(({ members }) => members).find(({ item }) => item === device)?.address;
  const planned = ({ of, input }: SaidSetting): number | undefined => {
    const own = meter?.inputs.find(({ n }) => n === input);
    switch (of) {
      case "ratio":
        return own?.builtIn ? undefined : own?.primaryA;
      case "direction":
        return own && (own.invert ? 1 : 0);
      case "address":
        return address;
      case "limit":
        return document.limit.setPointW ?? document.limit.powerW;
      default:
        return undefined;
    }
  };
  return values.map((value): ReadBack => {
    const key = value.input === undefined ? value.of : `${value.of}/${value.input}`;
    const words = (own: number) => CODES[value.of]?.[own] ?? String(round(own));
    if (value.of === "serial") {
      const digits = typedSerial?.match(DIGITS)?.[0];
      return {
        key,
        what: value.what,
        unit: "",
        planned: typedSerial,
        read: words(value.value),
        isDifferent: digits !== undefined && Number(digits) !== value.value,
        cure: undefined,
      };
    }
    const wanted = planned(value);
    const isDifferent = wanted !== undefined && Math.abs(wanted - value.value) > SAME_SHARE * Math.abs(wanted) + 1e-9;
    return {
      key,
      what: value.what,
      unit: ["code", "number", "version"].includes(value.unit) ? "" : value.unit,
      planned: wanted === undefined ? undefined : words(wanted),
      read: words(value.value),
      isDifferent,
      cure: isDifferent && isWritable(value) ? { of: value.of, input: value.input, value: wanted } : undefined,
    };
  });
}

function round(value: number): number {
  return Number(value.toFixed(3));
}
