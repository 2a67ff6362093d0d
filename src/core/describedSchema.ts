import type { z } from "zod";

/** What zod says of a schema from within; the part of it that is looked at. */
interface Inner {
  readonly type: string;
  readonly innerType?: z.ZodType;
  readonly in?: z.ZodType;
  readonly out?: z.ZodType;
  readonly element?: z.ZodType;
  readonly shape?: Readonly<Record<string, z.ZodType>>;
  readonly options?: readonly z.ZodType[];
  readonly entries?: Readonly<Record<string, string>>;
}

function innerOf(type: z.ZodType): Inner {
  return (type as unknown as { readonly def: Inner }).def;
}

/** A schema without what is laid round it: optional, default, refined. */
export function bare(type: z.ZodType): z.ZodType {
  const { innerType, type: kind, out } = innerOf(type);
  if (innerType) return bare(innerType);
  return kind === "pipe" && out ? bare(out) : type;
}

/** The schema of a field; undefined where it has none of this name. */
export function fieldOf(type: z.ZodType, name: string): z.ZodType | undefined {
  const { shape, options } = innerOf(bare(type));
  return shape?.[name] ?? options?.map((own) => fieldOf(own, name)).find((own) => own !== undefined);
}

/** The schema of a list's entries. */
export function elementOf(type: z.ZodType): z.ZodType | undefined {
  return innerOf(bare(type)).element;
}

/** What a schema says that its value is. */
export function descriptionOf(type: z.ZodType | undefined): string | undefined {
  if (!type) return undefined;
  const { innerType } = innerOf(type);
  return type.description ?? descriptionOf(innerType);
}

/** The fields of an object's schema by name; none where it is no object. */
export function fieldsOf(type: z.ZodType): Readonly<Record<string, z.ZodType>> {
  return innerOf(bare(type)).shape ?? {};
}

/** What kind of value a schema takes: "string", "number", "boolean", "enum", "object", "array" and others. */
export function kindOf(type: z.ZodType): string {
  return innerOf(bare(type)).type;
}

/** The words that an enumeration takes; none where it is no enumeration. */
export function enumWords(type: z.ZodType): readonly string[] {
  return Object.values(innerOf(bare(type)).entries ?? {});
}

/** Whether a value may be left out. */
export function isOptional(type: z.ZodType): boolean {
  const { type: kind } = innerOf(type);
  return kind === "optional" || kind === "default";
}
