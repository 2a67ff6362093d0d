declare const ofType: unique symbol;

/** A value written as JSON by this program, with its type kept. */
export type JsonText<T> = string & { readonly [ofType]: T };

/**
 * A value as text that carries its type: handed through a page, a large value is copied as one string instead of being
 * written and read object by object.
 *
 * @example readJsonText(jsonText({ powerW: 2400 })).powerW // 2400
 */
export function jsonText<T>(value: T): JsonText<T> {
  return JSON.stringify(value) as JsonText<T>;
}

/** The value of a text made by `jsonText`. */
export function readJsonText<T>(text: JsonText<T>): T {
  return JSON.parse(text) as T;
}
