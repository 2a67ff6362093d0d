"use client";

import { typedWireSize, wireSizeToType } from "@/core/typedWireSize";
import { useNumberStyle } from "@/ui/parts/browser/useNumberStyle";
import { ReadField, type QuantityFieldProps } from "@/ui/parts/form/ReadField";

interface Props extends Omit<QuantityFieldProps, "unit"> {
  readonly mostMm2: number;
}

/** Section of a conductor in mm², typed and shown by gauge where the site measures in feet; may be left empty. */
export function WireSizeField({ mostMm2, ...field }: Props) {
  const style = useNumberStyle();
  const isByGauge = style.lengths === "us";
  return (
    <ReadField
      {...field}
      optional
      unit={isByGauge ? "AWG" : "mm²"}
      inputMode={isByGauge ? "text" : "decimal"}
      written={(areaMm2) => wireSizeToType(areaMm2, style)}
      read={(text) => {
        const read = typedWireSize(text, style, mostMm2);
        if (read.kind !== "size") return read;
        return read.areaMm2 === 0 ? { kind: "nothing" } : { kind: "value", value: read.areaMm2 };
      }}
    />
  );
}
