"use client";

import { CalendarClock, Hammer, ListTodo, NotebookText } from "lucide-react";
import { useState } from "react";
import { PartTabs, type PartList } from "@/ui/parts/show/PartTabs";
import { usePart } from "@/ui/parts/show/usePart";
import { LogPart } from "@/ui/visit/LogPart";
import { NowPart } from "@/ui/visit/NowPart";
import { PersonBar } from "@/ui/visit/PersonBar";
import { SchedulePart } from "@/ui/visit/SchedulePart";
import { SheetPart } from "@/ui/visit/SheetPart";
import { TimerStrip } from "@/ui/visit/TimerStrip";
import { useVisitStage } from "@/ui/visit/useVisitStage";
import { VISIT_WORDS } from "@/ui/words/visitWords";

type Part = "now" | "sheet" | "schedule" | "log";

const PARTS: PartList<Part> = [
  { id: "now", name: VISIT_WORDS.now, Icon: Hammer },
  { id: "sheet", name: VISIT_WORDS.sheet, Icon: ListTodo },
  { id: "schedule", name: VISIT_WORDS.schedule, Icon: CalendarClock },
  { id: "log", name: VISIT_WORDS.log, Icon: NotebookText },
];

/** Run: what to do now, what can run meanwhile, and what was done. */
export function VisitStage({ step }: { step: string | undefined }) {
  const desk = useVisitStage();
  const [part, setPart] = usePart(PARTS);
  const [chosen, setChosen] = useState<string | undefined>(step);
  const show = (id: string) => {
    setChosen(id);
    setPart("now");
  };
  return (
    <div className="flex h-full flex-col max-md:h-auto">
      <h2 className="sr-only">{VISIT_WORDS.run}</h2>
      <PartTabs
        prefix="visit"
        label={VISIT_WORDS.partsOfTheVisit}
        parts={PARTS}
        shown={part}
        onShow={setPart}
        className="flex min-h-0 flex-1 flex-col max-md:block"
        panelClassName="p-4 max-md:overflow-visible max-md:p-3"
        between={
          <>
            <TimerStrip desk={desk} onShow={show} />
            <PersonBar desk={desk} />
          </>
        }
      >
        {part === "now" && <NowPart desk={desk} chosen={chosen} onChoose={setChosen} />}
        {part === "sheet" && <SheetPart desk={desk} onShow={show} />}
        {part === "schedule" && <SchedulePart desk={desk} onShow={show} />}
        {part === "log" && <LogPart desk={desk} />}
      </PartTabs>
    </div>
  );
}
