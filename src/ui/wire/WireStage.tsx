"use client";

import { Activity, Cable, EthernetPort, Gauge, ListChecks, ScrollText, type LucideIcon } from "lucide-react";
import { useState } from "react";
import { EthernetCheck } from "@/ui/wire/EthernetCheck";
import { LinkLines } from "@/ui/wire/LinkLines";
import { CanLogReader } from "@/ui/wire/CanLogReader";
import { Multimeter } from "@/ui/wire/Multimeter";
import { PollTiming } from "@/ui/wire/PollTiming";
import { useWire } from "@/ui/wire/useWire";
import { WiringList } from "@/ui/wire/WiringList";

type Part = "links" | "wiring" | "timing" | "meter" | "can-log" | "lead";

const PARTS: readonly { readonly id: Part; readonly name: string; readonly Icon: LucideIcon }[] = [
  { id: "links", name: "Links", Icon: Cable }, { id: "wiring", name: "Wiring", Icon: ListChecks }, { id: "timing", name: "Timing", Icon: Gauge },
  { id: "meter", name: "Multimeter", Icon: Activity }, { id: "can-log", name: "CAN log", Icon: ScrollText }, { id: "lead", name: "Network lead", Icon: EthernetPort },
];

/** Wire: which ports are joined and in which order, which core goes into which terminal, how old a reading is. */
export function WireStage() {
  const wire = useWire();
  const [part, setPart] = useState<Part>("links");
  return (
    <div className="flex h-full flex-col max-md:h-auto">
      <h2 className="sr-only">Wire</h2>
      <div role="tablist" aria-label="Parts of the wiring" className="flex flex-none overflow-x-auto border-b border-base-300 bg-base-200">
        {PARTS.map(({ id, name, Icon }) => (
          <button
            key={id} type="button" role="tab" id={`wire-${id}`} aria-selected={part === id} aria-controls="wire-part"
            className={`press flex flex-none items-center justify-center gap-1.5 whitespace-nowrap px-5 max-md:px-3 ${part === id ? "bg-base-100 font-bold shadow-[inset_0_-4px_0_var(--color-primary)]" : ""}`}
            onClick={() => setPart(id)}
          ><Icon size={17} aria-hidden />{name}</button>
        ))}
      </div>
      <div role="tabpanel" id="wire-part" aria-labelledby={`wire-${part}`} tabIndex={0} className="min-h-0 flex-1 overflow-auto p-4">
        {part === "links" && <LinkLines wire={wire} />}
        {part === "wiring" && <WiringList wire={wire} />}
        {part === "timing" && <PollTiming wire={wire} />}
        {part === "meter" && <Multimeter wire={wire} />}
        {part === "lead" && <EthernetCheck />}
        {part === "can-log" && <CanLogReader wire={wire} />}
      </div>
    </div>
  );
}
