"use client";

import { Plug, Timer } from "lucide-react";
import { useEffect, useState } from "react";
import { isOnBench } from "@/core/bench/isOnBench";
import { watchFallback, type FallbackOfInverter, type FallbackOutcome } from "@/core/control/fallback";
import type { Meter } from "@/core/site/planSchema";
import { powerText } from "@/core/units";
import { useBench } from "@/ui/bench/useBench";
import { useLive } from "@/ui/live/useLive";
import { useMeterSamples } from "@/ui/live/useMeterSamples";
import { useSay } from "@/ui/parts/browser/useNumberStyle";
import { useJob } from "@/ui/workspace/workspaceContext";
import { LIMIT_WORDS } from "@/ui/words/limitWords";

interface Props {
  readonly meter: Meter;
  readonly planned: readonly FallbackOfInverter[];
  readonly onOver: (watched: { readonly outcome: FallbackOutcome; readonly isOnBench: boolean }) => void;
}

/** Times the fail-safe from the meter's last answer, by what the inverters say of themselves. */
export function LiveFallback({ meter, planned, onOver }: Props) {
  const job = useJob();
  const links = useLive(job.id);
  const { bench } = useBench(job.id);
  const [isOn, setIsOn] = useState(false);
  const answers = (device: string) =>
    links.some(({ devices }) => devices.some((own) => own.device === device && own.state === "answers"));
  const silent = planned.filter(({ node }) => !answers(node)).map(({ name }) => name);
  const isSimulated = links.some(
    ({ way, devices }) => devices.some((own) => own.device === planned[0]?.node) && isOnBench(way, bench?.bench),
  );
  const stop = (outcome?: FallbackOutcome) => {
    setIsOn(false);
    if (outcome) onOver({ outcome, isOnBench: isSimulated });
  };
  if (isOn) return <Watching meter={meter} planned={planned} onOver={stop} />;
  return (
    <div className="flex flex-wrap items-center gap-3">
      <button type="button" className="btn press" disabled={silent.length > 0} onClick={() => setIsOn(true)}>
        <Timer size={18} aria-hidden />
        {LIMIT_WORDS.timeItLive}
      </button>
      {silent.length > 0 && (
        <p className="quiet text-sm">{LIMIT_WORDS.needsEveryInverterUnderWireLive(silent.join(", "))}</p>
      )}
    </div>
  );
}

interface WatchingProps extends Omit<Props, "onOver"> {
  readonly onOver: (outcome?: FallbackOutcome) => void;
}

function Watching({ meter, planned, onOver }: WatchingProps) {
  const job = useJob();
  const say = useSay();
  const links = useLive(job.id);
  const samples = useMeterSamples(job.id, links, true);
  const [pulledMs, setPulledMs] = useState<number | undefined>();
  const heardMs = samples.filter((own) => own.meter === meter.id && own.input !== undefined).map(({ atMs }) => atMs);
  const own = samples.filter(({ input, device }) => input === undefined && planned.some(({ node }) => node === device));
  const watch = watchFallback(planned, heardMs, own, pulledMs);
  const over = watch.kind === "over" ? watch.outcome : undefined;
  useEffect(() => {
    if (over) onOver(over);
  });
  const isMeterRead = heardMs.length > 0;
  return (
    <div className="flex flex-wrap items-center gap-3">
      {!isMeterRead && pulledMs === undefined && (
        <button type="button" className="btn btn-primary press" onClick={() => setPulledMs(own.at(-1)?.atMs)}>
          <Plug size={18} aria-hidden />
          {LIMIT_WORDS.thePlugIsOutNow}
        </button>
      )}
      <button type="button" className="btn press" onClick={() => onOver()}>
        {LIMIT_WORDS.cancel}
      </button>
      <p role="status" className="reading">
        {say(
          watch.kind === "silent"
            ? LIMIT_WORDS.isSilentForSTheInvertersMake(meter.name, watch.seconds.toFixed(0), powerText(watch.madeW))
            : LIMIT_WORDS.pullTheMetersDataPlugTheInverters(
                isMeterRead ? LIMIT_WORDS.stillAnswers(meter.name) : "",
                powerText(watch.kind === "heard" ? watch.madeW : 0),
              ),
        )}
      </p>
    </div>
  );
}
