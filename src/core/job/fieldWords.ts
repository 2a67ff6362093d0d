import type { z } from "zod";
import { descriptionOf, elementOf, fieldOf } from "@/core/describedSchema";

/** The way to a field: names of fields, places in a list, and entries of a list by what names them. */
export type FieldPath = readonly FieldStep[];

/** One step of the way to a field. */
export type FieldStep =
  | string
  | number
  | {
      readonly key: string;
      readonly names: (entry: Readonly<Record<string, unknown>>) => string;
      /** What an entry is of, where it has no name of its own. */
      readonly said?: (entry: Readonly<Record<string, unknown>>) => string | undefined;
    };

/**
 * A field in words: what it belongs to by its name, and what the schema says that it is.
 *
 * For example: `Roof inverter: Breaker or fuse of the circuit of this node`
 */
export function fieldWords(schema: z.ZodType, document: unknown, path: FieldPath): string {
  let [type, value]: [z.ZodType | undefined, unknown] = [schema, document];
  const names: string[] = [];
  let said: string | undefined;
  for (const step of path) {
    if (typeof step === "string") {
      type = type && fieldOf(type, step);
      value = isFields(value) ? value[step] : undefined;
      said = descriptionOf(type) ?? step;
      continue;
    }
    const entries = Array.isArray(value) ? (value as readonly unknown[]) : [];
    const listed = said;
    type = type && elementOf(type);
    value =
      typeof step === "number"
        ? entries[step]
        : entries.find((entry) => isFields(entry) && step.names(entry) === step.key);
    const known = nameOf(value) ?? (typeof step === "object" && isFields(value) ? step.said?.(value) : undefined);
    names.push(known ?? (typeof step === "number" ? `${listed ?? "entry"} ${step + 1}` : step.key));
    said = undefined;
  }
  const where = names.join(", ");
  if (said === undefined) return where;
  const [whole] = path;
  const part = path.length > 1 && typeof whole === "string" ? whole.charAt(0).toUpperCase() + whole.slice(1) : "";
  return [where || part, said].filter((words) => words !== "").join(": ");
}

function nameOf(value: unknown): string | undefined {
  if (!isFields(value)) return undefined;
  const name = value.name ?? value.label ?? value.title;
  if (typeof name === "string" && name !== "") return name;
  return typeof value.n === "number" ? `input ${value.n}` : undefined;
}

function isFields(value: unknown): value is Readonly<Record<string, unknown>> {
  return typeof value === "object" && value !== null && !Array.isArray(value);
}
