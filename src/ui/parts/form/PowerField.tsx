"use client";

import { useState } from "react";
import { typedPower } from "@/core/units";
import { useNumberStyle } from "@/ui/parts/browser/useNumberStyle";

interface Props {
  readonly label: string;
  readonly powerW: number | undefined;
  readonly onPower: (powerW: number | undefined) => void;
  /** What makes a readable power unfit here, if anything. */
  readonly refuse?: (powerW: number) => string | undefined;
  readonly describedBy?: string;
}

/**
 * A power as typed: watts, or kW with the unit. What is typed stays until it can be read; what can be read is kept at
 * once.
 */
export function PowerField({ label, powerW, onPower, refuse, describedBy }: Props) {
  const { decimal } = useNumberStyle();
  const [typed, setTyped] = useState<string | undefined>();
  const parsed = typedPower(typed ?? "", decimal);
  const message =
    typed === undefined
      ? undefined
      : parsed.kind === "unreadable"
        ? parsed.message
        : parsed.kind === "power"
          ? refuse?.(parsed.powerW)
          : undefined;
  return (
    <>
      <input
        className="field reading text-right"
        inputMode="text"
        autoComplete="off"
        spellCheck={false}
        aria-label={label}
        aria-describedby={describedBy}
        aria-invalid={message !== undefined}
        value={typed ?? (powerW === undefined ? "" : String(powerW).replace("-", "−"))}
        placeholder="W"
        onChange={(event) => {
          setTyped(event.target.value);
          const next = typedPower(event.target.value, decimal);
          if (next.kind === "power" && !refuse?.(next.powerW)) onPower(next.powerW);
          if (next.kind === "nothing") onPower(undefined);
        }}
        onBlur={() => message === undefined && setTyped(undefined)}
      />
      {message && (
        <span role="alert" className="block text-sm font-semibold text-error">
          {message}
        </span>
      )}
    </>
  );
}
