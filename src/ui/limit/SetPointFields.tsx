"use client";

import type { LimitDesk } from "@/ui/limit/useLimit";
import { NumberField } from "@/ui/parts/form/NumberField";
import { LIMIT_WORDS } from "@/ui/words/limitWords";

/** What is taken off the limit for the controller's own play, and a set-point that somebody prefers. */
export function SetPointFields({ desk: { limit, safeW, set } }: { desk: LimitDesk }) {
  return (
    <>
      <div className="w-36">
        <NumberField
          label={LIMIT_WORDS.deadBand}
          unit="W"
          least={-0.1}
          most={1e6}
          value={limit.deadBandW}
          onValue={(deadBandW) => deadBandW !== undefined && set({ deadBandW: Math.max(0, deadBandW) }, "band")}
        />
      </div>
      <div className="w-44">
        <NumberField
          label={LIMIT_WORDS.setPointInstead}
          unit="W"
          least={-0.1}
          most={1e8}
          optional
          value={limit.setPointW}
          hint={LIMIT_WORDS.safeW(Math.floor(safeW))}
          onValue={(value) => set({ setPointW: value === undefined ? undefined : Math.max(0, value) }, "set-point")}
        />
      </div>
    </>
  );
}
