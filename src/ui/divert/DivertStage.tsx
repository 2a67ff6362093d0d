"use client";

import { CalendarRange, Eye, Sun, Waves } from "lucide-react";
import { DayPart } from "@/ui/divert/DayPart";
import { HuntPart } from "@/ui/divert/HuntPart";
import { SightPart } from "@/ui/divert/SightPart";
import { useDivert } from "@/ui/divert/useDivert";
import { YearPart } from "@/ui/divert/YearPart";
import { PartTabs, type PartList } from "@/ui/parts/show/PartTabs";
import { usePart } from "@/ui/parts/show/usePart";
import { DIVERT_WORDS } from "@/ui/words/divertWords";

type Part = "day" | "year" | "sees" | "hunt";

const PARTS: PartList<Part> = [
  { id: "day", name: DIVERT_WORDS.dayTitle, Icon: Sun },
  { id: "year", name: DIVERT_WORDS.year, Icon: CalendarRange },
  { id: "sees", name: DIVERT_WORDS.whoSeesWhat, Icon: Eye },
  { id: "hunt", name: DIVERT_WORDS.twoControllers, Icon: Waves },
];

/** Divert: where the surplus goes, in which order it pays, and who fights whom. */
export function DivertStage() {
  const desk = useDivert();
  const [part, setPart] = usePart(PARTS);
  return (
    <div className="flex h-full flex-col max-md:h-auto">
      <h2 className="sr-only">{DIVERT_WORDS.divert}</h2>
      <PartTabs
        prefix="divert"
        label={DIVERT_WORDS.partsOfTheSurplus}
        parts={PARTS}
        shown={part}
        onShow={setPart}
        className="flex min-h-0 flex-1 flex-col"
        panelClassName="p-4"
      >
        {part === "day" && <DayPart desk={desk} />}
        {part === "year" && <YearPart desk={desk} />}
        {part === "sees" && <SightPart desk={desk} />}
        {part === "hunt" && <HuntPart desk={desk} />}
      </PartTabs>
    </div>
  );
}
