"use client";

import { ClipboardCheck, LineChart, SlidersHorizontal } from "lucide-react";
import { limitLacks } from "@/core/control/exportLimiter";
import { LimitProofPart } from "@/ui/limit/LimitProofPart";
import { LimitSettingsPart } from "@/ui/limit/LimitSettingsPart";
import { LimitSimulation } from "@/ui/limit/LimitSimulation";
import { useLimit } from "@/ui/limit/useLimit";
import { PartTabs, type PartList } from "@/ui/parts/show/PartTabs";
import { usePart } from "@/ui/parts/show/usePart";

type Part = "settings" | "hold" | "proof";

const PARTS: PartList<Part> = [
  { id: "settings", name: "Settings", Icon: SlidersHorizontal },
  { id: "hold", name: "Will it hold", Icon: LineChart },
  { id: "proof", name: "Proof", Icon: ClipboardCheck },
];

/** Limit: which numbers to type, whether they will hold, and the proof that they do. */
export function LimitStage() {
  const desk = useLimit();
  const [part, setPart] = usePart(PARTS);
  return (
    <div className="flex h-full flex-col max-md:h-auto">
      <h2 className="sr-only">Limit</h2>
      <PartTabs
        prefix="limit"
        label="Parts of the limit"
        parts={PARTS}
        shown={part}
        onShow={setPart}
        className="flex min-h-0 flex-1 flex-col"
        panelClassName="p-4"
      >
        {!desk.limiter ? (
          <section aria-label="What is missing" className="mx-auto max-w-6xl">
            <h3 className="text-lg font-bold">Nobody in this plan can limit the export yet</h3>
            <ul className="mt-1 ml-5 list-disc space-y-1">
              {limitLacks(desk.plan).map((lack) => (
                <li key={lack}>{lack}.</li>
              ))}
            </ul>
          </section>
        ) : (
          <>
            {part === "settings" && <LimitSettingsPart desk={desk} />}
            {part === "hold" && <LimitSimulation desk={desk} />}
            {part === "proof" && <LimitProofPart desk={desk} limiter={desk.limiter} />}
          </>
        )}
      </PartTabs>
    </div>
  );
}
