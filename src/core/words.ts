import { cutText } from "@/core/text";

/**
 * A sentence's beginning.
 *
 * @example capital("input 2") // "Input 2"
 */
export function capital(words: string): string {
  return words.charAt(0).toUpperCase() + words.slice(1);
}

/**
 * Names of at most so many characters that can be told apart: what stands more than once, or would once it is cut, gets
 * what distinguishes it, and a number where that is not enough.
 *
 * @example distinctNames([{ name: "Meter", more: "m1" }, { name: "Meter", more: "m2" }], 64) // ["Meter (m1)", "Meter
 * (m2)"]
 */
export function distinctNames(
  items: readonly { readonly name: string; readonly more: string }[],
  mostCharacters: number,
): readonly string[] {
  const cut = items.map(({ name }) => cutText(name, mostCharacters));
  const taken = new Set<string>();
  return items.map(({ name, more }, at) => {
    const isAlone = cut.indexOf(cut[at]!) === cut.lastIndexOf(cut[at]!);
    for (let number = 1; ; number++) {
      const end = isAlone && number === 1 ? "" : number === 1 ? ` (${more})` : ` (${more}, ${number})`;
      const tail = cutText(end, mostCharacters - 1);
      const distinct = `${cutText(name, mostCharacters - tail.length)}${tail}`;
      if (taken.has(distinct)) continue;
      taken.add(distinct);
      return distinct;
    }
  });
}

/** @example joined(["a", "b", "c"]) // "a, b and c" */
export function joined(parts: readonly string[]): string {
  return parts.length < 2 ? parts.join("") : `${parts.slice(0, -1).join(", ")} and ${parts.at(-1)}`;
}

/** @example counted(3, "line", "lines") // "3 lines" */
export function counted(count: number, one: string, many: string): string {
  return `${count} ${count === 1 ? one : many}`;
}
