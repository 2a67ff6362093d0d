/**
 * What is so, in its order: each is written as `condition && what`, or is a list already.
 *
 * @param items no lists of lists, and nothing that is itself false or undefined
 * @example given(true && { id: 1 }, false && { id: 2 }, [{ id: 3 }]) // [{ id: 1 }, { id: 3 }]
 */
export function given<T extends object>(...items: readonly (T | readonly T[] | false | undefined)[]): readonly T[] {
  return items.flatMap((item) => (item === false || item === undefined ? [] : item));
}
