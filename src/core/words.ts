/**
 * A sentence's beginning.
 *
 * @example capital("input 2") // "Input 2"
 */
export function capital(words: string): string {
  return words.charAt(0).toUpperCase() + words.slice(1);
}

/** @example joined(["a", "b", "c"]) // "a, b and c" */
export function joined(parts: readonly string[]): string {
  return parts.length < 2 ? parts.join("") : `${parts.slice(0, -1).join(", ")} and ${parts.at(-1)}`;
}
