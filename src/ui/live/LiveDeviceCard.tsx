"use client";

import { CircleAlert, CircleCheck, CircleOff, Hourglass, type LucideIcon } from "lucide-react";
import type { LiveDevice, LiveValue, LiveWay } from "@/core/live/liveSchema";
import { powerText } from "@/core/units";
import { FlowWords } from "@/ui/live/FlowWords";
import { SettingsOfDevice } from "@/ui/live/SettingsOfDevice";
import { useSay } from "@/ui/parts/browser/useNumberStyle";
import { useNow } from "@/ui/visit/useNow";
import { LIVE_WORDS } from "@/ui/words/liveWords";

const STATE: Readonly<Record<LiveDevice["state"], { Icon: LucideIcon; words: string; colour: string }>> = {
  waiting: { Icon: Hourglass, words: LIVE_WORDS.notAskedYet, colour: "text-info" },
  answers: { Icon: CircleCheck, words: LIVE_WORDS.answers, colour: "text-success" },
  silent: { Icon: CircleOff, words: LIVE_WORDS.noAnswer, colour: "text-error" },
  refuses: { Icon: CircleAlert, words: LIVE_WORDS.refuses, colour: "text-warning" },
  broken: { Icon: CircleAlert, words: LIVE_WORDS.comesBroken, colour: "text-warning" },
};

const LOOK_EVERY_MS = 1_000;
const OLD_MS = 6_000;
const MS_PER_S = 1_000;

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
    <li className="space-y-2 rounded border border-base-300 p-3" aria-label={LIVE_WORDS.live(device.name)}>
      <div className="flex flex-wrap items-center gap-x-3">
        <h4 className="mr-auto font-bold">{device.name}</h4>
        <span className="reading quiet text-sm">{LIVE_WORDS.address(device.unit)}</span>
        <span className={`flex items-center gap-1 font-semibold ${colour}`}>
          <Icon size={18} aria-hidden />
          {words}
          {device.answerMs !== undefined && say(LIVE_WORDS.ms(Math.round(device.answerMs)))}
        </span>
      </div>
      {device.problem && <p className="text-sm">{device.problem}</p>}
      <Age device={device} />
      <Measured device={device} />
      {way !== "mqtt" && <SettingsOfDevice jobId={jobId} link={link} device={device.device} />}
    </li>
  );
}

/** How old its values are, once they are older than any line's round: then they are no longer what it says now. */
function Age({ device }: { device: LiveDevice }) {
  const now = useNow(LOOK_EVERY_MS);
  const newestMs = Math.max(...device.values.map(({ atMs }) => atMs));
  if (now === undefined || device.values.length === 0 || now - newestMs < OLD_MS) return null;
  return (
    <p role="status" className="text-sm font-semibold text-warning">
      {LIVE_WORDS.readSAgo(Math.round((now - newestMs) / MS_PER_S))}
    </p>
  );
}

function Measured({ device }: { device: LiveDevice }) {
  const say = useSay();
  const shown = device.values.filter(({ of }) => of !== "state");
  if (shown.length === 0) return <p className="quiet text-sm">{LIVE_WORDS.nothingReadYet}</p>;
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
  if (unit === "Wh") return LIVE_WORDS.kWh((value / 1000).toFixed(2));
  return `${Number(value.toFixed(2))} ${unit}`;
}
