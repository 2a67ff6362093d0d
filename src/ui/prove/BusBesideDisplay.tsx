"use client";

import { GitCompareArrows, Radio } from "lucide-react";
import { besideDisplay } from "@/core/live/besideDisplay";
import type { TestStep } from "@/core/flows/testSheetSchema";
import { readingTowardLoadW } from "@/core/site/flowWords";
import type { Meter, MeterInput } from "@/core/site/planSchema";
import { powerText } from "@/core/units";
import { useLive } from "@/ui/live/useLive";
import { FlowValue } from "@/ui/parts/show/FlowValue";
import { Say } from "@/ui/parts/show/Say";
import type { ProveDesk } from "@/ui/prove/useProve";
import { useJob } from "@/ui/workspace/workspaceContext";
import { PROVE_WORDS } from "@/ui/words/proveWords";

interface Props {
  readonly prove: ProveDesk;
  readonly step: number;
  readonly meter: Meter;
  readonly input: MeterInput;
  readonly seen: TestStep["readings"][number] | undefined;
}

/** What the bus says of an input, beside what its display shows: while both are of the same moment. */
export function BusBesideDisplay({ prove: { site, read }, step, meter, input, seen }: Props) {
  const { id, document } = useJob();
  const links = useLive(id);
  const { steps, noise } = document.tests;
  const isFirstEmpty = steps.findIndex(({ readings }) => readings.length < meter.inputs.length) === step;
  const beside = besideDisplay(links, { meter: meter.id, input: input.n }, seen, noise, isFirstEmpty);
  if (!beside) return null;
  const { busW, differsW } = beside;
  return (
    <div className="mt-0.5 text-sm leading-snug">
      <p className="quiet flex items-center gap-1">
        <Radio size={15} aria-hidden />
        {PROVE_WORDS.busNow}
      </p>
      <FlowValue
        site={site}
        run={input.measures[0]!.run}
        shownW={busW}
        towardLoadW={readingTowardLoadW(input.positive, busW)}
      />
      {differsW !== undefined && (
        <p className="flex items-start gap-1 font-semibold text-warning">
          <GitCompareArrows size={15} className="shrink-0" aria-hidden />
          <span>
            {PROVE_WORDS.differsBy} <Say>{powerText(Math.abs(differsW))}</Say>
            {PROVE_WORDS.readTheDisplayAgainOrItsRatio}
          </span>
        </p>
      )}
      {(seen === undefined || differsW !== undefined) && (
        <button
          type="button"
          className="link press"
          onClick={() => read(step, { meter: meter.id, input: input.n }, Math.round(busW))}
        >
          {PROVE_WORDS.takeTheBusValue}
        </button>
      )}
    </div>
  );
}
