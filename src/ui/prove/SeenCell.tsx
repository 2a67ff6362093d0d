"use client";

import { CircleAlert, CircleCheck } from "lucide-react";
import type { ExpectedReading } from "@/core/flows/expectedReadings";
import { readingTowardLoadW } from "@/core/site/flowWords";
import type { Meter, MeterInput } from "@/core/site/planSchema";
import { powerText } from "@/core/units";
import { FlowValue } from "@/ui/parts/show/FlowValue";
import { inputTag } from "@/core/site/inputTag";
import { PowerField } from "@/ui/parts/form/PowerField";
import type { ProveDesk } from "@/ui/prove/useProve";
import { Say } from "@/ui/parts/show/Say";

interface Props {
  readonly prove: ProveDesk;
  readonly step: number;
  readonly meter: Meter;
  readonly input: MeterInput;
  readonly expected: ExpectedReading | undefined;
  readonly seenW: number | undefined;
}

/** One input in one step: what it should show with its band, and what was seen, with the direction that it claims. */
export function SeenCell({ prove, step, meter, input, expected, seenW }: Props) {
  const { site } = prove;
  const tag = inputTag(site, meter.id, input.n);
  const run = input.measures[0]!.run;
  const shouldId = `should-${step}-${tag}`;
  const isOutside = seenW !== undefined && expected !== undefined && Math.abs(seenW - expected.meanW) > expected.bandW;
  return (
    <div className="md:max-w-48">
      {expected && (
        <p id={shouldId} className="mb-0.5 text-sm leading-snug">
          <span className="quiet block">
            should,{" "}
            <span className="reading">
              ± <Say>{powerText(expected.bandW)}</Say>
            </span>
          </span>
          <FlowValue
            site={site}
            run={run}
            shownW={expected.meanW}
            towardLoadW={readingTowardLoadW(input.positive, expected.meanW)}
          />
        </p>
      )}
      <PowerField
        label={`Step ${step + 1}, seen at ${tag}`}
        powerW={seenW}
        describedBy={shouldId}
        onPower={(powerW) => prove.read(step, { meter: meter.id, input: input.n }, powerW)}
      />
      {seenW !== undefined && (
        <p className={`mt-0.5 text-sm leading-snug ${isOutside ? "font-semibold text-warning" : ""}`}>
          <span className="quiet sr-only">seen </span>
          <FlowValue site={site} run={run} shownW={seenW} towardLoadW={readingTowardLoadW(input.positive, seenW)} />
          <span className="flex items-center gap-1">
            {isOutside ? (
              <>
                <CircleAlert size={15} aria-hidden />
                outside the band
              </>
            ) : (
              <>
                <CircleCheck size={15} aria-hidden />
                inside the band
              </>
            )}
          </span>
        </p>
      )}
    </div>
  );
}
