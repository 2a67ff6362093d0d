"use client";

import { Cable, Gauge, MapPin, Package, Tag } from "lucide-react";
import { useState } from "react";
import { BoardSwitch } from "@/ui/board/BoardSwitch";
import { PartTabs, type PartTab } from "@/ui/parts/show/PartTabs";
import { BringList } from "@/ui/plan/BringList";
import { InputPanel } from "@/ui/plan/InputPanel";
import { LabelSheets } from "@/ui/plan/LabelSheets";
import { MetersEditor } from "@/ui/plan/MetersEditor";
import { PlacesEditor } from "@/ui/plan/PlacesEditor";
import { PlanBoard } from "@/ui/plan/PlanBoard";
import { SiteEditor } from "@/ui/plan/SiteEditor";
import { usePlan, type PlanPick } from "@/ui/plan/usePlan";
import { PLAN_WORDS } from "@/ui/words/planWords";

type Part = "site" | "meters" | "places" | "bring" | "labels";

const PARTS: readonly PartTab<Part>[] = [
  { id: "site", name: PLAN_WORDS.site, Icon: Cable },
  { id: "meters", name: PLAN_WORDS.meters, Icon: Gauge },
  { id: "places", name: PLAN_WORDS.places, Icon: MapPin },
  { id: "bring", name: PLAN_WORDS.bring, Icon: Package },
  { id: "labels", name: PLAN_WORDS.labels, Icon: Tag },
];

/**
 * Plan: what the site is, what measures it and whether that is right, what to bring. The board follows every change.
 *
 * @param start What is picked when the page opens: a link can lead to it.
 */
export function PlanStage({ start }: { start?: PlanPick | undefined }) {
  const plan = usePlan(start);
  const [part, setPart] = useState<Part>(start?.kind === "input" ? "meters" : "site");
  const [isBoard, setBoard] = useState(false);
  const pick = (picked: PlanPick | undefined) => {
    plan.pick(picked);
    if (picked) setPart(picked.kind === "node" ? "site" : "meters");
  };
  const { picked } = plan;
  const showsBoard = part === "site" || part === "meters" || part === "places";
  return (
    <div className="flex h-full max-md:h-auto max-md:flex-col">
      <h2 className="sr-only">{PLAN_WORDS.plan}</h2>
      <div
        className={
          "flex flex-col border-base-300 bg-base-200 " +
          (showsBoard ? "md:w-[25rem] md:flex-none md:border-r xl:w-[27rem]" : "min-w-0 flex-1")
        }
      >
        <PartTabs
          prefix="plan"
          label={PLAN_WORDS.partsOfThePlan}
          parts={PARTS}
          shown={part}
          onShow={setPart}
          className="flex min-h-0 flex-1 flex-col"
          panelClassName="p-3"
        >
          {part === "site" && <SiteEditor plan={plan} />}
          {part === "meters" && <MetersEditor plan={plan} onPick={pick} />}
          {part === "places" && <PlacesEditor plan={plan} />}
          {part === "bring" && <BringList plan={plan} />}
          {part === "labels" && <LabelSheets plan={plan} />}
        </PartTabs>
      </div>
      {showsBoard && (
        <div className="flex min-h-0 min-w-0 flex-1 flex-col max-md:order-first">
          <BoardSwitch isBoard={isBoard} onSwitch={() => setBoard(!isBoard)} />
          <div className={isBoard ? "contents" : "contents max-md:hidden"}>
            <PlanBoard plan={plan} onPick={pick} isLow={part === "meters" && picked?.kind === "input"} />
          </div>
          {part === "meters" && picked?.kind === "input" && (
            <InputPanel key={`${picked.meter} ${picked.input}`} plan={plan} picked={picked} />
          )}
        </div>
      )}
    </div>
  );
}
