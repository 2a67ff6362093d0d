"use client";

import { CircleAlert, CircleCheck, CircleOff, Hourglass, type LucideIcon } from "lucide-react";
import { useState } from "react";
import { readBack, type ReadBack } from "@/core/live/readBack";
import type { LiveDevice, LiveValue, LiveWay } from "@/core/live/liveSchema";
import { powerText } from "@/core/units";
import { FlowWords } from "@/ui/live/FlowWords";
import { readSettings } from "@/ui/live/liveCalls";
import { useSay } from "@/ui/parts/browser/useNumberStyle";
import { Failure } from "@/ui/parts/show/Failure";
import { useJob, useVisitWork } from "@/ui/workspace/workspaceContext";

const STATE: Readonly<Record<LiveDevice["state"], { Icon: LucideIcon; words: string; colour: string }>> = {
  waiting: { Icon: Hourglass, words: "not asked yet", colour: "text-info" },
  answers: { Icon: CircleCheck, words: "answers", colour: "text-success" },
  silent: { Icon: CircleOff, words: "no answer", colour: "text-error" },
  refuses: { Icon: CircleAlert, words: "refuses", colour: "text-warning" },
  broken: { Icon: CircleAlert, words: "comes broken", colour: "text-warning" },
};

interface Props {
  readonly jobId: string;
  readonly link: string;
  readonly way: LiveWay["kind"];
  readonly device: LiveDevice;
}

/** One device as it is read: whether it answers, what it measures, and how it is set beside what was planned. */
export function LiveDeviceCard({ jobId, link, way, device }: Props) {
  const say = useSay();
  const { Icon, words, colour } = STATE[device.state];
  return (
    <li className="space-y-2 rounded border border-base-300 p-3" aria-label={`Live: ${device.name}`}>
      <div className="flex flex-wrap items-center gap-x-3">
        <h4 className="mr-auto font-bold">{device.name}</h4>
        <span className="reading quiet text-sm">address {device.unit}</span>
        <span className={`flex items-center gap-1 font-semibold ${colour}`}>
          <Icon size={18} aria-hidden />
          {words}
          {device.answerMs !== undefined && say(`, ${Math.round(device.answerMs)} ms`)}
        </span>
      </div>
      {device.problem && <p className="text-sm">{device.problem}</p>}
      <Measured device={device} />
      {way !== "mqtt" && <Settings jobId={jobId} link={link} device={device.device} />}
    </li>
  );
}

function Measured({ device }: { device: LiveDevice }) {
  const say = useSay();
  const shown = device.values.filter(({ of }) => of !== "state");
  if (shown.length === 0) return <p className="quiet text-sm">Nothing read yet.</p>;
  return (
    <dl className="grid grid-cols-[minmax(0,1fr)_auto] gap-x-3 text-sm">
      {shown.map((value) => (
        <div key={value.what} className="contents">
          <dt>{value.what}</dt>
          <dd className="reading text-right">
            {say(valueText(value))} <FlowWords device={device.device} meter={device.meter} value={value} />
          </dd>
        </div>
      ))}
    </dl>
  );
}

function valueText({ value, unit }: LiveValue): string {
  if (unit === "W") return powerText(value);
  if (unit === "Wh") return `${(value / 1000).toFixed(2)} kWh`;
  return `${Number(value.toFixed(2))} ${unit}`;
}

/** What the device says of itself beside what was planned and typed; asked when somebody wants to know. */
function Settings({ jobId, link, device }: { jobId: string; link: string; device: string }) {
  const { document } = useJob();
  const { log } = useVisitWork();
  const [read, setRead] = useState<readonly ReadBack[] | undefined>();
  const [why, setWhy] = useState<string | undefined>();
  const typedSerial = log.entries.findLast((entry) => entry.kind === "result" && entry.step === `serial:${device}`);
  const ask = async () => {
    const called = await readSettings(jobId, link, device);
    setWhy(called.kind === "failed" ? called.problem.message : undefined);
    if (called.kind !== "ok") return;
    const serial = typedSerial?.kind === "result" ? typedSerial.serial : undefined;
    setRead(readBack(document, device, called.value, serial));
  };
  const different = read?.filter(({ isDifferent }) => isDifferent) ?? [];
  return (
    <div className="space-y-1">
      <button type="button" className="btn btn-sm press" onClick={() => void ask()}>
        Read back
      </button>
      <Failure of="Reading back" why={why} />
      {read && (
        <p role="status" className={different.length > 0 ? "font-semibold text-warning" : "text-success"}>
          {different.length === 0
            ? "Set as planned and typed."
            : different.length === 1
              ? "One setting differs from the plan."
              : `${different.length} settings differ from the plan.`}
        </p>
      )}
      {read && <SettingsTable read={read} />}
    </div>
  );
}

function SettingsTable({ read }: { read: readonly ReadBack[] }) {
  const say = useSay();
  return (
    <table className="w-full text-left text-sm">
      <thead>
        <tr className="border-b border-base-300">
          <th scope="col">Setting</th>
          <th scope="col">Planned or typed</th>
          <th scope="col">Read</th>
        </tr>
      </thead>
      <tbody>
        {read.map(({ what, unit, planned, read: own, isDifferent }) => (
          <tr key={what} className={isDifferent ? "font-bold text-warning" : ""}>
            <th scope="row" className="pr-2 font-normal">
              {what}
            </th>
            <td className="reading pr-2">{planned === undefined ? "not said" : say(`${planned} ${unit}`)}</td>
            <td className="reading">
              {say(`${own} ${unit}`)}
              {isDifferent && " differs"}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
