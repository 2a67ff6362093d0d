import type { z } from "zod";
import { descriptionOf, enumWords, fieldsOf, isOptional, kindOf } from "@/core/describedSchema";
import { kitSchema, type Kit } from "@/core/kits/kitSchema";
import { powerText } from "@/core/units";

/** The parts of a kit that are plain values, in the order in which a data sheet has them. */
const PARTS = [
  ["ratings", "Ratings"],
  ["clamp", "The CT"],
  ["metering", "Measuring"],
  ["storage", "Batteries that it takes"],
  ["serial", "Serial line"],
  ["can", "CAN"],
  ["network", "Network"],
  ["online", "Online"],
  ["radio", "Radio"],
  ["exportLimit", "Export limit"],
  ["bypass", "Bypass"],
  ["timers", "Times"],
  ["environment", "Where it may hang"],
  ["practice", "How its maker wants it done"],
] as const satisfies readonly (readonly [keyof Kit, string])[];

/** What a data sheet calls a value, where what the format says of it is meant for who writes the file. */
const LABELS: Readonly<Record<string, string>> = {
  "ratings.surgeW": "Power for seconds",
  "ratings.currentA": "Current, each phase",
  "ratings.phases": "Phases",
  "ratings.storageKwh": "Usable capacity",
  "ratings.unitsMax": "Units that can be joined",
  "metering.classPct": "Accuracy class",
  "metering.wiring": "Wiring",
  "metering.taps": "Voltage taps",
  "metering.builtInUpToA": "Measures direct up to",
  "metering.transmitter.supply": "Transmitter fed by",
  "metering.transmitter.wakeUpA": "Transmitter wakes at",
  "metering.transmitter.rangeM": "Transmitter reaches",
  "metering.transmitter.reportS": "Transmitter sends every",
  "clamp.class": "Accuracy class",
  "clamp.primariesA": "Primaries",
  "clamp.secondary.value": "Secondary",
  "clamp.secondary.unit": "Secondary in",
  "clamp.windowMm": "Window",
  "clamp.core": "Core",
  "clamp.ratedVa": "Rated burden",
  "clamp.leadM": "Lead",
  "clamp.lead.plus": "Lead: core that is +",
  "clamp.lead.minus": "Lead: other core",
  "clamp.lead.mayShorten": "Lead: may be shortened",
  "storage.kits": "Battery kits in its menu",
  "serial.baud": "Baud",
  "serial.turnaroundMs": "Answers after",
  "can.terminator": "Terminator",
  "can.lossS": "Battery opens after silence of",
  "network.wired": "Ethernet socket",
  "network.bandsGhz": "Wi-Fi bands",
  "network.security": "Wi-Fi security",
  "network.cellular": "Cellular",
  "network.bluetooth": "Bluetooth",
  "network.accessPoint.name": "Access point: name",
  "network.accessPoint.address": "Access point: address",
  "network.accessPoint.passphrase": "Access point: passphrase",
  "online.removeOldFirst": "Old connection removed first",
  "online.sharesInternet": "Lets its followers out",
  "online.joinMin": "To join",
  "online.contactMin": "To the first contact",
  "online.firmwareMin": "Download of firmware",
  "online.firstDataMin": "To the first data",
  "online.firmwareByPhone": "Firmware by the phone",
  "online.service": "Service",
  "online.keys.order": "Characters of its keys",
  "online.keys.startsAt": "Each place begins at",
  "online.passphrase.min": "Passphrase, at least",
  "online.passphrase.max": "Passphrase, at most",
  "online.passphrase.excludes": "Passphrase, not with",
  "online.sim.size": "SIM",
  "online.sim.takesPin": "SIM: takes its PIN",
  "exportLimit.basis": "Basis",
  "exportLimit.unit": "Typed in",
  "exportLimit.min": "Lowest value",
  "exportLimit.max": "Highest value",
  "exportLimit.step": "Step",
  "exportLimit.failSafe.timeS": "Fail-safe after",
  "exportLimit.failSafe.fallbackPct": "Fail-safe falls back to",
  "exportLimit.response.deadTimeMs": "Dead time",
  "exportLimit.response.lagMs": "Time constant",
  "exportLimit.response.rampPctPerS": "Ramp, of its rating",
  "timers.bootS": "Start",
  "timers.pairingWindowS": "Pairing window",
  "timers.builtInTestS": "Built-in CT test",
  "timers.reconnectDelayS": "Back on the grid after",
  "timers.commsLossShutdownS": "Stops without its partner after",
  "timers.dischargeS": "DC link down after",
  "timers.firmwareS": "New firmware",
  "environment.shelter": "Place",
  "environment.temperatureC.min": "Lowest temperature",
  "environment.temperatureC.max": "Highest temperature",
  "environment.clearanceMm.above": "Free above",
  "environment.clearanceMm.below": "Free below",
  "environment.clearanceMm.side": "Free at each side",
  "bypass.surplus": "Position for surplus",
  "bypass.direct": "Position straight from the supply",
};

/** Units by the end of a field's name; the longest end counts. */
const UNITS: readonly (readonly [RegExp, string])[] = [
  [/Kwh$/, "kWh"],
  [/WPerK$/, "W/K"],
  [/Mm2$/, "mm²"],
  [/Mm$/, "mm"],
  [/Nm$/, "N·m"],
  [/Kg$/, "kg"],
  [/(Ghz)$/, "GHz"],
  [/Mhz$/, "MHz"],
  [/Khz$/, "kHz"],
  [/Dbm$/, "dBm"],
  [/Dbi$/, "dBi"],
  [/PctPerS$/, "% a second"],
  [/Pct$/, "%"],
  [/Va$/, "VA"],
  [/Ms$/, "ms"],
  [/Min$/, "min"],
  [/[a-z]W$/, "W"],
  [/[a-z]A$/, "A"],
  [/[a-z]V$/, "V"],
  [/[a-z]S$/, "s"],
  [/[a-z]M$/, "m"],
];
/** Units of values whose own name says none, by the part that they stand in. */
const UNITS_OF: Readonly<Record<string, string>> = {
  "environment.temperatureC": "°C",
  "environment.clearanceMm": "mm",
};

/** How a field of a data sheet is edited; anything else only as text of the file. */
export type SheetInput =
  | { readonly kind: "number"; readonly isWhole: boolean }
  | { readonly kind: "choice"; readonly options: readonly string[] }
  | { readonly kind: "yes-no" }
  | { readonly kind: "text" }
  | { readonly kind: "file" };

/** One field of a data sheet. */
export interface SheetField {
  /** As in the file: `["ratings", "powerW"]`. */
  readonly path: readonly string[];
  readonly label: string;
  readonly unit: string | undefined;
  /** As the file has it; undefined where it has none. */
  readonly value: unknown;
  readonly isOptional: boolean;
  readonly input: SheetInput;
}

/** A part of a data sheet. */
export interface KitSheetPart {
  readonly title: string;
  readonly fields: readonly SheetField[];
}

/**
 * The plain values of a kit as a data sheet: by parts, each with its label, unit, and how it is edited; those that the
 * kit could have and has not too. Terminals, inputs, registers, lamps and menu are lists of their own.
 *
 * For example: the part "Ratings" of a solar inverter begins with "Continuous AC power", 3600, W.
 */
export function kitSheet(kit: Kit): readonly KitSheetPart[] {
  const shape = fieldsOf(kitSchema);
  return PARTS.flatMap(([key, title]) => {
    const value = kit[key];
    const schema = shape[key];
    if (value === undefined || !schema) return [];
    const fields = sheetFields(schema, value, [key], false);
    return fields.length === 0 ? [] : [{ title, fields }];
  });
}

function sheetFields(
  schema: z.ZodType,
  value: unknown,
  path: readonly string[],
  isLoose: boolean,
): readonly SheetField[] {
  return Object.entries(fieldsOf(schema)).flatMap(([name, field]): readonly SheetField[] => {
    const own = isRecord(value) ? value[name] : undefined;
    const here = [...path, name];
    const isOpen = isLoose || isOptional(field);
    if (kindOf(field) === "object") {
      // Parts that the kit has not are added in the text: one value of them alone would be a bad file.
      return own === undefined
        ? []
        : sheetFields(field, own, here, isOpen).map((inner) => ({
            ...inner,
            label: LABELS[inner.path.join(".")] ?? `${labelOf(field, here)}: ${inner.label.toLowerCase()}`,
          }));
    }
    const input = inputOf(field);
    if (!input) return [];
    return [{ path: here, label: labelOf(field, here), unit: unitOf(here), value: own, isOptional: isOpen, input }];
  });
}

function isRecord(value: unknown): value is Readonly<Record<string, unknown>> {
  return typeof value === "object" && value !== null && !Array.isArray(value);
}

/** What the schema says that it is, without the unit that stands beside it anyway. */
function labelOf(field: z.ZodType, path: readonly string[]): string {
  return LABELS[path.join(".")] ?? (descriptionOf(field) ?? path.at(-1)!).replace(/, [^ ,]{1,7}$/, "");
}

function unitOf(path: readonly string[]): string | undefined {
  return UNITS.find(([end]) => end.test(path.at(-1)!))?.[1] ?? UNITS_OF[path.slice(0, -1).join(".")];
}

function inputOf(field: z.ZodType): SheetInput | undefined {
  switch (kindOf(field)) {
    case "number":
      return { kind: "number", isWhole: false };
    case "int":
      return { kind: "number", isWhole: true };
    case "boolean":
      return { kind: "yes-no" };
    case "enum":
      return { kind: "choice", options: enumWords(field) };
    case "string":
      return { kind: "text" };
    case "array":
      // Lists of things have a table of their own on the sheet; lists of plain values are a line of it.
      return isPlainList(field) ? { kind: "file" } : undefined;
    default:
      return { kind: "file" };
  }
}

function isPlainList(field: z.ZodType): boolean {
  const outcome = field.safeParse([{}]);
  return !outcome.error?.issues.some(({ path }) => path.length > 1);
}

/**
 * A value of a kit as a data sheet writes it: powers as they are read, lists with commas, yes and no, words for codes.
 *
 * @example sheetText(3600, "W") // "3.60 kW"
 */
export function sheetText(value: unknown, unit?: string): string {
  if (Array.isArray(value)) return value.map((one) => sheetText(one)).join(", ") + (unit ? ` ${unit}` : "");
  if (typeof value === "boolean") return value ? "yes" : "no";
  if (typeof value === "number")
    return unit === "W" ? powerText(value) : `${value}${unit ? ` ${unit}` : ""}`.replace("-", "−");
  const text = typeof value === "string" ? value : JSON.stringify(value);
  if (/^[a-z0-9]+(-[a-z0-9]+)+$/.test(text)) return text.replaceAll("-", " ");
  return text.replace(/\{serial(?::(\d+))?\}/g, (_all, digits: string | undefined) =>
    digits === undefined ? "(the serial)" : `(last ${digits} of the serial)`,
  );
}
