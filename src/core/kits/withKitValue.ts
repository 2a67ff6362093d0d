import { parseDocument } from "yaml";

/**
 * A kit's text with one value put or taken out; comments and the rest stay as they are.
 *
 * For example: `withKitValue("ratings: {powerW: 3000}", ["ratings", "powerW"], 3600)` gives "ratings: {powerW: 3600}".
 *
 * @param value Undefined takes it out.
 * @returns The text as it was where it is no YAML.
 */
export function withKitValue(
  text: string,
  path: readonly string[],
  value: string | number | boolean | undefined,
): string {
  const document = parseDocument(text);
  if (document.errors.length > 0) return text;
  if (value === undefined) document.deleteIn(path);
  else document.setIn(path, value);
  return document.toString({ lineWidth: 0, flowCollectionPadding: false });
}
