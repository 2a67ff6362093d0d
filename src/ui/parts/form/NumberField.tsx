"use client";

import { typedNumber } from "@/core/typedNumber";
import { useNumberStyle, useSay } from "@/ui/parts/browser/useNumberStyle";
import { ReadField, type QuantityFieldProps } from "@/ui/parts/form/ReadField";

interface Props extends QuantityFieldProps {
  readonly least?: number;
  readonly most: number;
  readonly whole?: boolean;
}

/** A number with its unit, point or comma. */
export function NumberField({ least = 0, most, whole = false, ...field }: Props) {
  const say = useSay();
  const { decimal } = useNumberStyle();
  const { optional = false, unit } = field;
  const bounds = { least, most, whole, optional: optional !== false };
  return (
    <ReadField
      {...field}
      inputMode={least < 0 ? "text" : whole ? "numeric" : "decimal"}
      written={(value) => say(String(value))}
      read={(text) => {
        const read = typedNumber(text, bounds, decimal, unit);
        return read.kind === "number" ? { kind: "value", value: read.value } : read;
      }}
    />
  );
}
