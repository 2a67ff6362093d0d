/**
 * Things by their ids; the first of two that bear one, as `find` would have it.
 *
 * @example firstById([{ id: "a", n: 1 }, { id: "a", n: 2 }]).get("a")?.n // 1
 */
export function firstById<T extends { readonly id: string }>(things: readonly T[]): ReadonlyMap<string, T> {
  const found = new Map<string, T>();
  for (const thing of things) if (!found.has(thing.id)) found.set(thing.id, thing);
  return found;
}
