/**
 * An object without its undefined fields: the formats have no empty values, a field that says nothing is left out.
 *
 * @example withoutEmpty({ a: 1, b: undefined }) // { a: 1 }
 */
export function withoutEmpty<T extends object>(value: T): T {
  // Only optional fields can be undefined.
  return Object.fromEntries(Object.entries(value).filter(([, field]) => field !== undefined)) as T;
}
