"use client";

import { Activity, Cable, EthernetPort, FileText, Gauge, ListChecks, Network, Radio, ScrollText } from "lucide-react";
import { LiveLinks } from "@/ui/live/LiveLinks";
import { PartTabs, type PartList } from "@/ui/parts/show/PartTabs";
import { usePart } from "@/ui/parts/show/usePart";
import { AddressTable } from "@/ui/wire/AddressTable";
import { EthernetCheck } from "@/ui/wire/EthernetCheck";
import { LinkLines } from "@/ui/wire/LinkLines";
import { CanLogReader } from "@/ui/wire/CanLogReader";
import { LineLogReader } from "@/ui/wire/LineLogReader";
import { Multimeter } from "@/ui/wire/Multimeter";
import { PollTiming } from "@/ui/wire/PollTiming";
import { useWire } from "@/ui/wire/useWire";
import { WiringList } from "@/ui/wire/WiringList";
import { WIRE_WORDS } from "@/ui/words/wireWords";

type Part = "links" | "live" | "wiring" | "timing" | "addresses" | "meter" | "line-log" | "can-log" | "lead";

const PARTS: PartList<Part> = [
  { id: "links", name: WIRE_WORDS.linksTitle, Icon: Cable },
  { id: "live", name: WIRE_WORDS.live, Icon: Radio },
  { id: "wiring", name: WIRE_WORDS.wiring, Icon: ListChecks },
  { id: "timing", name: WIRE_WORDS.timing, Icon: Gauge },
  { id: "addresses", name: WIRE_WORDS.addresses, Icon: Network },
  { id: "meter", name: WIRE_WORDS.multimeter, Icon: Activity },
  { id: "line-log", name: WIRE_WORDS.lineLog, Icon: FileText },
  { id: "can-log", name: WIRE_WORDS.canLog, Icon: ScrollText },
  { id: "lead", name: WIRE_WORDS.lead, Icon: EthernetPort },
];

/** Wire: which ports are joined and in which order, which core goes into which terminal, how old a reading is. */
export function WireStage() {
  const wire = useWire();
  const [part, setPart] = usePart(PARTS);
  return (
    <div className="flex h-full flex-col max-md:h-auto">
      <h2 className="sr-only">{WIRE_WORDS.wire}</h2>
      <PartTabs
        prefix="wire"
        label={WIRE_WORDS.partsOfTheWiring}
        parts={PARTS}
        shown={part}
        onShow={setPart}
        className="flex min-h-0 flex-1 flex-col"
        panelClassName="p-4"
      >
        {part === "links" && <LinkLines wire={wire} />}
        {part === "live" && <LiveLinks wire={wire} />}
        {part === "wiring" && <WiringList wire={wire} />}
        {part === "timing" && <PollTiming wire={wire} />}
        {part === "addresses" && <AddressTable wire={wire} />}
        {part === "meter" && <Multimeter wire={wire} />}
        {part === "lead" && <EthernetCheck wire={wire} />}
        {part === "line-log" && <LineLogReader wire={wire} />}
        {part === "can-log" && <CanLogReader wire={wire} />}
      </PartTabs>
    </div>
  );
}
