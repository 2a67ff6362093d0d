/** What a phone needs to join. */
export interface WifiAccess {
  readonly name: string;
  readonly passphrase: string;
  readonly security: "open" | "wpa";
  readonly isHidden: boolean;
}

/**
 * The text of a QR code that a phone joins by: `WIFI:T:…;S:…;P:…;H:…;;`, with a backslash before `\`, `;`, `,`, `"` and
 * `:`. A name or passphrase of hexadecimal digits alone stands in quotes, else it would be read as bytes.
 *
 * @example wifiCode({ name: "Barn;2", passphrase: "a:b", security: "wpa", isHidden: false })
 * // "WIFI:T:WPA;S:Barn\\;2;P:a\\:b;;"
 */
export function wifiCode({ name, passphrase, security, isHidden }: WifiAccess): string {
  const key = security === "open" ? "" : `P:${escaped(passphrase)};`;
  return `WIFI:T:${security === "open" ? "nopass" : "WPA"};S:${escaped(name)};${key}${isHidden ? "H:true;" : ""};`;
}

function escaped(text: string): string {
  const safe = text.replace(/[\\;,":]/g, (sign) => `\\${sign}`);
  return /^[0-9a-fA-F]+$/.test(text) ? `"${safe}"` : safe;
}
