"use client";

import { CircleAlert, CircleCheck, Glasses } from "lucide-react";
import { isStale } from "@/core/flows/staleReadings";
import type { TestStep } from "@/core/flows/testSheetSchema";
import type { ExpectedReading } from "@/core/flows/expectedReadings";
import { readingTowardLoadW } from "@/core/site/flowWords";
import type { Meter, MeterInput } from "@/core/site/planSchema";
import { powerText } from "@/core/units";
import { FlowValue } from "@/ui/parts/show/FlowValue";
import { inputTag } from "@/core/site/inputTag";
import { PowerField } from "@/ui/parts/form/PowerField";
import { BusBesideDisplay } from "@/ui/prove/BusBesideDisplay";
import type { ProveDesk } from "@/ui/prove/useProve";
import { Say } from "@/ui/parts/show/Say";
import { useVerdict } from "@/ui/workspace/workspaceContext";
import { PROVE_WORDS } from "@/ui/words/proveWords";

interface Props {
  readonly prove: ProveDesk;
  readonly step: number;
  readonly meter: Meter;
  readonly input: MeterInput;
  readonly expected: ExpectedReading | undefined;
  readonly seen: TestStep["readings"][number] | undefined;
}

/** One input in one step: what it should show with its band, and what was seen, with the direction that it claims. */
export function SeenCell({ prove, step, meter, input, expected, seen }: Props) {
  const { site } = prove;
  const seenW = seen?.powerW;
  const isBefore = seen !== undefined && isStale(site, seen);
  const tag = inputTag(site, meter.id, input.n);
  const run = input.measures[0]!.run;
  const shouldId = `should-${step}-${tag}`;
  const doubtful = useDoubtful(prove, step, meter.id, input.n);
  const isOutside =
    !isBefore && seenW !== undefined && expected !== undefined && Math.abs(seenW - expected.meanW) > expected.bandW;
  return (
    <div className="md:max-w-48">
      {expected && <Expected id={shouldId} site={site} run={run} input={input} expected={expected} />}
      <PowerField
        label={PROVE_WORDS.stepMeasuredAt(step + 1, tag)}
        powerW={seenW}
        isSigned
        mostW={prove.mostW}
        describedBy={shouldId}
        onPower={(powerW) => prove.read(step, { meter: meter.id, input: input.n }, powerW)}
      />
      <BusBesideDisplay prove={prove} step={step} meter={meter} input={input} seen={isBefore ? undefined : seen} />
      {isBefore && <BeforeMark tag={tag} onHolds={() => prove.read(step, seen, seen.powerW)} />}
      {seenW !== undefined && !isBefore && (
        <p className={`mt-0.5 text-sm leading-snug ${isOutside ? "font-semibold text-warning" : ""}`}>
          <span className="quiet sr-only">{PROVE_WORDS.measured} </span>
          <FlowValue site={site} run={run} shownW={seenW} towardLoadW={readingTowardLoadW(input.positive, seenW)} />
          {doubtful && <OddMark wouldBeW={doubtful.wouldBeW} />}
          <span className="flex items-center gap-1">
            {isOutside ? (
              <>
                <CircleAlert size={15} aria-hidden />
                {PROVE_WORDS.outsideTheBand}
              </>
            ) : (
              <>
                <CircleCheck size={15} aria-hidden />
                {PROVE_WORDS.insideTheBand}
              </>
            )}
          </span>
        </p>
      )}
    </div>
  );
}

interface ExpectedProps {
  readonly id: string;
  readonly site: ProveDesk["site"];
  readonly run: string;
  readonly input: MeterInput;
  readonly expected: ExpectedReading;
}

function Expected({ id, site, run, input, expected: { meanW, bandW } }: ExpectedProps) {
  return (
    <p id={id} className="mb-0.5 text-sm leading-snug">
      <span className="quiet block">
        {PROVE_WORDS.expected}
        <span className="reading">
          ± <Say>{powerText(bandW)}</Say>
        </span>
      </span>
      <FlowValue site={site} run={run} shownW={meanW} towardLoadW={readingTowardLoadW(input.positive, meanW)} />
    </p>
  );
}

/** What is doubted of one reading; nothing while there is none, or no doubt. */
function useDoubtful({ hasReadings }: ProveDesk, step: number, meter: string, input: number) {
  const { diagnosis } = useVerdict();
  const doubt = hasReadings ? diagnosis?.doubt : undefined;
  return doubt?.step === step
    ? doubt.readings.find((reading) => reading.meter === meter && reading.input === input)
    : undefined;
}

/** That a reading is odd, and what it would be without that. */
function OddMark({ wouldBeW }: { wouldBeW: number }) {
  return (
    <span className="mt-0.5 flex items-center gap-1 border-l-4 border-info pl-1 font-semibold text-info">
      <Glasses size={15} className="shrink-0" aria-hidden />
      <span>
        {PROVE_WORDS.oddWouldBeAbout} <Say>{powerText(wouldBeW)}</Say>
      </span>
    </span>
  );
}

/** That a reading is from before its CT was changed: it rules nothing until it is read again. */
function BeforeMark({ tag, onHolds }: { tag: string; onHolds: () => void }) {
  return (
    <span className="mt-0.5 block border-l-4 border-warning pl-1 text-sm font-semibold text-warning">
      {PROVE_WORDS.fromBeforeWasChangedReadItAgain(tag)}
      <button type="button" className="link press block font-normal" onClick={onHolds}>
        {PROVE_WORDS.itStillHolds}
      </button>
    </span>
  );
}
