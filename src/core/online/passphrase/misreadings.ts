import { otherReadings, withReading } from "@/core/online/passphrase/lookAlikes";
import { joined } from "@/core/words";

/** Another passphrase that it may be, and what is different in it. */
export interface Misreading {
  readonly passphrase: string;
  readonly what: string;
}

const MOST = 24;
/** Two look-alikes at once are tried of the likeliest only. */
const FIRST_OF_PAIRS = 12;

/**
 * After a failure: what it may be instead, the likeliest first: one look-alike exchanged, the case of the first letter,
 * a space at the end, two look-alikes exchanged. None stands twice, none is what was tried.
 *
 * For example: of "Secret0" first "SecretO", with the case of the first letter "secret0".
 */
export function misreadings(tried: string): readonly Misreading[] {
  const ones = otherReadings(tried)
    .map((own) => ({
      own,
      passphrase: withReading(tried, own),
      what: `${named(tried.slice(own.at, own.at + own.length))} as ${named(own.instead)} (place ${own.at + 1})`,
    }))
    .toSorted((a, b) => a.own.rank - b.own.rank);
  const first = tried.charAt(0);
  const turned = first === first.toUpperCase() ? first.toLowerCase() : first.toUpperCase();
  const few: Misreading[] = [
    ...(turned === first ? [] : [{ passphrase: turned + tried.slice(1), what: `first letter ${named(turned)}` }]),
    tried.endsWith(" ")
      ? { passphrase: tried.trimEnd(), what: "without the space at the end" }
      : { passphrase: `${tried} `, what: "with a space at the end" },
  ];
  const likeliest = ones.slice(0, FIRST_OF_PAIRS);
  const pairs = likeliest.flatMap((one, at) =>
    likeliest
      .slice(at + 1)
      .filter((other) => other.own.at >= one.own.at + one.own.length)
      .map((other) => ({
        // From the right, so that the places of the left one stay.
        passphrase: withReading(withReading(tried, other.own), one.own),
        what: joined([one.what, other.what]),
      })),
  );
  const seen = new Set([tried]);
  return [...ones, ...few, ...pairs]
    .filter(({ passphrase }) => {
      if (passphrase === "" || seen.has(passphrase)) return false;
      seen.add(passphrase);
      return true;
    })
    .slice(0, MOST)
    .map(({ passphrase, what }) => ({ passphrase, what }));
}

function named(characters: string): string {
  return characters === " " ? "space" : `“${characters}”`;
}
