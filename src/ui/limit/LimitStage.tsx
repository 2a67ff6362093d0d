"use client";

import { ClipboardCheck, LineChart, SlidersHorizontal } from "lucide-react";
import { limitLacks } from "@/core/control/exportLimiter";
import { LimitProofPart } from "@/ui/limit/LimitProofPart";
import { LimitSettingsPart } from "@/ui/limit/LimitSettingsPart";
import { LimitSimulation } from "@/ui/limit/LimitSimulation";
import { useLimit } from "@/ui/limit/useLimit";
import { PartTabs, type PartList } from "@/ui/parts/show/PartTabs";
import { usePart } from "@/ui/parts/show/usePart";
import { LIMIT_WORDS } from "@/ui/words/limitWords";

type Part = "settings" | "hold" | "proof";

const PARTS: PartList<Part> = [
  { id: "settings", name: LIMIT_WORDS.settings, Icon: SlidersHorizontal },
  { id: "hold", name: LIMIT_WORDS.willItHold, Icon: LineChart },
  { id: "proof", name: LIMIT_WORDS.proof, Icon: ClipboardCheck },
];

/** Limit: which numbers to type, whether they will hold, and the proof that they do. */
export function LimitStage() {
  const desk = useLimit();
  const [part, setPart] = usePart(PARTS);
  return (
    <div className="flex h-full flex-col max-md:h-auto">
      <h2 className="sr-only">{LIMIT_WORDS.limitTitle}</h2>
      <PartTabs
        prefix="limit"
        label={LIMIT_WORDS.partsOfTheLimit}
        parts={PARTS}
        shown={part}
        onShow={setPart}
        className="flex min-h-0 flex-1 flex-col"
        panelClassName="p-4"
      >
        {!desk.limiter ? (
          <section aria-label={LIMIT_WORDS.whatIsMissing} className="mx-auto max-w-6xl">
            <h3 className="text-lg font-bold">{LIMIT_WORDS.nobodyInThisPlanCanLimitTheExport}</h3>
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
