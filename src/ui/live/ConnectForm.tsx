"use client";

import { PlugZap } from "lucide-react";
import { useState } from "react";
import type { Bench, BenchAddress } from "@/core/bench/benchSchema";
import { liveWaySchema } from "@/core/live/liveSchema";
import type { ReadableLine } from "@/core/live/readableLines";
import { connectLink } from "@/ui/live/liveCalls";
import { WayForm } from "@/ui/live/WayForm";
import type { ApiProblem } from "@/ui/parts/server/apiClient";
import { LIVE_WORDS } from "@/ui/words/liveWords";

interface Props {
  readonly jobId: string;
  readonly line: ReadableLine;
  readonly benchLines: readonly BenchAddress[];
  readonly mqtt: Bench["mqtt"] | undefined;
}

/** How a link is reached; where a bench runs, one press is enough. */
export function ConnectForm({ jobId, line, benchLines, mqtt }: Props) {
  const [problem, setProblem] = useState<ApiProblem | undefined>();
  const [isBusy, setIsBusy] = useState(false);
  const connect = async (way: object) => {
    const parsed = liveWaySchema.safeParse(way);
    if (!parsed.success) {
      const issues = parsed.error.issues.map((issue) => ({ path: issue.path.join("."), message: issue.message }));
      return setProblem({ message: LIVE_WORDS.thisCannotBeConnectedYet, issues });
    }
    setIsBusy(true);
    setProblem(await connectLink(jobId, line.link, parsed.data));
    setIsBusy(false);
  };
  const onBench = benchLines.filter((own) => own.link === line.link);
  return (
    <div className="space-y-3">
      <p className="text-sm">{line.units.map(({ name, unit }) => `${name} (${unit})`).join(", ")}</p>
      <BenchButtons benchLines={onBench} mqtt={mqtt} isBusy={isBusy} onConnect={(way) => void connect(way)} />
      <WayForm
        kinds={line.serial ? ["serial", "rtu-over-tcp", "modbus-tcp", "mqtt"] : ["modbus-tcp", "mqtt"]}
        act={LIVE_WORDS.connect}
        isBusy={isBusy}
        onWay={(way) => void connect(way)}
      />
      {problem && (
        <div role="alert" className="text-sm font-semibold text-error">
          {problem.message}
          <ul>
            {problem.issues.map(({ path, message }) => (
              <li key={path}>{message}</li>
            ))}
          </ul>
        </div>
      )}
    </div>
  );
}

interface ButtonsProps {
  readonly benchLines: readonly BenchAddress[];
  readonly mqtt: Bench["mqtt"] | undefined;
  readonly isBusy: boolean;
  readonly onConnect: (way: object) => void;
}

/** The same link as the running bench has it. */
function BenchButtons({ benchLines, mqtt, isBusy, onConnect }: ButtonsProps) {
  if (benchLines.length === 0) return null;
  const ways = [
    ...benchLines.map(({ protocol, host, port }) => ({
      words: protocol === "modbus-tcp" ? LIVE_WORDS.modbusTcp : LIVE_WORDS.rtuLine,
      way: { kind: protocol, host, port },
    })),
    ...(mqtt ? [{ words: LIVE_WORDS.mqtt, way: { kind: "mqtt", host: mqtt.host, port: mqtt.port } }] : []),
  ];
  return (
    <div className="flex flex-wrap gap-2">
      {ways.map(({ words, way }, at) => (
        <button
          key={words}
          type="button"
          className={`btn press ${at === 0 ? "btn-primary" : ""}`}
          disabled={isBusy}
          onClick={() => onConnect(way)}
        >
          <PlugZap size={18} aria-hidden />
          {LIVE_WORDS.connectToTheBench(words)}
        </button>
      ))}
    </div>
  );
}
