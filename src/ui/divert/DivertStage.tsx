"use client";

import { CalendarRange, Eye, Sun, Waves } from "lucide-react";
import { DayPart } from "@/ui/divert/DayPart";
import { HuntPart } from "@/ui/divert/HuntPart";
import { SightPart } from "@/ui/divert/SightPart";
import { useDivert } from "@/ui/divert/useDivert";
import { YearPart } from "@/ui/divert/YearPart";
import { PartTabs, type PartList } from "@/ui/parts/show/PartTabs";
import { usePart } from "@/ui/parts/show/usePart";

type Part = "day" | "year" | "sees" | "hunt";

const PARTS: PartList<Part> = [
  { id: "day", name: "Day", Icon: Sun },
  { id: "year", name: "Year", Icon: CalendarRange },
  { id: "sees", name: "Who sees what", Icon: Eye },
  { id: "hunt", name: "Two controllers", Icon: Waves },
];

/** Divert: where the surplus goes, in which order it pays, and who fights whom. */
export function DivertStage() {
  const desk = useDivert();
  const [part, setPart] = usePart(PARTS);
  return (
    <div className="flex h-full flex-col max-md:h-auto">
      <h2 className="sr-only">Divert</h2>
      <PartTabs
        prefix="divert"
        label="Parts of the surplus"
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
