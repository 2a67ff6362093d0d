import { REGISTER_UNITS, type Register } from "@/core/kits/registerSchema";

/**
 * The topic of a value, of a form with {device}, {of} and {input}; a part of the path that stays empty is left out.
 *
 * @example topicFor("site/{device}/{of}/{input}", "meter", { of: "power", input: 2 }) // "site/meter/power/2"
 */
export function topicFor(form: string, device: string, { of, input }: Pick<Register, "of" | "input">): string {
  return form
    .replaceAll("{device}", device)
    .replaceAll("{of}", of)
    .replaceAll("{input}", input === undefined ? "" : String(input))
    .split("/")
    .filter((part) => part !== "")
    .join("/");
}

/**
 * The number of a message: alone, or as `value` of an object, whose `unit` may be kW for W. Undefined for what is none.
 *
 * @example mqttValue('{"value": 2.47, "unit": "kW"}', "W") // 2470
 */
export function mqttValue(payload: string, base: string): number | undefined {
  let read: unknown;
  try {
    read = JSON.parse(payload);
  } catch {
    return undefined;
  }
  const { value, unit = base } =
    typeof read === "object" && read !== null ? (read as { value?: unknown; unit?: unknown }) : { value: read };
  if (typeof value !== "number" || !Number.isFinite(value) || typeof unit !== "string") return undefined;
  if (unit === base) return value;
  const known = Object.hasOwn(REGISTER_UNITS, unit) ? REGISTER_UNITS[unit as keyof typeof REGISTER_UNITS] : undefined;
  return known?.base === base ? value * known.factor : undefined;
}
