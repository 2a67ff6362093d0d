/** Units that stand for the same quantity, by what one of them is of the first. */
const FAMILIES: readonly Readonly<Record<string, number>>[] = [
  { W: 1, mW: 1e-3, kW: 1e3, MW: 1e6 },
  { Wh: 1, kWh: 1e3, MWh: 1e6 },
  { V: 1, mV: 1e-3, kV: 1e3 },
  { A: 1, mA: 1e-3, kA: 1e3 },
  { Ω: 1, Ohm: 1, kΩ: 1e3, kOhm: 1e3, MΩ: 1e6, MOhm: 1e6 },
  { m: 1, mm: 1e-3, cm: 1e-2, km: 1e3, ft: 0.3048, in: 0.0254 },
  { s: 1, ms: 1e-3, min: 60, h: 3600 },
  { Hz: 1, kHz: 1e3, MHz: 1e6, GHz: 1e9 },
  { g: 1, kg: 1e3, lb: 453.59237 },
  { "N·m": 1, Nm: 1, "lb·in": 0.112985, "in·lb": 0.112985, "lb-in": 0.112985, "in-lb": 0.112985, "lb·ft": 1.35582 },
];
const WITH_UNIT = /^(.*[\d.,])\s*([^\d\s.,+−–-][^\d\s]*)$/u;

/** The digits of what was typed, and what they are multiplied by to stand in the field's unit. */
export type TypedUnit =
  | { readonly kind: "number"; readonly digits: string; readonly factor: number }
  /** Its unit is of another quantity, or none that is known. */
  | { readonly kind: "other-unit"; readonly typed: string };

/**
 * A number as it is typed into a field that has a unit: bare, with that unit, or with another one of the same quantity.
 *
 * @param unit Of the field; a number with a unit of its own is refused where it has none.
 * @example typedUnit("0,26 V", "mV") // { kind: "number", digits: "0,26", factor: 1000 }
 * @example typedUnit("12", "ft") // { kind: "number", digits: "12", factor: 1 }
 * @example typedUnit("12 A", "V") // { kind: "other-unit", typed: "A" }
 */
export function typedUnit(text: string, unit: string | undefined): TypedUnit {
  const [, digits, typed] = WITH_UNIT.exec(text.trim()) ?? [];
  if (digits === undefined || typed === undefined) return { kind: "number", digits: text, factor: 1 };
  if (unit !== undefined && typed.toLowerCase() === unit.toLowerCase()) return { kind: "number", digits, factor: 1 };
  const family = unit === undefined ? undefined : FAMILIES.find((own) => own[unit] !== undefined);
  const scale = family && scaleOf(family, typed);
  if (!family || scale === undefined) return { kind: "other-unit", typed };
  return { kind: "number", digits, factor: scale / family[unit!]! };
}

/** As it is written; else in whatever case it was typed, but for m and M, which are a thousand million times apart. */
function scaleOf(family: Readonly<Record<string, number>>, typed: string): number | undefined {
  const exact = family[typed];
  if (exact !== undefined) return exact;
  const alike = Object.entries(family).filter(
    ([unit]) => unit.toLowerCase() === typed.toLowerCase() && (!/^m/i.test(unit) || unit[0] === typed[0]),
  );
  return alike.length === 1 ? alike[0]![1] : undefined;
}
