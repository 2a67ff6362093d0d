import type { JobDocument } from "@/core/job/jobDocument";
import type { LiveValue } from "@/core/live/liveSchema";
import { resolve } from "@/core/plan/resolve";

/** One setting as it was planned or typed, beside what the device says. */
export interface ReadBack {
  readonly what: string;
  readonly unit: string;
  /** Undefined where nothing was planned or typed. */
  readonly planned: string | undefined;
  readonly read: string;
  readonly isDifferent: boolean;
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
  values: readonly LiveValue[],
  typedSerial: string | undefined,
): readonly ReadBack[] {
  const plan = resolve(document);
  const meter = plan.meters.find(({ host, self }) => (host ?? self).id === device)?.meter;
  const address = document.links.flatMap(({ members }) => members).find(({ item }) => item === device)?.address;
  const planned = ({ of, input }: LiveValue): number | undefined => {
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
    const words = (own: number) => CODES[value.of]?.[own] ?? String(round(own));
    if (value.of === "serial") {
      const digits = typedSerial?.match(DIGITS)?.[0];
      return {
        what: value.what,
        unit: "",
        planned: typedSerial,
        read: words(value.value),
        isDifferent: digits !== undefined && Number(digits) !== value.value,
      };
    }
    const wanted = planned(value);
    return {
      what: value.what,
      unit: ["code", "number", "version"].includes(value.unit) ? "" : value.unit,
      planned: wanted === undefined ? undefined : words(wanted),
      read: words(value.value),
      isDifferent: wanted !== undefined && Math.abs(wanted - value.value) > SAME_SHARE * Math.abs(wanted) + 1e-9,
    };
  });
}

function round(value: number): number {
  return Number(value.toFixed(3));
}
