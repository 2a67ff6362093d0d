/**
 * Whether two values are the same once written as JSON: the order of keys plays no part, and a key without a value is
 * no key. A database and an edit each order the keys of a document in their own way.
 *
 * @example sameJson({ a: 1, b: undefined }, { a: 1 }) // true
 * @example sameJson([1, 2], [2, 1]) // false
 */
export function sameJson(a: unknown, b: unknown): boolean {
  if (Object.is(a, b)) return true;
  if (typeof a !== "object" || typeof b !== "object" || a === null || b === null) return false;
  if (Array.isArray(a) !== Array.isArray(b)) return false;
  if (Array.isArray(a) && Array.isArray(b))
    return a.length === b.length && a.every((value, at) => sameJson(value, b[at]));
  const [left, right] = [new Map(Object.entries(a)), new Map(Object.entries(b))];
  return [...new Set([...left.keys(), ...right.keys()])].every((key) => sameJson(left.get(key), right.get(key)));
}
