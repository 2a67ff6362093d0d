/** Characters, or groups of them, that are taken for one another on labels and in handwriting, the likeliest first. */
const ALIKE: readonly (readonly string[])[] = [
  ["0", "O"],
  ["1", "l", "I", "|"],
  ["5", "S"],
  ["8", "B"],
  ["2", "Z"],
  ["6", "G"],
  ["rn", "m"],
  ["vv", "w"],
  ["u", "v"],
  ["'", "`"],
  ["0", "o"],
  ["5", "s"],
  ["2", "z"],
  ["9", "g", "q"],
  ["6", "b"],
];

/** Every other reading of what stands at a place, with how many characters it takes the place of. */
export interface OtherReading {
  readonly at: number;
  readonly length: number;
  readonly instead: string;
  /** 0 is the likeliest. */
  readonly rank: number;
}

/**
 * Where a passphrase can be read otherwise, and as what, from left to right.
 *
 * For example: of "a0" the second character may be "O" or "o".
 */
export function otherReadings(passphrase: string): readonly OtherReading[] {
  return Array.from({ length: passphrase.length }, (_, at) => at).flatMap((at) =>
    ALIKE.flatMap((group, rank) =>
      group
        .filter((own) => passphrase.startsWith(own, at))
        .flatMap((own) =>
          group.filter((other) => other !== own).map((instead) => ({ at, length: own.length, instead, rank })),
        ),
    ),
  );
}

/**
 * A passphrase with one of its places read otherwise.
 *
 * @example withReading("modern", { at: 4, length: 2, instead: "m", rank: 6 }) // "modem"
 */
export function withReading(passphrase: string, { at, length, instead }: OtherReading): string {
  return passphrase.slice(0, at) + instead + passphrase.slice(at + length);
}
