"use client";

import { useState } from "react";
import { listenSchema } from "@/core/live/liveSchema";
import { readableLines } from "@/core/live/readableLines";
import { listenToLine } from "@/ui/live/liveCalls";
import { WayForm } from "@/ui/live/WayForm";
import { SelectField } from "@/ui/parts/form/SelectField";
import { Failure } from "@/ui/parts/show/Failure";
import type { WireDesk } from "@/ui/wire/useWire";
import { useJob } from "@/ui/workspace/workspaceContext";
import { WIRE_WORDS } from "@/ui/words/wireWords";

const SECONDS = [5, 10, 30];

/** Record the bytes of a line that is in use, from an adapter across A and B or through a converter. */
export function LineListener({ wire, onText }: { wire: WireDesk; onText: (text: string) => void }) {
  const job = useJob();
  const lines = readableLines(wire.plan).filter(({ serial }) => serial);
  const [link, setLink] = useState(lines[0]?.link ?? "");
  const [seconds, setSeconds] = useState(10);
  const [isBusy, setIsBusy] = useState(false);
  const [why, setWhy] = useState<string | undefined>();
  if (lines.length === 0) return null;
  const listen = async (way: object) => {
    const asked = listenSchema.safeParse({ way, seconds });
    if (!asked.success) return setWhy(asked.error.issues.map(({ message }) => message).join("; "));
    setIsBusy(true);
    const heard = await listenToLine(job.id, link, asked.data);
    setIsBusy(false);
    setWhy(
      heard.kind === "failed"
        ? [heard.problem.message, ...heard.problem.issues.map(({ message }) => message)].join(" ")
        : heard.value === ""
          ? WIRE_WORDS.nothingWasHeardNobodyTalks
          : undefined,
    );
    if (heard.kind === "ok" && heard.value !== "") onText(heard.value);
  };
  return (
    <details>
      <summary className="press cursor-pointer font-semibold">{WIRE_WORDS.recordFromTheLine}</summary>
      <div className="space-y-3 pt-2">
        <div className="flex flex-wrap gap-3">
          <div className="w-60 max-w-full">
            <SelectField
              label={WIRE_WORDS.line}
              value={link}
              options={lines.map((own) => ({ value: own.link, label: own.name }))}
              onValue={setLink}
            />
          </div>
          <div className="w-32">
            <SelectField
              label={WIRE_WORDS.howLong}
              value={String(seconds)}
              options={SECONDS.map((own) => ({ value: String(own), label: `${own} s` }))}
              onValue={(own) => setSeconds(Number(own))}
            />
          </div>
        </div>
        <WayForm
          kinds={["serial", "rtu-over-tcp"]}
          act={isBusy ? WIRE_WORDS.listening : WIRE_WORDS.listen}
          isBusy={isBusy}
          onWay={(way) => void listen(way)}
        />
        <Failure of={WIRE_WORDS.listeningTitle} why={why} />
      </div>
    </details>
  );
}
