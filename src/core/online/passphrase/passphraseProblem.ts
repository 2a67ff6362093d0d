/** What a kit takes as a passphrase. */
export interface PassphraseRule {
  readonly min: number;
  readonly max: number;
  /** Characters that its keys or its page do not have. */
  readonly excludes?: string | undefined;
}

/** What WPA2 takes: IEEE Std 802.11, annex J.4: 8 to 63 printable ASCII characters. */
export const WPA_RULE: PassphraseRule = { min: 8, max: 63 };

/**
 * What is odd with a passphrase, for whoever types it; undefined where nothing is. It may still be right.
 *
 * @example passphraseDoubt("kurz", WPA_RULE) // "4 characters: a passphrase has 8 to 63"
 */
export function passphraseDoubt(passphrase: string, { min, max, excludes = "" }: PassphraseRule): string | undefined {
  const { length } = [...passphrase];
  if (length === 0) return undefined;
  if (length < min || length > max)
    return `${length} character${length === 1 ? "" : "s"}: a passphrase has ${min} to ${max}`;
  const foreign = [...passphrase].find((own) => !/^[\x20-\x7e]$/.test(own));
  if (foreign !== undefined) return `“${foreign}” is on few devices: ask whether it is right`;
  const excluded = [...passphrase].find((own) => excludes.includes(own));
  if (excluded !== undefined) return `This device has no “${excluded}”: another passphrase, or another network`;
  if (passphrase !== passphrase.trim()) return "A space at its beginning or end: is it meant?";
  return undefined;
}
