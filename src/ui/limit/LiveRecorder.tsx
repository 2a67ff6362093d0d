"use client";

import { Radio, Square } from "lucide-react";
import { useState } from "react";
import { isOnBench } from "@/core/bench/isOnBench";
import { liveRecording, recordingGaps, type InputSample } from "@/core/live/liveRecording";
import type { Meter } from "@/core/site/planSchema";
import { powerText } from "@/core/units";
import { useBench } from "@/ui/bench/useBench";
import type { RecordedTable } from "@/ui/limit/recordedTable";
import { useLive } from "@/ui/live/useLive";
import { useMeterSamples } from "@/ui/live/useMeterSamples";
import { useSay } from "@/ui/parts/browser/useNumberStyle";
import { useJob } from "@/ui/workspace/workspaceContext";
import { LIMIT_WORDS } from "@/ui/words/limitWords";

interface Props {
  /** The meter by which the export is held. */
  readonly meter: Meter;
  readonly onTable: (table: RecordedTable) => void;
}

/** Records the export as fast as the line is read, with gaps shown, and gives it to be judged. */
export function LiveRecorder({ meter, onTable }: Props) {
  const job = useJob();
  const say = useSay();
  const links = useLive(job.id);
  const { bench } = useBench(job.id);
  const [isOn, setIsOn] = useState(false);
  const samples = useMeterSamples(job.id, links, isOn);
  const isSimulated = links.some(
    ({ way, devices }) => devices.some((own) => own.meter === meter.id) && isOnBench(way, bench?.bench),
  );
  const isRead = links.some(({ devices }) => devices.some((own) => own.meter === meter.id && own.state === "answers"));
  if (!isRead && !isOn) return null;
  const own = samples.flatMap((sample): InputSample[] =>
    sample.meter === meter.id && sample.input !== undefined ? [{ ...sample, input: sample.input }] : [],
  );
  const recording = liveRecording(meter, own, own[0]?.atMs ?? 0);
  const gaps = recordingGaps(recording.tS);
  const lastW = recording.exportW.at(-1);
  if (!isOn)
    return (
      <button type="button" className="btn press" onClick={() => setIsOn(true)}>
        <Radio size={18} aria-hidden />
        {LIMIT_WORDS.recordLive}
      </button>
    );
  return (
    <div className="flex flex-wrap items-center gap-3">
      <button
        type="button"
        className="btn btn-primary press"
        onClick={() => {
          setIsOn(false);
          if (recording.tS.length > 0) onTable({ ...tableOf(recording), isOnBench: isSimulated });
        }}
      >
        <Square size={18} aria-hidden />
        {LIMIT_WORDS.stopAndJudge}
      </button>
      <p role="status" className="reading">
        {lastW === undefined
          ? LIMIT_WORDS.waitingForTheMeter
          : say(
              LIMIT_WORDS.sReadings(
                Math.round(recording.tS.at(-1)!),
                recording.tS.length,
                powerText(Math.abs(Math.round(lastW))),
                lastW > 0 ? LIMIT_WORDS.exporting : LIMIT_WORDS.importing,
              ),
            )}
        {gaps.length > 0 &&
          LIMIT_WORDS.withoutAReading(gaps.length === 1 ? LIMIT_WORDS.oneGap : LIMIT_WORDS.gaps(gaps.length))}
      </p>
    </div>
  );
}

/** As a file of readings would have it: seconds, the export, and each phase. */
function tableOf({ tS, exportW, phaseW = {} }: ReturnType<typeof liveRecording>): RecordedTable {
  const phases = Object.entries(phaseW);
  return {
    unit: "W",
    columns: ["seconds", "export", ...phases.map(([phase]) => phase)],
    rows: tS.map((t, at) => ({
      seconds: t.toFixed(2),
      export: exportW[at]!.toFixed(0),
      ...Object.fromEntries(phases.map(([phase, watts]) => [phase, watts[at]!.toFixed(0)])),
    })),
  };
}
