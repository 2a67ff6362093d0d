const PLACE = /\{serial(?::(?:(first|last):)?(\d{1,2}))?\}/g;

/**
 * The name of a device's own access point from its serial number by its kit's rule: `{serial}` is all of it,
 * `{serial:6}` and `{serial:last:6}` its last six characters, `{serial:first:4}` its first four. Undefined where the
 * serial is shorter than the rule asks.
 *
 * @example accessPointName("kit-{serial:6}", "GKD1234567") // "kit-234567"
 */
export function accessPointName(rule: string, serial: string): string | undefined {
  const own = serial.trim();
  let isShort = own === "";
  const name = rule.replace(PLACE, (_, side: string | undefined, count: string | undefined) => {
    const length = count === undefined ? own.length : Number(count);
    if (length > own.length) isShort = true;
    return side === "first" ? own.slice(0, length) : own.slice(own.length - length);
  });
  return isShort ? undefined : name;
}

/**
 * The rule in words, for whoever has no serial number at hand.
 *
 * @example accessPointWords("kit-{serial:6}") // "kit- and the last 6 characters of its serial number"
 */
export function accessPointWords(rule: string): string {
  const parts = rule.split(PLACE_WHOLE).filter((part) => part !== "");
  return parts.map((part) => placeWords(part) ?? part).join(" and ");
}

/**
 * Whether an access point's name can be that of a device: by its serial where it is known, else by the rest of the
 * rule.
 *
 * @example fitsAccessPoint("kit-{serial:6}", "kit-234567", "GKD1234567") // true
 */
export function fitsAccessPoint(rule: string, name: string, serial: string | undefined): boolean {
  const wanted = serial === undefined ? undefined : accessPointName(rule, serial);
  if (wanted !== undefined) return name.trim() === wanted;
  const pattern = rule.split(PLACE_WHOLE).map((part) => {
    const match = part.match(new RegExp(PLACE.source));
    if (!match) return part.replace(/[.*+?^${}()|[\]\\]/g, "\\$&");
    return match[2] === undefined ? ".+" : `.{${Number(match[2])}}`;
  });
  return new RegExp(`^${pattern.join("")}$`).test(name.trim());
}

const PLACE_WHOLE = /(\{serial(?::(?:first:|last:)?\d{1,2})?\})/;

function placeWords(part: string): string | undefined {
  const match = part.match(new RegExp(PLACE.source));
  if (!match) return undefined;
  if (match[2] === undefined) return "its serial number";
  return `the ${match[1] ?? "last"} ${Number(match[2])} characters of its serial number`;
}
