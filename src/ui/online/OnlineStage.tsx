"use client";

import { ClipboardList, KeyRound, Route } from "lucide-react";
import { useState } from "react";
import { joined } from "@/core/words";
import { BeforeVisitPart } from "@/ui/online/BeforeVisitPart";
import { BreakPart } from "@/ui/online/BreakPart";
import { DeviceLines } from "@/ui/online/DeviceLines";
import { SetUpPart } from "@/ui/online/SetUpPart";
import { useOnline } from "@/ui/online/useOnline";
import { PartTabs, type PartList } from "@/ui/parts/show/PartTabs";
import { usePart } from "@/ui/parts/show/usePart";
import { StageLink } from "@/ui/workspace/frame/stageMoves";
import { useJob } from "@/ui/workspace/workspaceContext";
import { ONLINE_WORDS } from "@/ui/words/onlineWords";

type Part = "break" | "set-up" | "before";

const PARTS: PartList<Part> = [
  { id: "break", name: ONLINE_WORDS.findTheBreak, Icon: Route },
  { id: "set-up", name: ONLINE_WORDS.reachADevice, Icon: KeyRound },
  { id: "before", name: ONLINE_WORDS.beforeTheVisit, Icon: ClipboardList },
];

/** Online: from each device to the owner's phone, where it breaks, and what is tried next. */
export function OnlineStage() {
  const desk = useOnline();
  const [part, setPart] = usePart(PARTS);
  const [chosen, setChosen] = useState<string | undefined>();
  const chain = desk.chains.find(({ device }) => device.id === chosen) ?? desk.chains[0];
  return (
    <div className="flex h-full flex-col max-md:h-auto">
      <h2 className="sr-only">{ONLINE_WORDS.online}</h2>
      <PartTabs
        prefix="online"
        label={ONLINE_WORDS.partsOfTheWayOnline}
        parts={PARTS}
        shown={part}
        onShow={setPart}
        className="flex min-h-0 flex-1 flex-col"
        panelClassName="p-4 max-md:p-2"
      >
        {!chain ? (
          <NothingSeen kitless={desk.kitless} />
        ) : part === "before" ? (
          <BeforeVisitPart />
        ) : (
          <div className="mx-auto grid max-w-7xl items-start gap-4 lg:grid-cols-[20rem_minmax(0,1fr)]">
            <DeviceLines chains={desk.chains} chosen={chain.device.id} onChoose={setChosen} />
            {part === "break" ? (
              <BreakPart key={chain.device.id} desk={desk} chain={chain} />
            ) : (
              <SetUpPart key={chain.device.id} desk={desk} chain={chain} />
            )}
          </div>
        )}
      </PartTabs>
    </div>
  );
}

function NothingSeen({ kitless }: { kitless: readonly string[] }) {
  const { id } = useJob();
  const plan = (
    <StageLink className="link" href={`/jobs/${id}/plan`}>
      {ONLINE_WORDS.plan}
    </StageLink>
  );
  return (
    <p className="mx-auto max-w-6xl">
      {kitless.length > 0 ? (
        <>
          {ONLINE_WORDS.howOnlineDependsOnTheKitChoose(
            joined(kitless),
            kitless.length > 1 ? ONLINE_WORDS.come : ONLINE_WORDS.comes,
          )}
          {plan}.
        </>
      ) : (
        <>
          {ONLINE_WORDS.nothingInThisPlanIsSeenFromOutside} {plan}.
        </>
      )}
    </p>
  );
}
