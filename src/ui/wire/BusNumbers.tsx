"use client";

import { linkNumbers } from "@/core/links/check/linkNumbers";
import type { PlanLink } from "@/core/plan/resolvedPlan";
import { useSay } from "@/ui/parts/browser/useNumberStyle";
import type { WireDesk } from "@/ui/wire/useWire";

/** The numbers of a link as they can be measured. */
export function BusNumbers({ wire, link }: { wire: WireDesk; link: PlanLink }) {
  const say = useSay();
  const rows = linkNumbers(wire.plan, link);
  if (rows.length === 0) return null;
  return (
    <dl className="mt-3 grid gap-x-4 text-sm sm:grid-cols-[auto_1fr_auto_1fr]">
      {rows.map(([name, value]) => (
        <div key={name} className="contents">
          <dt className="font-semibold">{name}</dt>
          <dd>{say(value)}</dd>
        </div>
      ))}
    </dl>
  );
}
