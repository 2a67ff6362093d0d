"use client";

import { Plus } from "lucide-react";
import { useState } from "react";
import { isLineFault, type BenchFault, type BenchStatus, type LineFault } from "@/core/bench/benchSchema";
import { isNetworkFault } from "@/core/bench/networkFault";
import { candidateFaults } from "@/core/flows/faults";
import { saidFault } from "@/core/flows/cure";
import { networkFaults, networkFaultWords } from "@/ui/bench/networkFaultWords";
import type { BenchDesk } from "@/ui/bench/useBench";
import { useSaid } from "@/ui/parts/browser/useNumberStyle";
import { RemoveButton } from "@/ui/parts/form/RemoveButton";
import { SelectField } from "@/ui/parts/form/SelectField";
import { useJob } from "@/ui/workspace/workspaceContext";
import { BENCH_WORDS } from "@/ui/words/benchWords";

const OTHER_ADDRESS = 99;
const OTHER_BAUD = 4_800;
const LAG_S = 10;

/** What is wrong on the bench: plant it, take it away, or leave it hidden and look for it. */
export function BenchFaults({ desk, bench }: { desk: BenchDesk; bench: BenchStatus }) {
  const { document } = useJob();
  const said = useSaid();
  const [chosen, setChosen] = useState("0");
  const choices: readonly BenchFault[] = [
    ...lineFaults(bench),
    ...networkFaults(bench),
    ...(candidateFaults(document.site).map(({ fault }) => structuredClone(fault)) as BenchFault[]),
  ];
  const words = (fault: BenchFault) =>
    isLineFault(fault)
      ? lineFaultWords(fault, bench)
      : isNetworkFault(fault)
        ? networkFaultWords(fault, bench)
        : said(saidFault(document.site, fault));
  const set = (faults: readonly BenchFault[]) => void desk.change({ faults: [...faults] });
  return (
    <section aria-label={BENCH_WORDS.faults} className="panel space-y-3 p-4">
      <h3 className="text-lg font-bold">{BENCH_WORDS.whatIsWrong}</h3>
      <SelectField
        label={BENCH_WORDS.plantAFault}
        value={chosen}
        options={choices.map((fault, at) => ({ value: String(at), label: words(fault) }))}
        onValue={setChosen}
      />
      <button
        type="button"
        className="btn press"
        onClick={() => {
          const fault = choices[Number(chosen)];
          if (fault) set([...bench.faults, fault]);
        }}
      >
        <Plus size={18} aria-hidden />
        {BENCH_WORDS.plantIt}
      </button>
      <details>
        <summary className="press cursor-pointer font-semibold">
          {bench.faults.length === 0 ? BENCH_WORDS.nothingIsPlanted : BENCH_WORDS.plantedShowWhat(bench.faults.length)}
        </summary>
        <ul className="space-y-1">
          {bench.faults.map((fault, at) => (
            <li key={JSON.stringify(fault)} className="flex items-center gap-2">
              <span className="mr-auto">{words(fault)}</span>
              <RemoveButton
                label={BENCH_WORDS.takeAway(words(fault))}
                onRemove={() => set(bench.faults.filter((_, which) => which !== at))}
              />
            </li>
          ))}
        </ul>
      </details>
    </section>
  );
}

/** What can be wrong with the lines and devices of this bench. */
function lineFaults({ cards, bench }: BenchStatus): readonly LineFault[] {
  const serial = bench.lines.filter(({ protocol }) => protocol === "rtu-over-tcp").map(({ link }) => link);
  const links = [...new Set(bench.lines.map(({ link }) => link))];
  const onSerial = cards.filter(({ link }) => serial.includes(link));
  return [
    ...cards.map(({ device }): LineFault => ({ kind: "device-dead", device })),
    ...onSerial.flatMap(({ device }): LineFault[] => [
      { kind: "exchanged-pair", device },
      { kind: "wrong-speed", device, baud: OTHER_BAUD },
      { kind: "wrong-address", device, address: OTHER_ADDRESS },
    ]),
    ...cards.map(({ device }): LineFault => ({ kind: "lag", device, seconds: LAG_S })),
    ...serial.flatMap((link): LineFault[] => [
      { kind: "bit-errors", link, share: 0.2 },
      { kind: "second-client", link },
    ]),
    ...links.map((link): LineFault => ({ kind: "blocked-port", link })),
  ];
}

function lineFaultWords(fault: LineFault, { cards, bench }: BenchStatus): string {
  const where =
    "link" in fault
      ? (bench.lines.find(({ link }) => link === fault.link)?.name ?? fault.link)
      : (cards.find(({ device }) => device === fault.device)?.name ?? fault.device);
  switch (fault.kind) {
    case "device-dead":
      return BENCH_WORDS.isDead(where);
    case "wrong-address":
      return BENCH_WORDS.isSetToAddress(where, fault.address);
    case "wrong-speed":
      return BENCH_WORDS.isSetToBaud(where, fault.baud);
    case "exchanged-pair":
      return BENCH_WORDS.aAndBAreExchangedAt(where);
    case "bit-errors":
      return BENCH_WORDS.framesComeBrokenAsWithout(where);
    case "second-client":
      return BENCH_WORDS.anotherClientAsksToo(where);
    case "blocked-port":
      return BENCH_WORDS.nobodyGetsThroughToItsPort(where);
    case "lag":
      return BENCH_WORDS.showsWhatWasSAgo(where, fault.seconds);
  }
}
