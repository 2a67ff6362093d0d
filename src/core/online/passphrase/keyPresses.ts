/** How one character is reached by the keys of a display. */
export interface KeyPress {
  readonly character: string;
  readonly direction: "up" | "down" | "none";
  readonly presses: number;
  /** Of all until this one, each taken on with one more press. */
  readonly total: number;
}

/** The presses for a whole passphrase, or the characters that the device does not have. */
export type KeyPresses =
  | { readonly kind: "presses"; readonly keys: readonly KeyPress[] }
  | { readonly kind: "not-there"; readonly characters: readonly string[] };

/**
 * Up and down presses for a passphrase on a device whose keys go through a ring of characters: the shorter way round
 * each time, and one press to take the character on.
 *
 * For example: in the order "abcdef", "af": nothing and take on, then once down (it wraps round) and take on: 3 in all.
 *
 * @param order The characters in the order of the up key; after the last comes the first.
 * @param startsAt Where each new place begins: at the first of the order, or at the character before it.
 */
export function keyPresses(passphrase: string, order: string, startsAt: "first" | "previous" = "first"): KeyPresses {
  const ring = [...order];
  const missing = [...new Set([...passphrase].filter((character) => !ring.includes(character)))];
  if (missing.length > 0) return { kind: "not-there", characters: missing };
  let at = 0;
  let total = 0;
  const keys = [...passphrase].map((character): KeyPress => {
    const target = ring.indexOf(character);
    const up = (target - at + ring.length) % ring.length;
    const down = (at - target + ring.length) % ring.length;
    const presses = Math.min(up, down);
    total += presses + 1;
    at = startsAt === "previous" ? target : 0;
    return { character, direction: presses === 0 ? "none" : up <= down ? "up" : "down", presses, total };
  });
  return { kind: "presses", keys };
}
