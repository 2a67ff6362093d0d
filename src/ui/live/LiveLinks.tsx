"use client";

import { readableLines, type ReadableLine } from "@/core/live/readableLines";
import type { LiveLink } from "@/core/live/liveSchema";
import { useBench } from "@/ui/bench/useBench";
import { ConnectForm } from "@/ui/live/ConnectForm";
import { LiveDeviceCard } from "@/ui/live/LiveDeviceCard";
import { disconnectLink, searchLink } from "@/ui/live/liveCalls";
import { useLive } from "@/ui/live/useLive";
import { useSay } from "@/ui/parts/browser/useNumberStyle";
import type { WireDesk } from "@/ui/wire/useWire";
import { useJob } from "@/ui/workspace/workspaceContext";
import { LIVE_WORDS } from "@/ui/words/liveWords";

/** Live: each link with what its devices say now, or how to connect it. */
export function LiveLinks({ wire }: { wire: WireDesk }) {
  const job = useJob();
  const links = useLive(job.id);
  const { bench } = useBench(job.id);
  const lines = readableLines(wire.plan);
  return (
    <div className="mx-auto max-w-6xl space-y-6">
      <p className="quiet text-sm">{LIVE_WORDS.gormitReadsAndOnlyWhatThisJobs}</p>
      {lines.length === 0 && <p>{LIVE_WORDS.noDeviceOfThisPlanHasARegisterList}</p>}
      {lines.map((line) => {
        const live = links.find(({ link }) => link === line.link);
        return (
          <section key={line.link} aria-label={LIVE_WORDS.live(line.name)} className="panel space-y-3 p-4">
            <LineHead line={line} live={live} jobId={job.id} />
            {live ? (
              <ReadLine jobId={job.id} live={live} />
            ) : (
              <ConnectForm jobId={job.id} line={line} benchLines={bench?.bench.lines ?? []} mqtt={bench?.bench.mqtt} />
            )}
          </section>
        );
      })}
    </div>
  );
}

function LineHead({ line, live, jobId }: { line: ReadableLine; live: LiveLink | undefined; jobId: string }) {
  const say = useSay();
  const answering = live?.devices.filter(({ state }) => state === "answers").length ?? 0;
  return (
    <div className="flex flex-wrap items-center gap-3">
      <h3 className="mr-auto text-lg font-bold">{line.name}</h3>
      {live && (
        <>
          <span role="status" className="text-sm">
            {live.state === "connected"
              ? LIVE_WORDS.ofAnswer(answering, live.devices.length)
              : live.state === "lost"
                ? LIVE_WORDS.notConnected
                : LIVE_WORDS.connecting}
            {live.cycleMs !== undefined && say(LIVE_WORDS.aRoundInMs(Math.round(live.cycleMs)))}
          </span>
          {live.way.kind !== "mqtt" && (
            <button
              type="button"
              className="btn btn-sm press"
              disabled={live.search !== undefined && !live.search.isOver}
              onClick={() => void searchLink(jobId, line.link)}
            >
              {LIVE_WORDS.findSettings}
            </button>
          )}
          <button type="button" className="btn btn-sm press" onClick={() => void disconnectLink(jobId, line.link)}>
            {LIVE_WORDS.disconnect}
          </button>
        </>
      )}
    </div>
  );
}

function ReadLine({ jobId, live }: { jobId: string; live: LiveLink }) {
  const { search } = live;
  return (
    <>
      {live.problem && (
        <p role="alert" className="font-semibold text-error">
          {live.problem}
        </p>
      )}
      {search && (
        <p role="status" className="text-sm">
          {LIVE_WORDS.ofTried(
            search.isOver ? LIVE_WORDS.searched : LIVE_WORDS.searching,
            search.tried,
            search.total,
            search.found.length === 0
              ? LIVE_WORDS.nobodyAnsweredYet
              : LIVE_WORDS.answersOf(search.found.map(({ unit, how }) => LIVE_WORDS.addressOf(unit, how)).join(", ")),
          )}
        </p>
      )}
      <ul className="grid gap-3 lg:grid-cols-2">
        {live.devices.map((device) => (
          <LiveDeviceCard key={device.device} jobId={jobId} link={live.link} way={live.way.kind} device={device} />
        ))}
      </ul>
    </>
  );
}
